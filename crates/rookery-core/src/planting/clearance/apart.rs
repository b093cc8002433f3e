//! Which of many balls may stand so that no two meet: greedily, in an order that is given.

use glam::{IVec2, Vec2, Vec3};
use rayon::prelude::*;
use std::sync::atomic::{AtomicBool, AtomicU32, Ordering::*};

/// A ball: its middle and its radius, metres.
pub type Ball = (Vec3, f32);

/// Balls tried together. Large enough to share out, small enough that few of one batch meet each other.
const BATCH: usize = 1 << 15;
/// Balls of a grid differ in radius by this factor at most.
const SPREAD: f32 = 16.0;

/// Goes through the balls in the order given and keeps each that meets none kept before it; `fixed` ones are kept whatever they
/// meet. Balls that only touch do not meet. Returns whether each stands; those that are not in the order do not.
///
/// While one thread settles what is left of a batch, the others look already at which of the next meet what is kept: whatever
/// of it they see stands and comes before, and what they miss is looked at when that batch is settled. So the answer is always
/// that of going through them one by one.
pub fn stand_apart(balls: &[Ball], order: &[u32], fixed: &[Ball]) -> Vec<bool> {
    let mut stands = vec![false; balls.len()];
    let kept = KeptBalls::for_all(balls, fixed);
    fixed.iter().for_each(|ball| kept.add(*ball));
    let batch = |first: usize| -> (&[u32], usize) {
        // The first batches find little kept to fall by, so they are smaller.
        let end = (first + (BATCH / 8).max(first.min(BATCH))).min(order.len());
        (&order[first..end], end)
    };
    // Those of a batch that meet nothing they see, and how many were kept when they began to look.
    let look = |batch: &[u32]| -> (Vec<u32>, u32) {
        let known = kept.count();
        let looked = batch.par_iter().copied().with_min_len(512);
        (looked.filter(|&i| !kept.meets(balls[i as usize], 0)).collect(), known)
    };
    let (now, mut first) = batch(0);
    let (mut free, mut known) = look(now);
    loop {
        let mut settle = || {
            for &i in &free {
                let ball = balls[i as usize];
                if !kept.meets(ball, known) {
                    kept.add(ball);
                    stands[i as usize] = true;
                }
            }
        };
        if first >= order.len() {
            settle();
            return stands;
        }
        let (next, end) = batch(first);
        let ((), found) = rayon::join(settle, || look(next));
        ((free, known), first) = (found, end);
    }
}

/// Balls that stand, in grids by their radius.
struct KeptBalls {
    /// The two axes along which they spread most.
    axes: [usize; 2],
    low: Vec2,
    grids: Vec<Grid>,
    balls: Vec<KeptBall>,
    count: AtomicU32,
}

/// One thread writes while others read: a ball is written whole before its cell names it.
#[derive(Default)]
struct KeptBall {
    /// Bits of the place and the radius.
    ball: [AtomicU32; 4],
    /// The ball before this one in its cell.
    before: AtomicU32,
}

/// What a cell of a grid holds.
struct Cell {
    /// Its latest ball.
    last: AtomicU32,
    /// Bits of the greatest radius in it; never falls.
    widest_m: AtomicU32,
}

/// Cells that know the last ball in them.
struct Grid {
    widest_m: f32,
    cells_per_m: f32,
    columns: i32,
    rows: i32,
    cells: Vec<Cell>,
    empty: AtomicBool,
}

const NONE: u32 = u32::MAX;

