//! What bare ground looks like: turf, peat, sand, shingle and rock by slope and altitude.

use super::Terrain;
use super::sculpt::Region;
use crate::math::noise::Noise;
use glam::Vec3;
use rayon::prelude::*;

/// Reflectance of the ground, linear RGB, 0 to 1.
///
/// Rock shows where it is steep, wet shingle and sand near the water line, turf with drier and darker patches
/// elsewhere.
pub struct Colouring {
    broad: Noise,
    fine: Noise,
    water_m: Option<f32>,
}

impl Colouring {
    /// `water_m` is the height of the water, if there is any; `seed` varies the patches.
    pub fn new(water_m: Option<f32>, seed: u32) -> Self {
        Self {
            broad: Noise::new(seed ^ 0x51ED, 37.0, 3, 0.5),
            fine: Noise::new(seed ^ 0xA17C, 4.5, 3, 0.6),
            water_m,
        }
    }

    /// The colours of a region, written into those of the whole terrain. A colour depends on the sample's own place
    /// and slope.
    pub fn paint(&self, terrain: &Terrain, slope_deg: &[f32], region: &Region, colours: &mut [[f32; 3]]) {
        let nx = terrain.nx();
        let rows = &mut colours[region.rows.start * nx..region.rows.end * nx];
        rows.par_chunks_mut(nx).zip(region.rows.clone()).for_each(|(line, row)| {
            for column in region.columns.clone() {
                line[column] = self.at(terrain.vertex(column, row), slope_deg[row * nx + column]);
            }
        });
    }

    fn at(&self, p: Vec3, slope_deg: f32) -> [f32; 3] {
        let (b, f) = (self.broad.at(p.x, p.z), self.fine.at(p.x, p.z));
        let turf = mix(TURF, DRY_TURF, smooth(-0.35, 0.55, b + 0.3 * f));
        let turf = mix(turf, PEAT, 0.45 * smooth(0.15, 0.75, f - 0.4 * b));
        let stone = mix(ROCK, PALE_ROCK, smooth(-0.5, 0.6, f + 0.5 * libm::sinf(p.y * 1.3 + 2.0 * b)));
        let mut colour = mix(turf, stone, smooth(31.0, 46.0, slope_deg + 6.0 * f));
        if let Some(water) = self.water_m {
            let above = p.y - water;
            let beach = mix(SAND, SHINGLE, smooth(-0.2, 0.35, f));
            let beach = mix(beach, stone, smooth(30.0, 44.0, slope_deg));
            colour = mix(beach, colour, smooth(1.3, 2.8, above + 0.5 * b + 0.25 * f));
            let wet = 1.0 - smooth(-0.1, 0.7, above);
            colour = colour.map(|c| c * (1.0 - 0.5 * wet));
        }
        colour
    }
}

/// What a ground looks like closer than its samples are apart: grain, pebbles, ledges and cracks.
///
/// Only appearance: plants stand on the surface itself.
pub struct Grain {
    fine: Noise,
    coarse: Noise,
}

impl Grain {
    /// The same seed gives the same grain.
    pub fn new(seed: u32) -> Self {
        Self {
            fine: Noise::new(seed ^ 0x6EA1, 0.34, 4, 0.6),
            coarse: Noise::new(seed ^ 0x1ED6, 2.6, 4, 0.55),
        }
    }

    /// How much lighter or darker the ground is at a point, about 0.6 to 1.4, and its unit normal there.
    pub fn at(&self, p: Vec3, normal: Vec3) -> (f32, Vec3) {
        let steep = smooth(0.93, 0.62, normal.y);
        // Rock is layered: squeezed across, so that ledges run level.
        let layers = self.coarse.at_3d(p.x * 0.45, p.y * 2.2, p.z * 0.45);
        let fine = self.fine.at_3d(p.x, p.y * (1.0 + steep), p.z);
        let tone = 1.0 + 0.22 * fine + steep * (0.34 * layers - 0.06);
        let d = 0.045;
        let height = |q: Vec3| {
            0.035 * self.fine.at_3d(q.x, q.y * (1.0 + steep), q.z)
                + steep * 0.5 * self.coarse.at_3d(q.x * 0.45, q.y * 2.2, q.z * 0.45)
        };
        let here = 0.035 * fine + steep * 0.5 * layers;
        let slope =
            Vec3::new(height(p + Vec3::X * d), height(p + Vec3::Y * d), height(p + Vec3::Z * d)) - here;
        let slope = slope / d;
        let along = slope - normal * slope.dot(normal);
        (tone.clamp(0.5, 1.5), (normal - along * (0.35 + 0.25 * steep)).normalize())
    }
}

// Reflectances estimated by eye against the plants, not measured.
const TURF: [f32; 3] = [0.118, 0.140, 0.048];
const DRY_TURF: [f32; 3] = [0.205, 0.190, 0.085];
const PEAT: [f32; 3] = [0.062, 0.050, 0.030];
const SAND: [f32; 3] = [0.36, 0.30, 0.205];
const SHINGLE: [f32; 3] = [0.215, 0.205, 0.19];
const ROCK: [f32; 3] = [0.105, 0.10, 0.095];
const PALE_ROCK: [f32; 3] = [0.21, 0.195, 0.17];

fn mix(a: [f32; 3], b: [f32; 3], t: f32) -> [f32; 3] {
    [0, 1, 2].map(|i| a[i] + (b[i] - a[i]) * t)
}

/// 0 at `low`, 1 at `high`, which may be the smaller.
fn smooth(low: f32, high: f32, v: f32) -> f32 {
    let t = ((v - low) / (high - low)).clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}
