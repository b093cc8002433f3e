//! The value of a painting at a point: its strokes one after the other, found through a grid.

use crate::document::{NoiseKind, NoiseMask, Paint, PaintStroke, PaintTool};
use crate::ground::PlanBox;
use glam::{Vec2, Vec3};

use super::NoiseField;

/// Cells each way of the grid.
const CELLS: usize = 128;
/// Points about a point that softening takes the mean of, at half the radius of the brush.
const AROUND: usize = 8;

struct Line {
    stroke: PaintStroke,
    points: Vec<Vec3>,
    ragged: Option<NoiseField>,
}

impl Line {
    fn new(stroke: &PaintStroke) -> Self {
        let ragged = (stroke.ragged > 0.0).then(|| {
            NoiseField::new(&NoiseMask {
                kind: NoiseKind::Soft,
                size_m: (stroke.radius_m * 0.5).max(0.05),
                rough: 0.7,
                contrast: 0.0,
                floor: 0.0,
                seed: 77,
            })
        });
        Self {
            points: stroke.points.iter().map(|p| Vec3::from(*p)).collect(),
            stroke: stroke.clone(),
            ragged,
        }
    }

    /// How much the stroke acts at a point, 0 to its strength. Of a pen the piece that acts most counts, not the nearest, so that
    /// nothing jumps between two that were pressed unlike.
    fn weight(&self, p: Vec3, on_plan: bool) -> f32 {
        let flat = |q: Vec3| if on_plan { Vec3::new(q.x, 0.0, q.z) } else { q };
        let (p_, pressures) = (flat(p), &self.stroke.pressures);
        let mut near_2 = flat(self.points[0]).distance_squared(p_);
        let pieces = self.points.windows(2).map(|pair| {
            let (a, b) = (flat(pair[0]), flat(pair[1]));
            let along = b - a;
            let t = ((p_ - a).dot(along) / along.length_squared().max(1e-12)).clamp(0.0, 1.0);
            (t, (a + along * t).distance_squared(p_))
        });
        if pressures.is_empty() {
            near_2 = pieces.map(|(_, away_2)| away_2).fold(near_2, f32::min);
            return self.stroke.strength * self.profile(p, near_2, on_plan);
        }
        let within = |away_2: f32| away_2 < self.stroke.radius_m * self.stroke.radius_m;
        let firm = pieces.zip(pressures.windows(2)).filter(|((_, away_2), _)| within(*away_2)).map(
            |((t, away_2), pressed)| {
                (pressed[0] + (pressed[1] - pressed[0]) * t) * self.profile(p, away_2, on_plan)
            },
        );
        self.stroke.strength * firm.fold(pressures[0] * self.profile(p, near_2, on_plan), f32::max)
    }

    /// How much of a brush of full strength is felt at a point, at a distance squared from its middle: 1 in the middle, 0 at the rim.
    fn profile(&self, p: Vec3, away_2: f32, on_plan: bool) -> f32 {
        let mut away = away_2.sqrt() / self.stroke.radius_m;
        if away >= 1.0 {
            return 0.0;
        }
        if let Some(noise) = &self.ragged {
            // Eats into the brush from its edge.
            away += self.stroke.ragged * (1.0 - noise.value(p, on_plan)) * away;
        }
        let fade = self.stroke.falloff;
        let inside =
            if fade > 0.0 { ((1.0 - away) / fade).clamp(0.0, 1.0) } else { f32::from(u8::from(away < 1.0)) };
        // Smooth at both ends.
        inside * inside * (3.0 - 2.0 * inside)
    }
}

/// A painting ready to be asked.
pub struct PaintField {
    bare: f32,
    lines: Vec<Line>,
    low: Vec2,
    cell: Vec2,
    /// Strokes that may reach into each cell, in order.
    cells: Vec<Vec<u32>>,
}

/// Where on the plan a stroke changes anything.
pub fn reach_of_stroke(stroke: &PaintStroke) -> PlanBox {
    let plan = |p: &[f32; 3]| Vec2::new(p[0], p[2]);
    let (low, high) = stroke
        .points
        .iter()
        .fold((Vec2::INFINITY, Vec2::NEG_INFINITY), |(l, h), p| (l.min(plan(p)), h.max(plan(p))));
    PlanBox { low: low - stroke.radius_m, high: high + stroke.radius_m }
}

