//! What a mask measures its distance to.

use super::Given;
use super::volume::Volume;
use crate::document::{Document, Mask, Near, OutlineKind};
use crate::math::mesh_distance::MeshDistance;
use crate::plan::outline::OutlineLine;
use glam::{Vec2, Vec3};
use std::sync::Arc;

/// Something whose distance is asked at many points of the scene.
#[derive(Clone, Debug)]
pub enum NearField {
    /// Lines on the plan; the nearest counts. None are infinitely far.
    Lines(Vec<NearLine>),
    /// Obstacles.
    Meshes(Vec<Arc<MeshDistance>>),
    /// Crowns of plants.
    Crowns(Arc<Crowns>),
    /// A shape of the mask's own.
    Volume(Volume),
}

impl NearField {
    /// What a mask looks at in a scene; none for water, which is read off the ground.
    pub fn for_mask(document: &Document, mask: &Mask, given: &Given) -> Option<Self> {
        let lines = |fits: &dyn Fn(&crate::document::Outline) -> bool| {
            Self::Lines(
                document
                    .outlines
                    .iter()
                    .filter(|o| fits(o))
                    .map(|o| NearLine::new(&OutlineLine::new(o)))
                    .collect(),
            )
        };
        Some(match mask.near? {
            Near::Outline { id } => lines(&|o| o.id == id),
            Near::Tracks => lines(&|o| o.kind == OutlineKind::Track),
            Near::Water => return None,
            Near::Obstacle { id } => Self::Meshes(
                given.obstacles.iter().filter(|(own, _)| *own == id).map(|(_, mesh)| mesh.clone()).collect(),
            ),
            Near::Obstacles => Self::Meshes(given.obstacles.iter().map(|(_, mesh)| mesh.clone()).collect()),
            near @ (Near::Straight { .. }
            | Near::Ball { .. }
            | Near::Cylinder { .. }
            | Near::Box { .. }
            | Near::Camera { .. }) => Self::Volume(Volume::from_near(document, &near)?),
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
                lines.iter().fold(f32::INFINITY, |best, l| best.min(l.distance(plan, limit.min(best))))
            }
            Self::Meshes(meshes) => {
                meshes.iter().fold(f32::INFINITY, |best, m| best.min(m.distance(p, limit.min(best))))
            }
            Self::Crowns(crowns) => crowns.distance(p, limit),
            Self::Volume(volume) => volume.distance(p),
        }
    }
}

/// Pieces of a line that are looked at together.
const RUN: usize = 8;

/// An outline cut into runs, each in its box, so that most of it is passed over.
#[derive(Clone, Debug)]
pub struct NearLine {
    runs: Vec<Run>,
    closed: bool,
    half_width_m: f32,
}

#[derive(Clone, Debug)]
struct Run {
    low: Vec2,
    high: Vec2,
    /// Ends of its pieces, one after the other.
    points: Vec<Vec2>,
}

impl NearLine {
    /// Cuts a line into runs.
    pub fn new(line: &OutlineLine) -> Self {
        let last = line.points.len().saturating_sub(1);
        let run = |first: usize| {
            let points = line.points[first..=(first + RUN).min(last)].to_vec();
            let low = points.iter().copied().fold(Vec2::INFINITY, Vec2::min);
            let high = points.iter().copied().fold(Vec2::NEG_INFINITY, Vec2::max);
            Run { low, high, points }
        };
        let runs =
            (0..last.max(1)).step_by(RUN).filter(|first| *first < line.points.len()).map(run).collect();
        Self { runs, closed: line.closed(), half_width_m: line.half_width_m() }
    }

