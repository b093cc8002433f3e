//! How single plants and stones lie in the true ground: what hangs above it, and what is buried in it.

use crate::document::Document;
use crate::ground::{Frame, GroundRef};
use crate::nursery::{Detail, Kind, Mesh, Species};
use crate::planting::Plant;
use crate::proxy::hull_of;
use glam::{Vec2, Vec3};
use std::f32::consts::TAU;

/// Points of a base's rim that are held against the ground: one every so far, metres, as many as these.
const RIM_M: f32 = 0.25;
const RIM: std::ops::RangeInclusive<usize> = 6..=32;
/// Points about the middle of what lies on its side at which it is held against the ground.
const PARTS: usize = 8;

/// Body of a species as it is held against the ground.
#[derive(Clone, Default)]
pub(super) struct Body {
    /// Height at full size, metres.
    pub height_m: f32,
    /// Radius of what it covers at full size, metres.
    pub radius_m: f32,
    /// Radius of its base at full size, metres.
    pub base_m: f32,
    /// Triangles at full detail.
    pub triangles: u64,
    /// Hulls by form of what lies on the ground with its whole body, stones and driftwood. None for what stands on its base.
    lying: Vec<Mesh>,
}

/// How one plant lies in the ground.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct Held {
    /// How far its rim hangs above the ground at most, along the vertical, metres.
    pub hangs_m: f32,
    /// Share of its height that lies in the ground: above 1 where all does.
    pub buried: f32,
}

impl Body {
    pub fn new(document: &Document, species: &Species) -> Self {
        let build = |form, detail| species.build(form, detail, document.season);
        let lies = matches!(species.kind, Kind::Rock | Kind::Debris);
        let forms = if lies { species.forms.max(1) } else { 0 };
        Self {
            height_m: species.height_m(),
            radius_m: species.radius_m(),
            base_m: species.footprint_m(),
            triangles: build(0, Detail::Full).triangles() as u64,
            lying: (0..forms).map(|form| hull_of(&build(form, Detail::Light))).collect(),
        }
    }

    /// How a plant of it lies in a ground whose frame this is.
    pub fn held(&self, p: &Plant, ground: &GroundRef<'_>, frame: &Frame) -> Held {
        let over = |point: Vec3| ground.height_over(frame.local(point)).unwrap_or(0.0);
        match self.lying.get(usize::from(p.form)).or(self.lying.first()) {
            Some(hull) => lying(p, hull, self.base_m * p.size, over),
            None => self.standing(p, over),
        }
    }

    fn standing(&self, p: &Plant, over: impl Fn(Vec3) -> f32) -> Held {
        let points = ((self.base_m * p.size * TAU / RIM_M) as usize).clamp(*RIM.start(), *RIM.end());
        let rim = (0..points).map(|k| {
            let (s, c) = libm::sincosf(k as f32 / points as f32 * TAU);
            over(p.position_m + p.rotation * (Vec3::new(c, 0.0, s) * self.base_m * p.scale()))
        });
        let height_m = (self.height_m * p.size * p.stretch[0]).max(1e-3);
        Held { hangs_m: rim.fold(f32::NEG_INFINITY, f32::max), buried: -over(p.position_m) / height_m }
    }
}

/// What lies with its whole body: its rim is the underside of its hull about its middle, as far out as its base reaches, and it is buried
/// by the share of its own height, as it lies, that is under the ground at its middle.
fn lying(p: &Plant, hull: &Mesh, base_m: f32, over: impl Fn(Vec3) -> f32) -> Held {
    let placed: Vec<Vec3> =
        hull.positions.iter().map(|q| p.position_m + p.rotation * (*q * p.scale())).collect();
    let (low, high) =
        placed.iter().fold((f32::INFINITY, f32::NEG_INFINITY), |(l, h), q| (l.min(q.y), h.max(q.y)));
    let middle = placed.iter().sum::<Vec3>() / placed.len() as f32;
    let rim = (0..PARTS).filter_map(|k| {
        let (s, c) = libm::sincosf(k as f32 / PARTS as f32 * TAU);
        underside(&placed, &hull.indices, Vec2::new(middle.x, middle.z) + Vec2::new(c, s) * base_m)
    });
    let under = underside(&placed, &hull.indices, Vec2::new(middle.x, middle.z));
    let hangs_m = rim.chain(under).map(&over).fold(f32::NEG_INFINITY, f32::max);
    let ground_y = middle.y - over(middle);
    Held { hangs_m, buried: (ground_y - low) / (high - low).max(1e-3) }
}

/// The lowest point of a mesh over a point of the plan.
fn underside(points: &[Vec3], indices: &[u32], at: Vec2) -> Option<Vec3> {
    let heights = indices.chunks_exact(3).filter_map(|t| {
        let [a, b, c] = [0, 1, 2].map(|i| points[t[i] as usize]);
        let [pa, pb, pc] = [a, b, c].map(|q| Vec2::new(q.x, q.z) - at);
        let parts = [pb.perp_dot(pc), pc.perp_dot(pa), pa.perp_dot(pb)];
        let whole: f32 = parts.iter().sum();
        let inside = parts.iter().all(|w| *w >= 0.0) || parts.iter().all(|w| *w <= 0.0);
        (inside && whole != 0.0).then(|| (parts[0] * a.y + parts[1] * b.y + parts[2] * c.y) / whole)
    });
    heights.min_by(f32::total_cmp).map(|y| Vec3::new(at.x, y, at.y))
}
