//! Places that lie where they are laid: in rows, along a line, at the corners and faces of the ground.
//!
//! There are only so many of them. Each has a number from 0 to 1 by which a smaller amount thins them, the same ones always.

use super::Place;
use crate::document::Rows;
use crate::math::hash::{Channel, draw, unit};
use crate::names::PlantId;
use crate::plan::Frame;
use crate::plan::outline::OutlineLine;
use glam::{Vec2, Vec3};

/// Level of rows in names.
const ROWS: u8 = 100;
/// Level of places along a line in names.
const ALONG: u8 = 101;

/// Level of corners in names.
pub const VERTICES: u8 = 102;
/// Level of faces in names.
pub const FACES: u8 = 103;

/// A layout of places.
#[derive(Clone, Copy)]
pub enum Layout<'a> {
    /// In straight rows over the whole plan.
    Rows {
        /// The rows.
        rows: &'a Rows,
        /// Which way they run on the ground's own plan, a unit vector.
        towards: Vec2,
    },
    /// Beside a line.
    Along {
        /// The rows beside it.
        rows: &'a Rows,
        /// The line, on the plan of the scene; none when it is gone.
        line: Option<&'a OutlineLine>,
        /// Where the ground stands.
        frame: &'a Frame,
    },
    /// At every corner.
    Vertices,
    /// In the middle of every face.
    Faces,
}

/// A place on the plan of a ground.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PlanPoint {
    /// East and south, metres, in the ground's own frame.
    pub at: Vec2,
    /// Its number from 0 to 1.
    pub birth: f32,
    /// Lasting name.
    pub id: PlantId,
}

impl Layout<'_> {
    /// The ground each place stands for, m2; none where places are as many as the ground's own.
    pub fn place_m2(&self) -> Option<f64> {
        match self {
            Self::Rows { rows, .. } | Self::Along { rows, .. } => {
                Some(f64::from(rows.between_m) * f64::from(rows.along_m))
            }
            Self::Vertices | Self::Faces => None,
        }
    }

    /// Places to expect on so much ground; none known for corners and faces.
    pub fn expected(&self, area_m2: f64) -> u64 {
        match self {
            Self::Rows { .. } => (area_m2 / self.place_m2().unwrap_or(1.0)).ceil() as u64,
            Self::Along { rows, line, .. } => {
                let length = line.map_or(0.0, OutlineLine::length_m);
                (f64::from(length / rows.along_m) * f64::from(rows.count)).ceil() as u64
            }
            Self::Vertices | Self::Faces => 0,
        }
    }

    /// Leaves as many of the places that a layout has on so much ground as are asked for, by the number of each; all where nothing
    /// says how many.
    pub fn thin<P: Place>(&self, places: &mut Vec<P>, area_m2: f64, per_m2: Option<f64>) {
        let Some(per_m2) = per_m2 else { return };
        let share = per_m2 * self.place_m2().unwrap_or(area_m2 / places.len().max(1) as f64);
        // An amount that fills the pattern but for rounding fills it.
        if share <= 0.999 {
            places.retain(|p| p.birth() < share as f32);
        }
    }

    /// The places of rows and lines within a part of the ground's plan; none for corners and faces.
    pub fn points(&self, seed: u32, low: Vec2, high: Vec2) -> Vec<PlanPoint> {
        match self {
            Self::Rows { rows, towards } => in_rows(seed, rows, *towards, low, high),
            Self::Along { rows, line: Some(line), frame } => {
                let own = |p: Vec2| {
                    let p = frame.local(Vec3::new(p.x, 0.0, p.y));
                    Vec2::new(p.x, p.z)
                };
                let mut points = along(seed, rows, line);
                points.iter_mut().for_each(|p| p.at = own(p.at));
                points.retain(|p| p.at.cmpge(low).all() && p.at.cmple(high).all());
                points
            }
            _ => Vec::new(),
        }
    }
}

fn strayed(seed: u32, rows: &Rows, id: PlantId) -> Vec2 {
    let [u, v, ..] = draw(seed, id.0, Channel::Place);
    let stray = |u: u32, spacing: f32| (unit(u) - 0.5) * spacing * rows.jitter;
    Vec2::new(stray(u, rows.along_m), stray(v, rows.between_m))
}

/// A number of its own from 0 to 1.
pub fn own_birth(seed: u32, id: PlantId) -> f32 {
    unit(draw(seed, id.0, Channel::Order)[0])
}

