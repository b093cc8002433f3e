//! The pipeline from a layer's settings to its plants.

use super::pattern::{EvenPattern, random_candidates};
use super::{Candidate, PlantId, Reason, Refused, Tally, stand};
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::GroundModel;
use crate::habitat::{mask_at, shares};
use crate::math::hash::{Channel, draw, unit};
use crate::measure::grouped;
use crate::nursery;
use crate::scene::{Amount, Layer, Mask, Pattern};
use glam::{Quat, Vec3};
use rayon::prelude::*;
use thiserror::Error;

/// The most places one layer may look at; keeps memory under about 2 GB.
pub const MAX_CANDIDATES: u64 = 30_000_000;

/// One placed individual.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Plant {
    /// Lasting name within the layer.
    pub id: PlantId,
    /// Its base point, metres.
    pub position_m: Vec3,
    /// From its own frame (Y along the stem) to the scene.
    pub rotation: Quat,
    /// Against the species' full size.
    pub size: f32,
    /// Which individual of the species.
    pub form: u16,
    /// A number of its own for colour, 0 to 65535.
    pub tint: u16,
}

/// A grown layer.
#[derive(Clone, Debug)]
pub struct Growth {
    /// In an order that depends on the settings only.
    pub plants: Vec<Plant>,
    /// The account.
    pub tally: Tally,
}

/// Why a layer cannot be grown.
#[derive(Clone, Copy, Debug, PartialEq, Error)]
pub enum GrowError {
    /// It was stopped.
    #[error(transparent)]
    Cancelled(#[from] Cancelled),
    /// The amount asks for more places than fit in memory.
    #[error(
        "its amount means looking at {} places, more than the limit of {}; lower the amount or use a smaller ground", grouped(*candidates), grouped(MAX_CANDIDATES)
    )]
    TooMany {
        /// Places needed.
        candidates: u64,
    },
}

/// Grows a layer from nothing. See [`grow_with`].
///
/// # Errors
/// [`GrowError`].
pub fn grow(ground: &GroundModel, layer: &Layer, cancel: &CancelToken) -> Result<Growth, GrowError> {
    let mut even = EvenPattern::new(layer.seed, ground.terrain.size_m());
    grow_with(ground, layer, &mut even, cancel)
}

/// Grows a layer. `even` must be the pattern of this layer's seed and this ground's size; it is kept by callers who
/// grow again and again, so that only what is new is computed.
///
/// The result is the same on any number of threads.
///
/// # Errors
/// [`GrowError`].
pub fn grow_with(
    ground: &GroundModel,
    layer: &Layer,
    even: &mut EvenPattern,
    cancel: &CancelToken,
) -> Result<Growth, GrowError> {
    let shares = shares(ground, &layer.masks);
    let area = f64::from(ground.terrain.plan_area_m2());
    let asked = match layer.amount {
        Amount::PerM2 { value } => (f64::from(value) * shares.allowed_m2).round() as u64,
        Amount::Total { value } => u64::from(value),
    };
    let mut looked_at = match layer.amount {
        Amount::PerM2 { value } => (f64::from(value) * area).round() as u64,
        Amount::Total { value } => {
            (f64::from(value) * area / shares.allowed_m2.max(area * 1e-4)).ceil() as u64
        }
    };
    // Where the masks let nothing through there is nothing to look for, however large the ground.
    if shares.allowed_m2 <= 0.0 && looked_at > MAX_CANDIDATES {
        looked_at = 0;
    }
    let sieve = loop {
        if looked_at > MAX_CANDIDATES {
            return Err(GrowError::TooMany { candidates: looked_at });
        }
        let sieve = Sieve::new(ground, layer, even, looked_at as usize, cancel)?;
        let Amount::Total { value } = layer.amount else { break sieve };
        let short = (value as usize).saturating_sub(sieve.standing);
        if short == 0 || sieve.standing == 0 || shares.allowed_m2 <= 0.0 {
            break sieve;
        }
        let more = short as f64 / sieve.standing as f64 * looked_at as f64 * 1.05 + 16.0;
        looked_at += more as u64;
    };
    let (plants, candidates, refused) = sieve.settle(ground, layer, cancel)?;
    let tally = Tally {
        asked,
        placed: plants.len() as u64,
        candidates,
        refused,
        ground_m2: area,
        allowed_m2: shares.allowed_m2,
        mask_shares: shares.each.iter().map(|s| s.share).collect(),
    };
    Ok(Growth { plants, tally })
}

/// Candidates with the mask that refused each, or [`Sieve::STANDS`].
struct Sieve {
    candidates: Vec<Candidate>,
    verdicts: Vec<u8>,
    standing: usize,
}

impl Sieve {
    const STANDS: u8 = u8::MAX;
    const CHUNK: usize = 4096;

