//! From pictures that were brought to one that goes on beyond its edges.

use super::draw::{Drawn, Recipe, kept_with_mean};
use super::{SIDE, Sheet};
use glam::{Vec3, vec3};
use std::f32::consts::PI;

/// A picture as it lies in its file.
#[derive(Clone, Copy)]
pub struct Raster<'a> {
    /// Pixels from left to right, at least 1.
    pub width: usize,
    /// Pixels from top to bottom, at least 1.
    pub height: usize,
    /// Red, green, blue and cover, each 0 to 65535, row by row from the top.
    pub rgba: &'a [[u16; 4]],
}

/// What an earth is to wear.
pub struct Worn<'a> {
    /// sRGB.
    pub colour: Raster<'a>,
    /// Black the lowest.
    pub height: Option<Raster<'a>>,
    /// White without gloss.
    pub roughness: Option<Raster<'a>>,
    /// Metres along a side.
    pub size_m: f32,
    /// From black to white of the heights, metres.
    pub relief_m: f32,
}

/// Red, green and blue in linear light, height, gloss.
type Sample = [f32; 5];

/// A picture whose edges step no more than so many times what its neighbours do on average already goes on beyond them.
const SEAMLESS: f32 = 1.6;

impl Worn<'_> {
    /// As a sheet, and its mean colour in linear light.
    pub(super) fn sheet(&self) -> (Sheet, Vec3) {
        let colour = squared(&self.colour, |[r, g, b, _]| [r, g, b].map(linear));
        let grey = |raster: &Raster| squared(raster, |[r, g, b, _]| [(r + g + b) / 3.0; 3]);
        let height = self.height.as_ref().map(grey);
        let rough = self.roughness.as_ref().map(grey);
        let mut samples: Vec<Sample> = (0..SIDE * SIDE)
            .map(|i| {
                let [r, g, b] = colour[i];
                let h = height.as_ref().map_or(0.0, |h| h[i][0]);
                [r, g, b, h, rough.as_ref().map_or(0.0, |rough| 1.0 - rough[i][0])]
            })
            .collect();
        for along in [Along::Rows, Along::Columns] {
            if !goes_on(&samples, along) {
                samples = blended(&samples, along);
            }
        }
        let range = samples.iter().fold((f32::MAX, f32::MIN), |(l, h), s| (l.min(s[3]), h.max(s[3])));
        let recipe = Recipe {
            size_m: self.size_m,
            // Not all pictures go from black to white.
            relief_m: self.relief_m * (range.1 - range.0).max(0.0),
            shifts: [1.0, 1.0],
            samples: samples.iter().map(|s| Drawn { colour: vec3(s[0], s[1], s[2]), height: s[3] }).collect(),
        };
        let (mut sheet, mean) = kept_with_mean(&recipe);
        for (kept, sample) in sheet.slopes.iter_mut().zip(&samples) {
            kept[2] = (sample[4].clamp(0.0, 1.0) * 255.0).round() as u8;
        }
        sheet.shine = samples.iter().map(|s| s[4]).sum::<f32>() / samples.len() as f32;
        // Black ground is still ground: nothing is divided by it.
        (sheet, mean.max(Vec3::splat(1e-3)))
    }
}

/// Source: IEC 61966-2-1 (sRGB), the decoding function.
fn linear(v: f32) -> f32 {
    if v <= 0.04045 { v / 12.92 } else { libm::powf((v + 0.055) / 1.055, 2.4) }
}

/// The middle square of a picture on `SIDE` x `SIDE` samples, each the mean of the pixels that it covers.
fn squared(raster: &Raster, of: impl Fn([f32; 4]) -> [f32; 3]) -> Vec<[f32; 3]> {
    let side = raster.width.min(raster.height);
    let from = [(raster.width - side) / 2, (raster.height - side) / 2];
    let span = |i: usize| {
        let first = i * side / SIDE;
        first..((i + 1) * side).div_ceil(SIDE).clamp(first + 1, side)
    };
    let mut out = Vec::with_capacity(SIDE * SIDE);
    for y in 0..SIDE {
        for x in 0..SIDE {
            let (mut sum, mut count) = ([0.0; 3], 0.0);
            for row in span(y) {
                for column in span(x) {
                    let pixel = raster.rgba[(from[1] + row) * raster.width + from[0] + column];
                    let own = of(pixel.map(|v| f32::from(v) / 65535.0));
                    sum = [0, 1, 2].map(|k| sum[k] + own[k]);
                    count += 1.0;
                }
            }
            out.push(sum.map(|v| v / count));
        }
    }
    out
}

#[derive(Clone, Copy)]
enum Along {
    Rows,
    Columns,
}

impl Along {
    /// The sample at a place along the way, in one of the rows or columns.
    fn at(self, place: usize, line: usize) -> usize {
        match self {
            Self::Rows => line * SIDE + place % SIDE,
            Self::Columns => place % SIDE * SIDE + line,
        }
    }
}

/// Whether a picture goes on beyond its edges without a seam.
fn goes_on(samples: &[Sample], along: Along) -> bool {
    let step = |place: usize| {
        let differs = |line: usize| {
            let [a, b] = [samples[along.at(place, line)], samples[along.at(place + 1, line)]];
            (0..4).map(|k| (a[k] - b[k]) * (a[k] - b[k])).sum::<f32>()
        };
        ((0..SIDE).map(differs).sum::<f32>() / SIDE as f32).sqrt()
    };
    let within = (0..SIDE - 1).map(step).sum::<f32>() / (SIDE - 1) as f32;
    step(SIDE - 1) <= SEAMLESS * within + 1e-4
}

/// The picture over itself moved by half, which has its seam where the picture shows alone, so that the edges meet.
///
/// Source: Heitz & Neyret, "High-Performance By-Example Noise using a Histogram-Preserving Blending Operator", 2018: what two differ from the mean is
/// divided by the root of the squared weights, so that the blend is as lively as either.
fn blended(samples: &[Sample], along: Along) -> Vec<Sample> {
    let count = samples.len() as f32;
    let mean: Sample = std::array::from_fn(|k| samples.iter().map(|s| s[k]).sum::<f32>() / count);
    let mut out = samples.to_vec();
    for line in 0..SIDE {
        for place in 0..SIDE {
            // 0 at the edges, 1 in the middle, and the other way about for the one that is moved.
            let own = libm::sinf((place as f32 + 0.5) / SIDE as f32 * PI);
            let own = own * own;
            let [a, b] = [samples[along.at(place, line)], samples[along.at(place + SIDE / 2, line)]];
            let lively = 1.0 / (own * own + (1.0 - own) * (1.0 - own)).sqrt();
            out[along.at(place, line)] = std::array::from_fn(|k| {
                let blend = (a[k] - mean[k]) * own + (b[k] - mean[k]) * (1.0 - own);
                (mean[k] + blend * lively).clamp(0.0, 1.0)
            });
        }
    }
    out
}

#[cfg(test)]
#[path = "worn_tests.rs"]
mod tests;