fn in_rows(seed: u32, rows: &Rows, towards: Vec2, low: Vec2, high: Vec2) -> Vec<PlanPoint> {
    // To the right of the way they run.
    let across = Vec2::new(-towards.y, towards.x);
    let corners = [low, Vec2::new(high.x, low.y), high, Vec2::new(low.x, high.y)];
    let reach = |axis: Vec2, step: f32| {
        let on = corners.map(|c| c.dot(axis) / step);
        let (least, most) =
            on.iter().fold((f32::INFINITY, f32::NEG_INFINITY), |(l, m), v| (l.min(*v), m.max(*v)));
        // One more to either side, for what strays in.
        (least.floor() as i32 - 1, most.ceil() as i32 + 1)
    };
    let (rows_from, rows_to) = reach(across, rows.between_m);
    let (from, to) = reach(towards, rows.along_m);
    let mut out = Vec::new();
    for row in rows_from..=rows_to {
        let half = if rows.staggered && row.rem_euclid(2) == 1 { 0.5 } else { 0.0 };
        for step in from..=to {
            let id = PlantId::pack(ROWS, row, step, 0);
            let stray = strayed(seed, rows, id);
            let at = across * (row as f32 * rows.between_m + stray.y)
                + towards * ((step as f32 + half) * rows.along_m + stray.x);
            if at.cmpge(low).all() && at.cmple(high).all() {
                out.push(PlanPoint { at, birth: own_birth(seed, id), id });
            }
        }
    }
    out
}

/// Spacing along the line is counted on the line itself, so rows on the inner side of a bend stand closer.
fn along(seed: u32, rows: &Rows, line: &OutlineLine) -> Vec<PlanPoint> {
    let mut out = Vec::new();
    for row in 0..rows.count {
        let (side, ring) = if row % 2 == 0 { (1.0, row / 2) } else { (-1.0, row / 2) };
        let away = line.half_width_m() + rows.offset_m + ring as f32 * rows.between_m;
        let half = if rows.staggered && ring % 2 == 1 { 1.0 } else { 0.5 };
        let mut before = 0.0;
        let mut step = 0;
        for pair in line.points.windows(2) {
            let (a, b) = (pair[0], pair[1]);
            let length = a.distance(b);
            let ahead = (b - a) / length.max(1e-9);
            // East to south is a turn to the right seen from above.
            let right = Vec2::new(-ahead.y, ahead.x);
            while (step as f32 + half) * rows.along_m <= before + length {
                let id = PlantId::pack(ALONG, step, row as i32, 0);
                let stray = strayed(seed, rows, id);
                let on = (step as f32 + half) * rows.along_m - before + stray.x;
                out.push(PlanPoint {
                    at: a + ahead * on + right * (side * away + stray.y),
                    birth: own_birth(seed, id),
                    id,
                });
                step += 1;
            }
            before += length;
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Outline, OutlineId, OutlineKind};
    use glam::vec2;

    fn still() -> Rows {
        Rows { between_m: 2.0, along_m: 0.5, jitter: 0.0, ..Rows::default() }
    }

    #[test]
    fn rows_fill_the_plan_with_one_place_to_every_spacing() {
        let (low, high) = (vec2(-50.0, -30.0), vec2(50.0, 30.0));
        for turn in [0.0_f32, 0.4, 1.9] {
            let towards = vec2(turn.sin(), -turn.cos());
            let points = in_rows(1, &still(), towards, low, high);
            assert!(points.len().abs_diff(6000) < 200, "{}", points.len());
            // All lie on lines two metres apart.
            let across = vec2(-towards.y, towards.x);
            assert!(
                points
                    .iter()
                    .all(|p| (p.at.dot(across) / 2.0 - (p.at.dot(across) / 2.0).round()).abs() < 1e-3)
            );
        }
    }

    #[test]
    fn places_that_stray_stay_nearer_to_their_own_place_than_to_the_next() {
        let (low, high) = (vec2(-20.0, -20.0), vec2(20.0, 20.0));
        let strayed = in_rows(1, &Rows { jitter: 1.0, ..still() }, vec2(0.0, -1.0), low, high);
        for p in &strayed {
            let row = (p.at.x / 2.0).round() * 2.0;
            assert!((p.at.x - row).abs() <= 1.0);
        }
        let mut names: Vec<_> = strayed.iter().map(|p| p.id).collect();
        names.sort_unstable();
        names.dedup();
        assert_eq!(names.len(), strayed.len());
    }

    #[test]
    fn rows_along_a_track_lie_beside_it_by_turns() {
        let nodes = vec![[0.0, 0.0], [20.0, 0.0]];
        let track = Outline {
            id: OutlineId(1),
            name: "Path".into(),
            kind: OutlineKind::Track,
            nodes,
            smooth: false,
            soft_m: 0.0,
            width_m: 2.0,
            earth: None,
        };
        let rows =
            Rows { offset_m: 0.5, count: 3, between_m: 1.0, along_m: 1.0, jitter: 0.0, ..Rows::default() };
        let points = along(1, &rows, &OutlineLine::new(&track));
        assert_eq!(points.len(), 60);
        // Running east, its right is south: +Z.
        let lanes: Vec<f32> = [0, 20, 40].map(|i| points[i].at.y).to_vec();
        assert_eq!(lanes, [1.5, -1.5, 2.5]);
        assert!(points.iter().all(|p| (0.0..=20.0).contains(&p.at.x)));
    }
}
