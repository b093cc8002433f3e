//! Which strokes have a say in the land beneath an obstacle: what it is named by, so that sculpting elsewhere leaves it alone.

use crate::ground::PlanBox;
use crate::scene::{Ground, GroundSource, Obstacle, Shape, Stroke};
use glam::Vec2;

/// The part of the plan whose heights an obstacle reads; none where it reads none.
fn part(o: &Obstacle) -> Option<PlanBox> {
    let at = Vec2::new(o.x_m, o.z_m);
    let (mut low, mut high) = (at, at);
    if let Shape::Wall { points, thickness_m, .. } = &o.shape {
        // Clockwise seen from above, as obstacles are turned.
        let turn = Vec2::from_angle(o.turn_deg.to_radians());
        for p in points {
            let p = at + turn.rotate(Vec2::from(*p) * o.scale);
            (low, high) = (low.min(p), high.max(p));
        }
        let beside = *thickness_m * o.scale;
        (low, high) = (low - beside, high + beside);
    }
    // What is lost in rounding.
    o.on_ground.then_some(PlanBox { low: low - 0.01, high: high + 0.01 })
}

/// The largest way between samples, metres; none where the document does not say.
fn cell_m(source: &GroundSource) -> Option<f32> {
    match source {
        GroundSource::Noise(n) => Some(n.size_m / (n.samples.max(2) - 1) as f32),
        GroundSource::Heightmap(h) => {
            let [nx, nz] = h.samples?;
            Some((h.width_m / (nx.max(2) - 1) as f32).max(h.depth_m / (nz.max(2) - 1) as f32))
        }
    }
}

/// Where a stroke changes heights, and from where it reads them.
fn reach(stroke: &Stroke, cell_m: f32) -> (PlanBox, PlanBox) {
    let (mut low, mut high) = (Vec2::INFINITY, Vec2::NEG_INFINITY);
    for p in &stroke.points {
        let p = Vec2::from(*p);
        (low, high) = (low.min(p), high.max(p));
    }
    let by = |by: f32| PlanBox { low: low - by, high: high + by };
    // Heights between samples change with those around; smoothing looks a quarter of its radius farther.
    (by(stroke.radius_m + 2.0 * cell_m), by(stroke.radius_m * 1.25 + 4.0 * cell_m))
}

/// The strokes that have a say in the heights an obstacle reads, in their order: those that reach it, and those that reach what these
/// read.
pub(super) fn strokes_beneath<'d>(ground: &'d Ground, o: &Obstacle) -> Vec<&'d Stroke> {
    let Some(part) = part(o) else { return Vec::new() };
    let Some(cell_m) = cell_m(&ground.source) else { return ground.strokes.iter().collect() };
    let mut parts = vec![part];
    let mut out = Vec::new();
    for stroke in ground.strokes.iter().rev() {
        let (changes, reads) = reach(stroke, cell_m);
        if parts.iter().any(|p| p.meets(&changes)) {
            parts.push(reads);
            out.push(stroke);
        }
    }
    out.reverse();
    out
}

/// Whether the heights an obstacle reads are surely the same on two lands.
pub(super) fn is_same(was: &Ground, now: &Ground, o: &Obstacle) -> bool {
    if (&was.source, was.absent) != (&now.source, now.absent) {
        return false;
    }
    let Some(part) = part(o) else { return true };
    let Some(cell_m) = cell_m(&now.source) else { return was.strokes == now.strokes };
    let first = was.strokes.iter().zip(&now.strokes).take_while(|(a, b)| a == b).count();
    // Later ones that do not reach it have no say.
    let later = was.strokes[first..].iter().chain(&now.strokes[first..]);
    later.map(|stroke| reach(stroke, cell_m).0).all(|changes| !part.meets(&changes))
}
