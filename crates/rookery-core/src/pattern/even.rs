//! Even places: progressive blue noise by dart throwing with a falling radius.
//!
//! Source: McCool & Fiume, "Hierarchical Poisson Disk Sampling Distributions", Graphics Interface 1992. The
//! radius falls in small steps, so that any prefix is nearly as well spaced as a full set. Each stage throws one dart
//! into every spot of a grid; a dart becomes a place once no place is nearer than the radius. A block of the grid takes
//! all steps of the stage at once, while it is in the processor's own memory; blocks follow one another in four passes, no
//! two of a pass within reach of each other, so the answer does not depend on the number of threads. A place of
//! another block that came earlier in this order and appears at a later step keeps others away by the radius of that step: two
//! places are never nearer than the radius at which the later one of them appears.

use super::spots::{REACH, SIDE, Spots};
use super::{Candidate, Place};
use crate::cancel::{CancelToken, Cancelled};
use crate::math::hash::{Channel, draw, unit};
use crate::names::PlantId;
use glam::{IVec2, Vec2};
use pulp::{Arch, Simd, WithSimd};
use rayon::prelude::*;

/// Radius at the start, metres; so large that any ground holds few such points.
const FIRST_RADIUS_M: f32 = 64.0;
/// Radius steps in one stage; over a stage the radius falls by the square root of two and the count doubles.
const STEPS: u32 = 32;
/// No dart lands nearer than 64 m / 2^14 = 4 mm; enough for 1000 plants per m2 several times over.
const MAX_STAGES: u8 = 28;

/// Even places on one ground for one seed, made as far as they were asked for.
#[derive(Debug)]
pub struct EvenPattern {
    seed: u32,
    size_m: Vec2,
    /// In order of appearance.
    points: Vec<Candidate>,
    /// Stages they hold, each as a whole.
    stages: u8,
}

impl EvenPattern {
    /// An empty pattern on a ground of this size, centred on the origin.
    pub fn new(seed: u32, size_m: Vec2) -> Self {
        Self { seed, size_m, points: Vec::new(), stages: 0 }
    }

    /// What the places take, bytes.
    pub fn bytes(&self) -> usize {
        self.points.capacity() * size_of::<Candidate>()
    }

    /// The first `count` places in order of appearance. Earlier places never change as more are asked for.
    ///
    /// Fewer are returned only beyond several thousand per m2.
    ///
    /// # Errors
    /// [`Cancelled`]; what was complete is kept.
    pub fn first(&mut self, count: usize, cancel: &CancelToken) -> Result<&[Candidate], Cancelled> {
        while self.points.len() < count && self.stages < MAX_STAGES {
            let mut stage = Stage::new(self.seed, self.size_m, self.stages, &self.points);
            let found = stage.run(cancel)?;
            self.points.reserve_exact(found.iter().map(Vec::len).sum());
            found.into_iter().for_each(|step| self.points.extend(step));
            self.stages += 1;
        }
        Ok(&self.points[..count.min(self.points.len())])
    }
}

struct Block {
    /// Counted from the origin of the plan.
    at: IVec2,
    /// Its places, in spots from its corner, with the spot each lay in, step by step.
    places: Vec<(Vec2, u16)>,
    /// Where those of each step end.
    ends: [usize; STEPS as usize],
}

impl Block {
    fn of_step(&self, step: usize) -> &[(Vec2, u16)] {
        let start = if step == 0 { 0 } else { self.ends[step - 1] };
        &self.places[start..self.ends[step]]
    }
}

/// [`Stage::settle`], compiled once for every set of instructions.
struct Settle<'a> {
    stage: &'a Stage,
    block: &'a mut Block,
    spots: &'a mut Spots,
}

impl WithSimd for Settle<'_> {
    type Output = ();

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) {
        self.stage.settle(self.block, self.spots);
    }
}

/// One stage: the blocks of the plan, by pass.
struct Stage {
    seed: u32,
    level: u8,
    half_m: Vec2,
    spot_m: f32,
    radii: [f32; STEPS as usize],
    /// The north-west block; both numbers are even.
    first: IVec2,
    /// Blocks of one pass from west to east and from north to south.
    per_pass: IVec2,
    /// By the lowest bits of the block's numbers, so that the eight blocks around one belong to other passes.
    passes: [Vec<Block>; 4],
    /// Places of earlier stages, in spots from their block's corner, block after block.
    old: Vec<Vec2>,
    /// Where those of each block begin, by number of the block from west to east, then from north to south; and the end.
    starts: Vec<u32>,
}

