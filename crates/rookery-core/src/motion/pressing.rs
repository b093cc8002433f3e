//! Bodies that press down what grows on their way, and how it rises again: a closed form of the body's way, so that any moment can be
//! looked at by itself.
//!
//! A pass is a stretch of the way along which a body is near enough to a plant to touch it. While it comes nearer the plant is pressed
//! aside as far as it is near, then stays down until the body is gone, and swings back as its own damped oscillator does, but for the
//! share that stays lying. Later passes lie over earlier ones.

use super::course::Place;
use super::response::Sway;
use crate::document::{Body, BodyId};
use crate::math::sine::{cos_turns, sin_turns};
use crate::nursery::Mesh;
use glam::{Vec2, Vec3, vec2};
use serde::Serialize;
use std::sync::Arc;

/// Points of a body's way that plants look at, at most: a row of a picture in the view.
pub const MOST_POINTS: usize = 256;
/// How far off the way that plants look at may be at first, metres.
const FINEST_M: f32 = 0.01;
/// A body presses down wholly what is up to so many times as high as its radius.
pub(super) const PRESSES_UP_TO: f32 = 4.0;
/// Plants of more spread than this share of a body's radius are touched no earlier.
pub(super) const SPREAD_SHARE: f32 = 0.5;

/// A body over time.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct BodyTrack {
    /// Which.
    pub id: BodyId,
    /// How far to either side it presses, metres.
    pub press_m: f32,
    /// How far its lowest point is below its middle, metres.
    pub below_m: f32,
    /// Whether plants feel it.
    pub felt: bool,
    /// Where it is.
    pub places: Vec<Place>,
    /// Its way as plants look at it: x, z, seconds, and the height of its lowest point.
    #[cfg_attr(feature = "openapi", schema(value_type = Vec<[f32; 4]>))]
    pub points: Vec<[f32; 4]>,
    /// What the points lie in on the plan: least x and z, largest x and z.
    pub bounds: [f32; 4],
    /// When it comes off the ground's edge, seconds.
    pub leaves_s: Option<f32>,
    /// Whether it begins inside something that stands there.
    pub begins_inside: bool,
    /// What it looks like, about its own middle.
    #[serde(skip)]
    pub mesh: Arc<Mesh>,
}

/// A body at a moment.
#[derive(Clone, Debug, PartialEq)]
pub struct BodyNow {
    /// Where its middle is on the plan.
    pub at: [f32; 2],
    /// Seconds.
    pub time_s: f32,
    track: BodyTrack,
}

/// A plant that a body may press down.
#[derive(Clone, Copy, Debug)]
pub(super) struct Stem {
    pub foot: Vec3,
    /// Height and half of its width, metres.
    pub height_m: f32,
    pub spread_m: f32,
    /// What it sways at, Hz.
    pub hz: f32,
}

impl BodyTrack {
    /// A body whose lowest point is so far below its middle, metres.
    pub(super) fn new(b: &Body, below_m: f32, places: Vec<Place>) -> Self {
        let all: Vec<[f32; 4]> =
            places.iter().map(|p| [p.at_m.x, p.at_m.z, p.time_s, p.at_m.y - below_m]).collect();
        let mut points = all.clone();
        let mut off = FINEST_M;
        while points.len() > MOST_POINTS || off == FINEST_M {
            points = plainer(&all, off);
            off *= 2.0;
        }
        let bounds = points.iter().fold([f32::MAX, f32::MAX, f32::MIN, f32::MIN], |b, p| {
            [b[0].min(p[0]), b[1].min(p[1]), b[2].max(p[0]), b[3].max(p[1])]
        });
        let press_m = b.form.press_m();
        let (leaves_s, begins_inside, mesh) = (None, false, Arc::default());
        Self {
            id: b.id,
            press_m,
            below_m,
            felt: b.felt,
            places,
            points,
            bounds,
            leaves_s,
            begins_inside,
            mesh,
        }
    }

