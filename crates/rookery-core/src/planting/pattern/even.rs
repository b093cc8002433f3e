//! Even places: progressive blue noise by dart throwing with a falling radius.
//!
//! Source: McCool & Fiume, "Hierarchical Poisson Disk Sampling Distributions", Graphics Interface 1992. The
//! radius falls by the eighth root of two a step, so that any prefix is nearly as well spaced as a full set. Darts
//! are thrown block by block in four passes, no two blocks of a pass within reach of each other, so the answer
//! does not depend on the number of threads.

use crate::cancel::{CancelToken, Cancelled};
use crate::math::hash::{Channel, draw, unit};
use crate::planting::{Candidate, PlantId};
use glam::Vec2;
use rayon::prelude::*;

/// Radius at the start, metres; so large that any ground holds few such points.
const FIRST_RADIUS_M: f32 = 64.0;
/// Radius steps in one stage; over a stage the radius falls by the square root of two and the count doubles.
const STEPS: u32 = 4;
/// Cells along a block. A cell is half the stage's first radius, so its diagonal is the last one.
const CELLS: usize = 16;
/// Cells around a block within reach of a dart in it.
const REACH: usize = 2;
/// Darts per block and stage. A full block holds about 90 points at the stage's end; measured: 320 darts give a
/// relative radius of at least 0.67 at every count, 640 raise it by 0.01 at twice the time.
const DARTS: u16 = 384;
/// No dart lands nearer than 64 m / 2^14 = 4 mm; enough for 1000 plants per m2 several times over.
const MAX_STAGES: u8 = 28;

/// An empty cell: infinitely far from everything.
const EMPTY: Vec2 = Vec2::splat(f32::INFINITY);

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
                let mut found = stage.step(step, cancel)?;
                found.par_sort_unstable_by(Candidate::order);
                self.points.extend(found);
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
    index: u16,
}

struct Block {
    x: i32,
    z: i32,
    darts: Vec<Dart>,
    hits: Vec<Dart>,
}

/// One stage: the darts of all blocks, and a grid that holds at most one point a cell.
struct Stage {
    seed: u32,
    level: u8,
    half_m: Vec2,
    radius_m: f32,
    first: [i32; 2],
    columns: usize,
    blocks: Vec<Block>,
    /// Block by block, then row by row.
    cells: Vec<Vec2>,
}

impl Stage {
    fn new(seed: u32, size_m: Vec2, level: u8, points: &[Candidate]) -> Self {
        let radius_m = FIRST_RADIUS_M * libm::exp2f(-0.5 * f32::from(level));
        let block_m = radius_m * (CELLS as f32 * 0.5);
        let half_m = size_m * 0.5;
        let low = (-half_m / block_m).floor().as_ivec2();
        let high = (half_m / block_m).floor().as_ivec2();
        let columns = (high.x - low.x + 1) as usize;
        let blocks: Vec<Block> = (low.y..=high.y)
            .flat_map(|z| (low.x..=high.x).map(move |x| Block { x, z, darts: Vec::new(), hits: Vec::new() }))
            .collect();
        let cells = vec![EMPTY; blocks.len() * CELLS * CELLS];
        let mut stage =
            Self { seed, level, half_m, radius_m, first: [low.x, low.y], columns, blocks, cells };
        for p in points {
            stage.put(Vec2::new(p.x, p.z));
        }
        stage
    }

    fn put(&mut self, place: Vec2) {
        let cell = (place / (self.radius_m * 0.5)).floor().as_ivec2();
        let n = CELLS as i32;
        let block_x = (cell.x.div_euclid(n) - self.first[0]).clamp(0, self.columns as i32 - 1) as usize;
        let rows = self.blocks.len() / self.columns;
        let block_z = (cell.y.div_euclid(n) - self.first[1]).clamp(0, rows as i32 - 1) as usize;
        let inner = cell.y.rem_euclid(n) as usize * CELLS + cell.x.rem_euclid(n) as usize;
        self.cells[(block_z * self.columns + block_x) * CELLS * CELLS + inner] = place;
    }

