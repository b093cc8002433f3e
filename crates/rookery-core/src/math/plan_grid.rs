//! Points of a plan in square cells.

use glam::Vec2;
use std::borrow::Cow;

/// Points sorted into cells, about two to a cell, so that those within a box are found fast.
#[derive(Clone, Debug)]
pub struct PlanGrid<'a> {
    points: Cow<'a, [Vec2]>,
    low: Vec2,
    cell_m: f32,
    columns: usize,
    rows: usize,
    starts: Vec<u32>,
    sorted: Vec<u32>,
}

impl<'a> PlanGrid<'a> {
    /// Sorts points.
    pub fn new(points: impl Into<Cow<'a, [Vec2]>>) -> Self {
        let points = points.into();
        let low = points.iter().fold(Vec2::INFINITY, |l, p| l.min(*p));
        let high = points.iter().fold(Vec2::NEG_INFINITY, |h, p| h.max(*p));
        let size = if points.is_empty() { Vec2::ONE } else { (high - low).max(Vec2::splat(0.01)) };
        let cell_m =
            (size.x * size.y * 2.0 / points.len().max(1) as f32).sqrt().max(size.max_element() / 2000.0);
        let (columns, rows) = ((size.x / cell_m) as usize + 1, (size.y / cell_m) as usize + 1);
        let starts = vec![0; columns * rows + 1];
        let mut grid = Self { points, low, cell_m, columns, rows, starts, sorted: Vec::new() };
        let cells: Vec<usize> = grid.points.iter().map(|p| grid.cell(*p)).collect();
        cells.iter().for_each(|c| grid.starts[c + 1] += 1);
        (1..grid.starts.len()).for_each(|i| grid.starts[i] += grid.starts[i - 1]);
        grid.sorted = vec![0; grid.points.len()];
        let mut next = grid.starts.clone();
        for (i, c) in cells.into_iter().enumerate() {
            grid.sorted[next[c] as usize] = i as u32;
            next[c] += 1;
        }
        grid
    }

    fn column_row(&self, p: Vec2) -> (usize, usize) {
        let at = ((p - self.low) / self.cell_m).max(Vec2::ZERO);
        ((at.x as usize).min(self.columns - 1), (at.y as usize).min(self.rows - 1))
    }

    fn cell(&self, p: Vec2) -> usize {
        let (column, row) = self.column_row(p);
        row * self.columns + column
    }

    /// Visits the number of every point within a box.
    pub fn within(&self, low: Vec2, high: Vec2, mut visit: impl FnMut(u32)) {
        let ((from, top), (to, bottom)) = (self.column_row(low), self.column_row(high));
        for row in top..=bottom {
            let cells = row * self.columns + from..row * self.columns + to + 1;
            for &i in &self.sorted[self.starts[cells.start] as usize..self.starts[cells.end] as usize] {
                let p = self.points[i as usize];
                if p.cmpge(low).all() && p.cmple(high).all() {
                    visit(i);
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn finds_what_looking_at_every_point_finds(points in proptest::collection::vec((-50.0_f32..50.0, -9.0_f32..9.0), 0..200), x in -60.0_f32..60.0, z in -12.0_f32..12.0, w in 0.0_f32..30.0) {
            let points: Vec<Vec2> = points.into_iter().map(Vec2::from).collect();
            let (low, high) = (Vec2::new(x, z), Vec2::new(x + w, z + w * 0.5));
            let mut found = Vec::new();
            PlanGrid::new(&points).within(low, high, |i| found.push(i));
            found.sort_unstable();
            let expected: Vec<u32> = (0..points.len() as u32)
                .filter(|i| points[*i as usize].cmpge(low).all() && points[*i as usize].cmple(high).all())
                .collect();
            prop_assert_eq!(found, expected);
        }
    }
}
