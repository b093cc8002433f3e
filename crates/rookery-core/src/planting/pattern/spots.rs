//! The darts of one block and stage, one in each spot of a grid, and how near the nearest place is to each.

use crate::math::hash::{Channel, draw};
use crate::planting::PlantId;
use glam::{Vec2, Vec4};

/// Spots along a block.
pub(super) const SIDE: usize = 32;
/// Spots worked on side by side.
const LANES: usize = 4;
const GROUPS: usize = SIDE / LANES;
/// The longest radius of a stage.
pub(super) const REACH: f32 = 4.0;

/// Lengths are in spots, from the block's corner.
pub(super) struct Spots {
    /// Each dart within its spot, in steps of 2^-16: west to east in the upper half, north to south in the lower.
    within: [[[u32; LANES]; GROUPS]; SIDE],
    /// Squared distance from each dart to the nearest place so far. Below zero for darts beyond the ground.
    nearest_2: [[Vec4; GROUPS]; SIDE],
    /// Where the scattered order of looking at the darts starts.
    offset: u32,
}

/// An odd factor visits each spot once; this one leaves neighbours in the order far apart on the ground.
const STRIDE: u32 = 677;
/// Undoes [`STRIDE`]: their product is 1 modulo 1024.
const STRIDE_INVERSE: u32 = 301;
const STEP: f32 = 1.0 / 65_536.0;

impl Spots {
    /// Throws a dart into every spot of the block that `id` names with index 0. The ground reaches from `low` to `high`.
    pub(super) fn throw(seed: u32, id: PlantId, low: Vec2, high: Vec2) -> Box<Self> {
        let mut spots = Box::new(Self {
            within: [[[0; LANES]; GROUPS]; SIDE],
            nearest_2: [[Vec4::INFINITY; GROUPS]; SIDE],
            offset: draw(seed, id.0 | 0xFFFF, Channel::Order)[0],
        });
        let lanes = spots.within.as_flattened_mut().as_flattened_mut();
        for (key, lane) in (id.0..).zip(lanes) {
            let [x, z, ..] = draw(seed, key, Channel::Place);
            *lane = x & 0xFFFF_0000 | z >> 16;
        }
        let end = Vec2::splat(SIDE as f32);
        if low.cmpgt(Vec2::ZERO).any() || high.cmplt(end).any() {
            for spot in 0..SIDE * SIDE {
                let place = spots.place(spot);
                if place.cmplt(low).any() || place.cmpgt(high).any() {
                    spots.nearest_2[spot / SIDE][spot % SIDE / LANES][spot % LANES] = -1.0;
                }
            }
        }
        spots
    }

    fn place(&self, spot: usize) -> Vec2 {
        let (column, row) = (spot % SIDE, spot / SIDE);
        let within = self.within[row][column / LANES][column % LANES];
        Vec2::new(column as f32 + (within >> 16) as f32 * STEP, row as f32 + (within & 0xFFFF) as f32 * STEP)
    }

    /// Takes note of a place, in this block or around it. Darts farther than `radius` (at most [`REACH`]) need not know.
    #[inline]
    pub(super) fn cover(&mut self, place: Vec2, radius: f32) {
        let (low, high) = (place - radius, place + radius);
        let end = SIDE as f32;
        if low.x >= end || low.y >= end || high.x < 0.0 || high.y < 0.0 {
            return;
        }
        // Casts go down to zero and no further.
        let rows = low.y as usize..=(high.y as usize).min(SIDE - 1);
        let groups = low.x as usize / LANES..=(high.x as usize).min(SIDE - 1) / LANES;
        for row in rows {
            let dz = place.y - row as f32;
            for group in groups.clone() {
                let dx = Vec4::splat(place.x - (group * LANES) as f32) - Vec4::new(0.0, 1.0, 2.0, 3.0);
                let within = &self.within[row][group];
                let x = dx - Vec4::from_array(within.map(|w| (w >> 16) as i32 as f32)) * STEP;
                let z = Vec4::splat(dz) - Vec4::from_array(within.map(|w| (w & 0xFFFF) as i32 as f32)) * STEP;
                let nearest_2 = &mut self.nearest_2[row][group];
                *nearest_2 = nearest_2.min(x * x + z * z);
            }
        }
    }

