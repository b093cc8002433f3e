//! What tracks and beds lay over the land: earths of their own, and ground that is worn. Only appearance.

mod from_above;
mod laid;

pub use from_above::FromAbove;
pub use laid::{Laid, laid};

use crate::document::Outline;
use crate::ground::GroundModel;
use glam::{Vec2, Vec3, Vec4, vec2};
use rayon::prelude::*;

/// Samples are so far apart where there is room for them, metres.
const FINEST_M: f32 = 0.125;
/// Samples along a side at most.
const MOST: f32 = 1024.0;
/// So many samples times pieces of lines are looked at at most.
const MOST_LOOKS: f32 = 2e9;

/// A picture over the plan: what is laid, and how much of it.
#[derive(Clone, Debug, PartialEq)]
pub struct Soils {
    /// North-west corner, metres.
    pub first: [f32; 2],
    /// From there to the south-east corner, metres.
    pub size_m: [f32; 2],
    /// From west to east and from north to south.
    pub samples: [usize; 2],
    /// Of each sample, from west to east and then to the south, the root of its reflectance times its share, and its share, in 255ths.
    pub texels: Vec<[u8; 4]>,
    /// Of each sample how much peat, sand, shingle and rock is laid there, times its share, in 255ths; the rest of the share is turf.
    pub earths: Vec<[u8; 4]>,
}

impl Soils {
    /// What the outlines of a scene lay over its land; none where they lay nothing.
    pub fn of(outlines: &[Outline], land: &GroundModel) -> Option<Self> {
        let laid = laid(outlines);
        let half = land.terrain.size_m() * 0.5;
        let boxes = laid.iter().map(Laid::reach).map(|(low, high)| (low.max(-half), high.min(half)));
        let (low, high) =
            boxes.filter(|(low, high)| low.cmplt(*high).all()).reduce(|a, b| (a.0.min(b.0), a.1.max(b.1)))?;
        let size = high - low;
        let pieces: usize = laid.iter().map(Laid::pieces).sum();
        let room = MOST.min((MOST_LOOKS / pieces as f32).sqrt());
        let step = FINEST_M.max(size.max_element() / (room - 1.0));
        let samples = [size.x, size.y].map(|side| (side / step).ceil().max(1.0) as usize + 1);
        let cell = size / (vec2(samples[0] as f32, samples[1] as f32) - 1.0);
        let laid: Vec<_> = laid.into_iter().map(Laid::for_many).collect();
        let texel = |i: usize| {
            let p = low + cell * vec2((i % samples[0]) as f32, (i / samples[0]) as f32);
            let at = Vec3::new(p.x, land.terrain.height_at(p.x, p.y), p.y);
            let (mut colour, mut all, mut earths) = ([0.0; 3], 0.0, [0.0; 4]);
            for (share, own, what) in laid.iter().filter_map(|l| l.colour(land, at)) {
                colour = [0, 1, 2].map(|k: usize| colour[k] * (1.0 - share) + own[k].sqrt() * share);
                earths = [0, 1, 2, 3].map(|k: usize| earths[k] * (1.0 - share) + what[k] * share);
                all = all * (1.0 - share) + share;
            }
            let kept = |v: [f32; 4]| v.map(|v| (v * 255.0).round() as u8);
            (kept([colour[0], colour[1], colour[2], all]), kept(earths))
        };
        let (texels, earths) = (0..samples[0] * samples[1]).into_par_iter().map(texel).unzip();
        Some(Self { first: low.into(), size_m: size.into(), samples, texels, earths })
    }

    /// The colour of the ground at a point of the plan, linear RGB, where without it it would have another.
    pub fn over(&self, p: Vec2, under: Vec3) -> Vec3 {
        let Some(found) = self.between(p, &self.texels).filter(|f| f.w > 1e-3) else { return under };
        let own = found.truncate() / found.w;
        under.lerp(own * own, found.w)
    }

    /// How much of each earth lies at a point of the plan, in the order of their numbers, where without it there would be so much of each.
    pub fn earths_over(&self, p: Vec2, under: [f32; 5]) -> [f32; 5] {
        let Some(share) = self.between(p, &self.texels).map(|f| f.w).filter(|share| *share > 1e-3) else {
            return under;
        };
        let laid = self.between(p, &self.earths).unwrap_or_default().to_array();
        let turf = (share - laid.iter().sum::<f32>()).max(0.0);
        [0, 1, 2, 3, 4].map(|k: usize| under[k] * (1.0 - share) + if k == 0 { turf } else { laid[k - 1] })
    }

    /// Between the four samples about a point of the plan; none beyond them.
    fn between(&self, p: Vec2, texels: &[[u8; 4]]) -> Option<Vec4> {
        let last = vec2((self.samples[0] - 1) as f32, (self.samples[1] - 1) as f32);
        let at = (p - Vec2::from(self.first)) / Vec2::from(self.size_m) * last;
        if at.cmplt(Vec2::ZERO).any() || at.cmpgt(last).any() {
            return None;
        }
        let (cell, t) = (at.floor().min(last - 1.0), at - at.floor().min(last - 1.0));
        let texel = |dx: usize, dz: usize| {
            let i = (cell.y as usize + dz) * self.samples[0] + cell.x as usize + dx;
            Vec4::from(texels[i].map(f32::from)) / 255.0
        };
        let [north, south] = [0, 1].map(|dz| texel(0, dz).lerp(texel(1, dz), t.x));
        Some(north.lerp(south, t.y))
    }
}

#[cfg(test)]
mod tests;
