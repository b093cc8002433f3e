//! The darts of one block and stage, one in each spot of a grid, and how near the nearest place is to each.
//!
//! All loops over darts are without branches and of fixed length, so that the compiler can take sixteen darts at a time;
//! [`even`](super::even) has them compiled for the instructions the machine has. The arithmetic is that of whole numbers
//! and the same everywhere.

use crate::math::hash::{Channel, draw};
use crate::names::PlantId;
use glam::Vec2;

/// Spots along a block. A number of sixteen bits names each.
pub(super) const SIDE: usize = 256;
const SPOTS: usize = SIDE * SIDE;
/// The longest radius of a stage; a place and all darts about it in a row lie within [`LANES`] spots.
pub(super) const REACH: f32 = 5.0;
/// Darts looked at together.
const LANES: usize = 16;
/// Darts of a row whose farthest is known.
const RUN: usize = 32;
/// Lengths between darts and places are counted in this much of a spot: [`LANES`] spots are all a `u16` holds.
const UNIT: f32 = 1.0 / 4096.0;
/// The place of a dart within its spot is kept in sixteen times as much.
const STEP: u16 = 16;
/// One square spot in the unit of squared distances, the upper half of a product of two lengths.
const SQUARE: f32 = 256.0;

/// Lengths are in spots, from the block's corner.
#[derive(bytemuck::Zeroable)]
pub(super) struct Spots {
    /// How far a dart lies east in its spot.
    east: [[u8; SIDE]; SIDE],
    /// How far south.
    south: [[u8; SIDE]; SIDE],
    /// Squared distance to the nearest place so far, rounded down so that no place comes too near. Zero for darts
    /// beyond the ground.
    nearest_2: [[u16; SIDE]; SIDE],
    /// No dart of a run is farther from its nearest place.
    best_2: [[u16; SIDE / RUN]; SIDE],
    /// Darts that have room at a step, by their turn, 64 to a word.
    waiting: [[u64; 32]; SPOTS / 64 / 32],
    /// Where the scattered order of looking at the darts starts.
    offset: u16,
}

/// An odd factor visits each spot once; this one, near 65,536 over the golden ratio, leaves neighbours in the order far
/// apart on the ground.
const STRIDE: u16 = 40_503;
/// Undoes [`STRIDE`]: their product is 1 modulo 65,536.
const STRIDE_INVERSE: u16 = 30_599;

impl Spots {
    /// Room for the darts of a block.
    pub(super) fn none() -> Box<Self> {
        // Made where it stays: as a value it would be written to the stack first.
        bytemuck::zeroed_box()
    }

    /// Throws a dart into every spot of the block that `id` names with index 0. The ground reaches from `low` to `high`.
    #[inline(always)]
    pub(super) fn throw(&mut self, seed: u32, id: PlantId, low: Vec2, high: Vec2) {
        self.offset = draw(seed, id.0 | 0xFFFF, Channel::Order)[0] as u16;
        self.nearest_2 = [[0; SIDE]; SIDE];
        self.best_2 = [[0; SIDE / RUN]; SIDE];
        let end = Vec2::splat(SIDE as f32);
        let inner = low.cmple(Vec2::ZERO).all() && high.cmpge(end).all();
        // Spots that reach into the ground; casts go down to zero and no further.
        let (from, to) = (low.max(Vec2::ZERO), (high + 1.0).min(end));
        let (from_column, to_column) = (from.x as usize, to.x as usize);
        for row in from.y as usize..to.y as usize {
            let east = self.east[row].as_chunks_mut::<4>().0;
            let south = self.south[row].as_chunks_mut::<4>().0;
            for four in from_column / 4..to_column.div_ceil(4) {
                // One draw serves four spots.
                let drawn = draw(seed, id.0 + (row * SIDE + four * 4) as u64, Channel::Place);
                for (lane, word) in drawn.into_iter().enumerate() {
                    east[four][lane] = (word >> 24) as u8;
                    south[four][lane] = (word >> 16) as u8;
                }
            }
            self.best_2[row] = [u16::MAX; SIDE / RUN];
            for column in from_column..to_column {
                let place = self.place(row, column);
                if inner || (place.cmpge(low).all() && place.cmple(high).all()) {
                    self.nearest_2[row][column] = u16::MAX;
                }
            }
        }
    }

    #[inline(always)]
    fn place(&self, row: usize, column: usize) -> Vec2 {
        let east = f32::from(u16::from(self.east[row][column]) * STEP) * UNIT;
        let south = f32::from(u16::from(self.south[row][column]) * STEP) * UNIT;
        Vec2::new(column as f32 + east, row as f32 + south)
    }

