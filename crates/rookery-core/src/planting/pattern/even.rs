//! Even places: progressive blue noise by dart throwing with a falling radius.
//!
//! Source: McCool & Fiume, "Hierarchical Poisson Disk Sampling Distributions", Graphics Interface 1992. The
//! radius falls in small steps, so that any prefix is nearly as well spaced as a full set. Each stage throws one dart
//! into every spot of a grid; a dart becomes a place once no place is nearer than the radius. Darts are settled
//! block by block in four passes, no two blocks of a pass within reach of each other, so the answer does not depend on the
//! number of threads.

use super::spots::{REACH, SIDE, Spots};
use crate::cancel::{CancelToken, Cancelled};
use crate::math::hash::{Channel, draw, unit};
use crate::planting::{Candidate, Place, PlantId};
use glam::{IVec2, Vec2};
use rayon::prelude::*;

/// Radius at the start, metres; so large that any ground holds few such points.
const FIRST_RADIUS_M: f32 = 64.0;
/// Radius steps in one stage; over a stage the radius falls by the square root of two and the count doubles.
const STEPS: u32 = 8;
/// No dart lands nearer than 64 m / 2^14 = 4 mm; enough for 1000 plants per m2 several times over.
const MAX_STAGES: u8 = 28;

/// Even places on one ground for one seed, made as far as they were asked for.
#[derive(Debug)]
pub struct EvenPattern {
    seed: u32,
    size_m: Vec2,
    /// In order of appearance.
    points: Vec<Candidate>,
    /// Stages completed, and how many points they hold.
    stages: u8,
    complete: usize,
}

impl EvenPattern {
    /// An empty pattern on a ground of this size, centred on the origin.
    pub fn new(seed: u32, size_m: Vec2) -> Self {
        Self { seed, size_m, points: Vec::new(), stages: 0, complete: 0 }
    }

    /// The first `count` places in order of appearance. Earlier places never change as more are asked for.
    ///
    /// Fewer are returned only beyond several thousand per m2.
    ///
    /// # Errors
    /// [`Cancelled`]; what was complete is kept.
    pub fn first(&mut self, count: usize, cancel: &CancelToken) -> Result<&[Candidate], Cancelled> {
        while self.points.len() < count && self.stages < MAX_STAGES {
            self.points.truncate(self.complete);
            let mut stage = Stage::new(self.seed, self.size_m, self.stages, &self.points);
            let mut step = 0;
            while step < STEPS && self.points.len() < count {
                self.points.extend(stage.step(step, cancel)?);
                step += 1;
            }
            if step == STEPS {
                self.stages += 1;
                self.complete = self.points.len();
            }
        }
        Ok(&self.points[..count.min(self.points.len())])
    }
}

struct Block {
    /// Counted from the origin of the plan.
    at: IVec2,
    /// Places of earlier stages, in spots from the block's corner.
    old: Vec<Vec2>,
    /// Places of the last step taken, in spots from the block's corner, with the spot each lay in.
    fresh: Vec<(Vec2, u16)>,
    /// Made at the first step.
    spots: Option<Box<Spots>>,
}

/// One stage: the blocks of the plan, by pass.
struct Stage {
    seed: u32,
    level: u8,
    half_m: Vec2,
    spot_m: f32,
    /// The north-west block; both numbers are even.
    first: IVec2,
    /// Blocks of one pass from west to east and from north to south.
    per_pass: IVec2,
    /// By the lowest bits of the block's numbers, so that the eight blocks around one belong to other passes.
    passes: [Vec<Block>; 4],
}