    /// Distance to it, 0 on it or in it; what lies farther than `limit` may give any number above it.
    pub fn distance(&self, p: Vec2, limit: f32) -> f32 {
        if self.closed && self.inside(p) {
            return 0.0;
        }
        let reach = limit + self.half_width_m;
        let mut best_2 = if reach.is_finite() { reach * reach } else { f32::INFINITY };
        let mut found = f32::INFINITY;
        for run in &self.runs {
            if p.distance_squared(p.clamp(run.low, run.high)) > best_2 {
                continue;
            }
            for pair in run.points.windows(2) {
                let (a, along) = (pair[0], pair[1] - pair[0]);
                let t = ((p - a).dot(along) / along.length_squared().max(1e-12)).clamp(0.0, 1.0);
                let d_2 = p.distance_squared(a + along * t);
                if d_2 <= best_2 {
                    (best_2, found) = (d_2, d_2);
                }
            }
        }
        (found.sqrt() - self.half_width_m).max(0.0)
    }

    /// Even-odd: how often a line to the east crosses the outline.
    fn inside(&self, p: Vec2) -> bool {
        let mut inside = false;
        for run in self.runs.iter().filter(|r| r.low.y <= p.y && p.y <= r.high.y && p.x <= r.high.x) {
            for pair in run.points.windows(2) {
                let (a, b) = (pair[0], pair[1]);
                if (a.y > p.y) != (b.y > p.y) && p.x < a.x + (p.y - a.y) / (b.y - a.y) * (b.x - a.x) {
                    inside = !inside;
                }
            }
        }
        inside
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

    /// Whether there are none.
    pub fn is_empty(&self) -> bool {
        self.balls.is_empty()
    }

    /// Memory it takes, bytes.
    pub fn bytes(&self) -> usize {
        size_of_val(self.balls.as_slice()) + size_of_val(self.starts.as_slice())
    }

    /// Whether any ball comes nearer to a point than `room`, which may be below zero: then it must hold the point by more.
    pub fn nearer_than(&self, p: Vec3, room: f32) -> bool {
        if self.balls.is_empty() {
            return false;
        }
        let reach = (room + self.largest_m).max(0.0);
        let at = Vec2::new(p.x, p.z) - self.low;
        let low = ((at - reach) / self.cell_m).floor().as_i64vec2().max(glam::I64Vec2::ZERO);
        let high = ((at + reach) / self.cell_m).floor().as_i64vec2();
        let (columns, rows) = (self.columns as i64, self.rows as i64);
        let (low_x, high_x) = (low.x.min(columns - 1), high.x.min(columns - 1));
        if high.x < 0 || high.y < 0 || low.x >= columns || low.y >= rows {
            return false;
        }
        (low.y..=high.y.min(rows - 1)).any(|row| {
            let first = self.starts[(row * columns + low_x) as usize] as usize;
            let end = self.starts[(row * columns + high_x) as usize + 1] as usize;
            self.balls[first..end].iter().any(|(q, r)| {
                let room = room + r;
                room > 0.0 && p.distance_squared(*q) < room * room
            })
        })
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

        /// The line itself, asked piece by piece.
        #[test]
        fn a_line_in_runs_is_as_far_as_the_line(
            nodes in prop::collection::vec(prop::array::uniform2(-50.0_f32..50.0), 3..30), smooth: bool, track: bool,
            asked in prop::collection::vec(prop::array::uniform2(-90.0_f32..90.0), 60), limit in 0.5_f32..40.0,
        ) {
            let kind = if track { OutlineKind::Track } else { OutlineKind::Bed };
            let line = OutlineLine::new(&crate::document::Outline {
                id: crate::document::OutlineId(1), name: "Line".into(), kind, nodes, smooth, soft_m: 1.0, width_m: 2.0,
                earth: None,
            });
            let near = NearLine::new(&line);
            for p in asked.into_iter().map(Vec2::from) {
                let d = line.distance_m(p).max(0.0);
                prop_assert!((near.distance(p, f32::INFINITY) - d).abs() < 1e-3, "{} against {d}", near.distance(p, f32::INFINITY));
                let limited = near.distance(p, limit);
                let right = if d <= limit { (limited - d).abs() < 1e-3 } else { limited > limit };
                prop_assert!(right, "{limited} against {d} within {limit}");
            }
        }

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
