//! Places in clumps: a Thomas process.
//!
//! Source: Thomas, "A Generalization of Poisson's Binomial Limit for Use in Ecology", Biometrika 36, 1949: middles at random, a
//! Poisson number of places about each, normally spread.

use super::random::up_to_density;
use super::{Candidate, Place};
use crate::document::Clumps;
use crate::math::hash::{Channel, draw, unit};
use crate::names::PlantId;
use glam::Vec2;
use rayon::prelude::*;

/// Levels of names from here on belong to places in clumps; random and even places use others.
const LEVEL: u64 = 128;
/// Places of one clump, at most.
const MOST: u32 = 1600;
/// Clumps whose middles lie farther than this beside the ground hardly reach it, in standard deviations.
const BESIDE: f32 = 3.5;

/// How many places a clump has: a Poisson number by its own draw.
pub fn clump_size(seed: u32, clump: u64, mean: f32) -> u32 {
    let u = unit(draw(seed, clump, Channel::Clump)[0]);
    if mean > 60.0 {
        // A normal number is near enough, by the inverse of Winitzki's approximation of the error function.
        let x = 2.0 * u - 1.0;
        let l = libm::logf((1.0 - x * x).max(1e-7));
        let a = 0.147_f32;
        let t = 2.0 / (std::f32::consts::PI * a) + l * 0.5;
        let z = ((t * t - l / a).sqrt() - t).max(0.0).sqrt().copysign(x) * std::f32::consts::SQRT_2;
        return (mean + mean.sqrt() * z).round().clamp(0.0, MOST as f32) as u32;
    }
    let mut share = libm::expf(-mean);
    let mut sum = share;
    let mut n = 0;
    while u > sum && n < MOST {
        n += 1;
        share *= mean / n as f32;
        sum += share;
    }
    n
}

/// The name of a place in a clump.
pub fn name_in(clump: PlantId, place: u32) -> PlantId {
    // The blocks stay; the clump's own number and the place share the rest.
    let blocks = clump.0 & 0x00FF_FFFF_FFFF_0000;
    let index = (clump.0 & 0xFFF) << 4 | u64::from(place & 15);
    PlantId((LEVEL + u64::from(place >> 4)) << 56 | blocks | index)
}

/// Where a place lies from the middle of its clump, in standard deviations: a normal number each way (Box & Muller 1958).
pub fn offset(seed: u32, id: PlantId) -> Vec2 {
    let [u, v, ..] = draw(seed, id.0, Channel::Place);
    let r = (-2.0 * libm::logf(1.0 - unit(u))).sqrt();
    let (s, c) = libm::sincosf(unit(v) * std::f32::consts::TAU);
    Vec2::new(c, s) * r
}

/// The first `count` candidates in clumps on a ground of this size, in no particular order; those for a smaller count are all
/// among them. A larger count adds clumps and finishes the last one.
pub fn clumped_candidates(seed: u32, size_m: Vec2, clumps: &Clumps, count: usize) -> Vec<Candidate> {
    if count == 0 {
        return Vec::new();
    }
    let sigma = clumps.sigma_m();
    let half = size_m * 0.5;
    let around = size_m + 2.0 * BESIDE * sigma;
    let area = f64::from(size_m.x) * f64::from(size_m.y);
    let wanted = count as f64 / f64::from(clumps.plants);
    let mut expected = wanted + 5.0 * wanted.sqrt() + 4.0;
    loop {
        let middles = up_to_density(seed, around, (expected / area) as f32);
        let mut candidates: Vec<Candidate> = middles
            .par_iter()
            .filter(|m| m.id.0 & 0xFFFF < 0x1000)
            .flat_map_iter(|m| {
                (0..clump_size(seed, m.id.0, clumps.plants)).map(move |k| {
                    let id = name_in(m.id, k);
                    let at = offset(seed, id) * sigma;
                    Candidate { x: m.x + at.x, z: m.z + at.y, birth: m.birth, id }
                })
            })
            .filter(|c| c.x.abs() <= half.x && c.z.abs() <= half.y)
            .collect();
        if candidates.len() >= count || expected > area * 60.0 {
            if candidates.len() > count {
                candidates.select_nth_unstable_by(count - 1, Candidate::order);
                candidates.truncate(count);
            }
            return candidates;
        }
        expected *= 1.3;
    }
}
