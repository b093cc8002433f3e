//! Slope and aspect by Horn's weighted differences.
//!
//! Source: Horn, "Hill shading and the reflectance map", Proceedings of the IEEE 69(1), 1981.

use crate::ground::Terrain;
use rayon::prelude::*;

/// Slope of the ground at every sample, degrees, 0 flat to 90 upright.
///
/// At the border the grid is continued in a straight line, so the slope there is one-sided.
pub fn slope_deg(terrain: &Terrain) -> Vec<f32> {
    per_sample(terrain, |east, south| libm::atanf((east * east + south * south).sqrt()).to_degrees())
}

/// The direction the ground faces at every sample: degrees clockwise from north, 0 to 360; 0 where it is flat.
pub fn aspect_deg(terrain: &Terrain) -> Vec<f32> {
    per_sample(terrain, |east, south| {
        if east == 0.0 && south == 0.0 {
            return 0.0;
        }
        // Downhill points against the gradient; north is -Z.
        let degrees = libm::atan2f(-east, south).to_degrees();
        if degrees < 0.0 { degrees + 360.0 } else { degrees }
    })
}

/// Calls `f` with the rise per metre towards the east and towards the south at every sample.
fn per_sample(terrain: &Terrain, f: impl Fn(f32, f32) -> f32 + Sync) -> Vec<f32> {
    let (nx, nz) = (terrain.nx(), terrain.nz());
    let east_scale = 1.0 / (8.0 * terrain.cell_m().x);
    let south_scale = 1.0 / (8.0 * terrain.cell_m().y);
    let mut out = vec![0.0_f32; nx * nz];
    out.par_chunks_mut(nx).enumerate().for_each_init(
        || [vec![0.0; nx + 2], vec![0.0; nx + 2], vec![0.0; nx + 2]],
        |[north, here, south], (row, line)| {
            padded_row(terrain, row as isize - 1, north);
            padded_row(terrain, row as isize, here);
            padded_row(terrain, row as isize + 1, south);
            for (i, value) in line.iter_mut().enumerate() {
                let (a, b, c) = (north[i], north[i + 1], north[i + 2]);
                let (d, e) = (here[i], here[i + 2]);
                let (g, h, k) = (south[i], south[i + 1], south[i + 2]);
                let to_east = ((c + 2.0 * e + k) - (a + 2.0 * d + g)) * east_scale;
                let to_south = ((g + 2.0 * h + k) - (a + 2.0 * b + c)) * south_scale;
                *value = f(to_east, to_south);
            }
        },
    );
    out
}

/// Writes a row with one sample more on either side; rows and columns outside continue the last two in a line.
fn padded_row(terrain: &Terrain, row: isize, out: &mut [f32]) {
    let (nx, nz) = (terrain.nx(), terrain.nz() as isize);
    let line = |r: usize| &terrain.heights_zx()[r * nx..(r + 1) * nx];
    if (0..nz).contains(&row) {
        out[1..=nx].copy_from_slice(line(row as usize));
    } else {
        let (edge, inner) = if row < 0 { (0, 1) } else { (nz as usize - 1, nz as usize - 2) };
        for ((o, e), i) in out[1..=nx].iter_mut().zip(line(edge)).zip(line(inner)) {
            *o = 2.0 * e - i;
        }
    }
    out[0] = 2.0 * out[1] - out[2];
    out[nx + 1] = 2.0 * out[nx] - out[nx - 1];
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::Vec2;
    use proptest::prelude::*;

    fn plane(a: f32, b: f32, cell: Vec2) -> Terrain {
        let n = 9;
        let heights = (0..n * n).map(|i| a * (i % n) as f32 * cell.x + b * (i / n) as f32 * cell.y).collect();
        Terrain::new(n, n, cell, heights).unwrap()
    }

    proptest! {
        /// Closed form: slope of z = ax + by is atan(sqrt(a2 + b2)) everywhere, borders included.
        #[test]
        fn a_plane_has_its_closed_form_slope(a in -3.0_f32..3.0, b in -3.0_f32..3.0, x in 0.5_f32..4.0, z in 0.5_f32..4.0) {
            let expected = f64::from(a).hypot(f64::from(b)).atan().to_degrees();
            for s in slope_deg(&plane(a, b, Vec2::new(x, z))) {
                prop_assert!((f64::from(s) - expected).abs() < 2e-3, "{s} is not {expected}");
            }
        }
    }

    #[test]
    fn aspect_is_the_downhill_bearing() {
        let cell = Vec2::ONE;
        for (a, b, bearing) in
            [(-1.0, 0.0, 90.0), (1.0, 0.0, 270.0), (0.0, -1.0, 180.0), (0.0, 1.0, 0.0), (-1.0, -1.0, 135.0)]
        {
            for v in aspect_deg(&plane(a, b, cell)) {
                assert!((v - bearing).abs() < 1e-3, "rise east {a}, south {b}: {v}, not {bearing}");
            }
        }
    }
}