    /// Makes places of darts that have room, in a scattered order, until none has; adds each with its spot to `hits`.
    pub(super) fn settle(&mut self, radius: f32, hits: &mut Vec<(Vec2, u16)>) {
        let radius_2 = radius * radius;
        // Bit by place in the scattered order.
        let mut waiting = [0_u32; SIDE];
        for (row, groups) in self.nearest_2.iter().enumerate() {
            let mut bits = 0;
            for (group, nearest_2) in groups.iter().enumerate() {
                bits |= nearest_2.cmpge(Vec4::splat(radius_2)).bitmask() << (group * LANES);
            }
            while bits != 0 {
                let spot = (row * SIDE) as u32 + bits.trailing_zeros();
                let turn = spot.wrapping_sub(self.offset).wrapping_mul(STRIDE_INVERSE) as usize;
                waiting[turn / SIDE % SIDE] |= 1 << (turn % SIDE);
                bits &= bits - 1;
            }
        }
        for (word, mut bits) in waiting.into_iter().enumerate() {
            while bits != 0 {
                let turn = (word * SIDE) as u32 + bits.trailing_zeros();
                bits &= bits - 1;
                let spot = turn.wrapping_mul(STRIDE).wrapping_add(self.offset) as usize % (SIDE * SIDE);
                if self.nearest_2[spot / SIDE][spot % SIDE / LANES][spot % LANES] >= radius_2 {
                    let place = self.place(spot);
                    // Its own dart is now at distance zero and out of the running.
                    self.cover(place, radius);
                    hits.push((place, spot as u16));
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_scattered_order_looks_at_every_spot_once() {
        assert_eq!(STRIDE.wrapping_mul(STRIDE_INVERSE) % (SIDE * SIDE) as u32, 1);
    }

    #[test]
    fn distances_are_those_of_every_pair() {
        let (low, high) = (Vec2::splat(-1e6), Vec2::splat(1e6));
        let mut spots = Spots::throw(3, PlantId::pack(5, 2, -7, 0), low, high);
        let places =
            [Vec2::new(-2.5, 4.25), Vec2::new(10.3, 12.9), Vec2::new(11.0, 35.5), Vec2::new(31.9, 0.1)];
        places.iter().for_each(|p| spots.cover(*p, REACH));
        for spot in 0..SIDE * SIDE {
            let own = spots.place(spot);
            assert_eq!((own.x as usize, own.y as usize), (spot % SIDE, spot / SIDE));
            let nearest_2 = places.iter().map(|p| p.distance_squared(own)).fold(f32::INFINITY, f32::min);
            let noted = spots.nearest_2[spot / SIDE][spot % SIDE / LANES][spot % LANES];
            // Farther than any radius of the stage it need not be known.
            if nearest_2 <= 16.0 {
                assert!((noted - nearest_2).abs() < 1e-4, "{own}: {noted} for {nearest_2}");
            } else {
                assert!(noted > 15.999);
            }
        }
    }

    #[test]
    fn no_dart_lies_beyond_the_ground() {
        let mut spots =
            Spots::throw(3, PlantId::pack(5, 0, 0, 0), Vec2::new(5.5, -9.0), Vec2::new(30.0, 20.25));
        let mut hits = Vec::new();
        spots.settle(1.0, &mut hits);
        assert!(hits.len() > 100);
        assert!(hits.iter().all(|(p, _)| p.x >= 5.5 && p.x <= 30.0 && p.y <= 20.25));
        let nearest =
            |p: &Vec2| hits.iter().filter(|(q, _)| q != p).map(|(q, _)| p.distance(*q)).fold(9.0, f32::min);
        assert!(hits.iter().all(|(p, _)| nearest(p) >= 1.0));
    }
}
