//! Even places: progressive blue noise by dart throwing with a falling radius.
//!
//! Source: McCool & Fiume, "Hierarchical Poisson Disk Sampling Distributions", Graphics Interface 1992. The
//! radius falls by the sixteenth root of two a step, so that any prefix is nearly as well spaced as a full set. Darts
//! are thrown block by block in four passes, no two blocks of a pass within reach of each other, so the answer
//! does not depend on the number of threads.

use crate::cancel::{CancelToken, Cancelled};
use crate::math::hash::{Channel, draw, unit};
use crate::planting::{Candidate, PlantId};
use glam::{Vec2, Vec4};
use rayon::prelude::*;
use std::sync::atomic::{AtomicU64, Ordering::Relaxed};

/// Radius at the start, metres; so large that any ground holds few such points.
const FIRST_RADIUS_M: f32 = 64.0;
/// Radius steps in one stage; over a stage the radius falls by the square root of two and the count doubles.
const STEPS: u32 = 8;
/// Cells along a block. A cell is half the stage's first radius, so its diagonal is the last one.
const CELLS: usize = 16;
/// Cells around a block within reach of a dart in it.
const REACH: usize = 2;
/// Spots along a block: a quarter of the stage's first radius each, so that a spot's bit row is a `u32`. One dart is
/// thrown into each.
const SPOTS: usize = 2 * CELLS;
const SPOT: f32 = 0.25;
/// Darts for a block and stage, at most one a spot.
const DARTS: u32 = 640;
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

/// A dart that may still find room within the stage.
struct Dart {
    place: Vec2,
    id: PlantId,
    /// Squared distance to the nearest point when last looked at. It only shrinks, so while this is too near there
    /// is no need to look again.
    nearest_2: f32,
}

struct Block {
    x: i32,
    z: i32,
    darts: Vec<Dart>,
    hits: Vec<Candidate>,
}

/// The place in an empty cell: infinitely far from everything.
const EMPTY: u64 = pack(Vec2::INFINITY);

const fn pack(place: Vec2) -> u64 {
    (place.x.to_bits() as u64) << 32 | place.y.to_bits() as u64
}

fn unpack(cell: u64) -> Vec2 {
    Vec2::new(f32::from_bits((cell >> 32) as u32), f32::from_bits(cell as u32))
}

/// One stage: the darts of all blocks, and a grid that holds at most one point a cell.
struct Stage {
    seed: u32,
    level: u8,
    half_m: Vec2,
    radius_m: f32,
    first: [i32; 2],
    columns: usize,
    rows: usize,
    blocks: Vec<Block>,
    /// Block by block, then row by row. Atomic so that blocks out of each other's reach can be filled side by side;
    /// no cell is ever written by two of them.
    cells: Vec<AtomicU64>,
}

impl Stage {
    fn new(seed: u32, size_m: Vec2, level: u8, points: &[Candidate]) -> Self {
        let radius_m = FIRST_RADIUS_M * libm::exp2f(-0.5 * f32::from(level));
        let block_m = radius_m * (CELLS as f32 * 0.5);
        let half_m = size_m * 0.5;
        let low = (-half_m / block_m).floor().as_ivec2();
        let high = (half_m / block_m).floor().as_ivec2();
        let columns = (high.x - low.x + 1) as usize;
        let rows = (high.y - low.y + 1) as usize;
        let blocks: Vec<Block> = (low.y..=high.y)
            .flat_map(|z| (low.x..=high.x).map(move |x| Block { x, z, darts: Vec::new(), hits: Vec::new() }))
            .collect();
        let cells =
            (0..blocks.len() * CELLS * CELLS).into_par_iter().map(|_| AtomicU64::new(EMPTY)).collect();
        let stage =
            Self { seed, level, half_m, radius_m, first: [low.x, low.y], columns, rows, blocks, cells };
        points.par_iter().for_each(|p| stage.put(Vec2::new(p.x, p.z)));
        stage
    }

    fn put(&self, place: Vec2) {
        let cell = (place / (self.radius_m * 0.5)).floor().as_ivec2();
        let n = CELLS as i32;
        let block_x = (cell.x.div_euclid(n) - self.first[0]).clamp(0, self.columns as i32 - 1) as usize;
        let block_z = (cell.y.div_euclid(n) - self.first[1]).clamp(0, self.rows as i32 - 1) as usize;
        let inner = cell.y.rem_euclid(n) as usize * CELLS + cell.x.rem_euclid(n) as usize;
        self.cells[(block_z * self.columns + block_x) * CELLS * CELLS + inner].store(pack(place), Relaxed);
    }

