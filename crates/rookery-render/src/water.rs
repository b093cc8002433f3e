//! The surface of water where a ray meets it. The view does the same: `web/src/view/stage/water/glsl.ts`.

use crate::scene::{RenderScene, Water};
use glam::{Vec2, Vec3A, vec2, vec3a};
use rookery_core::water::PIXEL;
use std::f32::consts::{PI, TAU};

/// Glitter of the sun is held to this: a mirror so small would leave specks.
const GLITTER: f32 = 4.0;
/// Smallest variance of slopes that glitter is worked out with.
const SMOOTHEST: f32 = 0.0012;
/// What foam sends back.
pub const FOAM: f32 = 0.78;

/// A point of a water surface.
pub struct Surface {
    /// Slopes that can be told apart, those of a facet among them included for the mirror.
    slope: Vec2,
    /// Those that can be told apart.
    plain: Vec2,
    /// Variance of what is finer.
    rough: f32,
    /// How much of it is foam, 0 to 1.
    pub foam: f32,
}

impl Surface {
    /// Where a ray meets a water, `distance_m` from the eye. Two numbers from 0 to 1 choose a facet among those too fine to be told apart.
    pub fn at(
        scene: &RenderScene,
        water: &Water,
        p: Vec3A,
        direction: Vec3A,
        distance_m: f32,
        [u, v]: [f32; 2],
    ) -> Self {
        let down = -direction.y;
        let fine = PIXEL * distance_m / down.max(0.03).sqrt();
        let found = scene.sea.slopes(water.plane.as_ref(), p.x, p.z, fine);
        let plain = Vec2::from(found.rise);
        // Of facets those that face the eye are seen: they lean towards it, the more the flatter one looks. Their mean, where none hides another, is the variance
        // times the cotangent; looked at along the water it is 1.25 times the deviation.
        let level = vec2(direction.x, direction.z).normalize_or_zero();
        let along = (1.0 - down * down).max(0.0).sqrt();
        let deviation = (0.5 * found.rough).sqrt();
        let lean = deviation * deviation * along / (down + 0.8 * deviation).max(1e-4);
        // Box & Muller 1958.
        let far = deviation * 0.8 * (-2.0 * libm::logf((1.0 - u).max(1e-6))).sqrt();
        let (s, c) = libm::sincosf(TAU * v);
        let facet = vec2(c, s) * far + level * lean;
        let foam = if water.plane.is_none() { scene.sea.foam(p.x, p.z) } else { 0.0 };
        Self { slope: plain + facet, plain, rough: found.rough, foam }
    }

    fn normal(&self) -> Vec3A {
        vec3a(-self.slope.x, 1.0, -self.slope.y).normalize()
    }

    /// Share that is mirrored, by Schlick's approximation of Fresnel for water (1994).
    pub fn mirrors(&self, direction: Vec3A) -> f32 {
        fresnel((-direction.dot(self.normal())).clamp(0.0, 1.0))
    }

    /// Where what is mirrored comes from.
    pub fn mirror(&self, direction: Vec3A) -> Vec3A {
        let n = self.normal();
        let d = direction - n * (2.0 * direction.dot(n));
        vec3a(d.x, d.y.abs().max(0.01), d.z).normalize()
    }

    /// Of the sun's light the share that glitters towards the eye, per steradian: by facets whose slopes are spread evenly to all sides (Cox & Munk 1954).
    pub fn glitter(&self, direction: Vec3A, sun: Vec3A) -> f32 {
        let half = sun - direction;
        if half.y <= 1e-4 || sun.y <= 0.0 {
            return 0.0;
        }
        let wanted = vec2(-half.x, -half.z) / half.y;
        let variance = (0.5 * self.rough).max(SMOOTHEST);
        let spread = libm::expf(-0.5 * (wanted - self.plain).length_squared() / variance) / (TAU * variance);
        let h = half.normalize();
        // Of facets that turn to the eye some hide others: as much of the surface is seen as of all that lean towards it.
        let seen = (-direction.y).max(0.0) + 0.8 * variance.sqrt();
        (fresnel(sun.dot(h).clamp(0.0, 1.0)) * spread / (4.0 * h.y.powi(4) * seen)).min(GLITTER)
    }
}

fn fresnel(cos: f32) -> f32 {
    0.02 + 0.98 * libm::powf(1.0 - cos, 5.0)
}

/// Light that foam sends on: white, and lit from all sides.
pub fn foam_light(scene: &RenderScene, p: Vec3A, sunlit: bool) -> Vec3A {
    let sky = scene.light.from_above(p, Vec3A::Y) * 0.5
        + scene.light.sky.radiance(vec3a(0.8, 0.6, 0.0)) * 0.25
        + scene.light.sky.radiance(vec3a(-0.8, 0.6, 0.0)) * 0.25;
    let sun = scene.light.sun.filter(|_| sunlit).map_or(Vec3A::ZERO, |s| {
        s.irradiance * (s.direction.y * scene.light.let_through(p, s.direction) / PI)
    });
    (sky + sun) * FOAM
}
