//! The least change to a flow that makes it free of divergence: conjugate gradients, preconditioned by multigrid.
//!
//! Sherman, "A mass-consistent model for wind fields over complex terrain", J. Appl. Meteorol. 17, 1978 (from memory). Cells are joined on the plan
//! only; every column is solved exactly, so flat cells near the ground cost nothing.

use crate::cancel::{CancelToken, Cancelled};

/// Steps at most; five to eight are usual.
const MOST_STEPS: usize = 60;
/// Columns a side below which it is not halved further.
const COARSEST: usize = 3;
/// Sums are taken in blocks of so many, each by itself.
const BLOCK: usize = 4096;

/// The conductances of a grid, y fastest, then x. Sides are shut, the top is open.
pub(super) struct Level {
    pub nx: usize,
    pub nz: usize,
    pub ny: usize,
    pub cx: Vec<f32>,
    pub cz: Vec<f32>,
    pub cy: Vec<f32>,
    diagonal: Vec<f32>,
}

impl Level {
    pub fn new([nx, nz, ny]: [usize; 3], cx: Vec<f32>, cz: Vec<f32>, cy: Vec<f32>) -> Self {
        let mut level = Self { nx, nz, ny, cx, cz, cy, diagonal: vec![0.0; nx * nz * ny] };
        for z in 0..nz {
            for x in 0..nx {
                for y in 0..ny {
                    let sum = level.left(x, y, z)
                        + level.left(x + 1, y, z)
                        + level.near(x, y, z)
                        + level.near(x, y, z + 1)
                        + level.below(x, y, z)
                        + level.below(x, y + 1, z);
                    let cell = level.cell(x, y, z);
                    level.diagonal[cell] = if sum > 0.0 { sum } else { 1.0 };
                }
            }
        }
        level
    }

    fn cell(&self, x: usize, y: usize, z: usize) -> usize {
        (z * self.nx + x) * self.ny + y
    }

    fn left(&self, x: usize, y: usize, z: usize) -> f32 {
        self.cx[(z * (self.nx + 1) + x) * self.ny + y]
    }

    fn near(&self, x: usize, y: usize, z: usize) -> f32 {
        self.cz[(z * self.nx + x) * self.ny + y]
    }

    fn below(&self, x: usize, y: usize, z: usize) -> f32 {
        self.cy[(z * self.nx + x) * (self.ny + 1) + y]
    }

    /// What columns beside one bring to each of its cells.
    fn beside(&self, v: &[f32], x: usize, z: usize, out: &mut [f32]) {
        out.fill(0.0);
        let ny = self.ny;
        let mut add = |share: &[f32], column: usize| {
            let other = &v[column * ny..(column + 1) * ny];
            for ((o, c), l) in out.iter_mut().zip(share).zip(other) {
                *o += c * l;
            }
        };
        let (fx, fz) = ((z * (self.nx + 1) + x) * ny, (z * self.nx + x) * ny);
        if x > 0 {
            add(&self.cx[fx..fx + ny], z * self.nx + x - 1);
        }
        if x + 1 < self.nx {
            add(&self.cx[fx + ny..fx + 2 * ny], z * self.nx + x + 1);
        }
        if z > 0 {
            add(&self.cz[fz..fz + ny], (z - 1) * self.nx + x);
        }
        if z + 1 < self.nz {
            let next = fz + self.nx * ny;
            add(&self.cz[next..next + ny], (z + 1) * self.nx + x);
        }
    }

    /// The operator: what flows out of each cell for a potential.
    fn apply(&self, v: &[f32], out: &mut [f32]) {
        let ny = self.ny;
        let mut sides = vec![0.0; ny];
        for z in 0..self.nz {
            for x in 0..self.nx {
                self.beside(v, x, z, &mut sides);
                let at = self.cell(x, 0, z);
                let cy = &self.cy[(z * self.nx + x) * (ny + 1)..];
                for y in 0..ny {
                    let mut sum = self.diagonal[at + y] * v[at + y] - sides[y];
                    if y > 0 {
                        sum -= cy[y] * v[at + y - 1];
                    }
                    if y + 1 < ny {
                        sum -= cy[y + 1] * v[at + y + 1];
                    }
                    out[at + y] = sum;
                }
            }
        }
    }

    /// Solves every column of a colour for what those beside it are.
    fn relax(&self, v: &mut [f32], right: &[f32], colour: usize) {
        let ny = self.ny;
        let (mut sides, mut ratio) = (vec![0.0; ny], vec![0.0; ny]);
        for z in 0..self.nz {
            for x in (0..self.nx).filter(|x| (x + z) % 2 == colour) {
                self.beside(v, x, z, &mut sides);
                let at = self.cell(x, 0, z);
                let cy = &self.cy[(z * self.nx + x) * (ny + 1)..];
                // Elimination upwards, then back down.
                let mut before = 0.0;
                let mut down = 0.0;
                for y in 0..ny {
                    let below = if y > 0 { cy[y] } else { 0.0 };
                    let pivot = 1.0 / (self.diagonal[at + y] - below * down);
                    let above = if y + 1 < ny { cy[y + 1] } else { 0.0 };
                    ratio[y] = above * pivot;
                    before = (right[at + y] + sides[y] + below * before) * pivot;
                    sides[y] = before;
                    down = ratio[y];
                }
                let mut after = 0.0;
                for y in (0..ny).rev() {
                    after = sides[y] + ratio[y] * after;
                    v[at + y] = after;
                }
            }
        }
    }