    /// Whether it ever comes so near to a plant that it touches it.
    pub(super) fn touches(&self, stem: &Stem) -> bool {
        let reach = self.reach(stem);
        let foot = vec2(stem.foot.x, stem.foot.z);
        let [x0, z0, x1, z1] = self.bounds;
        let near = |a: &[f32; 4], b: &[f32; 4]| {
            let (from, by) = (vec2(a[0], a[1]) - foot, vec2(b[0] - a[0], b[1] - a[1]));
            let u = (-from.dot(by) / by.length_squared().max(1e-12)).clamp(0.0, 1.0);
            (from + by * u).length() < reach && a[3] + (b[3] - a[3]) * u < stem.foot.y + stem.height_m
        };
        let boxed = foot.x > x0 - reach && foot.y > z0 - reach && foot.x < x1 + reach && foot.y < z1 + reach;
        let last = self.points.len() - 1;
        boxed && (0..=last).any(|i| near(&self.points[i], &self.points[(i + 1).min(last)]))
    }

    /// How near its middle comes to a plant's foot before it touches it, metres.
    fn reach(&self, stem: &Stem) -> f32 {
        self.press_m + stem.spread_m.min(SPREAD_SHARE * self.press_m)
    }

    pub(super) fn at(&self, time_s: f64) -> BodyNow {
        let (points, time_s) = (&self.points, time_s as f32);
        let next = points.partition_point(|p| p[2] <= time_s);
        let at = match (next.checked_sub(1), points.get(next)) {
            (Some(i), Some(b)) => {
                let a = points[i];
                let u = (time_s - a[2]) / (b[2] - a[2]);
                [a[0] + (b[0] - a[0]) * u, a[1] + (b[1] - a[1]) * u]
            }
            (i, _) => [0, 1].map(|k| points[i.unwrap_or(0)][k]),
        };
        BodyNow { at, time_s, track: self.clone() }
    }
}

/// Fewer points of a way, none of those left out farther off than so many metres (or tenths of a second at a metre a second).
fn plainer(all: &[[f32; 4]], off: f32) -> Vec<[f32; 4]> {
    let mut kept = vec![false; all.len()];
    let mut open = vec![(0, all.len() - 1)];
    (kept[0], kept[all.len() - 1]) = (true, true);
    while let Some((from, to)) = open.pop() {
        let (a, b) = (all[from], all[to]);
        let far = |p: &[f32; 4]| {
            let u = if b[2] > a[2] { (p[2] - a[2]) / (b[2] - a[2]) } else { 0.0 };
            (0..4).map(|k| p[k] - (a[k] + (b[k] - a[k]) * u)).map(|d| d * d).sum::<f32>()
        };
        let worst = (from + 1..to).map(|i| (i, far(&all[i]))).max_by(|x, y| x.1.total_cmp(&y.1));
        if let Some((i, far)) = worst.filter(|w| w.1 > off * off) {
            debug_assert!(far.is_finite());
            kept[i] = true;
            open.extend([(from, i), (i, to)]);
        }
    }
    all.iter().zip(kept).filter(|(_, k)| *k).map(|(p, _)| *p).collect()
}

/// How far down a body presses at a distance, of the reach: all the way below it, nothing at its reach.
fn nearness(part_2: f32) -> f32 {
    let left = 1.0 - part_2 * part_2;
    if part_2 < 1.0 { left * left } else { 0.0 }
}

/// A pass that goes on while pieces of the way are looked at.
#[derive(Clone, Copy)]
struct Pass {
    /// When it begins, seconds.
    from_s: f32,
    /// Square of the least distance.
    least_2: f32,
    /// When, seconds.
    nearest_s: f32,
    /// From the way to the plant, then, metres.
    aside: Vec2,
    /// Where the body was going.
    way: Vec2,
    /// Height of its lowest point.
    bottom_m: f32,
}

