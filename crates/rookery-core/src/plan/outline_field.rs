//! An outline that many points are asked of: most are answered from a coarse grid.

use super::outline::OutlineLine;
use glam::Vec2;
use rayon::prelude::*;

/// Cells each way.
const CELLS: usize = 96;

/// Gives exactly the values of its line.
#[derive(Clone, Debug)]
pub struct OutlineField {
    line: OutlineLine,
    low: Vec2,
    cell: Vec2,
    /// The value of cells that have one value, row by row; none where it must be worked out.
    cells: Vec<Option<f32>>,
}

impl OutlineField {
    /// Asks the line at the middle of each cell. Distance changes by no more than one walks, so that a cell far enough
    /// from the edge is all in or all out.
    pub fn new(line: OutlineLine) -> Self {
        let (low, high) = line.reach();
        let cell = ((high - low) / CELLS as f32).max(Vec2::splat(1e-3));
        // A little more than half the diagonal, for what is lost in rounding.
        let half = cell.length() * 0.5 * 1.001 + 1e-4;
        let cells = (0..CELLS * CELLS)
            .into_par_iter()
            .map(|i| {
                let middle = low + cell * (Vec2::new((i % CELLS) as f32, (i / CELLS) as f32) + 0.5);
                let distance = line.distance_m(middle);
                let (near, far) = (line.value_at(distance - half), line.value_at(distance + half));
                (near == far).then_some(near)
            })
            .collect();
        Self { line, low, cell, cells }
    }

    /// The line.
    pub fn line(&self) -> &OutlineLine {
        &self.line
    }

    /// Distance to the edge, metres, below zero inside.
    pub fn distance_m(&self, p: Vec2) -> f32 {
        self.line.distance_m(p)
    }

    /// How much a point belongs to the outline, see [`OutlineLine::value`].
    #[inline]
    pub fn value(&self, p: Vec2) -> f32 {
        let at = (p - self.low) / self.cell;
        if at.cmplt(Vec2::ZERO).any() || at.cmpge(Vec2::splat(CELLS as f32)).any() {
            return self.line.value(p);
        }
        self.cells[at.y as usize * CELLS + at.x as usize].unwrap_or_else(|| self.line.value(p))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Outline, OutlineId, OutlineKind};
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(40))]

        #[test]
        fn the_field_gives_the_values_of_the_line(
            nodes in prop::collection::vec(prop::array::uniform2(-50.0_f32..50.0), 3..9),
            kind in prop_oneof![Just(OutlineKind::Bed), Just(OutlineKind::Track)],
            smooth: bool, soft_m in 0.0_f32..8.0, width_m in 0.1_f32..20.0, seed: u32,
        ) {
            let line = OutlineLine::new(&Outline {
                id: OutlineId(1), name: "Line".into(), kind, nodes, smooth, soft_m, width_m,
                earth: None,
            });
            let field = OutlineField::new(line.clone());
            for i in 0..2000_u64 {
                let [x, z, ..] = crate::math::hash::draw(seed, i, crate::math::hash::Channel::Place);
                let p = Vec2::new(crate::math::hash::unit(x), crate::math::hash::unit(z)) * 160.0 - 80.0;
                prop_assert_eq!(field.value(p), line.value(p), "at {}", p);
            }
        }
    }
}
