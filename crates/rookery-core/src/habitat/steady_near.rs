//! What a mask makes of a distance, remembered where it stays the same.

use super::{NearField, response_at};
use crate::document::Response;
use glam::Vec3;
use std::sync::OnceLock;

/// Cells of the wide and of the narrow table.
const CELLS: [usize; 2] = [1 << 12, 1 << 14];

/// Within a ball about a point the response has one value.
#[derive(Clone, Copy, Debug)]
struct Ball {
    at: Vec3,
    radius_2: f32,
    value: f32,
}

/// Something near or far with the curve a mask lays over it. A distance changes by no more than one walks, so that a point that
/// lies well within a level part of the curve answers for all points around it; only the others are measured. Answers are those of
/// measuring every point.
#[derive(Debug)]
pub struct SteadyNear {
    field: NearField,
    curve: Response,
    limit_m: f32,
    /// A wide and a narrow one, each with the side of its cells, metres.
    tables: [(f32, OnceLock<Table>); 2],
}

/// Cells far from one another may share a place: a ball tells whether it holds the point.
type Table = Box<[OnceLock<Ball>]>;

impl SteadyNear {
    /// Distances of `limit_m` and more are all alike.
    pub fn new(field: NearField, curve: Response, limit_m: f32) -> Self {
        let tables = [limit_m * 0.5, limit_m * 0.08].map(|side_m| (side_m, OnceLock::new()));
        Self { field, curve, limit_m, tables }
    }

    /// The distance at a point of the scene, metres, at most the limit.
    pub fn distance(&self, p: Vec3) -> f32 {
        self.field.distance(p, self.limit_m).min(self.limit_m)
    }

    /// The response at a point of the scene.
    pub fn response(&self, p: Vec3) -> f32 {
        let mut free = None;
        for (level, (side_m, table)) in self.tables.iter().enumerate() {
            let table = table.get_or_init(|| vec![OnceLock::new(); CELLS[level]].into());
            let cell = &table[place(p / *side_m, CELLS[level])];
            match cell.get() {
                Some(ball) if p.distance_squared(ball.at) <= ball.radius_2 => return ball.value,
                Some(_) => {}
                None => {
                    free = Some(cell);
                    break;
                }
            }
        }
        let distance = self.distance(p);
        let value = response_at(&self.curve, distance);
        if let Some(cell) = free {
            // Whoever came first stays; all of them are right.
            let radius = (self.steady_m(distance) * 0.999 - 1e-3).max(0.0);
            let _ = cell.set(Ball { at: p, radius_2: radius * radius, value });
        }
        value
    }

    /// How far the distance may change from here without a change of the response, metres.
    fn steady_m(&self, distance: f32) -> f32 {
        let Response { start, full_from, full_to, end, .. } = self.curve;
        if distance > end {
            distance - end
        } else if distance < start {
            start - distance
        } else if distance >= full_from && distance <= full_to {
            let above = if full_to >= self.limit_m { f32::INFINITY } else { full_to - distance };
            (distance - full_from).min(above)
        } else {
            0.0
        }
    }
}

fn place(at: Vec3, cells: usize) -> usize {
    let [x, y, z] = at.floor().as_ivec3().to_array().map(|c| c as u32);
    let mixed = x.wrapping_mul(0x9E37_79B1) ^ y.wrapping_mul(0x85EB_CA77) ^ z.wrapping_mul(0xC2B2_AE3D);
    (mixed ^ (mixed >> 15)) as usize & (cells - 1)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Outline, OutlineId, OutlineKind};
    use crate::habitat::near::{Crowns, NearLine};
    use crate::plan::outline::OutlineLine;
    use proptest::prelude::*;
    use std::sync::Arc;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(80))]

        #[test]
        fn it_answers_as_if_every_point_were_measured(
            nodes in prop::collection::vec(prop::array::uniform2(-50.0_f32..50.0), 3..12), bed: bool,
            asked in prop::collection::vec(prop::array::uniform3(-90.0_f32..90.0), 400),
            ends in prop::array::uniform4(0.0_f32..12.0), endless: bool, hard: bool, inverted: bool,
        ) {
            let mut ends = ends;
            ends.sort_by(f32::total_cmp);
            if hard {
                ends[1] = ends[0];
            }
            let [start, full_from, full_to, end] = ends;
            let [full_to, end] = if endless { [20_000.0; 2] } else { [full_to, end] };
            let curve = Response { start, full_from, full_to, end, inverted };
            let kind = if bed { OutlineKind::Bed } else { OutlineKind::Track };
            let line = NearLine::new(&OutlineLine::new(&Outline {
                id: OutlineId(1), name: "Line".into(), kind, nodes: nodes.clone(), smooth: true, soft_m: 1.0, width_m: 2.0,
                earth: None,
            }));
            let balls = nodes.iter().map(|[x, z]| (Vec3::new(*x, x - z, *z), 1.5)).collect();
            for field in [NearField::Lines(vec![line]), NearField::Crowns(Arc::new(Crowns::new(balls)))] {
                let limit = (end.min(20.0) * 3.0).max(20.0);
                let steady = SteadyNear::new(field.clone(), curve, limit);
                for p in asked.iter().map(|p| Vec3::from(*p)) {
                    // Points close together, so that they share cells.
                    for q in [p, p * 0.3, p * 0.1] {
                        let right = response_at(&curve, field.distance(q, limit).min(limit));
                        prop_assert!((steady.response(q) - right).abs() < 1e-6, "{} for {right} at {q}", steady.response(q));
                    }
                }
            }
        }
    }
}
