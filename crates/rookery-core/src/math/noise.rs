//! Gradient noise in metres, through the `fastnoise-lite` crate.

use fastnoise_lite::{FastNoiseLite, FractalType, NoiseType};

/// Smooth fractal noise over the plan.
pub struct Noise(FastNoiseLite);

impl Noise {
    /// `feature_m` is the width of the largest features, `octaves` how many finer ones are laid over them, each
    /// `gain` times as strong as the one before.
    pub fn new(seed: u32, feature_m: f32, octaves: i32, gain: f32) -> Self {
        let mut noise = FastNoiseLite::with_seed(seed as i32);
        noise.set_noise_type(Some(NoiseType::OpenSimplex2));
        noise.set_fractal_type(Some(FractalType::FBm));
        noise.set_fractal_octaves(Some(octaves));
        noise.set_fractal_gain(Some(gain));
        noise.set_frequency(Some(1.0 / feature_m.max(1e-3)));
        Self(noise)
    }

    /// The noise at a point of the plan, about -1 to 1.
    pub fn at(&self, x: f32, z: f32) -> f32 {
        self.0.get_noise_2d(x, z)
    }

    /// The noise at a point in space, about -1 to 1.
    pub fn at_3d(&self, x: f32, y: f32, z: f32) -> f32 {
        self.0.get_noise_3d(x, y, z)
    }
}