    /// Throws the darts of one step and returns the points that were added, in order of appearance.
    fn step(&mut self, step: u32, cancel: &CancelToken) -> Result<Vec<Candidate>, Cancelled> {
        let radius_m = self.radius_m * libm::exp2f(-((step + 1) as f32) / (2 * STEPS) as f32);
        let last_m = self.radius_m * std::f32::consts::FRAC_1_SQRT_2;
        let (radius_2, last_2) = (radius_m * radius_m, last_m * last_m);
        let mut blocks = std::mem::take(&mut self.blocks);
        for colour in 0..4 {
            if cancel.is_cancelled() {
                self.blocks = blocks;
                return Err(Cancelled);
            }
            let mine = |b: &Block| ((b.x & 1) | (b.z & 1) << 1) == colour;
            blocks.par_iter_mut().enumerate().filter(|(_, b)| mine(b)).for_each_init(
                || Window::new(self.radius_m * 0.5),
                |window, (place, block)| {
                    if step == 0 {
                        window.open(self, place);
                        let covered = window.covered(last_m);
                        let thrown = self.throw(block.x, block.z, &covered);
                        window.settle(block, thrown, radius_2, last_2, |dart| self.hit(dart, step));
                    } else if block.darts.iter().any(|d| d.nearest_2 >= radius_2) {
                        window.open(self, place);
                        window
                            .settle(block, std::iter::empty(), radius_2, last_2, |dart| self.hit(dart, step));
                    }
                    for hit in &block.hits {
                        self.put(Vec2::new(hit.x, hit.z));
                    }
                },
            );
        }
        let mut found: Vec<Candidate> = blocks.par_iter_mut().flat_map_iter(|b| b.hits.drain(..)).collect();
        found.par_sort_unstable_by(Candidate::order);
        self.blocks = blocks;
        Ok(found)
    }

    fn hit(&self, dart: &Dart, step: u32) -> Candidate {
        let order = unit(draw(self.seed, dart.id.0, Channel::Order)[0]);
        let birth = (u32::from(self.level) * STEPS + step) as f32 + order;
        Candidate { x: dart.place.x, z: dart.place.y, birth, id: dart.id }
    }

    /// One dart for each spot of a block, in a scattered order. Spots that points already cover for the whole stage
    /// are passed over: a dart there would find no room.
    fn throw<'a>(&self, x: i32, z: i32, covered: &'a [u32; SPOTS]) -> impl Iterator<Item = Dart> + use<'a> {
        let spot_m = self.radius_m * SPOT;
        let corner = Vec2::new(x as f32, z as f32) * (spot_m * SPOTS as f32);
        let (seed, level, half_m) = (self.seed, self.level, self.half_m);
        let [offset, ..] = draw(seed, PlantId::pack(level, x, z, u16::MAX).0, Channel::Order);
        // An odd factor visits each spot once.
        let spots =
            (0..DARTS).map(move |i| i.wrapping_mul(677).wrapping_add(offset) as usize % (SPOTS * SPOTS));
        spots.filter(|spot| covered[spot / SPOTS] >> (spot % SPOTS) & 1 == 0).filter_map(move |spot| {
            let id = PlantId::pack(level, x, z, spot as u16);
            let [u, v, ..] = draw(seed, id.0, Channel::Place);
            let at = Vec2::new((spot % SPOTS) as f32 + unit(u), (spot / SPOTS) as f32 + unit(v));
            let place = at * spot_m + corner;
            place.abs().cmple(half_m).all().then_some(Dart { place, id, nearest_2: f32::INFINITY })
        })
    }
}

const SIDE: usize = CELLS + 2 * REACH;
/// Length of a row in memory: room for eight numbers from the last cell's window on.
const STRIDE: usize = 24;

/// A block's cells with those around it, copied so that one block's new points are seen at once.
struct Window {
    cell_m: f32,
    per_m: f32,
    corner: Vec2,
    xs: [f32; SIDE * STRIDE],
    zs: [f32; SIDE * STRIDE],
}

impl Window {
    fn new(cell_m: f32) -> Self {
        let empty = [f32::INFINITY; SIDE * STRIDE];
        Self { cell_m, per_m: 1.0 / cell_m, corner: Vec2::ZERO, xs: empty, zs: empty }
    }