impl PaintField {
    /// Sorts the strokes into cells.
    pub fn new(paint: &Paint) -> Self {
        let boxes: Vec<PlanBox> = paint.strokes.iter().map(reach_of_stroke).collect();
        let (low, high) = boxes
            .iter()
            .fold((Vec2::INFINITY, Vec2::NEG_INFINITY), |(l, h), b| (l.min(b.low), h.max(b.high)));
        let cell = ((high - low) / CELLS as f32).max(Vec2::splat(1e-3));
        let mut cells = vec![Vec::new(); if boxes.is_empty() { 0 } else { CELLS * CELLS }];
        for (i, b) in boxes.iter().enumerate() {
            let (from, to) = ((b.low - low) / cell, (b.high - low) / cell);
            for z in from.y as usize..=(to.y as usize).min(CELLS - 1) {
                for x in from.x as usize..=(to.x as usize).min(CELLS - 1) {
                    cells[z * CELLS + x].push(i as u32);
                }
            }
        }
        Self { bare: paint.bare, lines: paint.strokes.iter().map(Line::new).collect(), low, cell, cells }
    }

    /// The value at a point of the scene, 0 to 1. On terrains only its place on the plan counts.
    pub fn value(&self, p: Vec3, on_plan: bool) -> f32 {
        self.until(p, on_plan, self.lines.len() as u32)
    }

