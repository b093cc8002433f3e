//! From what is drawn to what is kept: colours as shares of their mean, heights over their range, slopes.

use super::{PARTS, SIDE, STEEPEST, Sheet, Texture, earths, made};
use glam::{Vec2, Vec3, vec2};
use rayon::prelude::*;

/// One sample as it is drawn: any reflectance, any height.
#[derive(Clone, Copy, Debug)]
pub struct Drawn {
    pub colour: Vec3,
    pub height: f32,
}

/// How a texture is drawn.
pub struct Recipe {
    /// Metres along a side.
    pub size_m: f32,
    /// From its lowest to its highest, metres.
    pub relief_m: f32,
    pub shifts: [f32; 2],
    pub samples: Vec<Drawn>,
}

/// Asks for all samples, places from 0 to 1 along both sides.
pub fn each(of: impl Fn(Vec2) -> Drawn + Sync) -> Vec<Drawn> {
    let place = |i: usize| vec2((i % SIDE) as f32 + 0.5, (i / SIDE) as f32 + 0.5) / SIDE as f32;
    (0..SIDE * SIDE).into_par_iter().map(|i| of(place(i))).collect()
}

pub fn sheet(texture: Texture) -> Sheet {
    let recipe = match texture {
        Texture::Turf => earths::turf(),
        Texture::Peat => earths::peat(),
        Texture::Sand => earths::sand(),
        Texture::Shingle => earths::shingle(),
        Texture::Rock => earths::rock(),
        Texture::Face => earths::face(),
        Texture::Grit => earths::grit(),
        Texture::Rubble => made::rubble(),
        Texture::Lime => made::lime(),
        Texture::Slate => made::slate(),
    };
    kept_with_mean(&recipe).0
}

/// As it is kept, and its mean colour.
pub fn kept_with_mean(recipe: &Recipe) -> (Sheet, Vec3) {
    let Recipe { size_m, relief_m, shifts, samples } = recipe;
    // What is lighter than twice the mean is cut off, which lowers the mean itself.
    let mut mean = Vec3::ONE;
    for _ in 0..4 {
        let cut = samples.iter().map(|s| s.colour.min(mean * 255.0 / PARTS));
        mean = cut.sum::<Vec3>() / samples.len() as f32;
    }
    let heights = samples.iter().map(|s| s.height);
    let (low, high) = heights.fold((f32::MAX, f32::MIN), |(l, h), v| (l.min(v), h.max(v)));
    let height = |i: usize| match high > low {
        true => (samples[i].height - low) / (high - low),
        false => 0.5,
    };
    let texels = (0..samples.len())
        .map(|i| {
            let tone = samples[i].colour / mean.max(Vec3::splat(1e-6)) * PARTS;
            let h = height(i) * 255.0;
            [tone.x, tone.y, tone.z, h].map(|v| v.round().clamp(0.0, 255.0) as u8)
        })
        .collect();
    // From one neighbour to the other.
    let scale = relief_m / (2.0 * size_m / SIDE as f32);
    let slopes: Vec<Vec2> = (0..samples.len())
        .map(|i| {
            let (x, y) = (i % SIDE, i / SIDE);
            let at = |dx: usize, dy: usize| height((y + dy) % SIDE * SIDE + (x + dx) % SIDE);
            let rises = [at(1, 0) - at(SIDE - 1, 0), at(0, 1) - at(0, SIDE - 1)];
            Vec2::from(rises.map(|r| (r * scale / STEEPEST).clamp(-1.0, 1.0)))
        })
        .collect();
    // Steps that are cut off would leave it leaning.
    let leans = slopes.iter().sum::<Vec2>() / slopes.len() as f32;
    let byte = |s: f32| (128.0 + s.clamp(-1.0, 1.0) * 127.0).round() as u8;
    let slopes =
        slopes.iter().map(|s| (*s - leans).to_array().map(byte)).map(|[u, v]| [u, v, 0, 0]).collect();
    (Sheet { size_m: *size_m, shifts: *shifts, texels, slopes, shine: 0.0 }, mean)
}
