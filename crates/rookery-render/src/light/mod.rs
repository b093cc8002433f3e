//! Light: the sun and the sky.

mod sky;
mod sun;

pub use sky::Sky;
pub use sun::Sun;

use glam::Vec3A;
use rookery_core::scene::Shot;

/// Where light comes from.
#[derive(Clone, Debug)]
pub struct Light {
    /// The sun; none at night or in tests.
    pub sun: Option<Sun>,
    /// The sky all around.
    pub sky: Sky,
    /// Air between the camera and what it sees: the distance over which 63 % is veiled, metres; infinite for none.
    pub haze_m: f32,
}

impl Light {
    /// The light of a shot.
    pub fn new(shot: &Shot) -> Self {
        let sun = Sun::new(shot.sun_azimuth_deg, shot.sun_elevation_deg, shot.overcast);
        let sky = Sky::new(sun.direction, shot.overcast);
        Self {
            sun: (sun.irradiance.max_element() > 1e-4).then_some(sun),
            sky,
            haze_m: 2600.0 - 1400.0 * shot.overcast,
        }
    }

    /// A sky that shines alike from everywhere, for checks.
    pub fn uniform(radiance: f32) -> Self {
        Self { sun: None, sky: Sky::Uniform(Vec3A::splat(radiance)), haze_m: f32::INFINITY }
    }
}
