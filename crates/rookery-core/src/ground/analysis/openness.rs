//! How much of the sky the ground sees.
//!
//! Source: Oke, "Boundary Layer Climates", 1987 (sky view factor). From memory.

use crate::cancel::{CancelToken, Cancelled};
use crate::ground::Terrain;
use rayon::prelude::*;

/// Straight lines over the ground, each looked along both ways.
const LINES: usize = 16;

/// The share of the sky seen from a level plate at every sample, weighted by how steeply its light falls: 1 on a
/// plain or a summit, 0.5 at the foot of an endless wall, towards 0 in a shaft.
///
/// Horizons are found along parallel lines that cross every row, or every column, of the samples, so that no wall is stepped over,
/// however narrow. Beyond the ground there is nothing.
///
/// Source: Timonen & Westerholm, "Scalable Height Field Self-Shadowing", Computer Graphics Forum 29(2), 2010: walking along a line,
/// only the upper hull of what was passed can be a horizon. From memory.
///
/// # Errors
/// [`Cancelled`].
pub fn openness(terrain: &Terrain, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
    let nx = terrain.nx();
    let mut hidden = vec![0.0_f32; nx * terrain.nz()];
    for line in 0..LINES {
        if cancel.is_cancelled() {
            return Err(Cancelled);
        }
        // Half a step off the axes, so that north and east are nothing special.
        let family = Family::new(terrain, (line as f32 + 0.5) * std::f32::consts::PI / LINES as f32);
        let along: Vec<Vec<f32>> = (0..family.count).into_par_iter().map(|i| family.hidden(i)).collect();
        hidden.par_chunks_mut(nx).enumerate().for_each(|(row, values)| {
            for (column, value) in values.iter_mut().enumerate() {
                *value += family.at(&along, column, row);
            }
        });
    }
    let share = 1.0 / (2 * LINES) as f32;
    hidden.par_iter_mut().for_each(|value| *value = 1.0 - *value * share);
    Ok(hidden)
}

/// Parallel lines, one sample apart from one another, with a point at every sample along one side of the ground.
struct Family<'a> {
    heights: &'a [f32],
    /// Whether the points lie a column apart; a row apart if not.
    by_column: bool,
    nx: usize,
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

impl<'a> Family<'a> {
    fn new(terrain: &'a Terrain, angle: f32) -> Self {
        let (nx, nz, cell) = (terrain.nx(), terrain.nz(), terrain.cell_m());
        let (s, c) = libm::sincosf(angle);
        // In samples to the east and to the south.
        let (east, south) = (c / cell.x, s / cell.y);
        let by_column = east.abs() >= south.abs();
        let (slant, along, across) = if by_column { (south / east, nx, nz) } else { (east / south, nz, nx) };
        let (step, aside) = if by_column { (cell.x, cell.y) } else { (cell.y, cell.x) };
        let end = slant * (along - 1) as f32;
        let first = -libm::ceilf(end.max(0.0)) as i32;
        let last = across as i32 - 1 - libm::floorf(end.min(0.0)) as i32;
        let count = (last - first + 1) as usize;
        let step_m = step.hypot(slant * aside);
        Self { heights: terrain.heights_zx(), by_column, nx, along, across, slant, step_m, first, count }
    }

    #[inline]
    fn height(&self, along: usize, across: usize) -> f32 {
        let (column, row) = if self.by_column { (along, across) } else { (across, along) };
        self.heights[row * self.nx + column]
    }

    /// How much sky is hidden along a line, both ways added up, at each of its points; not a number beside the ground.
    fn hidden(&self, line: usize) -> Vec<f32> {
        let most = (self.across - 1) as f32;
        let points: Vec<f32> = (0..self.along)
            .map(|i| {
                let across = (self.first + line as i32) as f32 + self.slant * i as f32;
                if !(0.0..=most).contains(&across) {
                    return f32::NAN;
                }
                let low = (across as usize).min(self.across.saturating_sub(2));
                let share = across - low as f32;
                let (a, b) = (self.height(i, low), self.height(i, (low + 1).min(self.across - 1)));
                a + (b - a) * share
            })
            .collect();
        let mut out: Vec<f32> = points.iter().map(|h| if h.is_nan() { *h } else { 0.0 }).collect();
        let mut hull = Vec::new();
        self.look_back(&points, 0..self.along, &mut hull, &mut out);
        self.look_back(&points, (0..self.along).rev(), &mut hull, &mut out);
        out
    }

    /// Adds what is hidden behind one who walks along the points.
    fn look_back(
        &self,
        points: &[f32],
        walk: impl Iterator<Item = usize>,
        hull: &mut Vec<(f32, f32)>,
        out: &mut [f32],
    ) {
        hull.clear();
        for i in walk.filter(|i| !points[*i].is_nan()) {
            let (at, own) = (i as f32 * self.step_m, points[i]);
            let steep = |p: &(f32, f32)| (p.1 - own) / (p.0 - at).abs();
            while let [.., before, last] = hull.as_slice()
                && steep(last) <= steep(before)
            {
                hull.pop();
            }
            let steepest = hull.last().map_or(0.0, |p| steep(p).max(0.0));
            // So that a wall without end hides all, not nothing by overflow.
            let steep_2 = steepest.min(1e9) * steepest.min(1e9);
            out[i] += steep_2 / (1.0 + steep_2);
            hull.push((at, own));
        }
    }

