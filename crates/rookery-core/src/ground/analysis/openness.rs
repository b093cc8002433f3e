//! How much of the sky the ground sees.
//!
//! Source: Oke, "Boundary Layer Climates", 1987 (sky view factor). From memory.

use crate::cancel::{CancelToken, Cancelled};
use crate::ground::Terrain;
use rayon::prelude::*;

/// Directions looked into from each sample.
const DIRECTIONS: usize = 16;

/// The share of the sky seen from a level plate at every sample, weighted by how steeply its light falls: 1 on a
/// plain or a summit, 0.5 at the foot of an endless wall, towards 0 in a shaft.
///
/// Horizons are looked for at distances that grow by about a fifth and never beyond the ground.
///
/// # Errors
/// [`Cancelled`].
pub fn openness(terrain: &Terrain, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
    let (nx, nz) = (terrain.nx(), terrain.nz());
    let looks: Vec<Vec<Look>> = (0..DIRECTIONS).map(|d| looks(terrain, d)).collect();
    let heights = terrain.heights_zx();
    let mut out = vec![0.0_f32; nx * nz];
    out.par_chunks_mut(nx).enumerate().for_each(|(row, line)| {
        if cancel.is_cancelled() {
            return;
        }
        for (column, value) in line.iter_mut().enumerate() {
            let own = heights[row * nx + column];
            let mut hidden = 0.0;
            for ray in &looks {
                let mut steepest = 0.0_f32;
                for look in ray {
                    let (x, z) = (column as i32 + look.columns, row as i32 + look.rows);
                    if x < 0 || z < 0 || x >= nx as i32 || z >= nz as i32 {
                        break;
                    }
                    steepest = steepest.max((heights[z as usize * nx + x as usize] - own) * look.per_m);
                }
                let steep_2 = steepest * steepest;
                hidden += steep_2 / (1.0 + steep_2);
            }
            *value = 1.0 - hidden / DIRECTIONS as f32;
        }
    });
    if cancel.is_cancelled() { Err(Cancelled) } else { Ok(out) }
}

struct Look {
    columns: i32,
    rows: i32,
    /// One over the distance, 1/m.
    per_m: f32,
}

fn looks(terrain: &Terrain, direction: usize) -> Vec<Look> {
    let cell = terrain.cell_m();
    // Half a turn off the axes' own directions, so that no ray runs along rows of equal rounding.
    let angle = (direction as f32 + 0.5) * std::f32::consts::TAU / DIRECTIONS as f32;
    let (east, south) = (libm::sinf(angle), -libm::cosf(angle));
    let longest = terrain.size_m().length();
    let mut at_m = cell.min_element();
    let mut out: Vec<Look> = Vec::new();
    while at_m < longest {
        let columns = libm::roundf(east * at_m / cell.x) as i32;
        let rows = libm::roundf(south * at_m / cell.y) as i32;
        let new = out.last().is_none_or(|l| (l.columns, l.rows) != (columns, rows));
        if (columns, rows) != (0, 0) && new {
            let reach = (columns as f32 * cell.x).hypot(rows as f32 * cell.y);
            out.push(Look { columns, rows, per_m: 1.0 / reach });
        }
        at_m = (at_m * 1.2).max(at_m + cell.min_element() * 0.7);
    }
    out
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
            // The rim is met up to a fifth behind itself.
            assert!((got - expected).abs() < 0.09, "{got} for {expected}");
        }
    }
}
