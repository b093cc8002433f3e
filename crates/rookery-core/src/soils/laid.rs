//! Outlines that change the ground they lie on.

use crate::document::{Earth, Outline, OutlineKind};
use crate::ground::{GroundModel, OutlineField, outline::OutlineLine};
use crate::math::noise::Noise;
use glam::{Vec2, Vec3};
use std::sync::LazyLock;

/// So much of the ground shows that feet have worn, where nothing else is laid; by eye.
const WORN: f32 = 0.72;
/// Edges are ragged by so much at most, metres; by eye.
const RAGGED_M: f32 = 0.22;

/// An outline that changes the ground: it lays an earth of its own, or wears down what is there.
#[derive(Clone, Debug)]
pub struct Laid<L> {
    line: L,
    /// What is laid; none where the ground is only worn.
    pub earth: Option<Earth>,
    ragged_m: f32,
}

/// Those of a scene, the earlier under the later: all tracks, and beds and clearings with an earth of their own.
pub fn laid(outlines: &[Outline]) -> Vec<Laid<OutlineLine>> {
    let changes = |o: &&Outline| o.kind == OutlineKind::Track || o.earth.is_some();
    outlines
        .iter()
        .filter(changes)
        .map(|o| {
            let half = if o.kind == OutlineKind::Track { 0.5 * o.width_m } else { 0.0 };
            let ragged_m = RAGGED_M.min(0.04 + 0.3 * (half + o.soft_m));
            Laid { line: OutlineLine::new(o), earth: o.earth, ragged_m }
        })
        .collect()
}

impl Laid<OutlineLine> {
    /// How much of the ground at a point of the plan it changes, 0 to 1.
    pub fn share(&self, p: Vec2) -> f32 {
        self.line.value(self.ragged(p))
    }

    /// Whether it changes anything within a box of the plan; it may say so where it does not.
    pub fn touches(&self, low: Vec2, high: Vec2) -> bool {
        self.line.touches(low - self.ragged_m, high + self.ragged_m)
    }

    /// Corners of the box beyond which it changes nothing.
    pub(super) fn reach(&self) -> (Vec2, Vec2) {
        let (low, high) = self.line.reach();
        (low - self.ragged_m, high + self.ragged_m)
    }

    /// Straight pieces of its line.
    pub(super) fn pieces(&self) -> usize {
        self.line.points.len()
    }

    /// The same, for many points.
    pub(super) fn for_many(self) -> Laid<OutlineField> {
        Laid { line: OutlineField::new(self.line), earth: self.earth, ragged_m: self.ragged_m }
    }
}

impl Laid<OutlineField> {
    /// How much of a point's colour is its, 0 to 1, that colour, linear RGB, and how much peat, sand, shingle and rock it is.
    pub(super) fn colour(&self, model: &GroundModel, p: Vec3) -> Option<(f32, [f32; 3], [f32; 4])> {
        let plan = Vec2::new(p.x, p.z);
        let share = self.line.value(self.ragged(plan));
        (share > 0.0).then(|| match self.earth {
            Some(earth) => (share, model.colour_laid(earth, p), only(earth)),
            None => {
                let earth = model.lies_at(plan, [0.5; 4]).earth;
                (share * WORN, worn(earth), underfoot(earth))
            }
        })
    }
}

impl<L> Laid<L> {
    fn ragged(&self, p: Vec2) -> Vec2 {
        static RAGS: LazyLock<Noise> = LazyLock::new(|| Noise::new(0x50_11, 0.9, 3, 0.6));
        p + self.ragged_m * Vec2::new(RAGS.at(p.x, p.y), RAGS.at(p.y + 71.3, p.x - 38.9))
    }
}

/// Nothing but one earth.
fn only(earth: Earth) -> [f32; 4] {
    let mut all = [0.0; 4];
    if let Some(kind) = (earth as usize).checked_sub(1) {
        all[kind] = 1.0;
    }
    all
}

/// Of what feet have worn down: soil with stones trodden into it; sand and stone stay what they are.
fn underfoot(earth: Earth) -> [f32; 4] {
    match earth {
        Earth::Turf | Earth::Peat => [0.86, 0.0, 0.14, 0.0],
        _ => only(earth),
    }
}

/// Reflectance of an earth that feet have worn, linear RGB; by eye. Of turf and peat dry soil is left, sand is pressed darker, stone is rubbed pale.
fn worn(earth: Earth) -> [f32; 3] {
    match earth {
        Earth::Turf => [0.200, 0.152, 0.098],
        Earth::Peat => [0.110, 0.084, 0.056],
        Earth::Sand => [0.315, 0.260, 0.175],
        Earth::Shingle => [0.230, 0.218, 0.195],
        Earth::Rock => [0.215, 0.200, 0.175],
    }
}