    /// What is hidden at a sample: between the two lines beside it.
    #[inline]
    fn at(&self, lines: &[Vec<f32>], column: usize, row: usize) -> f32 {
        let (along, across) = if self.by_column { (column, row) } else { (row, column) };
        let place = across as f32 - self.slant * along as f32 - self.first as f32;
        let low = libm::floorf(place);
        let share = place - low;
        let of = |line: f32| match lines.get(line.max(0.0) as usize) {
            Some(values) if line >= 0.0 => values[along],
            _ => f32::NAN,
        };
        let (a, b) = (of(low), of(low + 1.0));
        match (a.is_nan(), b.is_nan()) {
            (false, false) => a + (b - a) * share,
            (false, true) => a,
            (true, false) => b,
            (true, true) => 0.0,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::Vec2;

    fn openness_of(t: &Terrain) -> Vec<f32> {
        openness(t, &CancelToken::default()).unwrap()
    }

    #[test]
    fn a_plain_sees_the_whole_sky() {
        let t = Terrain::new(30, 30, Vec2::ONE, vec![4.0; 900]).unwrap();
        assert!(openness_of(&t).iter().all(|v| *v == 1.0));
    }

    /// Closed form: an endless wall hides half the sky from its foot.
    #[test]
    fn the_foot_of_a_wall_sees_half_the_sky() {
        let n = 201;
        let heights = (0..n * n).map(|i| if i % n > 100 { 1e5 } else { 0.0 }).collect();
        let t = Terrain::new(n, n, Vec2::ONE, heights).unwrap();
        let got = openness_of(&t)[100 * n + 100];
        assert!((got - 0.5).abs() < 0.02, "{got}");
    }

    /// Closed form: from the middle of a round pit the sky is sin2 of the half-angle of its mouth.
    #[test]
    fn the_middle_of_a_round_pit_sees_its_closed_form() {
        let n = 241;
        for (radius, depth) in [(40.0_f32, 40.0_f32), (60.0, 30.0), (30.0, 80.0)] {
            let heights = (0..n * n)
                .map(|i| {
                    let away = ((i % n) as f32 - 120.0).hypot((i / n) as f32 - 120.0);
                    if away < radius { 0.0 } else { depth }
                })
                .collect();
            let t = Terrain::new(n, n, Vec2::ONE, heights).unwrap();
            let got = openness_of(&t)[120 * n + 120];
            let expected = radius * radius / (radius * radius + depth * depth);
            // The rim is met up to a sample behind itself.
            assert!((got - expected).abs() < 0.02, "{got} for {expected}");
        }
    }

    /// Broke: a wall of one sample was stepped over, and all the sky was seen. Closed form: a wall of height h without end, at the
    /// distance d, hides what a horizon of slope (h/d) cos hides, as a mean over the directions that it spans.
    #[test]
    fn walls_of_one_sample_are_not_stepped_over() {
        let n = 301;
        for (away, height) in [(7, 5.0_f32), (23, 12.0), (61, 40.0), (97, 30.0), (113, 200.0)] {
            for thick in 1..=3 {
                for turned in [false, true] {
                    let heights = (0..n * n)
                        .map(|i| if turned { i / n } else { i % n })
                        .map(|v| if (150 + away..150 + away + thick).contains(&v) { height } else { 0.0 })
                        .collect();
                    let t = Terrain::new(n, n, Vec2::splat(0.5), heights).unwrap();
                    let got = openness_of(&t)[150 * n + 150];
                    let d = away as f32 * 0.5;
                    // The wall ends with the ground.
                    let reach = (75.0 / d).atan();
                    let steps = 4000;
                    let hidden: f32 = (0..steps)
                        .map(|i| {
                            let angle = ((i as f32 + 0.5) / steps as f32 * 2.0 - 1.0) * reach;
                            let s = height / d * angle.cos();
                            s * s / (1.0 + s * s)
                        })
                        .sum::<f32>()
                        / steps as f32;
                    let expected = 1.0 - hidden * reach / std::f32::consts::PI;
                    assert!((got - expected).abs() < 0.02, "{away} {height} {thick}: {got} for {expected}");
                }
            }
        }
    }

    /// Against every sample within sight of a small rough ground, sorted into 720 directions.
    #[test]
    fn a_rough_ground_sees_what_looking_everywhere_sees() {
        let n = 48_usize;
        let wave = |i: usize| {
            let (x, z) = ((i % n) as f32, (i / n) as f32);
            6.0 * (x * 0.31).sin() * (z * 0.23).cos() + 3.0 * (x * 0.11 + z * 0.17).sin()
        };
        let t = Terrain::new(n, n, Vec2::ONE, (0..n * n).map(wave).collect()).unwrap();
        let got = openness_of(&t);
        let mut worst = 0.0_f32;
        for sample in (0..n * n).step_by(97) {
            let own = t.vertex(sample % n, sample / n);
            let mut hidden = 0.0;
            for direction in 0..720 {
                let (s, c) = (direction as f32 * std::f32::consts::TAU / 720.0).sin_cos();
                let mut steepest = 0.0_f32;
                for i in 1..400 {
                    let d = i as f32 * 0.25;
                    let (x, z) = (own.x + c * d, own.z + s * d);
                    if !t.contains(x, z) {
                        break;
                    }
                    steepest = steepest.max((t.height_at(x, z) - own.y) / d);
                }
                hidden += steepest * steepest / (1.0 + steepest * steepest) / 720.0;
            }
            worst = worst.max((got[sample] - (1.0 - hidden)).abs());
        }
        assert!(worst < 0.03, "{worst}");
    }
}
