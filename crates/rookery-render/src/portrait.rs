//! Portraits of species: a studio with a paper backdrop, soft sun, the plant in the middle.

use crate::accel::{Hit, Instance};
use crate::camera::Camera;
use crate::film::Film;
use crate::integrator::Depth;
use crate::light::Light;
use crate::scene::RenderScene;
use crate::still::{Developing, StillError, StillSettings, take};
use glam::{Quat, Vec3, Vec3A, vec2, vec3};
use rayon::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::nursery::{Mesh, figure};
use rookery_core::scene::{Shot, ShotId};
use std::f32::consts::FRAC_PI_2;

/// How a portrait is taken.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PortraitSettings {
    /// Picture width, pixels.
    pub width_px: u32,
    /// Picture height, pixels.
    pub height_px: u32,
    /// Light paths per pixel.
    pub samples: u32,
    /// How far the plants are turned, degrees.
    pub turn_deg: f32,
    /// Whether a figure of 1.75 m stands beside them.
    pub figure: bool,
}

impl Default for PortraitSettings {
    fn default() -> Self {
        Self { width_px: 240, height_px: 240, samples: 24, turn_deg: 20.0, figure: false }
    }
}

/// Reflectance of the backdrop: paper.
const PAPER: Vec3 = vec3(0.83, 0.80, 0.735);

/// Takes a picture of meshes side by side.
///
/// # Errors
/// [`StillError`].
pub fn portrait(
    meshes: &[Mesh],
    settings: &PortraitSettings,
    cancel: &CancelToken,
) -> Result<Film, StillError> {
    let turn = Quat::from_rotation_y(settings.turn_deg.to_radians());
    let mut row: Vec<(Mesh, Quat)> = meshes.iter().map(|m| (m.clone(), turn)).collect();
    if settings.figure {
        row.insert(0, (figure(), Quat::from_rotation_y(-0.5)));
    }
    // Each stands beside the one before it, with a gap.
    let wide = |mesh: &Mesh, turn: Quat| {
        let across = mesh.positions.iter().map(|p| (turn * *p).x);
        across.fold((f32::INFINITY, f32::NEG_INFINITY), |(low, high), x| (low.min(x), high.max(x)))
    };
    let (mut places, mut at) = (Vec::new(), 0.0);
    let (mut low, mut high, mut deep) = (0.0_f32, 0.01_f32, 0.0_f32);
    for (mesh, turn) in &row {
        let (left, right) = wide(mesh, *turn);
        let gap = if places.is_empty() { 0.0 } else { 0.12 * (right - left) };
        places.push(at + gap - left);
        at += gap + right - left;
        let (a, b) = mesh.bounds();
        (low, high, deep) = (low.min(a.y), high.max(b.y), deep.max(b.z - a.z).max(b.x - a.x));
    }
    // What lies under the base point is in the ground.
    let span = vec3(at.max(1e-3), high, deep);
    let camera = frame(span, settings);
    let mut scene = RenderScene::of_mesh(Some(backdrop(span)), Light::new(&studio(settings)));
    let list = row.iter().zip(places).map(|((mesh, turn), x)| Instance {
        position: Vec3A::new(x - at * 0.5, 0.0, 0.0),
        rotation: *turn,
        scale: Vec3A::splat(1.0),
        mesh: scene.add_part(mesh.clone()),
        tint: 0x8080,
        colour: [128; 3],
    });
    let list: Vec<Instance> = list.collect();
    scene.place(list);
    let still = StillSettings {
        width_px: settings.width_px,
        height_px: settings.height_px,
        samples: settings.samples,
        depth: Depth(3),
        seed: 3,
    };
    let mut film = take(&scene, &camera, still, cancel, &Developing::default(), |_| ())?;
    calm(&mut film, &scene, &camera);
    Ok(film)
}

