//! Asking a point of the ground why a layer grows there or does not.

use crate::document::{Combine, Drives, Keep, MaskId, ObstacleId, Quantity, TooClose};
use crate::ground::Surface;
use crate::habitat::{joined, respond, source};
use crate::planting::Reason;
use crate::planting::Rules;
use crate::planting::clearance::{Body, reach_m};
use glam::Vec2;
use serde::Serialize;

/// What one mask makes of a point.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct MaskReading {
    /// Which mask of the layer.
    pub id: MaskId,
    /// What it looks at.
    pub quantity: Quantity,
    /// The quantity at the point, in its own unit; none where it is unknown.
    pub reading: Option<f32>,
    /// What the mask lets through there, 0 to 1; 1 when it is switched off.
    pub value: f32,
    /// How it comes together with those before it.
    pub combine: Combine,
    /// What it changes.
    pub drives: Drives,
    /// Whether the mask is switched on.
    pub enabled: bool,
}

/// How near something is that the plants of a layer keep clear of.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct RoomReading {
    /// What it would be refused by: an edge, an obstacle or a layer.
    pub reason: Reason,
    /// The nearest obstacle, where it is one.
    pub obstacle: Option<ObstacleId>,
    /// How far away it is, metres; below zero in an obstacle or beyond an edge. From plants, what they claim is taken off.
    pub away_m: f32,
    /// How far the plant keeps away, metres.
    pub kept_m: f32,
    /// Whether no plant can stand for it, not even a smaller one.
    pub refuses: bool,
}

/// Why a layer grows at a point or does not.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Verdict {
    /// In the order of the layer's masks.
    pub masks: Vec<MaskReading>,
    /// What a plant of middling size would have to keep clear of here, edges first, then obstacles, then layers.
    pub room: Vec<RoomReading>,
    /// Share of candidates that may stand here: the masks together, 0 to 1.
    pub share: f32,
    /// In words.
    pub words: String,
}

/// Reads a layer's rules at a point of a ground. The same code as growth reads them.
pub fn probe<S: Surface>(ground: &S, rules: &Rules, spot: &S::Spot) -> Verdict {
    let masks: Vec<MaskReading> = (0..rules.count())
        .map(|i| {
            let m = rules.mask(i);
            let reading = rules.quantity(i, ground, spot);
            MaskReading {
                id: m.id,
                quantity: m.quantity,
                reading: reading.is_finite().then_some(reading),
                value: if m.enabled { respond(m, reading) } else { 1.0 },
                combine: m.combine,
                drives: m.drives,
                enabled: m.enabled,
            }
        })
        .collect();
    let share = rules.together(|i| masks[i].value);
    // The mask that takes most away names itself.
    let mut so_far = None;
    let mut most: Option<(f32, &MaskReading)> = None;
    for (i, m) in masks.iter().enumerate().filter(|(i, _)| rules.mask(*i).counts()) {
        let now = joined(so_far, rules.mask(i), m.value);
        let taken = so_far.unwrap_or(1.0) - now;
        if taken > 0.0 && most.is_none_or(|(before, _)| taken > before) {
            most = Some((taken, m));
        }
        so_far = Some(now);
    }
    let room = room_at(ground, rules, spot);
    let words = match most {
        _ if share > 0.0 && room.iter().any(|r| r.refuses) => {
            let first = room.iter().find(|r| r.refuses).expect("one of them refuses");
            let what = match first.reason {
                Reason::Edge => "the edge of its zone",
                Reason::Track => "a track",
                Reason::Obstacle => "an obstacle",
                _ => "a plant of a layer that comes first",
            };
            format!(
                "refused for want of room: {what} is {:.2} m away, {:.2} m are kept",
                first.away_m, first.kept_m
            )
        }
        Some((_, m)) if share < 1.0 => {
            let verb = if share <= 0.0 { "refused" } else { "thinned" };
            format!("{verb} by {}, {:.0} % let through", read_out(m), share * 100.0)
        }
        _ => "nothing keeps it from growing here".to_owned(),
    };
    Verdict { masks, room, share, words }
}

/// Distances are looked for so far beyond what is kept, metres.
const LOOKED_M: f32 = 5.0;

/// What there is to keep clear of at a point, for a plant of the species with the greatest share and of the middle of its sizes.
fn room_at<S: Surface>(ground: &S, rules: &Rules, spot: &S::Spot) -> Vec<RoomReading> {
    let (clear, mix) = (rules.clear(), rules.mix());
    let at_m = ground.position_m(spot);
    let body = Body { at_m, species: mix.lead(), across: clear.middling() };
    let p = rules.frame().point(at_m);
    let mut out = Vec::new();
    let mut add = |reason, obstacle, keep: &Keep, away_m: f32| {
        let kept_m = reach_m(keep, mix, &body) + keep.margin_m;
        let share = (away_m - keep.margin_m) / reach_m(keep, mix, &body).max(f32::MIN_POSITIVE);
        let shrinks = keep.response == TooClose::Shrink && share >= clear.settings().least;
        out.push(RoomReading { reason, obstacle, away_m, kept_m, refuses: away_m < kept_m && !shrinks });
    };
    let settings = clear.settings();
    let depth = clear.edge_m(Vec2::new(p.x, p.z));
    if depth.is_finite() {
        add(Reason::Edge, None, &settings.edges, depth);
    }
    let beside = clear.track_m(Vec2::new(p.x, p.z));
    if beside.is_finite() {
        add(Reason::Track, None, &settings.tracks, beside);
    }
    if let Some((id, away_m)) = clear.nearest_obstacle(p).filter(|(_, d)| d.is_finite()) {
        add(Reason::Obstacle, Some(id), &settings.obstacles, away_m);
    }
    let kept_m = reach_m(&settings.others, mix, &body) + settings.others.margin_m;
    for (id, away_m) in clear.nearest_layers(p, kept_m + LOOKED_M).filter(|(_, d)| *d <= kept_m + LOOKED_M) {
        add(Reason::Layer { id }, None, &settings.others, away_m);
    }
    out
}

fn read_out(m: &MaskReading) -> String {
    let source = source(m.quantity);
    m.reading.map_or_else(|| source.told_unknown().to_owned(), |v| source.told(v))
}
