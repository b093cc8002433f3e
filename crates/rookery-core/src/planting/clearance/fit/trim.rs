//! Cutting off what hangs over an edge.

use super::{Fitted, OnPlan};
use crate::document::TooClose;
use crate::planting::Plant;
use crate::planting::clearance::Clear;
use glam::Vec3;

/// How often the way to a vertex is halved to find where it leaves: a thousandth of it.
const HALVINGS: u32 = 10;
/// Points of that way that are looked at first.
const STEPS: u32 = 6;

/// Draws every vertex that hangs over an edge back along its way from the base point, to where that way leaves.
pub(super) fn trim(clear: &Clear, plant: &Plant, fitted: &mut Fitted) {
    let c = clear.settings();
    let inside = |v: Vec3| {
        let plan = (plant.position_m + v).truncate_y();
        (c.edges.response != TooClose::Trim || clear.edge_m(plan) >= c.edges.margin_m)
            && (c.tracks.response != TooClose::Trim || clear.track_m(plan) >= c.tracks.margin_m)
    };
    for v in &mut fitted.positions {
        if inside(*v) {
            continue;
        }
        let way = *v;
        let out = (1..=STEPS).find(|k| !inside(way * (*k as f32 / STEPS as f32))).unwrap_or(STEPS);
        let (mut kept, mut lost) = ((out - 1) as f32 / STEPS as f32, out as f32 / STEPS as f32);
        for _ in 0..HALVINGS {
            let middle = (kept + lost) * 0.5;
            *if inside(way * middle) { &mut kept } else { &mut lost } = middle;
        }
        *v = way * kept;
        fitted.how.trimmed = true;
    }
}
