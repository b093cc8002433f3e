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
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Mutex, MutexGuard, PoisonError};
use thiserror::Error;

/// Side of a tile, pixels: what one thread works on at a time.
const TILE_PX: u32 = 32;
/// How many times as many paths a pixel has after each round.
const ROUNDS: u32 = 4;

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

/// Takes the still of a shot, which can be looked at in `developing` meanwhile. `progress` hears the share done, 0 to 1, from any thread.
///
/// # Errors
/// [`StillError`].
pub fn take_shot(
    scene: &RenderScene,
    shot: &Shot,
    settings: StillSettings,
    cancel: &CancelToken,
    developing: &Developing,
    progress: impl Fn(f32) + Sync,
) -> Result<Film, StillError> {
    take(
        scene,
        &Camera::new(shot, settings.width_px, settings.height_px),
        settings,
        cancel,
        developing,
        progress,
    )
}

/// Takes a still through any camera: one path for each pixel first, so that the whole picture can soon be judged, then in rounds that
/// bring it to four times as many. The order in which a pixel's paths are added up is that of their numbers.
///
/// # Errors
/// [`StillError`].
pub fn take(
    scene: &RenderScene,
    camera: &Camera,
    settings: StillSettings,
    cancel: &CancelToken,
    developing: &Developing,
    progress: impl Fn(f32) + Sync,
) -> Result<Film, StillError> {
    let StillSettings { width_px, height_px, samples, depth, seed } = settings;
    developing.begin(width_px, height_px);
    let all = u64::from(width_px) * u64::from(height_px) * u64::from(samples);
    let traced = AtomicU64::new(0);
    let mut tiles = Tile::all(width_px, height_px);
    let mut range = 0..1.min(samples);
    while !range.is_empty() {
        tiles.par_iter_mut().try_for_each(|tile| {
            for (sum, (x, y)) in tile.sums.iter_mut().zip(tile.area.pixels()) {
                // Felt at once, however many paths a pixel has.
                if x == tile.area.x0 && cancel.is_cancelled() {
                    return Err(Cancelled);
                }
                for sample in range.clone() {
                    let numbers = PathNumbers { pixel: y * width_px + x, sample, seed };
                    let [u, v, ..] = numbers.draw(0, 0);
                    let at = vec2((x as f32 + u) / width_px as f32, (y as f32 + v) / height_px as f32);
                    // One bright path must not leave a speck: paths are held to 12 times white.
                    *sum += radiance(scene, camera.ray(at), depth, numbers).min(Vec3A::splat(12.0));
                }
            }
            let here = tile.sums.len() as u64 * range.len() as u64;
            let done = traced.fetch_add(here, Ordering::Relaxed) + here;
            developing.lay(tile, range.end);
            progress(done as f32 / all as f32);
            Ok(())
        })?;
        range = range.end..(range.end * ROUNDS).min(samples);
    }
    Ok(developing.film())
}

/// A rectangle of the picture.
#[derive(Clone, Copy)]
struct Area {
    x0: u32,
    y0: u32,
    wide: u32,
    tall: u32,
}

impl Area {
    fn pixels(self) -> impl Iterator<Item = (u32, u32)> {
        (self.y0..self.y0 + self.tall).flat_map(move |y| (self.x0..self.x0 + self.wide).map(move |x| (x, y)))
    }
}

/// What the paths of a rectangle have brought so far.
struct Tile {
    area: Area,
    sums: Vec<Vec3A>,
}

impl Tile {
    fn all(width_px: u32, height_px: u32) -> Vec<Self> {
        let corners = |size: u32| (0..size).step_by(TILE_PX as usize);
        let at =
            |x0, y0| Area { x0, y0, wide: TILE_PX.min(width_px - x0), tall: TILE_PX.min(height_px - y0) };
        corners(height_px)
            .flat_map(|y0| corners(width_px).map(move |x0| at(x0, y0)))
            .map(|area| Self { area, sums: vec![Vec3A::ZERO; (area.wide * area.tall) as usize] })
            .collect()
    }
}

/// A still while it is taken, to be looked at from any thread.
#[derive(Default)]
pub struct Developing(Mutex<Film>);

impl Developing {
    /// The picture so far; without pixels before it is begun. What no path has reached is black.
    pub fn film(&self) -> Film {
        self.lock().clone()
    }

    /// The same, at most so many pixels wide: what is large is not copied whole to be looked at.
    pub fn at_most(&self, wide_px: u32) -> Film {
        self.lock().at_most(wide_px)
    }

    fn lock(&self) -> MutexGuard<'_, Film> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn begin(&self, width_px: u32, height_px: u32) {
        let pixels = vec![Vec3::ZERO; width_px as usize * height_px as usize];
        *self.lock() = Film { width_px, height_px, pixels };
    }

    fn lay(&self, tile: &Tile, samples: u32) {
        let mut film = self.lock();
        let width = film.width_px as usize;
        for (sum, (x, y)) in tile.sums.iter().zip(tile.area.pixels()) {
            film.pixels[y as usize * width + x as usize] = Vec3::from(*sum / samples as f32);
        }
    }
}
