//! Laid-out places on a mesh: rows and lines of the plan brought straight down and up to the surface, its corners, its faces.

use super::bodies::Part;
use crate::math::plan_grid::PlanGrid;
use crate::names::PlantId;
use crate::pattern::MeshPlace;
use crate::pattern::{FACES, Layout, PlanPoint, VERTICES, own_birth};
use glam::Vec2;
use std::collections::BTreeSet;

/// The surface lies over itself so many times at one place of the plan, at most; more are left out.
const MOST_OVER: u32 = 64;

impl Part<'_> {
    pub(super) fn laid(&self, seed: u32, layout: &Layout<'_>) -> Vec<MeshPlace> {
        let faces = self.faces();
        let first = faces.start;
        let named = |level: u8, index: u64, (face, v, w): (u32, f32, f32)| {
            let id = PlantId(u64::from(level) << 56 | index);
            MeshPlace { face, v, w, birth: own_birth(seed, id), id }
        };
        match layout {
            Layout::Faces => {
                faces.map(|f| named(FACES, u64::from(f - first), (f, 1.0 / 3.0, 1.0 / 3.0))).collect()
            }
            Layout::Vertices => {
                // Across a crease a corner is there once for each side.
                let mut known = BTreeSet::new();
                let mut out = Vec::new();
                for face in faces {
                    for (corner, (v, w)) in
                        self.model.corners(face).into_iter().zip([(0.0, 0.0), (1.0, 0.0), (0.0, 1.0)])
                    {
                        if known.insert(self.model.mesh.positions[corner].to_array().map(f32::to_bits)) {
                            out.push(named(VERTICES, known.len() as u64, (face, v, w)));
                        }
                    }
                }
                out
            }
            Layout::Rows { .. } | Layout::Along { .. } => {
                let (low, high) = self.bounds();
                let points = layout.points(seed, Vec2::new(low.x, low.z), Vec2::new(high.x, high.z));
                self.under_and_over(seed, &points)
            }
        }
    }

    /// Every point of the surface straight under or over points of the plan, the highest of each first.
    fn under_and_over(&self, seed: u32, points: &[PlanPoint]) -> Vec<MeshPlace> {
        let places: Vec<Vec2> = points.iter().map(|p| p.at).collect();
        let grid = PlanGrid::new(&places);
        // Number of the point, height, place.
        let mut hits = Vec::<(u32, f32, u32, f32, f32)>::new();
        for face in self.faces() {
            let corners = self.model.corners(face).map(|i| self.model.mesh.positions[i]);
            let [a, b, c] = corners.map(|p| Vec2::new(p.x, p.z));
            let (ab, ac) = (b - a, c - a);
            let doubled = ab.perp_dot(ac);
            if doubled.abs() < 1e-12 {
                continue;
            }
            grid.within(a.min(b).min(c), a.max(b).max(c), |i| {
                let to = points[i as usize].at - a;
                let (v, w) = (to.perp_dot(ac) / doubled, ab.perp_dot(to) / doubled);
                // An edge belongs to the face on one of its sides only: found again on the next face, a point is not kept twice.
                if v >= 0.0 && w >= 0.0 && v + w <= 1.0 {
                    hits.push((
                        i,
                        corners[0].y + (corners[1].y - corners[0].y) * v + (corners[2].y - corners[0].y) * w,
                        face,
                        v,
                        w,
                    ));
                }
            });
        }
        hits.sort_unstable_by(|a, b| a.0.cmp(&b.0).then(b.1.total_cmp(&a.1)).then(a.2.cmp(&b.2)));
        hits.dedup_by(|b, a| a.0 == b.0 && (a.1 - b.1).abs() < 1e-5);
        let mut out = Vec::with_capacity(hits.len());
        let (mut last, mut over) = (u32::MAX, 0);
        for (i, _, face, v, w) in hits {
            over = if i == last { over + 1 } else { 0 };
            last = i;
            if over < MOST_OVER {
                let id = PlantId(points[i as usize].id.0 | u64::from(over));
                out.push(MeshPlace { face, v, w, birth: own_birth(seed, id), id });
            }
        }
        out
    }
}