    /// The grid with half as many columns along x and z.
    fn halved(&self) -> Self {
        let (nx, nz, ny) = (self.nx.div_ceil(2), self.nz.div_ceil(2), self.ny);
        let mut cx = vec![0.0; (nx + 1) * nz * ny];
        let mut cz = vec![0.0; nx * (nz + 1) * ny];
        let mut cy = vec![0.0; nx * nz * (ny + 1)];
        for z in 0..self.nz {
            for x in 0..self.nx {
                for y in 0..ny {
                    // Faces that lie on the border of a coarse cell; it is twice as far to the next middle.
                    if x % 2 == 0 {
                        cx[((z / 2) * (nx + 1) + x / 2) * ny + y] += 0.5 * self.left(x, y, z);
                    }
                    if z % 2 == 0 {
                        cz[((z / 2) * nx + x / 2) * ny + y] += 0.5 * self.near(x, y, z);
                    }
                }
                for y in 0..=ny {
                    cy[((z / 2) * nx + x / 2) * (ny + 1) + y] += self.below(x, y, z);
                }
            }
        }
        Self::new([nx, nz, ny], cx, cz, cy)
    }

    /// A column's place on the grid with half as many.
    fn parent(&self, x: usize, z: usize) -> usize {
        (z / 2) * self.nx.div_ceil(2) + x / 2
    }
}

/// A grid with all that are coarser.
pub(super) struct Multigrid(Vec<Level>);

impl Multigrid {
    pub fn new(finest: Level) -> Self {
        let mut levels = vec![finest];
        while let Some(last) = levels.last().filter(|l| l.nx.max(l.nz) > COARSEST) {
            let next = last.halved();
            levels.push(next);
        }
        Self(levels)
    }

    /// One cycle down and up again: about the potential that a right side asks for.
    fn cycle(&self, depth: usize, right: &[f32], v: &mut [f32]) {
        let level = &self.0[depth];
        v.fill(0.0);
        if depth + 1 == self.0.len() {
            for _ in 0..8 {
                level.relax(v, right, 0);
                level.relax(v, right, 1);
            }
            for _ in 0..8 {
                level.relax(v, right, 1);
                level.relax(v, right, 0);
            }
            return;
        }
        level.relax(v, right, 0);
        level.relax(v, right, 1);
        let mut left = vec![0.0; v.len()];
        level.apply(v, &mut left);
        let (next, ny) = (&self.0[depth + 1], level.ny);
        let mut coarse = vec![0.0; next.nx * next.nz * ny];
        for z in 0..level.nz {
            for x in 0..level.nx {
                let (at, to) = (level.cell(x, 0, z), level.parent(x, z) * ny);
                for y in 0..ny {
                    coarse[to + y] += right[at + y] - left[at + y];
                }
            }
        }
        let mut found = vec![0.0; coarse.len()];
        self.cycle(depth + 1, &coarse, &mut found);
        for z in 0..level.nz {
            for x in 0..level.nx {
                let (at, from) = (level.cell(x, 0, z), level.parent(x, z) * ny);
                for y in 0..ny {
                    v[at + y] += found[from + y];
                }
            }
        }
        level.relax(v, right, 1);
        level.relax(v, right, 0);
    }

    /// The potential for a right side, until no cell is left with more than its share of `limits`. Answers with it and the steps it took.
    ///
    /// # Errors
    /// When it was stopped.
    pub fn solve(
        &self,
        right: &[f32],
        limits: &[f32],
        cancel: &CancelToken,
    ) -> Result<(Vec<f32>, usize), Cancelled> {
        let level = &self.0[0];
        let n = right.len();
        let (mut v, mut rest) = (vec![0.0_f32; n], right.to_vec());
        let (mut way, mut found, mut image) = (vec![0.0_f32; n], vec![0.0_f32; n], vec![0.0_f32; n]);
        let mut before = 0.0_f64;
        for step in 0..MOST_STEPS {
            if cancel.is_cancelled() {
                return Err(Cancelled);
            }
            if rest.iter().zip(limits).all(|(r, most)| r.abs() <= *most) {
                return Ok((v, step));
            }
            self.cycle(0, &rest, &mut found);
            let now = dot(&rest, &found);
            let share = if step == 0 { 0.0 } else { (now / before) as f32 };
            before = now;
            way.iter_mut().zip(&found).for_each(|(w, f)| *w = f + share * *w);
            level.apply(&way, &mut image);
            let far = (now / dot(&way, &image).max(f64::MIN_POSITIVE)) as f32;
            for i in 0..n {
                v[i] += far * way[i];
                rest[i] -= far * image[i];
            }
        }
        Ok((v, MOST_STEPS))
    }
}

/// Summed in blocks, so that no thread count changes the bits.
fn dot(a: &[f32], b: &[f32]) -> f64 {
    let block = |(a, b): (&[f32], &[f32])| -> f64 {
        a.iter().zip(b).map(|(a, b)| f64::from(*a) * f64::from(*b)).sum()
    };
    a.chunks(BLOCK).zip(b.chunks(BLOCK)).map(block).sum()
}
