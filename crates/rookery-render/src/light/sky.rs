//! The sky as light from everywhere above, without the sun's disk.

use glam::{Vec3A, vec3a};
use std::f32::consts::FRAC_PI_2;

/// Light from all directions.
#[derive(Clone, Debug)]
pub enum Sky {
    /// The same from everywhere; for checks.
    Uniform(Vec3A),
    /// Between clear and overcast.
    Day {
        /// Unit vector towards the sun.
        sun: Vec3A,
        /// 0 clear to 1 overcast.
        overcast: f32,
        /// Makes relative brightness radiance, at the zenith of a clear sky.
        scale: f32,
    },
}

/// Parameters of a standard sky: gradation a, b and scattering indicatrix c, d, e.
///
/// Source: CIE S 011 / ISO 15469, "Spatial distribution of daylight", types 12 and 1; values from memory.
struct Standard([f32; 5]);
const CLEAR: Standard = Standard([-1.0, -0.32, 10.0, -3.0, 0.45]);
const OVERCAST: Standard = Standard([4.0, -0.7, 0.0, -1.0, 0.0]);

impl Standard {
    /// Brightness relative to the zenith. `up` is the cosine of the angle from the zenith.
    fn relative(&self, up: f32, sun_up: f32, from_sun: f32) -> f32 {
        let [a, b, c, d, e] = self.0;
        let gradation = |up: f32| 1.0 + a * libm::expf(b / up.max(0.01));
        let scatter = |chi: f32| {
            let cos = libm::cosf(chi);
            1.0 + c * (libm::expf(d * chi) - libm::expf(d * FRAC_PI_2)) + e * cos * cos
        };
        let sun_zenith = libm::acosf(sun_up.clamp(-1.0, 1.0));
        gradation(up) * scatter(from_sun) / (gradation(1.0) * scatter(sun_zenith))
    }
}

impl Sky {
    /// A day sky with the sun in this direction.
    pub fn new(sun: Vec3A, overcast: f32) -> Self {
        // Brighter as the sun rises; a clear zenith of 0.16 against a sun of 3 gives shadows a fifth of full light.
        let scale = 0.07 + 0.17 * sun.y.max(0.0).sqrt();
        Self::Day { sun, overcast: overcast.clamp(0.0, 1.0), scale }
    }

    /// Light arriving from a unit direction, linear RGB. Below the horizon it is that of the horizon, dimmed.
    pub fn radiance(&self, direction: Vec3A) -> Vec3A {
        match self {
            Self::Uniform(radiance) => *radiance,
            Self::Day { sun, overcast, scale } => {
                let up = direction.y.max(0.0);
                let towards = vec3a(direction.x, up.max(0.002), direction.z).normalize();
                let from_sun = libm::acosf(towards.dot(*sun).clamp(-1.0, 1.0));
                let clear = CLEAR.relative(towards.y, sun.y, from_sun).min(9.0);
                let grey = OVERCAST.relative(towards.y, sun.y, from_sun);
                // Blue overhead, pale at the horizon, warm near the sun.
                let pale = libm::expf(-3.2 * towards.y);
                let blue = vec3a(0.42, 0.74, 1.48).lerp(vec3a(0.86, 1.0, 1.18), pale);
                let glow = libm::expf(-3.0 * from_sun);
                let clear = blue.lerp(vec3a(1.15, 1.0, 0.82), (glow * 0.8).min(1.0)) * clear;
                let grey = vec3a(0.94, 1.0, 1.07) * (grey * 3.2);
                let below = if direction.y < 0.0 { 1.0 + 0.5 * direction.y } else { 1.0 };
                clear.lerp(grey, *overcast) * (scale * below)
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Closed form of the CIE standard overcast sky in its first form, Moon & Spencer 1942: the horizon has a third
    /// of the zenith's brightness. Type 1 follows it within a tenth of the zenith.
    #[test]
    fn an_overcast_sky_is_about_three_times_as_bright_overhead_as_at_the_horizon() {
        for degrees in [5.0_f32, 15.0, 30.0, 45.0, 60.0, 90.0] {
            let up = degrees.to_radians().sin();
            let expected = (1.0 + 2.0 * up) / 3.0;
            let got = OVERCAST.relative(up, 0.5, 1.0);
            assert!((got - expected).abs() < 0.1, "{degrees} degrees up: {got}, Moon & Spencer {expected}");
        }
    }

    #[test]
    fn a_clear_sky_is_brightest_near_the_sun_and_blue_overhead() {
        let sun = vec3a(0.6, 0.5, 0.2).normalize();
        let sky = Sky::new(sun, 0.0);
        let near = sky.radiance((sun + vec3a(0.05, 0.0, 0.0)).normalize());
        let away = sky.radiance(vec3a(-0.6, 0.5, -0.2).normalize());
        assert!(near.y > 2.0 * away.y, "{near} against {away}");
        let zenith = sky.radiance(Vec3A::Y);
        assert!(zenith.z > 1.5 * zenith.x);
    }
}
