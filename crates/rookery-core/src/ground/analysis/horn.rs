//! Slope and aspect by Horn's weighted differences.
//!
//! Source: Horn, "Hill shading and the reflectance map", Proceedings of the IEEE 69(1), 1981.

use super::window::per_row_of;
use crate::ground::Terrain;
use crate::ground::sculpt::Region;
use crate::math::bearing::{atan, bearing_deg};

/// Slope of the ground at every sample, degrees, 0 flat to 90 upright.
///
/// At the border the grid is continued in a straight line, so the slope there is one-sided.
pub fn slope_deg(terrain: &Terrain) -> Vec<f32> {
    let mut out = vec![0.0; terrain.nx() * terrain.nz()];
    slope_deg_in(terrain, &Region::whole(terrain), &mut out);
    out
}

/// The slope of the samples of a region, written into the slopes of the whole terrain. To follow a change of heights
/// the region must reach one sample beyond it.
pub fn slope_deg_in(terrain: &Terrain, region: &Region, slopes_deg: &mut [f32]) {
    per_sample(terrain, region, slopes_deg, |east, south| {
        let steep_2 = east * east + south * south;
        atan(steep_2.sqrt()) * (180.0 / std::f32::consts::PI)
    });
}

/// The direction the ground faces at every sample: degrees clockwise from north, 0 to 360; not a number where it is level.
pub fn aspect_deg(terrain: &Terrain) -> Vec<f32> {
    let mut out = vec![0.0; terrain.nx() * terrain.nz()];
    per_sample(terrain, &Region::whole(terrain), &mut out, |east, south| {
        // Downhill points against the gradient; north is -Z.
        if east == 0.0 && south == 0.0 { f32::NAN } else { bearing_deg(-east, south) }
    });
    out
}

/// Calls `f` with the rise per metre towards the east and towards the south at every sample of a region.
fn per_sample(terrain: &Terrain, region: &Region, out: &mut [f32], f: impl Fn(f32, f32) -> f32 + Sync) {
    let east_scale = 1.0 / (8.0 * terrain.cell_m().x);
    let south_scale = 1.0 / (8.0 * terrain.cell_m().y);
    let nx = terrain.nx();
    // Sums down the columns first; what is left runs along the row.
    per_row_of(
        terrain,
        region,
        out,
        || (vec![0.0; nx + 2], vec![0.0; nx + 2]),
        |[north, here, south], (sum, rise), line| {
            for i in 0..line.len() + 2 {
                sum[i] = north[i] + 2.0 * here[i] + south[i];
                rise[i] = south[i] - north[i];
            }
            for (i, value) in line.iter_mut().enumerate() {
                let to_east = (sum[i + 2] - sum[i]) * east_scale;
                let to_south = (rise[i] + 2.0 * rise[i + 1] + rise[i + 2]) * south_scale;
                *value = f(to_east, to_south);
            }
        },
    )
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::Vec2;
    use proptest::prelude::*;

    /// Broke: level ground faced north.
    #[test]
    fn level_ground_faces_nowhere() {
        assert!(aspect_deg(&plane(0.0, 0.0, Vec2::ONE)).iter().all(|a| a.is_nan()));
    }

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
