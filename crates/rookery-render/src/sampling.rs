//! Turning uniform numbers into directions.

use glam::{Vec2, Vec3A, vec3a};
use rookery_core::math::hash::{pcg4d, unit};
use std::f32::consts::TAU;

/// Uniform numbers for one pixel's path: hashed by pixel, sample and bounce, so that no generator is shared.
#[derive(Clone, Copy, Debug)]
pub struct PathNumbers {
    /// Column and row, packed.
    pub pixel: u32,
    /// Which light path of the pixel.
    pub sample: u32,
    /// Another number, another noise.
    pub seed: u32,
}

impl PathNumbers {
    /// Four numbers in `[0, 1)` for one bounce and one purpose.
    ///
    /// The first two fill the square evenly over the samples of a pixel: an additive recurrence with the plastic
    /// number (Roberts 2018, "The unreasonable effectiveness of quasirandom sequences"), shifted by a hash that
    /// differs from pixel to pixel (Cranley & Patterson 1976).
    pub fn draw(&self, bounce: u32, purpose: u32) -> [f32; 4] {
        let channel = bounce * 8 + purpose;
        let shift = pcg4d([self.pixel, channel, self.seed, 0x5417]).map(unit);
        let free = pcg4d([self.pixel, channel, self.seed, 0xF4EE ^ (self.sample << 16)]).map(unit);
        let n = self.sample as f32;
        [(shift[0] + n * 0.754_877_7).fract(), (shift[1] + n * 0.569_840_3).fract(), free[2], free[3]]
    }
}

/// A direction about +Y with density cos / pi.
///
/// Source: Malley's method, as in Pharr, Jakob & Humphreys, "Physically Based Rendering".
pub fn square_to_cosine_hemisphere(u: Vec2) -> Vec3A {
    let (s, c) = libm::sincosf(TAU * u.y);
    let r = u.x.sqrt();
    vec3a(r * c, (1.0 - u.x).max(0.0).sqrt(), r * s)
}

/// A direction about +Y, uniform over the cone whose half angle has this cosine.
pub fn square_to_cone(u: Vec2, cos_half: f32) -> Vec3A {
    let y = 1.0 - u.x * (1.0 - cos_half);
    let r = (1.0 - y * y).max(0.0).sqrt();
    let (s, c) = libm::sincosf(TAU * u.y);
    vec3a(r * c, y, r * s)
}

/// Takes a direction about +Y to one about a unit normal.
///
/// Source: Duff et al., "Building an Orthonormal Basis, Revisited", JCGT 6(1), 2017.
pub fn about(normal: Vec3A, local: Vec3A) -> Vec3A {
    let n = normal;
    let sign = 1.0_f32.copysign(n.z);
    let a = -1.0 / (sign + n.z);
    let b = n.x * n.y * a;
    let tangent = vec3a(1.0 + sign * n.x * n.x * a, sign * b, -sign * n.x);
    let bitangent = vec3a(b, sign + n.y * n.y * a, -n.y);
    tangent * local.x + bitangent * local.z + n * local.y
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::vec2;
    use proptest::prelude::*;

    #[test]
    fn cosine_directions_average_to_two_thirds_of_the_normal() {
        // Closed form: the mean of cos over the density cos / pi is 2 / 3.
        let n = 200;
        let mut sum = Vec3A::ZERO;
        for i in 0..n * n {
            let u = vec2((i % n) as f32 + 0.5, (i / n) as f32 + 0.5) / n as f32;
            sum += square_to_cosine_hemisphere(u);
        }
        assert!((sum / (n * n) as f32 - vec3a(0.0, 2.0 / 3.0, 0.0)).length() < 1e-3);
    }

    proptest! {
        #[test]
        fn a_frame_keeps_lengths_and_angles(x in -1.0_f32..1.0, y in -1.0_f32..1.0, z in -1.0_f32..1.0, u in 0.0_f32..1.0, v in 0.0_f32..1.0) {
            prop_assume!(vec3a(x, y, z).length() > 1e-2);
            let normal = vec3a(x, y, z).normalize();
            let local = square_to_cosine_hemisphere(vec2(u, v));
            let world = about(normal, local);
            prop_assert!((world.length() - 1.0).abs() < 1e-4);
            prop_assert!((world.dot(normal) - local.y).abs() < 1e-4);
        }

        #[test]
        fn cone_directions_stay_within_the_cone(u in 0.0_f32..1.0, v in 0.0_f32..1.0, half in 0.01_f32..1.5) {
            let d = square_to_cone(vec2(u, v), half.cos());
            prop_assert!(d.y >= half.cos() - 1e-4 && (d.length() - 1.0).abs() < 1e-4);
        }
    }
}
