//! Light along a path: sun by shadow rays, sky and other surfaces by bounces.

use crate::accel::Ray;
use crate::sampling::{PathNumbers, about, square_to_cosine_hemisphere};
use crate::scene::{RenderScene, Surface, Water};
use crate::water;
use glam::{Vec3A, vec2, vec3a};
use std::f32::consts::PI;

/// How many surfaces a path may touch.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Depth(pub u32);

/// Farther than this from where it starts a ray leaves its own surface behind, metres.
const OFFSET_M: f32 = 2e-4;

/// Light that arrives along a ray, linear RGB; one path's estimate.
pub fn radiance(scene: &RenderScene, ray: Ray, depth: Depth, numbers: PathNumbers) -> Vec3A {
    trace(scene, ray, depth, numbers, false)
}

fn trace(scene: &RenderScene, mut ray: Ray, depth: Depth, numbers: PathNumbers, reflected: bool) -> Vec3A {
    let mut light = Vec3A::ZERO;
    let mut carried = Vec3A::ONE;
    let mut travelled = 0.0;
    let mut bounce = 0;
    while bounce < depth.0 {
        let hit = scene.nearest(&ray);
        let solid = hit.map_or(f32::INFINITY, |h| h.t);
        if let Some((t, water)) = enters(&scene.waters, &ray).filter(|(t, _)| *t < solid)
            && !reflected
        {
            // A water surface: a mirror to the share that Fresnel says, clear but dark otherwise. Both are followed,
            // since choosing one by chance would speckle the sea.
            let p = ray.at(t);
            let [u, v, ..] = numbers.draw(bounce, 3);
            let surface = water::Surface::at(scene, water, p, ray.direction, t + travelled, [u, v]);
            let share = surface.mirrors(ray.direction);
            let up = Ray::new(p + Vec3A::Y * 1e-3, surface.mirror(ray.direction));
            let mirrored = trace(scene, up, Depth(1), numbers, true);
            let depth_m = (solid - t).min(200.0);
            let clear = (vec3a(0.46, 0.14, 0.10) * -depth_m).map(libm::expf);
            let body = vec3a(0.035, 0.115, 0.130) * (0.35 + 1.6 * scene.light.sky.radiance(Vec3A::Y).y);
            let air = libm::expf(-(travelled + t) / scene.light.haze_m);
            let mut seen = mirrored * share + (Vec3A::ONE - clear) * body * (1.0 - share);
            let above = p + Vec3A::Y * 2e-3;
            let sun = scene.light.sun.filter(|s| !scene.blocks(&Ray::new(above, s.direction)));
            if let Some(sun) = sun {
                let left =
                    surface.glitter(ray.direction, sun.direction) * scene.light.let_through(p, sun.direction);
                seen += sun.irradiance * left;
            }
            let foam = surface.foam;
            seen = seen.lerp(water::foam_light(scene, p, sun.is_some()), foam);
            light += carried * seen * air;
            carried *= clear * ((1.0 - share) * (1.0 - foam));
            // Far below, the sea has no bed: what little light is left belongs to the water.
            if carried.max_element() < 0.01 || depth_m > 25.0 {
                return light + haze(scene, &ray, travelled + t);
            }
        }
        let Some(hit) = hit else {
            return light + carried * scene.light.from_above(ray.origin, ray.direction);
        };
        if bounce == 0 {
            let seen = travelled + hit.t;
            carried *= libm::expf(-seen / scene.light.haze_m);
            light += haze(scene, &ray, seen);
        }
        let surface = scene.surface(&ray, &hit);
        light += carried * surface.glow;
        light += carried * sunlight(scene, &surface, ray.direction, bounce, numbers);
        let Some(next) = scatter(&surface, bounce, numbers, &mut carried) else { return light };
        travelled += hit.t;
        ray = next;
        bounce += 1;
    }
    light
}

/// Distance at which a ray from above first goes under water, and under which.
fn enters<'a>(waters: &'a [Water], ray: &Ray) -> Option<(f32, &'a Water)> {
    if ray.direction.y >= -1e-5 {
        return None;
    }
    let down = waters.iter().filter_map(|w| {
        let t = (w.level_m - ray.origin.y) / ray.direction.y;
        let p = ray.at(t);
        (t > 0.0 && w.covers(p.x, p.z)).then_some((t, w))
    });
    down.min_by(|a, b| a.0.total_cmp(&b.0))
}

