//! Ground from noise, with an optional sea coast: cliffs to the west and a cove to the south-west.

use super::{Terrain, TerrainError};
use crate::document::NoiseGround;
use crate::math::noise::Noise;
use glam::{Vec2, vec2};
use rayon::prelude::*;

/// Builds the terrain that the settings describe. The same settings give the same heights, bit for bit.
///
/// # Errors
/// When the settings ask for an unusable grid; validated settings never do.
pub fn build(settings: &NoiseGround) -> Result<Terrain, TerrainError> {
    let n = settings.samples as usize;
    let cell = settings.size_m / (settings.samples - 1) as f32;
    let shape = Shape::new(settings);
    let half = settings.size_m * 0.5;
    let heights = (0..n * n)
        .into_par_iter()
        .map(|i| shape.height(vec2((i % n) as f32 * cell - half, (i / n) as f32 * cell - half)))
        .collect();
    Terrain::new(n, n, Vec2::splat(cell), heights)
}

/// The height of the ground that the settings describe at any point of the plan, also beyond its edges.
pub fn height_anywhere(settings: &NoiseGround) -> impl Fn(Vec2) -> f32 + use<> {
    let shape = Shape::new(settings);
    move |p| shape.height(p)
}

struct Shape {
    settings: NoiseGround,
    hills: Noise,
    ridges: Noise,
    valleys: Noise,
    coast: Noise,
    crags: Noise,
}

impl Shape {
    fn new(settings: &NoiseGround) -> Self {
        let gain = 0.3 + 0.3 * settings.ruggedness;
        Self {
            settings: settings.clone(),
            hills: Noise::new(settings.seed, settings.feature_m, 6, gain),
            ridges: Noise::new(settings.seed ^ 0x51D6, settings.feature_m * 1.3, 4, gain),
            valleys: Noise::new(settings.seed ^ 0x7A11, settings.feature_m * 2.0, 3, 0.4),
            coast: Noise::new(settings.seed ^ 0xC0A5, settings.size_m * 0.21, 4, 0.5),
            crags: Noise::new(settings.seed ^ 0x0CA6, 9.0, 4, 0.55),
        }
    }

    fn height(&self, p: Vec2) -> f32 {
        let s = &self.settings;
        let hills = self.hills(p);
        let inland = s.relief_m * hills;
        if s.coast <= 0.0 {
            return inland;
        }
        let (shore_m, cove) = self.shore(p);
        let q = p / s.size_m;
        let dome = libm::expf(-(q + vec2(0.1, 0.06)).length_squared() * 9.0);
        let land = s.relief_m * (0.2 + 0.52 * dome + 0.28 * hills);
        // Within the cove the land rises over a long beach; elsewhere it stands up as a cliff.
        let crag = self.crags.at(p.x, p.y);
        let cliff = smooth(-2.0, 7.0, shore_m + 2.6 * crag);
        let ledges = cliff + 0.06 * libm::sinf(cliff * 19.0) * (1.0 - cliff) * cliff * 4.0;
        let beach =
            smooth(-0.03, 0.30, shore_m / s.size_m) * 0.93 + 0.07 * smooth(0.0, 0.04, shore_m / s.size_m);
        let rise = ledges + (beach - ledges) * cove;
        let bed = -s.relief_m * 0.16 * smooth(-2.0, 38.0, -shore_m) - 0.8;
        let coastal = bed + (land - bed) * rise;
        inland + (coastal - inland) * s.coast
    }

    /// Height of the inland forms at a point, about 0 to 1.
    fn hills(&self, p: Vec2) -> f32 {
        let s = &self.settings;
        let mut hills = 0.5 + 0.5 * self.hills.at(p.x, p.y);
        if s.ridges > 0.0 {
            // Sharp where the noise changes sign, low where it is strong; finer forms only on the high parts.
            let crest = 1.0 - self.ridges.at(p.x, p.y).abs() * 1.6;
            let ridged = crest.max(0.0).powi(2) * (0.75 + 0.25 * hills) + 0.12 * (hills - 0.5);
            hills += (ridged - hills) * s.ridges;
        }
        if s.valleys > 0.0 {
            let winding = self.valleys.at(p.x, p.y).abs();
            let cut = 1.0 - smooth(0.0, 0.32, winding);
            // Down to a floor, not below the lowest land.
            hills -= s.valleys * cut * (hills - 0.04).max(0.0) * 0.85;
        }
        if s.terraces > 0.0 && s.relief_m > 0.0 {
            let steps = hills * s.relief_m / s.terrace_m;
            let tread = libm::floorf(steps);
            let stepped = (tread + smooth(0.62, 1.0, steps - tread)) * s.terrace_m / s.relief_m;
            hills += (stepped - hills) * s.terraces;
        }
        hills
    }