impl KeptBalls {
    fn for_all(balls: &[Ball], fixed: &[Ball]) -> Self {
        let all = || balls.iter().chain(fixed);
        let (low, high) =
            all().fold((Vec3::INFINITY, Vec3::NEG_INFINITY), |(l, h), (p, _)| (l.min(*p), h.max(*p)));
        let size = (high - low).max(Vec3::splat(0.01)).to_array();
        // The narrowest axis is left out; of equal ones the upright.
        let left_out =
            if size[1] <= size[0] && size[1] <= size[2] { 1 } else { usize::from(size[2] < size[0]) * 2 };
        let axes = match left_out {
            0 => [1, 2],
            1 => [0, 2],
            _ => [0, 1],
        };
        let extent = Vec2::new(size[axes[0]], size[axes[1]]);
        let widest = all().map(|b| b.1).fold(0.0, f32::max);
        // About two balls to a cell, before any fall.
        let most_cells = (balls.len() / 2).clamp(1 << 12, 1 << 23) as f32;
        let mut grids = Vec::new();
        let mut widest_m = widest.max(1e-4);
        loop {
            let cell_m = widest_m.max((extent.x * extent.y / most_cells).sqrt());
            let (columns, rows) = ((extent.x / cell_m) as i32 + 1, (extent.y / cell_m) as i32 + 1);
            let none = || Cell { last: AtomicU32::new(NONE), widest_m: AtomicU32::new(0) };
            let mut cells = Vec::new();
            cells.resize_with(columns as usize * rows as usize, none);
            let empty = AtomicBool::new(true);
            grids.push(Grid { widest_m, cells_per_m: 1.0 / cell_m, columns, rows, cells, empty });
            widest_m /= SPREAD;
            // A few thin ones do no harm among the wide ones.
            let thin = all().filter(|b| b.1 <= widest_m).count();
            if thin <= 2 * columns as usize * rows as usize {
                break;
            }
        }
        let low = Vec2::new(low[axes[0]], low[axes[1]]);
        let mut kept = Vec::new();
        kept.resize_with(balls.len() + fixed.len(), KeptBall::default);
        Self { axes, low, grids, balls: kept, count: AtomicU32::new(0) }
    }

    fn count(&self) -> u32 {
        self.count.load(Acquire)
    }

    fn flat(&self, p: Vec3) -> Vec2 {
        Vec2::new(p[self.axes[0]], p[self.axes[1]]) - self.low
    }

    /// Keeps a ball. Only one thread at a time may do so.
    fn add(&self, ball: Ball) {
        let at = self.flat(ball.0);
        let fits = |g: &Grid| ball.1 * SPREAD > g.widest_m;
        let level = self.grids.iter().position(fits).unwrap_or(self.grids.len() - 1);
        let grid = &self.grids[level];
        let cell = &grid.cells[grid.cell(at)];
        let number = self.count.load(Relaxed);
        let kept = &self.balls[number as usize];
        for (own, value) in kept.ball.iter().zip([ball.0.x, ball.0.y, ball.0.z, ball.1]) {
            own.store(value.to_bits(), Relaxed);
        }
        kept.before.store(cell.last.load(Relaxed), Relaxed);
        if ball.1 > f32::from_bits(cell.widest_m.load(Relaxed)) {
            cell.widest_m.store(ball.1.to_bits(), Relaxed);
        }
        if grid.empty.load(Relaxed) {
            grid.empty.store(false, Relaxed);
        }
        cell.last.store(number, Release);
        self.count.store(number + 1, Release);
    }

    /// Whether a ball meets one of those kept, the first `known` of which need not be looked at.
    #[inline]
    fn meets(&self, (p, radius): Ball, known: u32) -> bool {
        let at = self.flat(p);
        for grid in self.grids.iter().filter(|g| !g.empty.load(Relaxed)) {
            let reach = radius + grid.widest_m;
            // What a ball falls by most often lies in its own cell.
            let own = grid.cell(at);
            if self.any_meets(grid.cells[own].last.load(Acquire), p, radius, known) {
                return true;
            }
            let cell_m = 1.0 / grid.cells_per_m;
            let low = ((at - reach) * grid.cells_per_m).as_ivec2().max(IVec2::ZERO);
            let high =
                ((at + reach) * grid.cells_per_m).as_ivec2().min(IVec2::new(grid.columns, grid.rows) - 1);
            for row in low.y..=high.y {
                let z = row as f32 * cell_m;
                let dz = (z - at.y).max(at.y - z - cell_m).max(0.0);
                let first = (row * grid.columns) as usize;
                let cells = grid.cells[first..first + grid.columns as usize].iter();
                let within = cells.enumerate().take(high.x as usize + 1).skip(low.x as usize);
                for (column, cell) in within {
                    let last = cell.last.load(Acquire);
                    if last == NONE || last < known || first + column == own {
                        continue;
                    }
                    let x = column as f32 * cell_m;
                    let dx = (x - at.x).max(at.x - x - cell_m).max(0.0);
                    let room = radius + f32::from_bits(cell.widest_m.load(Relaxed));
                    // A little more, for what is lost in rounding where a ball lies on the edge of its cell.
                    if dx * dx + dz * dz < room * room * 1.001 && self.any_meets(last, p, radius, known) {
                        return true;
                    }
                }
            }
        }
        false
    }