/// The backdrop is even by nature: where nothing else is seen, each pixel becomes the mean of such pixels about it. What
/// stands before it is left as it was traced.
fn calm(film: &mut Film, scene: &RenderScene, camera: &Camera) {
    const REACH: i32 = 4;
    let (w, h) = (film.width_px as i32, film.height_px as i32);
    let bare: Vec<bool> = (0..w * h)
        .into_par_iter()
        .map(|i| {
            // A pixel is bare when its middle and its corners are.
            [(0.5, 0.5), (0.02, 0.02), (0.98, 0.02), (0.02, 0.98), (0.98, 0.98)].iter().all(|(u, v)| {
                let at = vec2(((i % w) as f32 + u) / w as f32, ((i / w) as f32 + v) / h as f32);
                scene.nearest(&camera.ray(at)).is_none_or(|hit| hit.instance == Hit::GROUND)
            })
        })
        .collect();
    let before = film.pixels.clone();
    film.pixels.par_iter_mut().enumerate().filter(|(i, _)| bare[*i]).for_each(|(i, pixel)| {
        let (x, y) = (i as i32 % w, i as i32 / w);
        let (mut sum, mut count) = (Vec3::ZERO, 0.0);
        for row in (y - REACH).max(0)..=(y + REACH).min(h - 1) {
            for column in (x - REACH).max(0)..=(x + REACH).min(w - 1) {
                let other = (row * w + column) as usize;
                if bare[other] {
                    sum += before[other];
                    count += 1.0;
                }
            }
        }
        *pixel = sum / count;
    });
}

/// Flat things are seen from higher up.
fn pitch(span: Vec3) -> f32 {
    let flat = (span.y / span.z.max(1e-3)).clamp(0.0, 1.2);
    (34.0 - 24.0 * flat).max(7.0).to_radians()
}

const VIEW_DEG: f32 = 22.0;

fn frame(span: Vec3, settings: &PortraitSettings) -> Camera {
    let pitch = pitch(span);
    let (sin, cos) = libm::sincosf(pitch);
    let half = libm::tanf(VIEW_DEG.to_radians() * 0.5);
    let aspect = settings.width_px as f32 / settings.height_px as f32;
    let up = span.y * cos + span.z * 0.7 * sin;
    let distance = (up * 0.55).max(span.x * 0.53 / aspect) / half + span.z * 0.3 * cos;
    let target = vec3(0.0, span.y * 0.47, 0.0);
    let eye = target + vec3(0.0, sin, cos) * distance;
    let shot =
        Shot { eye_m: eye.to_array(), target_m: target.to_array(), view_deg: VIEW_DEG, ..studio(settings) };
    Camera::new(&shot, settings.width_px, settings.height_px)
}

/// Sun from the upper left behind the camera, a light veil before it.
fn studio(settings: &PortraitSettings) -> Shot {
    Shot {
        id: ShotId(0),
        name: String::new(),
        eye_m: [0.0, 1.0, 5.0],
        target_m: [0.0, 0.0, 0.0],
        view_deg: VIEW_DEG,
        sun_azimuth_deg: 222.0,
        sun_elevation_deg: 46.0,
        overcast: 0.35,
        clouds: 0.0,
        width_px: settings.width_px,
        height_px: settings.height_px,
        samples: settings.samples,
    }
}

/// Floor and wall in one sheet, with a round corner between.
fn backdrop(span: Vec3) -> Mesh {
    let size = span.max_element();
    let (side, front, corner) = (size * 60.0, size * 60.0, size * 9.0);
    let mut rows = vec![(vec3(0.0, 0.0, front), Vec3::Y)];
    for k in 0..=16 {
        let (s, c) = libm::sincosf(k as f32 / 16.0 * FRAC_PI_2);
        rows.push((vec3(0.0, corner * (1.0 - c), -corner * 0.4 - corner * s), vec3(0.0, c, s)));
    }
    rows.push((vec3(0.0, corner * 9.0, -corner * 1.4), Vec3::Z));
    let mut mesh = Mesh::default();
    for (p, n) in rows {
        for x in [-side, side] {
            mesh.positions.push(p + Vec3::X * x);
            mesh.normals.push(n);
            mesh.colours.push(PAPER);
        }
        let last = mesh.positions.len() as u32;
        if last > 2 {
            mesh.indices.extend([last - 4, last - 3, last - 1, last - 4, last - 1, last - 2]);
        }
    }
    mesh
}
