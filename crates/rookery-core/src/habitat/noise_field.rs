//! The noise of a mask.

use crate::scene::{NoiseKind, NoiseMask};
use fastnoise_lite::{CellularDistanceFunction, CellularReturnType, FastNoiseLite, FractalType, NoiseType};
use glam::Vec3;

/// A noise ready to be asked, through the `fastnoise-lite` crate.
pub struct NoiseField {
    noise: FastNoiseLite,
    settings: NoiseMask,
}

impl NoiseField {
    /// Sets the noise up.
    pub fn new(settings: &NoiseMask) -> Self {
        let mut noise = FastNoiseLite::with_seed(settings.seed as i32);
        noise.set_frequency(Some(1.0 / settings.size_m.max(0.05)));
        let fractal = match settings.kind {
            NoiseKind::Ridged => FractalType::Ridged,
            NoiseKind::Soft | NoiseKind::Clumps => FractalType::FBm,
            NoiseKind::Cells => FractalType::None,
        };
        let octaves = if settings.rough > 0.0 { 4 } else { 1 };
        noise.set_fractal_type(Some(fractal));
        noise.set_fractal_octaves(Some(octaves));
        noise.set_fractal_gain(Some(settings.rough * 0.8));
        match settings.kind {
            NoiseKind::Soft | NoiseKind::Ridged => noise.set_noise_type(Some(NoiseType::OpenSimplex2)),
            NoiseKind::Clumps | NoiseKind::Cells => {
                noise.set_noise_type(Some(NoiseType::Cellular));
                noise.set_cellular_distance_function(Some(CellularDistanceFunction::Euclidean));
                let returned = if settings.kind == NoiseKind::Cells {
                    CellularReturnType::CellValue
                } else {
                    CellularReturnType::Distance
                };
                noise.set_cellular_return_type(Some(returned));
            }
        }
        Self { noise, settings: *settings }
    }

    /// The noise at a point of the scene, 0 to 1: over the plan, or through space.
    pub fn value(&self, p: Vec3, on_plan: bool) -> f32 {
        let raw =
            if on_plan { self.noise.get_noise_2d(p.x, p.z) } else { self.noise.get_noise_3d(p.x, p.y, p.z) };
        let x = match self.settings.kind {
            // Distances to the nearest seed run from -1 to 0 about; clumps are where they are short.
            NoiseKind::Clumps => 1.0 - (raw + 1.0),
            // Most of it lies within two thirds of its range.
            NoiseKind::Soft => 0.5 + 0.75 * raw,
            NoiseKind::Ridged | NoiseKind::Cells => 0.5 + 0.5 * raw,
        };
        // Steeper about the middle: at full contrast a quarter of a tenth lies between none and all.
        let sharp = (x - 0.5) / (1.0 - 0.975 * self.settings.contrast) + 0.5;
        let floor = self.settings.floor;
        floor + (1.0 - floor) * sharp.clamp(0.0, 1.0)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::vec3;

    const KINDS: [NoiseKind; 4] = [NoiseKind::Soft, NoiseKind::Ridged, NoiseKind::Clumps, NoiseKind::Cells];

    fn values(settings: NoiseMask) -> Vec<f32> {
        let field = NoiseField::new(&settings);
        (0..160 * 160).map(|i| field.value(vec3((i % 160) as f32, 0.0, (i / 160) as f32), true)).collect()
    }

    #[test]
    fn every_kind_fills_its_range_and_keeps_to_its_floor() {
        for kind in KINDS {
            let v = values(NoiseMask { kind, ..NoiseMask::default() });
            let mean = v.iter().sum::<f32>() / v.len() as f32;
            assert!((0.25..0.75).contains(&mean), "{kind:?}: {mean}");
            assert!(v.iter().any(|v| *v > 0.85) && v.iter().any(|v| *v < 0.15), "{kind:?}");
            assert!(v.iter().all(|v| (0.0..=1.0).contains(v)), "{kind:?}");
            let floored = values(NoiseMask { kind, floor: 0.4, ..NoiseMask::default() });
            assert!(floored.iter().all(|v| *v >= 0.4 - 1e-6), "{kind:?}");
        }
    }

    #[test]
    fn more_contrast_leaves_less_between_none_and_all() {
        let between = |contrast| {
            let v = values(NoiseMask { contrast, ..NoiseMask::default() });
            v.iter().filter(|v| **v > 0.02 && **v < 0.98).count()
        };
        let counts = [0.0, 0.5, 1.0].map(between);
        assert!(counts[0] > counts[1] * 11 / 10 && counts[1] > counts[2] * 3, "{counts:?}");
    }

    /// A noise twice as wide is the same one drawn twice as large.
    #[test]
    fn its_size_is_in_metres() {
        for kind in KINDS {
            let of = |size_m| NoiseField::new(&NoiseMask { kind, size_m, ..NoiseMask::default() });
            let (one, two) = (of(5.0), of(10.0));
            for i in 0..100 {
                let p = vec3(i as f32 * 0.37, 0.0, i as f32 * 0.91);
                assert!((one.value(p, true) - two.value(p * 2.0, true)).abs() < 1e-3, "{kind:?}");
            }
        }
    }
}