    fn open(&mut self, stage: &Stage, place: usize) {
        let (column, row) = ((place % stage.columns) as isize, (place / stage.columns) as isize);
        let rows = stage.rows as isize;
        let block =
            Vec2::new((stage.first[0] as isize + column) as f32, (stage.first[1] as isize + row) as f32);
        self.corner = block * (CELLS as f32 * self.cell_m) - REACH as f32 * self.cell_m;
        // Cells of the window, block by block: which of the eight neighbours, from where, to where, how many.
        let spans = [(-1, CELLS - REACH, 0, REACH), (0, 0, REACH, CELLS), (1, 0, REACH + CELLS, REACH)];
        for (dz, from_z, to_z, count_z) in spans {
            for (dx, from_x, to_x, count_x) in spans {
                let (c, r) = (column + dx, row + dz);
                let inside = (0..stage.columns as isize).contains(&c) && (0..rows).contains(&r);
                for line in 0..count_z {
                    let to = (to_z + line) * STRIDE + to_x;
                    let to = to..to + count_x;
                    let (xs, zs) = (&mut self.xs[to.clone()], &mut self.zs[to]);
                    if inside {
                        let base = (r as usize * stage.columns + c as usize) * CELLS * CELLS;
                        let from = base + (from_z + line) * CELLS + from_x;
                        let cells = &stage.cells[from..from + count_x];
                        for ((x, z), cell) in xs.iter_mut().zip(zs).zip(cells) {
                            let place = unpack(cell.load(Relaxed));
                            (*x, *z) = (place.x, place.y);
                        }
                    } else {
                        xs.fill(f32::INFINITY);
                        zs.fill(f32::INFINITY);
                    }
                }
            }
        }
    }

    /// The spots of the block, a bit each, that lie wholly within `last_m` of a point.
    fn covered(&self, last_m: f32) -> [u32; SPOTS] {
        let mut rows = [0_u32; SPOTS];
        let per_spot = 2.0 * self.per_m;
        let last = last_m * per_spot;
        for row in 0..SIDE {
            for (x, z) in self.xs[row * STRIDE..][..SIDE].iter().zip(&self.zs[row * STRIDE..][..SIDE]) {
                if *x == f32::INFINITY {
                    continue;
                }
                // In spots, from the block's own corner.
                let x = (x - self.corner.x) * per_spot - (REACH * 2) as f32;
                let z = (z - self.corner.y) * per_spot - (REACH * 2) as f32;
                let first = ((z - last).ceil() as i32).max(0);
                let end = ((z + last).floor() as i32).min(SPOTS as i32);
                for r in first..end {
                    // The row's farther edge decides how far to either side it is covered.
                    let dz = (z - r as f32).abs().max((z - (r + 1) as f32).abs());
                    let half = (last * last - dz * dz).max(0.0).sqrt();
                    let from = ((x - half).ceil() as i32).clamp(0, SPOTS as i32);
                    let to = ((x + half).floor() as i32).clamp(from, SPOTS as i32);
                    rows[r as usize] |= ((1_u64 << to) - (1_u64 << from)) as u32;
                }
            }
        }
        rows
    }

    /// Squared distance to the nearest point of the cells within reach. Rows are read eight cells at a time; those
    /// beyond reach are farther than any radius of the stage and change nothing.
    #[inline]
    fn nearest_2(&self, place: Vec2, column: usize, row: usize) -> f32 {
        let (x, z) = (Vec4::splat(place.x), Vec4::splat(place.y));
        let d_2 = |from: usize| {
            let dx = Vec4::from_slice(&self.xs[from..from + 4]) - x;
            let dz = Vec4::from_slice(&self.zs[from..from + 4]) - z;
            dx * dx + dz * dz
        };
        let mut best = Vec4::INFINITY;
        for r in row - REACH..=row + REACH {
            let from = r * STRIDE + column - REACH;
            best = best.min(d_2(from)).min(d_2(from + 4));
        }
        best.min_element()
    }

    /// Keeps the darts with room around them, forgets those that will have none in this stage.
    fn settle(
        &mut self,
        block: &mut Block,
        thrown: impl Iterator<Item = Dart>,
        radius_2: f32,
        last_2: f32,
        hit: impl Fn(&Dart) -> Candidate,
    ) {
        let Block { darts, hits, .. } = block;
        darts.retain_mut(|dart| dart.nearest_2 < radius_2 || self.waits(dart, hits, radius_2, last_2, &hit));
        darts
            .extend(thrown.filter_map(|mut d| self.waits(&mut d, hits, radius_2, last_2, &hit).then_some(d)));
    }

    /// Looks at a dart: it becomes a point, is forgotten, or (true) waits for a smaller radius.
    #[inline]
    fn waits(
        &mut self,
        dart: &mut Dart,
        hits: &mut Vec<Candidate>,
        radius_2: f32,
        last_2: f32,
        hit: impl Fn(&Dart) -> Candidate,
    ) -> bool {
        let at = (dart.place - self.corner) * self.per_m;
        let column = (at.x as usize).clamp(REACH, REACH + CELLS - 1);
        let row = (at.y as usize).clamp(REACH, REACH + CELLS - 1);
        let cell = row * STRIDE + column;
        if self.xs[cell] != f32::INFINITY {
            return false;
        }
        dart.nearest_2 = self.nearest_2(dart.place, column, row);
        if dart.nearest_2 < radius_2 {
            return dart.nearest_2 >= last_2;
        }
        self.xs[cell] = dart.place.x;
        self.zs[cell] = dart.place.y;
        hits.push(hit(dart));
        false
    }
}