impl BodyNow {
    /// Lays what this body does to a plant over what those before it did: how far the plant is pressed down, as a share, x and z.
    pub(super) fn press(&self, lies: Vec2, stem: &Stem, sway: &Sway) -> Vec2 {
        let t = &self.track;
        let reach = t.reach(stem);
        let (x, z) = (stem.foot.x, stem.foot.z);
        let [x0, z0, x1, z1] = t.bounds;
        if !t.felt || x < x0 - reach || z < z0 - reach || x > x1 + reach || z > z1 + reach {
            return lies;
        }
        let limit = reach * reach;
        let foot = vec2(x, z);
        let mut out = lies;
        let mut pass: Option<Pass> = None;
        let close = |out: Vec2, p: Pass, gone_s: f32| self.lay(out, &p, gone_s, reach, stem, sway);
        let n = t.points.len();
        for i in 0..n {
            let [ax, az, at, ay] = t.points[i];
            // After its last point a body stays there for ever.
            let [bx, bz, bt, by] = t.points[(i + 1).min(n - 1)];
            let (a, by_way) = (vec2(ax, az), vec2(bx - ax, bz - az));
            let from = a - foot;
            let (long_2, along, off_2) =
                (by_way.length_squared(), from.dot(by_way), from.length_squared() - limit);
            // Shares of the piece between which it is within reach.
            let (into, leaves) = if long_2 < 1e-12 {
                if off_2 >= 0.0 { (2.0, 2.0) } else { (0.0, 1.0) }
            } else {
                let root = along * along - long_2 * off_2;
                if root <= 0.0 {
                    (2.0, 2.0)
                } else {
                    ((-along - root.sqrt()) / long_2, (-along + root.sqrt()) / long_2)
                }
            };
            if into >= 1.0 || leaves <= 0.0 {
                if let Some(p) = pass.take() {
                    out = close(out, p, at);
                }
                continue;
            }
            if into > 0.0
                && let Some(p) = pass.take()
            {
                out = close(out, p, at);
            }
            let u = if long_2 < 1e-12 { 0.0 } else { (-along / long_2).clamp(0.0, 1.0) };
            let near = from + by_way * u;
            let least_2 = near.length_squared();
            let begins =
                if i == 0 && into <= 0.0 { f32::NEG_INFINITY } else { at + (bt - at) * into.max(0.0) };
            if pass.is_none_or(|p| least_2 < p.least_2) {
                pass = Some(Pass {
                    from_s: pass.map_or(begins, |p| p.from_s),
                    least_2,
                    nearest_s: at + (bt - at) * u,
                    aside: -near,
                    way: by_way,
                    bottom_m: ay + (by - ay) * u,
                });
            }
            if leaves < 1.0
                && let Some(p) = pass.take()
            {
                out = close(out, p, at + (bt - at) * leaves);
            }
        }
        pass.map_or(out, |p| close(out, p, f32::INFINITY))
    }

    /// Lays one pass over what was before.
    fn lay(&self, lies: Vec2, pass: &Pass, gone_s: f32, reach: f32, stem: &Stem, sway: &Sway) -> Vec2 {
        if self.time_s < pass.from_s {
            return lies;
        }
        let part_2 = pass.least_2 / (reach * reach);
        // A body high above a plant does not touch it, and a small one does not press down a tree.
        let over = ((pass.bottom_m - stem.foot.y) / stem.height_m).clamp(0.0, 1.0);
        let small = (PRESSES_UP_TO * self.track.press_m / stem.height_m).min(1.0);
        let most = (1.0 - over) * small * small;
        let full = nearness(part_2);
        let down = if self.time_s < pass.nearest_s {
            let off = vec2(self.at[0] - stem.foot.x, self.at[1] - stem.foot.z);
            nearness(off.length_squared() / (reach * reach))
        } else {
            full
        };
        let now = if self.time_s < gone_s { down } else { full * risen(self.time_s - gone_s, stem.hz, sway) };
        let part = part_2.sqrt();
        let lateral = pass.aside.normalize_or_zero();
        let way = (lateral * part + pass.way.normalize_or_zero() * (1.0 - part)).normalize_or_zero();
        lies * (1.0 - most * down) + way * (most * now)
    }
}

/// What is left of a press so long after the body is gone, seconds: 1 at once, the share that stays lying in the end.
fn risen(since_s: f32, hz: f32, sway: &Sway) -> f32 {
    let (zeta, lies) = (sway.damping, sway.lodging);
    let own = (1.0 - zeta * zeta).sqrt();
    let turns = hz * own * since_s;
    let fades = libm::expf(-zeta * std::f32::consts::TAU * hz * since_s);
    lies + (1.0 - lies) * fades * (cos_turns(turns) + zeta / own * sin_turns(turns))
}

#[cfg(test)]
mod tests;
