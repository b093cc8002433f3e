//! Where water runs: filled hollows, receivers and the area that drains through each sample.
//!
//! Sources: Barnes, Lehman & Mulla, "Priority-flood", Computers & Geosciences 62, 2014 (filling and the order of
//! samples); O'Callaghan & Mark, "The extraction of drainage networks from digital elevation data", CVGIP 28, 1984 (the steepest of
//! eight neighbours); Quinn et al., "The prediction of hillslope flow paths", Hydrological Processes 5, 1991 (shares
//! of all lower neighbours, with contour lengths of 0.5 and 0.354 cells).

use crate::cancel::{CancelToken, Cancelled};
use crate::ground::Terrain;
use std::cmp::Reverse;
use std::collections::BinaryHeap;

/// How water leaves a terrain.
#[derive(Debug)]
pub struct Flow {
    /// Heights with every hollow filled to its rim, metres, row by row.
    pub filled_zx: Vec<f32>,
    /// For each sample the neighbour most of its water runs to; itself on the border, where water leaves.
    pub receiver: Vec<u32>,
    /// All samples, those that receive before those that give.
    order: Vec<u32>,
}

/// East and south of the eight neighbours, from the north-west.
const AROUND: [(isize, isize); 8] = [(-1, -1), (0, -1), (1, -1), (-1, 0), (1, 0), (-1, 1), (0, 1), (1, 1)];

struct Grid {
    nx: isize,
    nz: isize,
    reach_m: [f32; 8],
}

impl Grid {
    fn new(terrain: &Terrain) -> Self {
        let cell = terrain.cell_m();
        let reach_m = AROUND.map(|(x, z)| (x as f32 * cell.x).hypot(z as f32 * cell.y));
        Self { nx: terrain.nx() as isize, nz: terrain.nz() as isize, reach_m }
    }

    /// The neighbours of a sample with their distances, metres, and whether they lie cornerwise.
    fn around(&self, at: u32) -> impl Iterator<Item = (u32, f32, bool)> + '_ {
        let (x, z) = (at as isize % self.nx, at as isize / self.nx);
        AROUND.iter().zip(&self.reach_m).filter_map(move |(&(dx, dz), &reach)| {
            let (x, z) = (x + dx, z + dz);
            let inside = (0..self.nx).contains(&x) && (0..self.nz).contains(&z);
            inside.then(|| ((z * self.nx + x) as u32, reach, dx != 0 && dz != 0))
        })
    }

    fn border(&self, at: u32) -> bool {
        let (x, z) = (at as isize % self.nx, at as isize / self.nx);
        x == 0 || z == 0 || x == self.nx - 1 || z == self.nz - 1
    }
}

impl Flow {
    /// Follows water over a terrain. It leaves over the border.
    ///
    /// # Errors
    /// [`Cancelled`].
    pub fn over(terrain: &Terrain, cancel: &CancelToken) -> Result<Self, Cancelled> {
        Self::into(terrain, |_| false, cancel)
    }

    /// The same where water also leaves at some samples.
    ///
    /// # Errors
    /// [`Cancelled`].
    pub fn into(
        terrain: &Terrain,
        leaves: impl Fn(u32) -> bool,
        cancel: &CancelToken,
    ) -> Result<Self, Cancelled> {
        let grid = Grid::new(terrain);
        let heights = terrain.heights_zx();
        let count = heights.len();
        let mut filled_zx = heights.to_vec();
        let mut receiver: Vec<u32> = (0..count as u32).collect();
        let mut order = Vec::with_capacity(count);
        let mut seen = vec![false; count];
        // Keys sort like the heights; the second number makes the order of equals certain.
        let mut open: BinaryHeap<Reverse<(u32, u32)>> = (0..count as u32)
            .filter(|&i| grid.border(i) || leaves(i))
            .map(|i| Reverse((sortable(heights[i as usize]), i)))
            .collect();
        open.iter().for_each(|Reverse((_, i))| seen[*i as usize] = true);
        while let Some(Reverse((_, at))) = open.pop() {
            if order.len() % 65_536 == 0 && cancel.is_cancelled() {
                return Err(Cancelled);
            }
            order.push(at);
            for (next, ..) in grid.around(at) {
                if !std::mem::replace(&mut seen[next as usize], true) {
                    // A hollow is entered over its rim and filled up to it.
                    let height = heights[next as usize].max(filled_zx[at as usize]);
                    filled_zx[next as usize] = height;
                    receiver[next as usize] = at;
                    open.push(Reverse((sortable(height), next)));
                }
            }
        }
        for at in 0..count as u32 {
            if grid.border(at) || leaves(at) {
                continue;
            }
            let own = filled_zx[at as usize];
            let mut steepest = 0.0;
            for (next, reach, _) in grid.around(at) {
                let fall = (own - filled_zx[next as usize]) / reach;
                if fall > steepest {
                    steepest = fall;
                    receiver[at as usize] = next;
                }
            }
        }
        Ok(Self { filled_zx, receiver, order })
    }