    /// Takes note of a place, in this block or around it, that keeps darts nearer than `radius` (at most [`REACH`]) away.
    #[inline(always)]
    pub(super) fn cover(&mut self, place: Vec2, radius: f32) {
        let (low, high) = (place - radius, place + radius);
        let end = SIDE as f32;
        if low.x >= end || low.y >= end || high.x < 0.0 || high.y < 0.0 {
            return;
        }
        // Casts go down to zero and no further.
        let first = (low.x as usize).min(SIDE - LANES);
        let from_first = ((place.x - first as f32) / UNIT).round();
        // A place beyond the darts looked at is taken at their edge, and what it lies farther is added.
        let edge = from_first.clamp(0.0, f32::from(u16::MAX));
        let farther = (from_first - edge).abs() as u16;
        let edge = edge as u16;
        let radius_2 = enough(radius);
        let from = low.y as usize;
        let mut north = ((from as f32 - place.y) / UNIT).round() as i16;
        for row in from..(high.y as usize + 1).min(SIDE) {
            let east: &[u8; LANES] = self.east[row][first..first + LANES].as_array().expect("as many");
            let south: &[u8; LANES] = self.south[row][first..first + LANES].as_array().expect("as many");
            let nearest_2: &mut [u16; LANES] =
                self.nearest_2[row][first..first + LANES].as_mut_array().expect("as many");
            for lane in 0..LANES {
                let x = lane as u16 * 4096 + u16::from(east[lane]) * STEP;
                let x = x.abs_diff(edge).saturating_add(farther);
                let z = i32::from(north.wrapping_add((u16::from(south[lane]) * STEP) as i16));
                let x_2 = ((u32::from(x) * u32::from(x)) >> 16) as u16;
                let z_2 = ((z * z) >> 16) as u16;
                let away_2 = x_2.saturating_add(z_2);
                let kept = if away_2 < radius_2 { away_2 } else { u16::MAX };
                nearest_2[lane] = nearest_2[lane].min(kept);
            }
            north = north.wrapping_add(4096);
        }
    }

    /// Makes places of darts that have room, in a scattered order, until none has; adds each with its spot to `hits`.
    #[inline(always)]
    pub(super) fn settle(&mut self, radius: f32, hits: &mut Vec<(Vec2, u16)>) {
        let enough = enough(radius);
        for row in 0..SIDE {
            for run in 0..SIDE / RUN {
                if self.best_2[row][run] < enough {
                    continue;
                }
                let first = run * RUN;
                let nearest_2: &[u16; RUN] =
                    self.nearest_2[row][first..first + RUN].as_array().expect("as many");
                let mut best_2 = 0;
                for nearest_2 in nearest_2 {
                    best_2 = best_2.max(*nearest_2);
                }
                self.best_2[row][run] = best_2;
                if best_2 < enough {
                    continue;
                }
                for (column, nearest_2) in nearest_2.iter().enumerate() {
                    if *nearest_2 >= enough {
                        let spot = (row * SIDE + first + column) as u16;
                        let turn = spot.wrapping_sub(self.offset).wrapping_mul(STRIDE_INVERSE);
                        let word = usize::from(turn) / 64;
                        self.waiting[word / 32][word % 32] |= 1 << (turn % 64);
                    }
                }
            }
        }
        for word in 0..SPOTS / 64 {
            let mut bits = std::mem::take(&mut self.waiting[word / 32][word % 32]);
            while bits != 0 {
                let turn = (word * 64) as u16 + bits.trailing_zeros() as u16;
                bits &= bits - 1;
                let spot = turn.wrapping_mul(STRIDE).wrapping_add(self.offset);
                let (row, column) = (usize::from(spot) / SIDE, usize::from(spot) % SIDE);
                if self.nearest_2[row][column] >= enough {
                    let place = self.place(row, column);
                    // Its own dart is now at distance zero and out of the running.
                    self.cover(place, radius);
                    hits.push((place, spot));
                }
            }
        }
    }
}

/// The least kept distance that is surely as long as the radius: one more, for places are rounded to the unit.
#[inline(always)]
fn enough(radius: f32) -> u16 {
    (radius * radius * SQUARE).ceil() as u16 + 1
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_scattered_order_looks_at_every_spot_once() {
        assert_eq!(STRIDE.wrapping_mul(STRIDE_INVERSE), 1);
    }

    #[test]
    fn distances_are_those_of_every_pair() {
        let (low, high) = (Vec2::splat(-1e6), Vec2::splat(1e6));
        let mut spots = Spots::none();
        spots.throw(3, PlantId::pack(5, 2, -7, 0), low, high);
        let end = SIDE as f32;
        let places = [
            Vec2::new(-2.5, 4.25),
            Vec2::new(10.3, 12.9),
            Vec2::new(11.0, 35.5),
            Vec2::new(end - 0.1, 0.1),
            Vec2::new(end + 4.2, end - 3.3),
            Vec2::new(30.0, -5.1),
        ];
        places.iter().for_each(|p| spots.cover(*p, REACH));
        for row in 0..SIDE {
            for column in 0..SIDE {
                let own = spots.place(row, column);
                assert_eq!((own.x as usize, own.y as usize), (column, row));
                let nearest_2 = places.iter().map(|p| p.distance_squared(own)).fold(f32::INFINITY, f32::min);
                let noted = f32::from(spots.nearest_2[row][column]) / SQUARE;
                // Farther than any radius of the stage it need not be known.
                if nearest_2 <= REACH * REACH {
                    let short = nearest_2 - noted;
                    assert!((-0.002..0.01).contains(&short), "{own}: {noted} for {nearest_2}");
                } else {
                    assert!(noted > REACH * REACH - 0.01);
                }
            }
        }
    }

    #[test]
    fn no_dart_lies_beyond_the_ground() {
        let mut spots = Spots::none();
        spots.throw(3, PlantId::pack(5, 0, 0, 0), Vec2::new(5.5, -9.0), Vec2::new(30.0, 20.25));
        let mut hits = Vec::new();
        spots.settle(1.0, &mut hits);
        assert!(hits.len() > 100);
        assert!(hits.iter().all(|(p, _)| p.x >= 5.5 && p.x <= 30.0 && p.y <= 20.25));
        let nearest =
            |p: &Vec2| hits.iter().filter(|(q, _)| q != p).map(|(q, _)| p.distance(*q)).fold(9.0, f32::min);
        assert!(hits.iter().all(|(p, _)| nearest(p) >= 1.0));
    }
}