const AROUND: [IVec2; 8] = [
    IVec2::new(-1, -1),
    IVec2::new(0, -1),
    IVec2::new(1, -1),
    IVec2::new(-1, 0),
    IVec2::new(1, 0),
    IVec2::new(-1, 1),
    IVec2::new(0, 1),
    IVec2::new(1, 1),
];

/// The radius of each step, in spots.
fn radii() -> [f32; STEPS as usize] {
    std::array::from_fn(|step| REACH * libm::exp2f(-((step + 1) as f32) / (2 * STEPS) as f32))
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
                .map(|p| Block { at: corner + p * 2, places: Vec::new(), ends: [0; STEPS as usize] })
                .collect()
        });
        let across = end.x - first.x;
        let of_block = |p: &Candidate| {
            let in_spots = Vec2::new(p.x, p.z) / spot_m;
            let block = (in_spots / SIDE as f32).floor().as_ivec2().clamp(first, end - 1);
            let number = (block.y - first.y) * across + block.x - first.x;
            (number as u32, in_spots - (block * SIDE as i32).as_vec2())
        };
        let mut starts = vec![0_u32; (across * (end.y - first.y)) as usize + 1];
        let placed: Vec<(u32, Vec2)> = points.par_iter().map(of_block).collect();
        placed.iter().for_each(|(block, _)| starts[*block as usize] += 1);
        let mut sum = 0;
        for start in &mut starts {
            sum += *start;
            *start = sum;
        }
        let mut old = vec![Vec2::ZERO; placed.len()];
        for (block, place) in placed.into_iter().rev() {
            let start = &mut starts[block as usize];
            *start -= 1;
            old[*start as usize] = place;
        }
        Self { seed, level, half_m, spot_m, radii: radii(), first, per_pass, passes, old, starts }
    }

    /// Pass and index of a block, none beyond the plan.
    fn place_of(&self, block: IVec2) -> Option<(usize, usize)> {
        let from_first = block - self.first;
        let half: IVec2 = from_first >> 1;
        let inside = from_first.cmpge(IVec2::ZERO).all() && half.cmplt(self.per_pass).all();
        let pass = (from_first.x & 1) | (from_first.y & 1) << 1;
        inside.then(|| (pass as usize, (half.y * self.per_pass.x + half.x) as usize))
    }

    /// Places of earlier stages in a block, from its corner in spots.
    fn old_in(&self, block: IVec2) -> &[Vec2] {
        let size = self.per_pass * 2;
        let IVec2 { x: column, y: row } = block - self.first;
        if row < 0 || row >= size.y || column < 0 || column >= size.x {
            return &[];
        }
        let number = (row * size.x + column) as usize;
        &self.old[self.starts[number] as usize..self.starts[number + 1] as usize]
    }

    /// Throws the darts and returns the points that were added, step by step, those of each in order of appearance.
    fn run(&mut self, cancel: &CancelToken) -> Result<Vec<Vec<Candidate>>, Cancelled> {
        let arch = Arch::new();
        for pass in 0..4 {
            let mut blocks = std::mem::take(&mut self.passes[pass]);
            blocks.par_iter_mut().for_each_init(Spots::none, |spots, block| {
                if !cancel.is_cancelled() {
                    arch.dispatch(Settle { stage: self, block, spots });
                }
            });
            self.passes[pass] = blocks;
        }
        if cancel.is_cancelled() {
            return Err(Cancelled);
        }
        let of_step = |step: u32| {
            let blocks = self.passes.iter().flatten();
            let hits = blocks.flat_map(|b| b.of_step(step as usize).iter().map(move |hit| (b, *hit)));
            let mut found: Vec<Candidate> = hits.map(|(b, hit)| self.candidate(b, hit, step)).collect();
            found.sort_unstable_by(Candidate::order);
            found
        };
        Ok((0..STEPS).into_par_iter().with_max_len(1).map(of_step).collect())
    }

    // No closures: they would be compiled for the oldest machines.
    #[inline(always)]
    fn settle(&self, block: &mut Block, spots: &mut Spots) {
        let id = PlantId::pack(self.level, block.at.x, block.at.y, 0);
        let low = -self.half_m / self.spot_m - (block.at * SIDE as i32).as_vec2();
        spots.throw(self.seed, id, low, low + self.half_m * 2.0 / self.spot_m);
        for place in self.old_in(block.at) {
            spots.cover(*place, self.radii[0]);
        }
        for offset in AROUND {
            let shift = (offset * SIDE as i32).as_vec2();
            for place in self.old_in(block.at + offset) {
                spots.cover(*place + shift, self.radii[0]);
            }
            if let Some((pass, index)) = self.place_of(block.at + offset)
                && let Some(other) = self.passes[pass].get(index)
            {
                for step in 0..STEPS as usize {
                    for (place, _) in other.of_step(step) {
                        spots.cover(*place + shift, self.radii[step]);
                    }
                }
            }
        }
        for step in 0..STEPS as usize {
            spots.settle(self.radii[step], &mut block.places);
            block.ends[step] = block.places.len();
        }
    }

    fn candidate(&self, block: &Block, (place, spot): (Vec2, u16), step: u32) -> Candidate {
        let id = PlantId::pack(self.level, block.at.x, block.at.y, spot);
        let at = ((block.at * SIDE as i32).as_vec2() + place) * self.spot_m;
        let order = unit(draw(self.seed, id.0, Channel::Order)[0]);
        let birth = (u32::from(self.level) * STEPS + step) as f32 + order;
        Candidate { x: at.x, z: at.y, birth, id }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Blocks that come later fill what earlier ones left at their borders: about as many places as elsewhere. Over many
    /// borders strips of a quarter of the radius hold 7 % fewer to 7 % more.
    #[test]
    fn borders_of_blocks_do_not_show() {
        let size_m = Vec2::splat(100.0);
        for (seed, level) in [(1, 14_u8), (2, 15), (3, 16)] {
            let mut pattern = EvenPattern::new(seed, size_m);
            while pattern.stages < level {
                let count = pattern.points.len() + 1;
                pattern.first(count, &CancelToken::default()).expect("not stopped");
            }
            let radius_m = FIRST_RADIUS_M * libm::exp2f(-0.5 * f32::from(level - 1));
            let block_m = radius_m / REACH * SIDE as f32;
            let near = |v: f32| (v / block_m - (v / block_m).round()).abs() * block_m < radius_m;
            let inner = |p: &&Candidate| p.x.abs().max(p.z.abs()) < 49.0;
            let placed: Vec<&Candidate> = pattern.points.iter().filter(inner).collect();
            let at_borders = placed.iter().filter(|p| near(p.x) || near(p.z)).count() as f64;
            // The same share of area, by many points of a square lattice.
            let lattice =
                (0..1960 * 1960).map(|i| Vec2::new((i % 1960) as f32, (i / 1960) as f32) * 0.05 - 48.975);
            let share = lattice.filter(|p| near(p.x) || near(p.y)).count() as f64 / (1960.0 * 1960.0);
            let ratio = at_borders / (placed.len() as f64 * share);
            assert!((ratio - 1.0).abs() < 0.04, "level {level}: {ratio} times as many at borders");
        }
    }

    /// Called without the dispatch, blocks are settled as on the oldest machines.
    #[test]
    fn places_are_the_same_with_and_without_the_instructions_of_this_machine() {
        let stage = || Stage::new(4, Vec2::splat(60.0), 13, &[]);
        let (mut here, mut oldest) = (stage(), stage());
        here.run(&CancelToken::default()).expect("not stopped");
        let mut spots = Spots::none();
        for pass in 0..4 {
            let mut blocks = std::mem::take(&mut oldest.passes[pass]);
            blocks.iter_mut().for_each(|block| oldest.settle(block, &mut spots));
            oldest.passes[pass] = blocks;
        }
        let placed = |stage: &Stage| -> Vec<_> {
            stage.passes.iter().flatten().map(|b| (b.places.clone(), b.ends)).collect()
        };
        assert!(placed(&here).iter().map(|(places, _)| places.len()).sum::<usize>() > 4000);
        assert_eq!(placed(&here), placed(&oldest));
    }

    #[test]
    fn places_are_the_same_on_any_number_of_threads() {
        let made = |threads: usize| {
            let pool =
                rayon::ThreadPoolBuilder::new().num_threads(threads).build().expect("threads can be had");
            let mut pattern = EvenPattern::new(9, Vec2::new(90.0, 60.0));
            pool.install(|| pattern.first(30_000, &CancelToken::default()).expect("not stopped").to_vec())
        };
        assert_eq!(made(1), made(3));
    }
}