    /// All samples, each after the one that it gives to.
    pub fn upwards(&self) -> impl Iterator<Item = u32> + '_ {
        self.order.iter().copied()
    }

    /// Plan area that drains through each sample, its own included, m2. Water is shared among all lower neighbours;
    /// on level ground it goes to the receiver.
    pub fn catchment_m2(&self, terrain: &Terrain) -> Vec<f32> {
        let grid = Grid::new(terrain);
        let cell = terrain.cell_m();
        let mut area = vec![f64::from(cell.x) * f64::from(cell.y); self.order.len()];
        for &at in self.order.iter().rev() {
            let to = self.receiver[at as usize];
            if to == at {
                continue;
            }
            let own = self.filled_zx[at as usize];
            let lower = || {
                grid.around(at).filter_map(|(next, reach, corner)| {
                    let fall = own - self.filled_zx[next as usize];
                    (fall > 0.0).then(|| (next, fall / reach * if corner { 0.354 } else { 0.5 }))
                })
            };
            let whole: f32 = lower().map(|(_, share)| share).sum();
            let given = area[at as usize];
            if whole > 0.0 {
                for (next, share) in lower() {
                    area[next as usize] += given * f64::from(share / whole);
                }
            } else {
                area[to as usize] += given;
            }
        }
        area.into_iter().map(|a| a as f32).collect()
    }
}

/// A number that sorts like the float.
fn sortable(v: f32) -> u32 {
    let bits = v.to_bits();
    if bits >> 31 == 1 { !bits } else { bits | 1 << 31 }
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::Vec2;
    use proptest::prelude::*;

    fn flow(t: &Terrain) -> Flow {
        Flow::over(t, &CancelToken::default()).unwrap()
    }

    /// A grid worked by hand: each inner sample runs to the neighbour with the largest fall for its distance.
    #[test]
    fn receivers_are_those_of_a_hand_worked_grid() {
        #[rustfmt::skip]
        let heights = vec![
            78., 72., 69., 71., 58.,
            74., 67., 56., 49., 46.,
            69., 53., 44., 37., 38.,
            64., 58., 55., 22., 31.,
            68., 61., 47., 21., 16.,
        ];
        let t = Terrain::new(5, 5, Vec2::ONE, heights).unwrap();
        let f = flow(&t);
        // From 67 to 44: 23 / 1.41 = 16.3 beats 14 to the south. From 56 to 37: 19 / 1.41 = 13.4 beats 12 to the south. From
        // 58 to 44: 14 / 1.41 = 9.9 beats 7.8, 5 and 3.
        let expected =
            [(6, 12), (7, 13), (8, 13), (11, 12), (12, 18), (13, 18), (16, 12), (17, 18), (18, 24)];
        for (from, to) in expected {
            assert_eq!(f.receiver[from], to, "sample {from}");
        }
    }

    #[test]
    fn a_hollow_fills_to_its_rim_and_drains_over_it() {
        let n = 9;
        let mut heights: Vec<f32> = (0..n * n).map(|i| 10.0 - (i % n) as f32 * 0.1).collect();
        heights[4 * n + 4] = 2.0;
        heights[4 * n + 3] = 3.0;
        let t = Terrain::new(n, n, Vec2::ONE, heights).unwrap();
        let f = flow(&t);
        assert_eq!(f.filled_zx[4 * n + 4], 9.5);
        let mut at = (4 * n + 4) as u32;
        for _ in 0..n * n {
            at = f.receiver[at as usize];
        }
        assert_eq!(f.receiver[at as usize], at, "its water reaches the border");
    }

    /// Closed form on a plane: the area above a sample is the strip up to the ridge.
    #[test]
    fn on_a_plane_the_catchment_is_the_strip_above() {
        let n = 12;
        let t = Terrain::new(n, n, Vec2::splat(3.0), (0..n * n).map(|i| (i / n) as f32 * -0.5).collect())
            .unwrap();
        let area = flow(&t).catchment_m2(&t);
        // Shares to the south-east and south-west cancel away from the sides.
        for row in 2..4 {
            let got = area[row * n + 6];
            // The north border gives nothing on: water leaves there.
            let expected = row as f32 * 9.0;
            assert!((got - expected).abs() < 1e-2, "row {row}: {got}, not {expected}");
        }
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(32))]

        /// Nothing is lost: what leaves over the border is the whole plan.
        #[test]
        fn all_water_leaves(heights in proptest::collection::vec(0_u8..30, 144)) {
            let t = Terrain::new(12, 12, Vec2::new(2.0, 1.5), heights.iter().map(|h| f32::from(*h)).collect()).unwrap();
            let f = flow(&t);
            let area = f.catchment_m2(&t);
            let leaves: f32 = (0..144).filter(|i| f.receiver[*i] == *i as u32).map(|i| area[i]).sum();
            prop_assert!((leaves - 144.0 * 3.0).abs() < 0.05, "{leaves}");
        }
    }
}
