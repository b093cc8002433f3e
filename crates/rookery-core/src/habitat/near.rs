//! What a mask measures its distance to.

use super::Given;
use crate::ground::outline::OutlineLine;
use crate::math::mesh_distance::MeshDistance;
use crate::scene::{Document, Mask, Near, OutlineKind};
use glam::{Vec2, Vec3};
use std::sync::Arc;

/// Something whose distance is asked at many points of the scene.
#[derive(Clone, Debug)]
pub enum NearField {
    /// Lines on the plan; the nearest counts. None are infinitely far.
    Lines(Vec<OutlineLine>),
    /// Obstacles.
    Meshes(Vec<Arc<MeshDistance>>),
    /// Crowns of plants.
    Crowns(Arc<Crowns>),
}

impl NearField {
    /// What a mask looks at in a scene; none for water, which is read off the ground.
    pub fn of(document: &Document, mask: &Mask, given: &Given) -> Option<Self> {
        let lines = |fits: &dyn Fn(&crate::scene::Outline) -> bool| {
            Self::Lines(document.outlines.iter().filter(|o| fits(o)).map(OutlineLine::new).collect())
        };
        Some(match mask.near? {
            Near::Outline { id } => lines(&|o| o.id == id),
            Near::Tracks => lines(&|o| o.kind == OutlineKind::Track),
            Near::Water => return None,
            Near::Obstacle { id } => Self::Meshes(
                given.obstacles.iter().filter(|(own, _)| *own == id).map(|(_, mesh)| mesh.clone()).collect(),
            ),
            Near::Obstacles => Self::Meshes(given.obstacles.iter().map(|(_, mesh)| mesh.clone()).collect()),
            Near::Layer { id } => {
                let found = given.crowns.iter().find(|(own, _)| *own == id);
                Self::Crowns(found.map_or_else(Arc::default, |(_, crowns)| crowns.clone()))
            }
        })
    }

    /// Distance from a point of the scene, metres, 0 on it or in it; what lies farther than `limit` may give any number
    /// above it.
    pub fn distance(&self, p: Vec3, limit: f32) -> f32 {
        match self {
            Self::Lines(lines) => {
                let plan = Vec2::new(p.x, p.z);
                lines.iter().map(|l| l.distance_m(plan)).fold(f32::INFINITY, f32::min).max(0.0)
            }
            Self::Meshes(meshes) => {
                meshes.iter().fold(f32::INFINITY, |best, m| best.min(m.distance(p, limit.min(best))))
            }
            Self::Crowns(crowns) => crowns.distance(p, limit),
        }
    }
}

/// Plants as balls about their base points, in a grid over the plan.
#[derive(Clone, Debug, Default)]
pub struct Crowns {
    /// Base point and crown radius, metres, cell by cell.
    balls: Vec<(Vec3, f32)>,
    /// Where each cell begins; one more than there are cells.
    starts: Vec<u32>,
    low: Vec2,
    cell_m: f32,
    columns: usize,
    rows: usize,
    largest_m: f32,
}

impl Crowns {
    /// Sorts plants into cells.
    pub fn new(balls: Vec<(Vec3, f32)>) -> Self {
        if balls.is_empty() {
            return Self::default();
        }
        let plan = |p: Vec3| Vec2::new(p.x, p.z);
        let (low, high) = balls
            .iter()
            .fold((Vec2::INFINITY, Vec2::NEG_INFINITY), |(l, h), (p, _)| (l.min(plan(*p)), h.max(plan(*p))));
        let size = (high - low).max(Vec2::splat(0.01));
        // About two to a cell, and no more cells than can be held.
        let cell_m =
            (size.x * size.y * 2.0 / balls.len() as f32).sqrt().max(size.max_element() / 4000.0).max(0.01);
        let columns = (size.x / cell_m) as usize + 1;
        let rows = (size.y / cell_m) as usize + 1;
        let cell = |p: Vec3| {
            let at = (plan(p) - low) / cell_m;
            (at.y as usize).min(rows - 1) * columns + (at.x as usize).min(columns - 1)
        };
        let mut starts = vec![0_u32; columns * rows + 1];
        balls.iter().for_each(|(p, _)| starts[cell(*p) + 1] += 1);
        (1..starts.len()).for_each(|i| starts[i] += starts[i - 1]);
        let mut next = starts.clone();
        let mut sorted = vec![(Vec3::ZERO, 0.0); balls.len()];
        for ball in &balls {
            let at = &mut next[cell(ball.0)];
            sorted[*at as usize] = *ball;
            *at += 1;
        }
        let largest_m = balls.iter().map(|(_, r)| *r).fold(0.0, f32::max);
        Self { balls: sorted, starts, low, cell_m, columns, rows, largest_m }
    }

    /// Distance to the nearest crown, see [`NearField::distance`].
    pub fn distance(&self, p: Vec3, limit: f32) -> f32 {
        if self.balls.is_empty() {
            return f32::INFINITY;
        }
        let at = (Vec2::new(p.x, p.z) - self.low) / self.cell_m;
        let middle = [at.x.floor() as i64, at.y.floor() as i64];
        let size = [self.columns as i64, self.rows as i64];
        // Beside the grid the first rings are empty.
        let away = [0, 1].map(|k| (-middle[k]).max(middle[k] - size[k] + 1).max(0));
        let mut best = f32::INFINITY;
        let last = size[0] + size[1] + away[0] + away[1];
        for ring in away[0].max(away[1])..=last {
            // What lies in this ring or beyond is at least so far on the plan.
            let least = (ring - 1).max(0) as f32 * self.cell_m - self.largest_m;
            if least > best.min(limit) {
                break;
            }
            for z in (middle[1] - ring).max(0)..=(middle[1] + ring).min(size[1] - 1) {
                let edge = (z - middle[1]).abs() == ring;
                let step = if edge || ring == 0 { 1 } else { 2 * ring };
                let mut x = middle[0] - ring;
                while x <= middle[0] + ring {
                    if (0..size[0]).contains(&x) {
                        let cell = z as usize * self.columns + x as usize;
                        for (q, r) in &self.balls[self.starts[cell] as usize..self.starts[cell + 1] as usize]
                        {
                            best = best.min(p.distance(*q) - r);
                        }
                    }
                    x += step;
                }
            }
        }
        best.max(0.0)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(60))]

        /// Brute force over all crowns.
        #[test]
        fn the_nearest_crown_is_found(
            balls in prop::collection::vec((prop::array::uniform3(-30.0_f32..30.0), 0.0_f32..3.0), 1..300),
            asked in prop::collection::vec(prop::array::uniform3(-60.0_f32..60.0), 40), limit in 0.5_f32..50.0,
        ) {
            let balls: Vec<(Vec3, f32)> = balls.into_iter().map(|(p, r)| (Vec3::from(p), r)).collect();
            let crowns = Crowns::new(balls.clone());
            for p in asked.into_iter().map(Vec3::from) {
                let nearest = balls.iter().map(|(q, r)| p.distance(*q) - r).fold(f32::INFINITY, f32::min).max(0.0);
                prop_assert!((crowns.distance(p, f32::INFINITY) - nearest).abs() < 1e-4);
                let limited = crowns.distance(p, limit);
                let right = if nearest <= limit { (limited - nearest).abs() < 1e-4 } else { limited > limit };
                prop_assert!(right, "{limited} against {nearest} within {limit}");
            }
        }
    }
}
