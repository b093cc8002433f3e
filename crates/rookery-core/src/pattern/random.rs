//! Places that know nothing of one another: a Poisson process, thinned to an exact count.

use super::{Candidate, Place};
use crate::math::hash::{Channel, draw, unit};
use crate::names::PlantId;
use glam::Vec2;
use rayon::prelude::*;

/// Side of a patch, metres. Small, so that 65,536 candidates a patch reach 1000 per m2 with room to spare.
const PATCH_M: f32 = 8.0;

/// The level in [`PlantId`]; the even pattern uses smaller ones.
const LEVEL: u8 = 255;

/// The first `count` candidates on a ground of this size, centred on the origin, in no particular order.
///
/// In each patch candidates arrive with exponential gaps of density, so that any share of them is a Poisson
/// process; the `count` earliest over the whole ground are kept. Candidates for a smaller count are all among
/// those for a larger one, at the same places.
pub fn random_candidates(seed: u32, size_m: Vec2, count: usize) -> Vec<Candidate> {
    if count == 0 {
        return Vec::new();
    }
    let area = f64::from(size_m.x) * f64::from(size_m.y);
    // Five standard deviations more than wanted nearly always hold enough; otherwise look further.
    let mut expected = count as f64 + 5.0 * (count as f64).sqrt() + 8.0;
    loop {
        let mut candidates = up_to_density(seed, size_m, (expected / area) as f32);
        if candidates.len() >= count {
            if candidates.len() > count {
                candidates.select_nth_unstable_by(count - 1, Candidate::order);
                candidates.truncate(count);
            }
            return candidates;
        }
        expected *= 1.25;
    }
}

pub(super) fn up_to_density(seed: u32, size_m: Vec2, density: f32) -> Vec<Candidate> {
    let half = size_m * 0.5;
    let first = (-half / PATCH_M).floor().as_ivec2();
    let last = (half / PATCH_M).ceil().as_ivec2();
    (first.y..last.y)
        .into_par_iter()
        .flat_map_iter(|bz| (first.x..last.x).flat_map(move |bx| patch(seed, bx, bz, density)))
        .filter(|c| c.x.abs() <= half.x && c.z.abs() <= half.y)
        .collect()
}

fn patch(seed: u32, bx: i32, bz: i32, density: f32) -> impl Iterator<Item = Candidate> {
    let mut birth = 0.0_f32;
    (0..=u16::MAX).map_while(move |index| {
        let id = PlantId::pack(LEVEL, bx, bz, index);
        let [u, v, gap, _] = draw(seed, id.0, Channel::Place);
        birth -= libm::logf(1.0 - unit(gap)) / (PATCH_M * PATCH_M);
        let place = |block: i32, u: u32| (block as f32 + unit(u)) * PATCH_M;
        (birth <= density).then(|| Candidate { x: place(bx, u), z: place(bz, v), birth, id })
    })
}
