//! Plants strewn by strokes of the hand.

use super::clearance::{Ball, Body, Room, stand_apart};
use super::{Plant, PlantId, Standing};
use crate::document::{Drift, GroundId, Layer, Stance};
use crate::ground::Surface;
use crate::math::hash::{Channel, draw, unit};
use crate::planting::{Driven, Rules};
use glam::Vec3;
use std::f32::consts::TAU;

/// The level in [`PlantId`] of what a drift strewed.
const LEVEL: u64 = 252;
/// Plants are drawn for pieces of the line of this length, metres, so that a longer line leaves those of its beginning.
const PIECE_M: f32 = 0.25;
/// Pieces and plants of a piece that a name can tell apart.
const MOST_PIECES: u64 = 1 << 18;
const MOST_IN_A_PIECE: u64 = 1 << 14;

/// The drifts of a layer on one ground.
#[derive(Clone, Debug, Default)]
pub struct Drifting(Vec<Drift>);

/// What drifts came to.
#[derive(Clone, Debug, Default)]
pub struct Strewn {
    /// Plants that stand.
    pub plants: Vec<Plant>,
    /// What they keep their own kind away with.
    pub balls: Vec<Ball>,
    /// How many fell for each reason, by its place among those of clearance; then those refused by what was tended.
    pub fallen: Vec<u64>,
}

/// Which drift strewed a plant, by its number; none for all others.
pub fn drift_number(id: PlantId) -> Option<u32> {
    (id.0 >> 56 == LEVEL).then_some((id.0 >> 32) as u32 & 0xFF_FFFF)
}

impl Drifting {
    /// Of a layer on one of its grounds.
    pub fn new(layer: &Layer, ground: GroundId) -> Self {
        Self(layer.drifts.iter().filter(|d| d.ground == ground).cloned().collect())
    }

    /// Whether there are none.
    pub fn is_none(&self) -> bool {
        self.0.is_empty()
    }

    /// Strews all of them, in their order: each plant keeps clear of what the layer keeps clear of, of what was set by hand, and of
    /// those strewn before it. More density only adds.
    pub(super) fn strew<S: Surface>(&self, ground: &S, layer: &Layer, rules: &Rules) -> Strewn {
        let (clear, mix, tending) = (rules.clear(), rules.mix(), rules.tending());
        let reasons = clear.reasons().len();
        let mut fallen = vec![0; reasons + 1];
        let (mut plants, mut balls) = (Vec::new(), Vec::new());
        for drift in &self.0 {
            let stance = Stance { size: drift.size, turn_deg: drift.turn_deg, ..layer.stance };
            let north = rules.frame().turn.inverse() * Vec3::NEG_Z;
            let standing = Standing { seed: drift.seed, stance: &stance, tint: &layer.tint, mix, north };
            for (id, spot) in places(ground, drift) {
                let driven = if rules.drives() { rules.driven(ground, &spot) } else { Driven::default() };
                let mut plant = standing.at(ground, &spot, id, &driven);
                let body = standing.body(ground, &spot, id, &driven);
                if tending.refuses(id, body.at_m, S::ON_PLAN) {
                    fallen[reasons] += 1;
                    continue;
                }
                match clear.room(mix, &body, rules.frame().point(body.at_m)) {
                    Room::Refused(reason) => fallen[reason] += 1,
                    Room::Stands(share) => {
                        plant.size *= share;
                        let body = Body { across: body.across * share, ..body };
                        balls.push((body.at_m, clear.own_reach_m(mix, &body)));
                        plants.push(plant);
                    }
                }
            }
        }
        if clear.settings().own.is_on() {
            let order: Vec<u32> = (0..balls.len() as u32).collect();
            let stands = stand_apart(&balls, &order, &tending.balls(ground, mix, clear));
            let kept = |i: &usize| stands[*i];
            let left: Vec<usize> = (0..plants.len()).filter(kept).collect();
            fallen[clear.own_place()] += (plants.len() - left.len()) as u64;
            plants = left.iter().map(|i| plants[*i]).collect();
            balls = left.iter().map(|i| balls[*i]).collect();
        }
        Strewn { plants, balls, fallen }
    }
}

/// The places of a drift with their names: a disc of places about every piece of the line, each for itself.
fn places<S: Surface>(ground: &S, drift: &Drift) -> Vec<(PlantId, S::Spot)> {
    let length_m = drift.length_m();
    let whole = (length_m / PIECE_M).floor();
    let mut out = Vec::new();
    let line = Walk::new(&drift.points);
    // A dab without a line, and the round ends of one, are strewn about its first point.
    let ends = drift.per_m2 * 2.0 * drift.spread_m * drift.spread_m;
    for piece in 0..(whole as u64 + 2).min(MOST_PIECES) {
        let (from, long) = match piece {
            0 => (0.0, 0.0),
            n => ((n - 1) as f32 * PIECE_M, (length_m - (n - 1) as f32 * PIECE_M).clamp(0.0, PIECE_M)),
        };
        let expected = if piece == 0 { ends } else { drift.per_m2 * 2.0 * drift.spread_m * long };
        let name = |i: u64| PlantId(LEVEL << 56 | u64::from(drift.id.0) << 32 | piece << 14 | i);
        let own = unit(draw(drift.seed, name(0).0, Channel::Clump)[0]);
        let count = ((expected + own).floor() as u64).min(MOST_IN_A_PIECE);
        for i in 0..count {
            let [along, away, turn, _] = draw(drift.seed, name(i).0, Channel::Place).map(unit);
            let at = line.at(from + along * long);
            // The square root makes all points of the disc alike; discs in a row are dense along their middle.
            let away = drift.spread_m * away.sqrt();
            let (s, c) = libm::sincosf(turn * TAU);
            if S::ON_PLAN {
                let point = at + Vec3::new(c * away, 0.0, s * away);
                let spot = ground.spot_near(point);
                let found = ground.position_m(&spot);
                // Beside the ground there is nothing to stand on.
                if (found.x - point.x).abs() + (found.z - point.z).abs() < 1e-2 {
                    out.push((name(i), spot));
                }
            } else {
                out.push((name(i), ground.beside(&ground.spot_near(at), c * away, s * away)));
            }
        }
    }
    out
}

/// Points along a line.
struct Walk<'a> {
    points: &'a [[f32; 3]],
    /// How far each point is along it, metres.
    along_m: Vec<f32>,
}

impl<'a> Walk<'a> {
    fn new(points: &'a [[f32; 3]]) -> Self {
        let mut along_m = vec![0.0];
        for pair in points.windows(2) {
            along_m.push(along_m[along_m.len() - 1] + Vec3::from(pair[0]).distance(pair[1].into()));
        }
        Self { points, along_m }
    }

    fn at(&self, m: f32) -> Vec3 {
        let next = self.along_m.partition_point(|a| *a <= m).min(self.points.len() - 1);
        let last = next.saturating_sub(1);
        let (a, b) = (Vec3::from(self.points[last]), Vec3::from(self.points[next]));
        let long = self.along_m[next] - self.along_m[last];
        if long > 0.0 { a.lerp(b, ((m - self.along_m[last]) / long).clamp(0.0, 1.0)) } else { a }
    }
}