    /// Whether a ball meets one of a cell, of which the latest is given.
    #[inline]
    fn any_meets(&self, latest: u32, p: Vec3, radius: f32, known: u32) -> bool {
        let mut next = latest;
        // Those of a cell come latest first.
        while next != NONE && next >= known {
            let kept = &self.balls[next as usize];
            let [x, y, z, r] = [0, 1, 2, 3].map(|i| f32::from_bits(kept.ball[i].load(Relaxed)));
            let room = radius + r;
            if p.distance_squared(Vec3::new(x, y, z)) < room * room {
                return true;
            }
            next = kept.before.load(Relaxed);
        }
        false
    }
}

impl Grid {
    /// The cell of a point; of what lies beside the grid the nearest.
    #[inline]
    fn cell(&self, at: Vec2) -> usize {
        let cell = (at * self.cells_per_m).as_ivec2();
        (cell.y.clamp(0, self.rows - 1) * self.columns + cell.x.clamp(0, self.columns - 1)) as usize
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// One by one, each against all that stand.
    fn one_by_one(balls: &[Ball], order: &[u32], fixed: &[Ball]) -> Vec<bool> {
        let mut stands = vec![false; balls.len()];
        let mut kept = fixed.to_vec();
        for &i in order {
            let (p, r) = balls[i as usize];
            if kept.iter().all(|(q, s)| p.distance_squared(*q) >= (r + s) * (r + s)) {
                kept.push((p, r));
                stands[i as usize] = true;
            }
        }
        stands
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]

        #[test]
        fn the_same_stand_as_when_they_are_tried_one_by_one(
            raw in prop::collection::vec((prop::array::uniform3(-20.0_f32..20.0), -3.0_f32..0.7), 1..600),
            flat in prop::array::uniform3(prop::bool::ANY), turned: u32,
            fixed in prop::collection::vec((prop::array::uniform3(-20.0_f32..20.0), 0.1_f32..3.0), 0..4),
        ) {
            let scale = Vec3::from(flat.map(|f| if f { 0.02 } else { 1.0 }));
            let balls: Vec<Ball> = raw.iter().map(|(p, e)| (Vec3::from(*p) * scale, libm::powf(10.0, *e))).collect();
            let fixed: Vec<Ball> = fixed.iter().map(|(p, r)| (Vec3::from(*p) * scale, *r)).collect();
            let mut order: Vec<u32> = (0..balls.len() as u32).collect();
            order.rotate_left(turned as usize % balls.len());
            prop_assert_eq!(stand_apart(&balls, &order, &fixed), one_by_one(&balls, &order, &fixed));
        }
    }

    #[test]
    fn balls_that_touch_do_not_meet_and_those_without_order_do_not_stand() {
        let balls = [(Vec3::ZERO, 1.0), (Vec3::X * 2.0, 1.0), (Vec3::X * 3.9, 1.0), (Vec3::Z * 9.0, 1.0)];
        assert_eq!(stand_apart(&balls, &[0, 1, 2], &[]), [true, true, false, false]);
        assert_eq!(stand_apart(&balls, &[2, 1, 0, 3], &[]), [true, false, true, true]);
    }

    #[test]
    fn many_batches_stand_as_one_by_one() {
        use crate::math::hash::{Channel, draw, unit};
        let ball = |i: u64| {
            let [x, z, r, y] = draw(7, i, Channel::Place).map(unit);
            (Vec3::new(x * 300.0, y, z * 300.0), 0.1 + 1.9 * r)
        };
        let balls: Vec<Ball> = (0..90_000).map(ball).collect();
        let order: Vec<u32> = (0..90_000).collect();
        let stands = stand_apart(&balls, &order, &[]);
        // A grid of its own, wide enough that only cells that touch can meet.
        let mut cells = std::collections::HashMap::<(i32, i32), Vec<Ball>>::new();
        for (i, (p, r)) in balls.iter().enumerate() {
            let (x, z) = ((p.x / 4.0) as i32, (p.z / 4.0) as i32);
            let around = (-1..=1).flat_map(|dx| (-1..=1).map(move |dz| (x + dx, z + dz)));
            let free = around
                .filter_map(|c| cells.get(&c))
                .flatten()
                .all(|(q, s)| p.distance_squared(*q) >= (r + s) * (r + s));
            assert_eq!(stands[i], free, "ball {i}");
            if free {
                cells.entry((x, z)).or_default().push((*p, *r));
            }
        }
        assert!(stands.iter().filter(|s| **s).count() > 9000);
    }
}
