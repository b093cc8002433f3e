//! Light: the sun and the sky.

mod overhead;
mod sky;
mod sun;

pub use overhead::CloudLook;
pub use sky::Sky;
pub use sun::Sun;

use glam::Vec3A;
use rookery_core::clouds::Clouds;
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
    /// Clouds before the sky.
    pub clouds: Clouds,
    /// How bright they are.
    pub cloud_look: CloudLook,
}

impl Light {
    /// The light of a shot.
    pub fn new(shot: &Shot) -> Self {
        let sun = Sun::new(shot.sun_azimuth_deg, shot.sun_elevation_deg, shot.overcast);
        let sky = Sky::new(sun.direction, shot.overcast);
        let cloud_look = CloudLook::new(&sun, &sky);
        Self {
            sun: (sun.irradiance.max_element() > 1e-4).then_some(sun),
            sky,
            haze_m: 2600.0 - 1400.0 * shot.overcast,
            clouds: Clouds { share: shot.clouds, drift_m: [0.0; 2] },
            cloud_look,
        }
    }

    /// A sun and a sky without air or clouds, for checks.
    pub fn only(sun: Option<Sun>, sky: Sky) -> Self {
        let (clouds, cloud_look) = (Clouds::default(), CloudLook::default());
        Self { sun, sky, haze_m: f32::INFINITY, clouds, cloud_look }
    }

    /// A sky that shines alike from everywhere, for checks.
    pub fn uniform(radiance: f32) -> Self {
        Self::only(None, Sky::Uniform(Vec3A::splat(radiance)))
    }
}