    /// Distance inland from the shore line, metres (negative at sea), and how much this is the cove, 0 to 1.
    fn shore(&self, p: Vec2) -> (f32, f32) {
        let size = self.settings.size_m;
        let wander = self.coast.at(p.x, p.y);
        let west = p.x + size * (0.325 + 0.055 * wander);
        let from_cove = (p - vec2(-0.20, 0.345) * size).length();
        let cove = from_cove - size * (0.205 + 0.03 * wander);
        let near_cove = 1.0
            - smooth(
                0.02,
                0.22,
                cove.abs().min(from_cove) / size + (0.5 - p.y / size - 0.32).max(0.0) * 0.35,
            );
        (smooth_min(west, cove, size * 0.05), near_cove)
    }
}

fn smooth(low: f32, high: f32, v: f32) -> f32 {
    let t = ((v - low) / (high - low)).clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

/// The smaller of two, rounded where they meet over a width of about `k`.
fn smooth_min(a: f32, b: f32, k: f32) -> f32 {
    let h = (k - (a - b).abs()).max(0.0) / k;
    a.min(b) - h * h * k * 0.25
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_same_settings_give_the_same_ground() {
        let settings = NoiseGround { samples: 65, ..NoiseGround::default() };
        assert_eq!(build(&settings).unwrap(), build(&settings).unwrap());
        let other = NoiseGround { seed: settings.seed + 1, ..settings.clone() };
        assert_ne!(build(&settings).unwrap(), build(&other).unwrap());
    }

    #[test]
    fn ridges_valleys_and_terraces_do_what_they_are_called() {
        let plain = NoiseGround { coast: 0.0, relief_m: 60.0, samples: 257, ..NoiseGround::default() };
        let heights = |s: &NoiseGround| build(s).unwrap().heights_zx().to_vec();
        let share =
            |v: &[f32], f: &dyn Fn(f32) -> bool| v.iter().filter(|h| f(**h)).count() as f32 / v.len() as f32;
        let before = heights(&plain);
        // Valleys only lower the land, and do so somewhere by a good part of the relief.
        let valleys = heights(&NoiseGround { valleys: 1.0, ..plain.clone() });
        assert!(before.iter().zip(&valleys).all(|(a, b)| b <= &(a + 1e-3)));
        assert!(before.iter().zip(&valleys).any(|(a, b)| a - b > 12.0));
        // On terraces most of the land lies near a multiple of their height.
        let stepped = heights(&NoiseGround { terraces: 1.0, terrace_m: 10.0, ..plain.clone() });
        let on_tread = |v: &[f32]| share(v, &|h| (h / 10.0 - (h / 10.0).round()).abs() < 0.02);
        assert!(
            on_tread(&stepped) > 0.5 && on_tread(&before) < 0.1,
            "{} {}",
            on_tread(&stepped),
            on_tread(&before)
        );
        // Ridges are sharper than hills: the strongest bends of their crests are stronger.
        let crest = |s: &NoiseGround| {
            let bends = crate::ground::analysis::plan_curvature_per_m(&build(s).unwrap());
            let mut up: Vec<f32> = bends.into_iter().filter(|b| *b > 0.0).collect();
            let at = up.len() * 98 / 100;
            *up.select_nth_unstable_by(at, f32::total_cmp).1
        };
        let smooth_hills = NoiseGround { ruggedness: 0.0, ..plain };
        assert!(crest(&NoiseGround { ridges: 1.0, ..smooth_hills.clone() }) > crest(&smooth_hills) * 1.2);
    }

    #[test]
    fn inland_ground_spans_its_relief_and_a_coast_reaches_below_the_sea() {
        let inland = NoiseGround { coast: 0.0, relief_m: 30.0, samples: 129, ..NoiseGround::default() };
        let (low, high) = build(&inland).unwrap().height_range_m();
        assert!(low > -1.0 && high < 31.0 && high - low > 15.0, "{low} to {high}");
        let coast = NoiseGround { coast: 1.0, ..inland };
        assert!(build(&coast).unwrap().height_range_m().0 < -2.0);
    }
}
