//! Shelter behind what is steep: walls, blocks, crags, brows that fall away.
//!
//! The deficit of speed behind a step is that of Perera, "Shelter behind two-dimensional solid and porous fences", J. Wind Eng. Ind. Aerodyn. 8, 1981, in
//! the form of the European Wind Atlas (Troen & Petersen 1989), both from memory. Below the height at which it is greatest it holds down to the ground.

use super::solids::Solids;
use rayon::prelude::*;

/// Slope down the lee from which air parts from the ground: about 17 degrees.
const PARTS: f32 = 0.3;
/// Lower steps shelter nothing that is looked at here, metres.
const LEAST_M: f32 = 0.3;
/// Where shelter ends, in heights of what gives it.
const REACH: f32 = 30.0;
/// Steps of the grid that are looked back, at most.
const LOOK: usize = 64;
/// How much is taken away at most.
const MOST: f32 = 0.85;
/// Roughness of open ground, metres.
pub(super) const ROUGH_M: f32 = 0.03;

/// A step that falls away down the wind.
#[derive(Clone, Copy, Default)]
struct Step {
    /// How high it is, metres; 0 for none.
    rise: f32,
    /// Height of its foot, metres.
    foot: f32,
}

/// What shelters where, for one wind.
pub(super) struct Wakes {
    nx: usize,
    nz: usize,
    step: f32,
    heading: [f32; 2],
    steps: Vec<Step>,
    any: bool,
}

impl Wakes {
    /// Over columns of a grid whose highest points are given, x fastest.
    pub fn new(tops: &[f32], [nx, nz]: [usize; 2], step: f32, heading: [f32; 2]) -> Self {
        let steps: Vec<Step> = (0..nx * nz)
            .into_par_iter()
            .map(|i| {
                let at = [(i % nx) as f32, (i / nx) as f32];
                let (mut low, top) = (tops[i], tops[i]);
                for k in 1..LOOK {
                    let Some(next) = look(tops, [nx, nz], at, heading, k as f32) else { break };
                    if next > low - PARTS * step {
                        break;
                    }
                    low = next;
                }
                let rise = top - low;
                if rise >= LEAST_M { Step { rise, foot: low } } else { Step::default() }
            })
            .collect();
        let any = steps.iter().any(|s| s.rise > 0.0);
        Self { nx, nz, step, heading, steps, any }
    }

    /// How much of the speed is left at heights over a column, of those above `floor`.
    pub fn left(&self, x: usize, z: usize, heights: &[f32], left: &mut [f32]) {
        left.fill(1.0);
        if !self.any {
            return;
        }
        let [hx, hz] = self.heading;
        let mut sum = vec![0.0_f32; heights.len()];
        for aside in [-0.1_f32, 0.0, 0.1] {
            let back = [-(hx - aside * hz), -(hz + aside * hx)];
            let mut most = vec![0.0_f32; heights.len()];
            for k in 1..LOOK {
                let (i, j) = (x as f32 + back[0] * k as f32, z as f32 + back[1] * k as f32);
                let (i, j) = (i.round(), j.round());
                if i < 0.0 || j < 0.0 || i >= self.nx as f32 || j >= self.nz as f32 {
                    break;
                }
                let s = self.steps[j as usize * self.nx + i as usize];
                let far = k as f32 * self.step;
                if s.rise == 0.0 || far > REACH * s.rise {
                    continue;
                }
                for (m, y) in most.iter_mut().zip(heights) {
                    *m = m.max(deficit(far / s.rise, (y - s.foot) / s.rise, s.rise));
                }
            }
            sum.iter_mut().zip(&most).for_each(|(s, m)| *s += m / 3.0);
        }
        left.iter_mut().zip(&sum).for_each(|(l, s)| *l = 1.0 - s);
    }
}

/// Share of the speed that a solid step takes away, so many of its heights down the wind and above its foot.
fn deficit(far: f32, above: f32, rise: f32) -> f32 {
    let mixing = 0.32 / libm::logf((rise / ROUGH_M).max(4.0));
    let eta = above.max(0.0) * libm::powf(mixing * far, -0.47);
    let eta = eta.max(1.0);
    let fades = ((REACH - far) / (0.3 * REACH)).clamp(0.0, 1.0);
    (9.75 / far * eta * libm::expf(-0.67 * libm::powf(eta, 1.5))).min(MOST) * fades
}

fn look(tops: &[f32], [nx, nz]: [usize; 2], at: [f32; 2], way: [f32; 2], far: f32) -> Option<f32> {
    let (i, j) = ((at[0] + way[0] * far).round(), (at[1] + way[1] * far).round());
    let inside = i >= 0.0 && j >= 0.0 && i < nx as f32 && j < nz as f32;
    inside.then(|| tops[j as usize * nx + i as usize])
}

/// The highest of each column of cells: of the lines within it, and of what is too thin for any line to meet.
pub(super) fn tops(solids: &Solids, [nx, nz]: [usize; 2], thin: &[[f32; 3]]) -> Vec<f32> {
    let mut tops: Vec<f32> =
        (0..nx * nz).map(|i| solids.top((2 * (i / nx) + 1) * solids.wide + 2 * (i % nx) + 1)).collect();
    for [i, j, y] in thin {
        let inside = *i >= 0.0 && *j >= 0.0 && *i < nx as f32 && *j < nz as f32;
        if inside {
            let top = &mut tops[*j as usize * nx + *i as usize];
            *top = top.max(*y);
        }
    }
    tops
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn shelter_fades_with_distance_and_height() {
        // Half of the speed at ten heights, from memory of the curves for solid fences.
        assert!((0.4..0.6).contains(&deficit(10.0, 0.5, 2.0)), "{}", deficit(10.0, 0.5, 2.0));
        assert!(deficit(3.0, 0.5, 2.0) > deficit(10.0, 0.5, 2.0));
        assert!(deficit(10.0, 0.5, 2.0) > deficit(25.0, 0.5, 2.0));
        assert!(deficit(5.0, 4.0, 2.0) < 0.05 && deficit(30.0, 0.1, 2.0) == 0.0);
    }

    #[test]
    fn a_wall_shelters_down_the_wind_and_a_gentle_hill_does_not() {
        let (nx, nz) = (60, 21);
        let mut tops = vec![0.0_f32; nx * nz];
        (0..nz).for_each(|z| tops[z * nx + 20] = 3.0);
        let left = |tops: &[f32], heading: [f32; 2], x: usize| {
            let mut out = [0.0];
            Wakes::new(tops, [nx, nz], 2.0, heading).left(x, 10, &[1.0], &mut out);
            out[0]
        };
        assert!(left(&tops, [1.0, 0.0], 26) < 0.6, "{}", left(&tops, [1.0, 0.0], 26));
        assert_eq!(left(&tops, [1.0, 0.0], 14), 1.0);
        assert!(left(&tops, [-1.0, 0.0], 14) < 0.6);
        let hill: Vec<f32> =
            (0..nx * nz).map(|i| 6.0 - 0.4 * ((i % nx) as f32 - 20.0).abs().min(15.0)).collect();
        assert_eq!(left(&hill, [1.0, 0.0], 30), 1.0);
    }
}