impl Stage {
    fn new(seed: u32, size_m: Vec2, level: u8, points: &[Candidate]) -> Self {
        let radius_m = FIRST_RADIUS_M * libm::exp2f(-0.5 * f32::from(level));
        let spot_m = radius_m / REACH;
        let half_m = size_m * 0.5;
        let block_m = spot_m * SIDE as f32;
        let first = (-half_m / block_m).floor().as_ivec2() & !1;
        let end = ((half_m / block_m).floor().as_ivec2() + 2) & !1;
        let per_pass = (end - first) / 2;
        let passes = [0, 1, 2, 3].map(|pass| {
            let corner = first + IVec2::new(pass & 1, pass >> 1);
            let places = (0..per_pass.y).flat_map(|z| (0..per_pass.x).map(move |x| IVec2::new(x, z)));
            places
                .map(|p| Block { at: corner + p * 2, old: Vec::new(), fresh: Vec::new(), spots: None })
                .collect()
        });
        let mut stage = Self { seed, level, half_m, spot_m, first, per_pass, passes };
        for p in points {
            let in_spots = Vec2::new(p.x, p.z) / spot_m;
            let block = (in_spots / SIDE as f32).floor().as_ivec2().clamp(first, end - 1);
            let (pass, index) = stage.place_of(block).expect("clamped to the plan");
            stage.passes[pass][index].old.push(in_spots - (block * SIDE as i32).as_vec2());
        }
        stage
    }

    /// Pass and index of a block, none beyond the plan.
    fn place_of(&self, block: IVec2) -> Option<(usize, usize)> {
        let from_first = block - self.first;
        let half: IVec2 = from_first >> 1;
        let inside = from_first.cmpge(IVec2::ZERO).all() && half.cmplt(self.per_pass).all();
        let pass = (from_first.x & 1) | (from_first.y & 1) << 1;
        inside.then(|| (pass as usize, (half.y * self.per_pass.x + half.x) as usize))
    }

    /// Throws the darts of one step and returns the points that were added, in order of appearance.
    fn step(&mut self, step: u32, cancel: &CancelToken) -> Result<Vec<Candidate>, Cancelled> {
        let radius = REACH * libm::exp2f(-((step + 1) as f32) / (2 * STEPS) as f32);
        for pass in 0..4 {
            if cancel.is_cancelled() {
                return Err(Cancelled);
            }
            let mut blocks = std::mem::take(&mut self.passes[pass]);
            blocks.par_iter_mut().for_each(|block| self.settle(block, step, radius));
            self.passes[pass] = blocks;
        }
        let mut found: Vec<Candidate> = self
            .passes
            .par_iter()
            .flat_map(|blocks| blocks.par_iter())
            .flat_map_iter(|b| b.fresh.iter().map(|hit| self.candidate(b, *hit, step)))
            .collect();
        found.par_sort_unstable_by(Candidate::order);
        Ok(found)
    }

    fn settle(&self, block: &mut Block, step: u32, radius: f32) {
        let mut spots = block.spots.take().unwrap_or_else(|| {
            let id = PlantId::pack(self.level, block.at.x, block.at.y, 0);
            let low = -self.half_m / self.spot_m - (block.at * SIDE as i32).as_vec2();
            let high = self.half_m / self.spot_m - (block.at * SIDE as i32).as_vec2();
            let mut spots = Spots::throw(self.seed, id, low, high);
            block.old.iter().for_each(|&place| spots.cover(place, radius));
            spots
        });
        for (dx, dz) in [(-1, -1), (0, -1), (1, -1), (-1, 0), (1, 0), (-1, 1), (0, 1), (1, 1)] {
            let offset = IVec2::new(dx, dz);
            let Some((pass, index)) = self.place_of(block.at + offset) else { continue };
            let other = &self.passes[pass][index];
            let shift = (offset * SIDE as i32).as_vec2();
            if step == 0 {
                other.old.iter().for_each(|place| spots.cover(*place + shift, radius));
            }
            other.fresh.iter().for_each(|(place, _)| spots.cover(*place + shift, radius));
        }
        block.fresh.clear();
        spots.settle(radius, &mut block.fresh);
        block.spots = Some(spots);
    }

    fn candidate(&self, block: &Block, (place, spot): (Vec2, u16), step: u32) -> Candidate {
        let id = PlantId::pack(self.level, block.at.x, block.at.y, spot);
        let at = ((block.at * SIDE as i32).as_vec2() + place) * self.spot_m;
        let order = unit(draw(self.seed, id.0, Channel::Order)[0]);
        let birth = (u32::from(self.level) * STEPS + step) as f32 + order;
        Candidate { x: at.x, z: at.y, birth, id }
    }
}
