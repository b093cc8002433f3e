//! Clouds before the sky: what is seen of them, and what they keep from the land. The view does the same: `web/src/view/stage/sky/clouds.ts`.

use super::{Light, Sky, Sun};
use glam::{Vec3A, vec3a};
use rookery_core::clouds::{BENDS, HEIGHT_M, TAKES};

/// Distance over which 63 % of a cloud is lost in the air, metres: seen from below it is, and through clearer air than what stands on the land.
pub const FADES_M: f32 = 12_000.0;
/// How far towards the sun one looks to tell a lit side of a cloud from a shaded one, metres.
pub const SIDE_M: f32 = 90.0;

/// How bright clouds are.
#[derive(Clone, Copy, Debug, Default)]
pub struct CloudLook {
    /// Where the sun is on them.
    pub white: Vec3A,
    /// Where it is not.
    pub grey: Vec3A,
    /// What comes through thin ones from the sun behind.
    pub rim: Vec3A,
}

fn luminance(c: Vec3A) -> f32 {
    c.dot(vec3a(0.2126, 0.7152, 0.0722))
}

impl CloudLook {
    /// Under this sun and this sky. Shares by eye, against photographs of fair days: a lit cloud sends back about as much as white paper would.
    pub fn new(sun: &Sun, sky: &Sky) -> Self {
        let plain = |c: Vec3A, share: f32| c.lerp(Vec3A::splat(luminance(c)), share);
        let side = |x: f32, z: f32| sky.radiance(vec3a(x, 0.5, z).normalize());
        let all =
            sky.radiance(Vec3A::Y) + side(1.0, 0.0) + side(-1.0, 0.0) + side(0.0, 1.0) + side(0.0, -1.0);
        let grey = plain(all / 5.0, 0.6) * 1.35;
        let sunlit = plain(sun.irradiance, 0.5);
        Self { white: sunlit * 0.27 + grey * 0.7, grey, rim: sunlit * 0.4 }
    }
}

impl Light {
    /// Light that arrives from the sky and its clouds along a unit direction.
    pub fn from_above(&self, origin: Vec3A, direction: Vec3A) -> Vec3A {
        let sky = self.sky.radiance(direction);
        let clouds = &self.clouds;
        let thick = clouds.towards(origin.to_array(), direction.to_array());
        if thick <= 0.0 {
            return sky;
        }
        let away = (HEIGHT_M - origin.y) / (direction.y + BENDS);
        let (x, z) = (origin.x + direction.x * away, origin.z + direction.z * away);
        let rank = clouds.rank(x, z);
        let sun = self.sun.map_or(Vec3A::Y, |s| s.direction);
        let level = vec3a(sun.x, 0.0, sun.z).normalize_or_zero() * SIDE_M;
        let side = ((rank - clouds.rank(x + level.x, z + level.z)) * 6.0).clamp(-1.0, 1.0);
        let core = smooth((rank - 1.0 + clouds.share) * 2.0);
        let lit = (0.85 - 0.75 * core + 0.35 * side).clamp(0.0, 1.0);
        let behind = (1.0 - core) * libm::expf(20.0 * (direction.dot(sun) - 1.0));
        let cloud = self.cloud_look.grey.lerp(self.cloud_look.white, lit) + self.cloud_look.rim * behind;
        sky.lerp(cloud, thick * libm::expf(-away / FADES_M))
    }

    /// Share of the sun that clouds leave to a point.
    pub fn let_through(&self, at: Vec3A, towards_sun: Vec3A) -> f32 {
        1.0 - TAKES * self.clouds.towards(at.to_array(), towards_sun.to_array())
    }
}

fn smooth(t: f32) -> f32 {
    let t = t.clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rookery_core::clouds::Clouds;

    fn day(share: f32) -> Light {
        let sun = Sun::new(236.0, 34.0, 0.1);
        let sky = Sky::new(sun.direction, 0.1);
        let cloud_look = CloudLook::new(&sun, &sky);
        let clouds = Clouds { share, drift_m: [0.0; 2] };
        Light { clouds, cloud_look, ..Light::only(Some(sun), sky) }
    }

    #[test]
    fn clouds_are_before_the_sky_and_keep_the_sun_from_what_lies_in_their_shadow() {
        let (clear, closed) = (day(0.0), day(1.0));
        let sun = clear.sun.expect("it is day").direction;
        let (mut shaded, mut thick) = (0.0, 0);
        for n in 0..400 {
            let at = vec3a((n % 20) as f32 * 350.0, 12.0, (n / 20) as f32 * 350.0);
            assert_eq!(clear.let_through(at, sun), 1.0);
            assert_eq!(clear.from_above(at, Vec3A::Y), clear.sky.radiance(Vec3A::Y));
            shaded += closed.let_through(at, sun) / 400.0;
            let half = day(0.4);
            // What shades a point is what hides the sun from it.
            let hides = half.clouds.towards(at.to_array(), sun.to_array());
            assert!((half.let_through(at, sun) - (1.0 - TAKES * hides)).abs() < 1e-6);
            thick += usize::from(hides > 0.5);
        }
        assert!(shaded < 0.3, "{shaded} of the sun under a closed sky");
        assert!((0.3..0.5).contains(&(thick as f32 / 400.0)), "{thick} of 400 in shadow, of 4 in 10 clouded");
        let cloud = closed.from_above(Vec3A::ZERO, Vec3A::Y);
        assert!(
            cloud.x > clear.sky.radiance(Vec3A::Y).x,
            "a cloud is less blue and brighter than the zenith"
        );
    }
}
