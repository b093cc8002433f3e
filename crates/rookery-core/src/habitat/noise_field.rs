//! The noise of a mask.

use crate::document::{NoiseKind, NoiseMask};
use fastnoise_lite::{CellularDistanceFunction, CellularReturnType, FastNoiseLite, FractalType, NoiseType};
use glam::Vec3;

/// One of the sizes a noise is made of.
struct Octave {
    noise: FastNoiseLite,
    /// How much it counts; all together 1.
    share: f32,
    /// How much those that follow count.
    rest: f32,
}

/// A noise ready to be asked, each of its sizes through the `fastnoise-lite` crate.
pub struct NoiseField {
    octaves: Vec<Octave>,
    settings: NoiseMask,
}

/// How far beyond 1 the noise of one size may lie.
const SLACK: f32 = 1.02;

impl NoiseField {
    /// Sets the noise up.
    pub fn new(settings: &NoiseMask) -> Self {
        let count = if settings.rough > 0.0 && settings.kind != NoiseKind::Cells { 4 } else { 1 };
        let gain = settings.rough * 0.8;
        let whole: f32 = (0..count).map(|i| gain.powi(i)).sum();
        let octave = |i: i32| {
            let share = gain.powi(i) / whole;
            let rest = (i + 1..count).map(|k| gain.powi(k) / whole).sum();
            Octave { noise: one_size(settings, i), share, rest }
        };
        Self { octaves: (0..count).map(octave).collect(), settings: *settings }
    }

    /// The noise at a point of the scene, 0 to 1: over the plan, or through space.
    pub fn value(&self, p: Vec3, on_plan: bool) -> f32 {
        self.value_until(p, on_plan, |_, _| false)
    }

    /// The same, or any value between the two ends for which `settled` was true: all that the sizes not yet looked at could make of it.
    #[inline]
    pub fn value_until(&self, p: Vec3, on_plan: bool, settled: impl Fn(f32, f32) -> bool) -> f32 {
        // How deep clumps go is not known beforehand.
        let bounded = matches!(self.settings.kind, NoiseKind::Soft | NoiseKind::Ridged);
        let mut raw = 0.0;
        for octave in &self.octaves {
            let own = if on_plan {
                octave.noise.get_noise_2d(p.x, p.z)
            } else {
                octave.noise.get_noise_3d(p.x, p.y, p.z)
            };
            raw += octave.share
                * if self.settings.kind == NoiseKind::Ridged { 1.0 - 2.0 * own.abs() } else { own };
            let rest = octave.rest * SLACK;
            if bounded && rest > 0.0 && settled(self.shaped(raw - rest), self.shaped(raw + rest)) {
                break;
            }
        }
        self.shaped(raw)
    }

    /// From what the sizes add up to, to 0 to 1.
    fn shaped(&self, raw: f32) -> f32 {
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

/// Forms half as wide for every step.
fn one_size(settings: &NoiseMask, step: i32) -> FastNoiseLite {
    let mut noise = FastNoiseLite::with_seed((settings.seed as i32).wrapping_add(step));
    noise.set_frequency(Some((1 << step) as f32 / settings.size_m.max(0.05)));
    noise.set_fractal_type(Some(FractalType::None));
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
    noise
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::Response;
    use crate::habitat::{is_level, response_at};
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

    /// The crate's own sum of sizes.
    #[test]
    fn its_sizes_add_up_as_the_crate_adds_them() {
        for kind in [NoiseKind::Soft, NoiseKind::Ridged, NoiseKind::Clumps] {
            let settings = NoiseMask { kind, contrast: 0.0, rough: 0.7, ..NoiseMask::default() };
            let own = NoiseField::new(&settings);
            let mut whole = one_size(&settings, 0);
            whole.set_fractal_type(Some(if kind == NoiseKind::Ridged {
                FractalType::Ridged
            } else {
                FractalType::FBm
            }));
            whole.set_fractal_octaves(Some(4));
            whole.set_fractal_gain(Some(0.56));
            for i in 0..2000 {
                let p = vec3((i % 50) as f32 * 1.7, (i % 7) as f32, (i / 50) as f32 * 2.3);
                let both = [(whole.get_noise_2d(p.x, p.z), true), (whole.get_noise_3d(p.x, p.y, p.z), false)];
                for (raw, on_plan) in both {
                    let (got, right) = (own.value(p, on_plan), own.shaped(raw));
                    // Cells of a clump may fall to either side of an edge by the last bit.
                    assert!((got - right).abs() < 2e-3, "{kind:?} at {p}: {got} for {right}");
                }
            }
        }
    }

    #[test]
    fn finer_forms_are_left_out_only_where_they_change_nothing() {
        for kind in KINDS {
            for (rough, contrast) in [(0.0, 0.3), (0.4, 0.3), (1.0, 0.0), (1.0, 0.9)] {
                let field = NoiseField::new(&NoiseMask { kind, rough, contrast, ..NoiseMask::default() });
                let curve =
                    Response { start: 0.35, full_from: 0.6, full_to: 0.8, end: 0.85, inverted: false };
                for i in 0..4000 {
                    let p = vec3((i % 80) as f32 * 0.9, 0.3 * (i % 5) as f32, (i / 80) as f32 * 1.3);
                    for on_plan in [true, false] {
                        let early = field.value_until(p, on_plan, |low, high| is_level(&curve, low, high));
                        let whole = field.value(p, on_plan);
                        assert_eq!(response_at(&curve, early), response_at(&curve, whole), "{kind:?} at {p}");
                    }
                }
            }
        }
    }
}