    fn new(
        ground: &GroundModel,
        layer: &Layer,
        even: &mut EvenPattern,
        count: usize,
        cancel: &CancelToken,
    ) -> Result<Self, Cancelled> {
        let candidates = match layer.pattern {
            Pattern::Random => random_candidates(layer.seed, ground.terrain.size_m(), count),
            Pattern::Even => even.first(count, cancel)?.to_vec(),
        };
        let mut verdicts = vec![Self::STANDS; candidates.len()];
        verdicts.par_chunks_mut(Self::CHUNK).zip(candidates.par_chunks(Self::CHUNK)).for_each(
            |(out, places)| {
                if !cancel.is_cancelled() {
                    for (verdict, place) in out.iter_mut().zip(places) {
                        *verdict = refusing_mask(ground, layer, place);
                    }
                }
            },
        );
        if cancel.is_cancelled() {
            return Err(Cancelled);
        }
        let standing = verdicts.par_iter().filter(|&&v| v == Self::STANDS).count();
        Ok(Self { candidates, verdicts, standing })
    }

    /// The last candidate within `limit` standing ones, in order of appearance; none when there are fewer.
    fn last_within(&self, limit: usize) -> Option<Candidate> {
        if self.standing <= limit || limit == 0 {
            return None;
        }
        let mut standing: Vec<Candidate> = self
            .candidates
            .iter()
            .zip(&self.verdicts)
            .filter_map(|(c, &v)| (v == Self::STANDS).then_some(*c))
            .collect();
        Some(*standing.select_nth_unstable_by(limit - 1, Candidate::order).1)
    }

    /// Applies the total and the cap, stands the plants and counts the rest.
    fn settle(
        self,
        ground: &GroundModel,
        layer: &Layer,
        cancel: &CancelToken,
    ) -> Result<(Vec<Plant>, u64, Vec<Refused>), Cancelled> {
        let total = match layer.amount {
            Amount::Total { value } => value as usize,
            Amount::PerM2 { .. } => usize::MAX,
        };
        let end = self.last_within(total);
        let capped = self.last_within((layer.cap as usize).min(total));
        let forms = nursery::species(&layer.species).map_or(1, |s| s.forms);
        let none = total == 0;
        let parts: Vec<(Vec<Plant>, Vec<u64>)> = self
            .candidates
            .par_chunks(Self::CHUNK)
            .zip(self.verdicts.par_chunks(Self::CHUNK))
            .map(|(places, verdicts)| {
                let mut plants = Vec::new();
                let mut fallen = vec![0_u64; layer.masks.len() + 1];
                if cancel.is_cancelled() {
                    return (plants, fallen);
                }
                for (place, &verdict) in places.iter().zip(verdicts) {
                    let past = |limit: &Option<Candidate>| limit.is_some_and(|l| place.order(&l).is_gt());
                    if none || past(&end) {
                        continue;
                    }
                    if verdict != Self::STANDS {
                        fallen[usize::from(verdict)] += 1;
                    } else if past(&capped) {
                        fallen[layer.masks.len()] += 1;
                    } else {
                        let p = ground.terrain.locate(place.x, place.z);
                        let (y, normal) = (ground.terrain.height_in(p), ground.terrain.normal_in(p));
                        plants.push(stand(layer.seed, place, y, normal, &layer.stance, forms));
                    }
                }
                (plants, fallen)
            })
            .collect();
        if cancel.is_cancelled() {
            return Err(Cancelled);
        }
        let count = |i: usize| parts.iter().map(|(_, fallen)| fallen[i]).sum::<u64>();
        let reason = |m: &Mask| Reason::Mask { id: m.id, quantity: m.quantity };
        let mut refused: Vec<Refused> = layer
            .masks
            .iter()
            .enumerate()
            .map(|(i, m)| Refused { reason: reason(m), count: count(i) })
            .collect();
        refused.push(Refused { reason: Reason::Cap, count: count(layer.masks.len()) });
        let mut plants = Vec::with_capacity(parts.iter().map(|(p, _)| p.len()).sum());
        for (part, _) in parts {
            plants.extend(part);
        }
        let candidates = plants.len() as u64 + refused.iter().map(|r| r.count).sum::<u64>();
        Ok((plants, candidates, refused))
    }
}

/// The first mask at which the product falls to the candidate's own number or below.
///
/// The number belongs to the candidate alone, so a plant stays or goes only when its own mask values change.
#[inline]
fn refusing_mask(ground: &GroundModel, layer: &Layer, place: &Candidate) -> u8 {
    let own = unit(draw(layer.seed, place.id.0, Channel::Mask)[0]);
    let p = ground.terrain.locate(place.x, place.z);
    let mut product = 1.0;
    for (i, mask) in layer.masks.iter().enumerate() {
        product *= mask_at(ground, mask, p);
        if own >= product {
            return i as u8;
        }
    }
    Sieve::STANDS
}