    /// Throws the darts of one step and returns the points that were added.
    fn step(&mut self, step: u32, cancel: &CancelToken) -> Result<Vec<Candidate>, Cancelled> {
        let radius_m = self.radius_m * libm::exp2f(-((step + 1) as f32) / 8.0);
        let last_m = self.radius_m * std::f32::consts::FRAC_1_SQRT_2;
        let mut found = Vec::new();
        for colour in 0..4 {
            if cancel.is_cancelled() {
                return Err(Cancelled);
            }
            let mut blocks = std::mem::take(&mut self.blocks);
            let mine = |b: &Block| ((b.x & 1) | (b.z & 1) << 1) == colour;
            blocks.par_iter_mut().enumerate().filter(|(_, b)| mine(b)).for_each_init(
                || Window::new(self.radius_m * 0.5),
                |window, (place, block)| {
                    if step == 0 {
                        self.throw(block);
                    }
                    window.open(self, place);
                    window.settle(block, radius_m * radius_m, last_m * last_m);
                },
            );
            let before = found.len();
            for block in blocks.iter_mut().filter(|b| mine(b)) {
                for hit in std::mem::take(&mut block.hits) {
                    let id = PlantId::pack(self.level, block.x, block.z, hit.index);
                    let order = unit(draw(self.seed, id.0, Channel::Order)[0]);
                    let birth = (u32::from(self.level) * STEPS + step) as f32 + order;
                    found.push(Candidate { x: hit.place.x, z: hit.place.y, birth, id });
                }
            }
            self.blocks = blocks;
            // Points of this pass must be in the grid before the next pass looks.
            for c in &found[before..] {
                self.put(Vec2::new(c.x, c.z));
            }
        }
        Ok(found)
    }

    fn throw(&self, block: &mut Block) {
        let block_m = self.radius_m * (CELLS as f32 * 0.5);
        block.darts = (0..DARTS)
            .filter_map(|index| {
                let id = PlantId::pack(self.level, block.x, block.z, index);
                let [u, v, ..] = draw(self.seed, id.0, Channel::Place);
                let place = Vec2::new(block.x as f32 + unit(u), block.z as f32 + unit(v)) * block_m;
                (place.abs().cmple(self.half_m).all()).then_some(Dart { place, index })
            })
            .collect();
    }
}

const SIDE: usize = CELLS + 2 * REACH;

/// A block's cells with those around it, copied so that one block's new points are seen at once.
struct Window {
    cell_m: f32,
    corner: Vec2,
    cells: [Vec2; SIDE * SIDE],
}

impl Window {
    fn new(cell_m: f32) -> Self {
        Self { cell_m, corner: Vec2::ZERO, cells: [EMPTY; SIDE * SIDE] }
    }

    fn open(&mut self, stage: &Stage, place: usize) {
        let (column, row) = ((place % stage.columns) as isize, (place / stage.columns) as isize);
        let rows = (stage.cells.len() / (CELLS * CELLS) / stage.columns) as isize;
        let block = Vec2::new((stage.first[0] as isize + column) as f32, (stage.first[1] as isize + row) as f32);
        self.corner = block * (CELLS as f32 * self.cell_m) - REACH as f32 * self.cell_m;
        // Cells of the window, block by block: which of the eight neighbours, from where, to where, how many.
        let spans = [(-1, CELLS - REACH, 0, REACH), (0, 0, REACH, CELLS), (1, 0, REACH + CELLS, REACH)];
        for (dz, from_z, to_z, count_z) in spans {
            for (dx, from_x, to_x, count_x) in spans {
                let (c, r) = (column + dx, row + dz);
                let inside = (0..stage.columns as isize).contains(&c) && (0..rows).contains(&r);
                for line in 0..count_z {
                    let to = (to_z + line) * SIDE + to_x;
                    let out = &mut self.cells[to..to + count_x];
                    if inside {
                        let base = (r as usize * stage.columns + c as usize) * CELLS * CELLS;
                        let from = base + (from_z + line) * CELLS + from_x;
                        out.copy_from_slice(&stage.cells[from..from + count_x]);
                    } else {
                        out.fill(EMPTY);
                    }
                }
            }
        }
    }

    /// Keeps the darts with room around them, forgets those that will have none in this stage.
    fn settle(&mut self, block: &mut Block, radius_2: f32, last_2: f32) {
        let mut darts = std::mem::take(&mut block.darts);
        darts.retain_mut(|dart| {
            let cell = ((dart.place - self.corner) / self.cell_m).as_ivec2();
            let x = (cell.x.max(REACH as i32) as usize).min(REACH + CELLS - 1);
            let z = (cell.y.max(REACH as i32) as usize).min(REACH + CELLS - 1);
            let mut nearest_2 = f32::INFINITY;
            for row in z - REACH..=z + REACH {
                let line = &self.cells[row * SIDE + x - REACH..=row * SIDE + x + REACH];
                for p in line {
                    nearest_2 = nearest_2.min(p.distance_squared(dart.place));
                }
                if nearest_2 < last_2 {
                    return false;
                }
            }
            if nearest_2 < radius_2 {
                return true;
            }
            self.cells[z * SIDE + x] = dart.place;
            block.hits.push(Dart { place: dart.place, index: dart.index });
            false
        });
        block.darts = darts;
    }
}
