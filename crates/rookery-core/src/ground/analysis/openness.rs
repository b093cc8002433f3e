//! How much of the sky the ground sees.
//!
//! Source: Oke, "Boundary Layer Climates", 1987 (sky view factor). From memory.

use super::horizon::{BothWays, Lines};
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::Terrain;
use glam::Vec2;
use rayon::prelude::*;

/// Directions looked into from each sample.
const DIRECTIONS: usize = 32;

/// The share of the sky seen from a level plate at every sample, weighted by how steeply its light falls: 1 on a
/// plain or a summit, 0.5 at the foot of an endless wall, towards 0 in a shaft.
///
/// # Errors
/// [`Cancelled`].
pub fn openness(terrain: &Terrain, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
    let nx = terrain.nx();
    let heights = BothWays::new(terrain);
    let mut seen = vec![1.0_f32; nx * terrain.nz()];
    for direction in 0..DIRECTIONS {
        if cancel.is_cancelled() {
            return Err(Cancelled);
        }
        // Half a step off the axes, so that north and east are nothing special.
        let angle = (direction as f32 + 0.5) * std::f32::consts::TAU / DIRECTIONS as f32;
        let (s, c) = libm::sincosf(angle);
        let lines = Lines::new(&heights, Vec2::new(c, s));
        let ahead = lines.ahead();
        seen.par_chunks_mut(nx).enumerate().for_each(|(row, values)| {
            for (column, value) in values.iter_mut().enumerate() {
                let rise = lines.at(&ahead, column, row).max(0.0);
                *value -= rise * rise / DIRECTIONS as f32;
            }
        });
    }
    Ok(seen)
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
        assert!(worst < 0.04, "{worst}");
    }
}
