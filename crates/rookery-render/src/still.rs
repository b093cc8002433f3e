//! Taking a still: all pixels, in tiles, with progress and a way to stop.

use crate::camera::Camera;
use crate::film::Film;
use crate::integrator::{Depth, radiance};
use crate::sampling::PathNumbers;
use crate::scene::RenderScene;
use glam::{Vec3, Vec3A, vec2};
use rayon::prelude::*;
use rookery_core::cancel::{CancelToken, Cancelled};
use rookery_core::scene::Shot;
use std::sync::atomic::{AtomicUsize, Ordering};
use thiserror::Error;

/// Side of a tile, pixels: small enough that a cancel is felt at once.
const TILE_PX: u32 = 32;

/// How a still is taken.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct StillSettings {
    /// Picture width, pixels.
    pub width_px: u32,
    /// Picture height, pixels.
    pub height_px: u32,
    /// Light paths per pixel, at least 1.
    pub samples: u32,
    /// Surfaces a path may touch.
    pub depth: Depth,
    /// Another number, another noise.
    pub seed: u32,
}

impl StillSettings {
    /// Those of a shot, with light carried over three surfaces.
    pub fn new(shot: &Shot) -> Self {
        Self {
            width_px: shot.width_px,
            height_px: shot.height_px,
            samples: shot.samples,
            depth: Depth(3),
            seed: 1,
        }
    }
}

/// Why there is no still.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Error)]
pub enum StillError {
    /// It was stopped.
    #[error(transparent)]
    Cancelled(#[from] Cancelled),
}

/// Takes the still of a shot. `progress` hears the share done, 0 to 1, from any thread.
///
/// # Errors
/// [`StillError`].
pub fn take_shot(
    scene: &RenderScene,
    shot: &Shot,
    settings: StillSettings,
    cancel: &CancelToken,
    progress: impl Fn(f32) + Sync,
) -> Result<Film, StillError> {
    take(scene, &Camera::new(shot, settings.width_px, settings.height_px), settings, cancel, progress)
}

/// Takes a still through any camera.
///
/// # Errors
/// [`StillError`].
pub fn take(
    scene: &RenderScene,
    camera: &Camera,
    settings: StillSettings,
    cancel: &CancelToken,
    progress: impl Fn(f32) + Sync,
) -> Result<Film, StillError> {
    let StillSettings { width_px, height_px, samples, depth, seed } = settings;
    let (across, down) = (width_px.div_ceil(TILE_PX), height_px.div_ceil(TILE_PX));
    let done = AtomicUsize::new(0);
    let tiles: Vec<Option<Vec<Vec3>>> = (0..across * down)
        .into_par_iter()
        .map(|tile| {
            if cancel.is_cancelled() {
                return None;
            }
            let (x0, y0) = (tile % across * TILE_PX, tile / across * TILE_PX);
            let mut out = Vec::with_capacity((TILE_PX * TILE_PX) as usize);
            for y in y0..(y0 + TILE_PX).min(height_px) {
                for x in x0..(x0 + TILE_PX).min(width_px) {
                    let mut sum = Vec3A::ZERO;
                    for sample in 0..samples {
                        let numbers = PathNumbers { pixel: y * width_px + x, sample, seed };
                        let [u, v, ..] = numbers.draw(0, 0);
                        let at = vec2((x as f32 + u) / width_px as f32, (y as f32 + v) / height_px as f32);
                        // One bright path must not leave a speck: paths are held to 12 times white.
                        sum += radiance(scene, camera.ray(at), depth, numbers).min(Vec3A::splat(12.0));
                    }
                    out.push(Vec3::from(sum / samples as f32));
                }
            }
            let n = done.fetch_add(1, Ordering::Relaxed) + 1;
            progress(n as f32 / (across * down) as f32);
            Some(out)
        })
        .collect();
    let mut pixels = vec![Vec3::ZERO; width_px as usize * height_px as usize];
    for (tile, part) in tiles.into_iter().enumerate() {
        let part = part.ok_or(Cancelled)?;
        let (x0, y0) = (tile as u32 % across * TILE_PX, tile as u32 / across * TILE_PX);
        let wide = TILE_PX.min(width_px - x0) as usize;
        for (row, line) in part.chunks_exact(wide).enumerate() {
            let from = (y0 as usize + row) * width_px as usize + x0 as usize;
            pixels[from..from + wide].copy_from_slice(line);
        }
    }
    Ok(Film { width_px, height_px, pixels })
}