/// Light from the sun that leaves a surface towards the viewer.
fn sunlight(
    scene: &RenderScene,
    surface: &Surface,
    seen_along: Vec3A,
    bounce: u32,
    numbers: PathNumbers,
) -> Vec3A {
    let Some(sun) = scene.light.sun else { return Vec3A::ZERO };
    let [u, v, ..] = numbers.draw(bounce, 1);
    let towards = sun.sample(vec2(u, v));
    let cos = surface.normal.dot(towards);
    let share = if cos > 0.0 { surface.albedo } else { surface.through };
    // A solid that faces away from the sun in truth is dark, whatever its soft normal says.
    let solid = surface.through == Vec3A::ZERO;
    if share == Vec3A::ZERO || (solid && surface.face.dot(towards) <= 0.0) {
        return Vec3A::ZERO;
    }
    if scene.blocks(&Ray::new(leave(surface, towards), towards)) {
        return Vec3A::ZERO;
    }
    let gloss = if bounce == 0 && cos > 0.0 { gloss(surface, seen_along, towards) } else { 0.0 };
    (share / PI + Vec3A::splat(gloss))
        * sun.irradiance
        * (cos.abs() * scene.light.let_through(surface.position, sun.direction))
}

/// How sharp the highlight of a glossy surface is.
const GLOSS_POWER: f32 = 28.0;

/// Sunlight that a glossy surface mirrors towards the viewer, per steradian. The view does the same.
///
/// Source: Blinn, "Models of Light Reflection for Computer Synthesized Pictures", SIGGRAPH 1977, normalised as in Akenine-Moller
/// et al., Real-Time Rendering: (n + 8) / (8 pi) cos^n; a mirrored share of 4 % square on, as of wax and water, rising to the
/// edge as Schlick 1994 has it.
fn gloss(surface: &Surface, seen_along: Vec3A, towards: Vec3A) -> f32 {
    if surface.sheen <= 0.0 {
        return 0.0;
    }
    let half = (towards - seen_along).normalize_or(surface.normal);
    let grazing = libm::powf(1.0 - towards.dot(half).clamp(0.0, 1.0), 5.0);
    let mirrored = 0.04 + 0.96 * grazing;
    let lobe = libm::powf(surface.normal.dot(half).max(0.0), GLOSS_POWER);
    surface.sheen * mirrored * (GLOSS_POWER + 8.0) / (8.0 * PI) * lobe
}

/// The next stretch of a path; none when the surface swallows it.
fn scatter(surface: &Surface, bounce: u32, numbers: PathNumbers, carried: &mut Vec3A) -> Option<Ray> {
    let [u, v, choose, survive] = numbers.draw(bounce, 2);
    let local = square_to_cosine_hemisphere(vec2(u, v));
    let (back, through) = (surface.albedo.element_sum(), surface.through.element_sum());
    if back + through <= 0.0 {
        return None;
    }
    let share_through = through / (back + through);
    let direction = if choose < share_through {
        *carried *= surface.through / share_through;
        about(-surface.normal, local)
    } else {
        *carried *= surface.albedo / (1.0 - share_through);
        about(surface.normal, local)
    };
    // Russian roulette: a path that carries little light goes on seldom, and then counts for more, so that the mean
    // stays (Arvo & Kirk 1990). The factor keeps paths off sunlit grass a little longer than their light alone would.
    let keep = (carried.max_element() * 1.6).clamp(0.1, 1.0);
    if survive >= keep {
        return None;
    }
    *carried /= keep;
    if surface.through == Vec3A::ZERO && surface.face.dot(direction) <= 0.0 {
        return None;
    }
    Some(Ray::new(leave(surface, direction), direction))
}

fn leave(surface: &Surface, direction: Vec3A) -> Vec3A {
    let scale = 1.0 + surface.position.abs().max_element() * 0.004;
    surface.position + surface.face * (OFFSET_M * scale).copysign(surface.face.dot(direction))
}

/// Light that the air itself sends along a ray.
fn haze(scene: &RenderScene, ray: &Ray, distance_m: f32) -> Vec3A {
    let share = 1.0 - libm::expf(-distance_m / scene.light.haze_m);
    if share <= 0.0 { Vec3A::ZERO } else { horizon(scene, ray) * share }
}

fn horizon(scene: &RenderScene, ray: &Ray) -> Vec3A {
    let level = vec3a(ray.direction.x, 0.03, ray.direction.z).normalize();
    scene.light.sky.radiance(level) * 0.8
}
