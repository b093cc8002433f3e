//! The sun as a small disk.

use crate::sampling::{about, square_to_cone};
use glam::{Vec2, Vec3A, vec3a};

/// Half the angle the sun's disk covers, degrees; common textbook value.
const HALF_ANGLE_DEG: f32 = 0.265;

/// Sunlight.
#[derive(Clone, Copy, Debug)]
pub struct Sun {
    /// Unit vector towards its middle.
    pub direction: Vec3A,
    /// On a surface square to it, linear RGB. Scaled so that a high clear sun is about 3.
    pub irradiance: Vec3A,
    /// Half the angle that light comes from, degrees: the disk, widened by a veiled sky.
    pub half_angle_deg: f32,
}

impl Sun {
    /// `azimuth_deg` is clockwise from north, `elevation_deg` above the horizon, `overcast` 0 to 1.
    pub fn new(azimuth_deg: f32, elevation_deg: f32, overcast: f32) -> Self {
        let (sin_a, cos_a) = libm::sincosf(azimuth_deg.to_radians());
        let (sin_e, cos_e) = libm::sincosf(elevation_deg.to_radians());
        // Optical depths per unit of air mass, rising towards blue: the low sun turns yellow, then red. Estimated
        // by eye against photographs, not measured.
        let air = 1.0 / (sin_e + 0.15 * libm::powf((elevation_deg + 3.885).max(0.1), -1.253));
        let through = vec3a(0.055, 0.115, 0.235) * -air;
        let colour = vec3a(libm::expf(through.x), libm::expf(through.y), libm::expf(through.z));
        let veil = (1.0 - overcast).clamp(0.0, 1.0);
        Self {
            direction: vec3a(sin_a * cos_e, sin_e, -cos_a * cos_e),
            irradiance: colour * (3.3 * veil * veil),
            half_angle_deg: HALF_ANGLE_DEG + 2.0 * overcast,
        }
    }

    /// A direction towards a point of the disk.
    pub fn sample(&self, u: Vec2) -> Vec3A {
        about(self.direction, square_to_cone(u, libm::cosf(self.half_angle_deg.to_radians())))
    }
}
