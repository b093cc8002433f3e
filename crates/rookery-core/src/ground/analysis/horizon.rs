//! Horizons: how high the land rises in a direction, from every sample.
//!
//! They are found along parallel lines that cross every row, or every column, of the samples, so that no wall is stepped over, however
//! narrow. Beyond the ground there is nothing.
//!
//! Source: Timonen & Westerholm, "Scalable Height Field Self-Shadowing", Computer Graphics Forum 29(2), 2010: walking along a line, only
//! the upper hull of what was passed can be a horizon. From memory.

use crate::ground::Terrain;
use glam::Vec2;
use rayon::prelude::*;

/// Heights row by row and column by column, so that a walk either way reads them one after the other.
pub(super) struct BothWays<'a> {
    terrain: &'a Terrain,
    by_column: Vec<f32>,
}

impl<'a> BothWays<'a> {
    pub fn new(terrain: &'a Terrain) -> Self {
        let (nx, nz, heights) = (terrain.nx(), terrain.nz(), terrain.heights_zx());
        let mut by_column = vec![0.0; nx * nz];
        by_column.par_chunks_mut(nz).enumerate().for_each(|(column, out)| {
            for (row, out) in out.iter_mut().enumerate() {
                *out = heights[row * nx + column];
            }
        });
        Self { terrain, by_column }
    }
}

/// Parallel lines, one sample apart from one another, with a point at every sample along one side of the ground.
pub(super) struct Lines<'a> {
    /// Samples along the lines lie beside one another.
    heights: &'a [f32],
    /// Whether the points lie a column apart; a row apart if not.
    by_column: bool,
    /// Whether one looks towards later points.
    forwards: bool,
    /// Samples along the lines and across them.
    along: usize,
    across: usize,
    /// How far a line goes across from one point to the next, samples, -1 to 1.
    slant: f32,
    /// From one point to the next, metres.
    step_m: f32,
    /// Where the first line starts, samples across; the others follow by one.
    first: i32,
    count: usize,
}

/// A point of a line that may be a horizon: how far along it lies and how high, metres.
type Passed = (f32, f32);

impl<'a> Lines<'a> {
    /// Lines in a direction on the plan: east and south, of length 1.
    pub fn new(heights: &'a BothWays<'a>, towards: Vec2) -> Self {
        let terrain = heights.terrain;
        let (nx, nz, cell) = (terrain.nx(), terrain.nz(), terrain.cell_m());
        let Vec2 { x: east, y: south } = towards / cell;
        let by_column = east.abs() >= south.abs();
        let (slant, along, across) = if by_column { (south / east, nx, nz) } else { (east / south, nz, nx) };
        let (step, aside) = if by_column { (cell.x, cell.y) } else { (cell.y, cell.x) };
        let end = slant * (along - 1) as f32;
        let first = -libm::ceilf(end.max(0.0)) as i32;
        let last = across as i32 - 1 - libm::floorf(end.min(0.0)) as i32;
        Self {
            heights: if by_column { terrain.heights_zx() } else { &heights.by_column },
            by_column,
            forwards: if by_column { east > 0.0 } else { south > 0.0 },
            along,
            across,
            slant,
            step_m: step.hypot(slant * aside),
            first,
            count: (last - first + 1) as usize,
        }
    }

    #[inline]
    fn height(&self, along: usize, across: usize) -> f32 {
        self.heights[across * self.along + along]
    }

    /// Height at a point of a line; none beside the ground.
    #[inline]
    fn point(&self, line: usize, i: usize) -> Option<f32> {
        let across = (self.first + line as i32) as f32 + self.slant * i as f32;
        if !(0.0..=(self.across - 1) as f32).contains(&across) {
            return None;
        }
        let low = (across as usize).min(self.across.saturating_sub(2));
        let (a, b) = (self.height(i, low), self.height(i, (low + 1).min(self.across - 1)));
        Some(a + (b - a) * (across - low as f32))
    }

    /// The highest that the land rises ahead of every point of every line, as a sine, -1 to 1: 0 where nothing lies ahead. Not a number
    /// beside the ground.
    pub fn ahead(&self) -> Vec<Vec<f32>> {
        let walk = |(line, hull): (usize, &mut Vec<Passed>)| {
            let mut out = vec![f32::NAN; self.along];
            hull.clear();
            if self.forwards {
                (0..self.along).rev().for_each(|i| self.step(line, i, hull, &mut out));
            } else {
                (0..self.along).for_each(|i| self.step(line, i, hull, &mut out));
            }
            out
        };
        (0..self.count).into_par_iter().map_init(Vec::new, |hull, line| walk((line, hull))).collect()
    }

    /// One step of a walk against the direction that one looks in.
    #[inline]
    fn step(&self, line: usize, i: usize, hull: &mut Vec<Passed>, out: &mut [f32]) {
        let Some(own) = self.point(line, i) else { return };
        let at = i as f32 * self.step_m;
        // The last rises no more steeply than the one before it; both lie ahead.
        let hides = |before: &Passed, last: &Passed| {
            (last.1 - own) * (before.0 - at).abs() <= (before.1 - own) * (last.0 - at).abs()
        };
        while let [.., before, last] = hull.as_slice()
            && hides(before, last)
        {
            hull.pop();
        }
        out[i] = hull.last().map_or(0.0, |highest| {
            let (rise, away) = (highest.1 - own, highest.0 - at);
            rise / (rise * rise + away * away).sqrt()
        });
        hull.push((at, own));
    }

    /// What [`Lines::ahead`] found, at a sample: between the two lines beside it.
    #[inline]
    pub fn at(&self, ahead: &[Vec<f32>], column: usize, row: usize) -> f32 {
        let (along, across) = if self.by_column { (column, row) } else { (row, column) };
        let place = across as f32 - self.slant * along as f32 - self.first as f32;
        let low = libm::floorf(place);
        let share = place - low;
        let of = |line: f32| match ahead.get(line.max(0.0) as usize) {
            Some(values) if line >= 0.0 => values[along],
            _ => f32::NAN,
        };
        let (a, b) = (of(low), of(low + 1.0));
        if a.is_nan() || share == 1.0 {
            b
        } else if b.is_nan() {
            a
        } else {
            a + (b - a) * share
        }
    }
}