    /// The value that the strokes before one of them left.
    fn until(&self, p: Vec3, on_plan: bool, end: u32) -> f32 {
        let at = (Vec2::new(p.x, p.z) - self.low) / self.cell;
        let inside = at.cmpge(Vec2::ZERO).all() && at.cmplt(Vec2::splat(CELLS as f32)).all();
        if self.cells.is_empty() || !inside {
            return self.bare;
        }
        let mut value = self.bare;
        for i in self.cells[at.y as usize * CELLS + at.x as usize].iter().copied().take_while(|i| *i < end) {
            let line = &self.lines[i as usize];
            let weight = line.weight(p, on_plan);
            if weight <= 0.0 {
                continue;
            }
            let aim = match line.stroke.tool {
                PaintTool::Add => 1.0,
                PaintTool::Erase => 0.0,
                PaintTool::Soften => {
                    let around = (0..AROUND).map(|k| {
                        let (s, c) = libm::sincosf(k as f32 / AROUND as f32 * std::f32::consts::TAU);
                        let step = Vec3::new(c, 0.0, s) * (line.stroke.radius_m * 0.5);
                        self.until(p + step, on_plan, i)
                    });
                    around.sum::<f32>() / AROUND as f32
                }
            };
            value += (aim - value) * weight;
        }
        value
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{PaintId, PaintStrokeId};
    use glam::vec3;
    use proptest::prelude::*;

    fn stroke(id: u32, tool: PaintTool, points: Vec<[f32; 3]>) -> PaintStroke {
        PaintStroke {
            id: PaintStrokeId(id),
            tool,
            radius_m: 2.0,
            strength: 1.0,
            falloff: 0.5,
            ragged: 0.0,
            points,
            pressures: Vec::new(),
        }
    }

    fn paint(strokes: Vec<PaintStroke>) -> Paint {
        Paint { id: PaintId(1), name: "Painting".into(), bare: 0.0, strokes }
    }

    #[test]
    fn a_pen_paints_as_firmly_as_it_is_pressed() {
        let way = vec![[0.0, 0.0, 0.0], [10.0, 0.0, 0.0], [20.0, 0.0, 0.0]];
        let firm = stroke(1, PaintTool::Add, way.clone());
        let pen = |pressures: Vec<f32>| {
            PaintField::new(&paint(vec![PaintStroke { pressures, ..stroke(1, PaintTool::Add, way.clone()) }]))
        };
        let at = |field: &PaintField, x: f32| field.value(vec3(x, 0.0, 0.0), true);
        let light = pen(vec![0.2, 0.6, 0.6]);
        for (x, value) in [(-1.0, 0.2), (0.0, 0.2), (5.0, 0.4), (10.0, 0.6), (20.0, 0.6)] {
            assert!((at(&light, x) - value).abs() < 1e-6, "{x} m along: {}", at(&light, x));
        }
        // Pressed firmly all along it is the brush of a mouse.
        let (full, mouse) = (pen(vec![1.0; 3]), PaintField::new(&paint(vec![firm])));
        for x in [-1.5_f32, 0.3, 7.0, 12.0, 21.2] {
            assert_eq!(at(&full, x), at(&mouse, x));
        }
    }

    #[test]
    fn a_stroke_is_all_in_its_middle_half_way_down_its_fade_and_nothing_beyond_its_radius() {
        let field =
            PaintField::new(&paint(vec![stroke(1, PaintTool::Add, vec![[0.0; 3], [10.0, 0.0, 0.0]])]));
        let got = [0.0, 1.0, 1.5, 2.0, 3.0].map(|z| field.value(vec3(5.0, 99.0, z), true));
        assert_eq!(got, [1.0, 1.0, 0.5, 0.0, 0.0]);
        assert_eq!(field.value(vec3(5.0, 99.0, 0.0), false), 0.0, "through space it is far");
    }

    #[test]
    fn erasing_takes_away_and_softening_lies_between() {
        let add = stroke(1, PaintTool::Add, vec![[0.0; 3]]);
        let erased = PaintField::new(&paint(vec![add.clone(), stroke(2, PaintTool::Erase, vec![[0.0; 3]])]));
        assert_eq!(erased.value(Vec3::ZERO, true), 0.0);
        let edge = vec3(1.9, 0.0, 0.0);
        let soft =
            PaintField::new(&paint(vec![add.clone(), stroke(2, PaintTool::Soften, vec![[1.9, 0.0, 0.0]])]));
        let hard = PaintField::new(&paint(vec![add]));
        assert!(soft.value(edge, true) > hard.value(edge, true) + 0.1);
        assert!(soft.value(vec3(0.9, 0.0, 0.0), true) < hard.value(vec3(0.9, 0.0, 0.0), true));
    }

    #[test]
    fn a_ragged_edge_only_takes_away_and_leaves_the_middle() {
        let plain = stroke(1, PaintTool::Add, vec![[0.0; 3]]);
        let ragged = PaintField::new(&paint(vec![PaintStroke { ragged: 1.0, ..plain.clone() }]));
        let plain = PaintField::new(&paint(vec![plain]));
        assert_eq!(ragged.value(Vec3::ZERO, true), 1.0);
        let mut less = 0;
        for i in 0..400 {
            let p = vec3((i % 20) as f32 * 0.2 - 2.0, 0.0, (i / 20) as f32 * 0.2 - 2.0);
            assert!(ragged.value(p, true) <= plain.value(p, true) + 1e-6);
            less += u32::from(ragged.value(p, true) < plain.value(p, true) - 0.05);
        }
        assert!(less > 40, "{less}");
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(40))]

        /// The grid changes nothing: all strokes asked one by one.
        #[test]
        fn the_grid_gives_what_all_strokes_give(
            lines in prop::collection::vec((0_u8..2, prop::collection::vec(prop::array::uniform3(-40.0_f32..40.0), 1..5), 0.2_f32..9.0), 1..14),
            asked in prop::collection::vec(prop::array::uniform3(-60.0_f32..60.0), 60),
        ) {
            let strokes: Vec<PaintStroke> = lines.into_iter().enumerate().map(|(i, (tool, points, radius_m))| {
                let tool = if tool == 0 { PaintTool::Add } else { PaintTool::Erase };
                PaintStroke { radius_m, strength: 0.8, ..stroke(i as u32, tool, points) }
            }).collect();
            let field = PaintField::new(&paint(strokes.clone()));
            for p in asked.into_iter().map(Vec3::from) {
                let plain = strokes.iter().map(Line::new).fold(0.0_f32, |value, line| {
                    let aim = if line.stroke.tool == PaintTool::Add { 1.0 } else { 0.0 };
                    value + (aim - value) * line.weight(p, true)
                });
                prop_assert!((field.value(p, true) - plain).abs() < 1e-6);
            }
        }
    }
}
