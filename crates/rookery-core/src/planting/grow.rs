//! The pipeline from a layer's settings to its plants.

use super::{Place, PlantId, Reason, Refused, Tally, stand};
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::{GroundModel, Surface};
use crate::habitat::{Rules, shares};
use crate::math::hash::{Channel, draw, unit};
use crate::measure::grouped;
use crate::nursery;
use crate::scene::{Amount, GroundId, Layer, Mask, Pattern};
use glam::{Quat, Vec3};
use rayon::prelude::*;
use thiserror::Error;

/// The most places one layer may look at; keeps memory under about 2 GB.
pub const MAX_CANDIDATES: u64 = 30_000_000;

/// One placed individual.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Plant {
    /// Lasting name within the layer and the ground it grows on.
    pub id: PlantId,
    /// The ground it grows on.
    pub ground: GroundId,
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
        "its amount means looking at {} places, more than the limit of {}; lower the amount or use a smaller ground", grouped(*candidates), grouped(*limit)
    )]
    TooMany {
        /// Places needed.
        candidates: u64,
        /// The most for this pattern on this ground.
        limit: u64,
    },
}

/// Grows a layer without zones on a terrain from nothing. See [`grow_with`].
///
/// # Errors
/// [`GrowError`].
pub fn grow(ground: &GroundModel, layer: &Layer, cancel: &CancelToken) -> Result<Growth, GrowError> {
    grow_with(ground, layer, &Rules::plain(&layer.masks), &mut ground.no_even_places(layer.seed), cancel)
}

/// Grows a layer on one ground, in that ground's own frame. `rules` must be the masks of this layer on this ground, and
/// `even` the even places of this layer's seed on it; they are kept by callers who grow again and again, so that only what
/// is new is computed.
///
/// The result is the same on any number of threads.
///
/// # Errors
/// [`GrowError`].
pub fn grow_with<S: Surface>(
    ground: &S,
    layer: &Layer,
    rules: &Rules,
    even: &mut S::Even,
    cancel: &CancelToken,
) -> Result<Growth, GrowError> {
    let shares = shares(ground, rules);
    let area = ground.area_m2();
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
    let limit = ground.most_places(layer.pattern);
    if shares.allowed_m2 <= 0.0 && looked_at > limit {
        looked_at = 0;
    }
    let sieve = loop {
        if looked_at > limit {
            return Err(GrowError::TooMany { candidates: looked_at, limit });
        }
        let sieve = Sieve::new(ground, layer, rules, even, looked_at as usize, cancel)?;
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

/// Candidates with the mask that refused each, or [`STANDS`].
struct Sieve<P> {
    candidates: Vec<P>,
    verdicts: Vec<u8>,
    standing: usize,
}

const STANDS: u8 = u8::MAX;
const CHUNK: usize = 4096;

impl<P: Place> Sieve<P> {
    fn new<S: Surface<Place = P>>(
        ground: &S,
        layer: &Layer,
        rules: &Rules,
        even: &mut S::Even,
        count: usize,
        cancel: &CancelToken,
    ) -> Result<Self, Cancelled> {
        let candidates = match layer.pattern {
            Pattern::Random => ground.random_places(layer.seed, count),
            Pattern::Even => ground.even_places(even, count, cancel)?,
        };
        let mut verdicts = vec![STANDS; candidates.len()];
        verdicts.par_chunks_mut(CHUNK).zip(candidates.par_chunks(CHUNK)).for_each(|(out, places)| {
            if !cancel.is_cancelled() {
                for (verdict, place) in out.iter_mut().zip(places) {
                    *verdict = refusing_mask(ground, layer.seed, rules, place);
                }
            }
        });
        if cancel.is_cancelled() {
            return Err(Cancelled);
        }
        let standing = verdicts.par_iter().filter(|&&v| v == STANDS).count();
        Ok(Self { candidates, verdicts, standing })
    }

    /// The last candidate within `limit` standing ones, in order of appearance; none when there are fewer.
    fn last_within(&self, limit: usize) -> Option<P> {
        if self.standing <= limit || limit == 0 {
            return None;
        }
        let mut standing: Vec<P> = self
            .candidates
            .iter()
            .zip(&self.verdicts)
            .filter_map(|(c, &v)| (v == STANDS).then_some(*c))
            .collect();
        Some(*standing.select_nth_unstable_by(limit - 1, P::order).1)
    }

    /// Applies the total and the cap, stands the plants and counts the rest.
    fn settle<S: Surface<Place = P>>(
        self,
        ground: &S,
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
            .par_chunks(CHUNK)
            .zip(self.verdicts.par_chunks(CHUNK))
            .map(|(places, verdicts)| {
                let mut plants = Vec::new();
                let mut fallen = vec![0_u64; layer.masks.len() + 1];
                if cancel.is_cancelled() {
                    return (plants, fallen);
                }
                for (place, &verdict) in places.iter().zip(verdicts) {
                    let past = |limit: &Option<P>| limit.is_some_and(|l| place.order(&l).is_gt());
                    if none || past(&end) {
                        continue;
                    }
                    if verdict != STANDS {
                        fallen[usize::from(verdict)] += 1;
                    } else if past(&capped) {
                        fallen[layer.masks.len()] += 1;
                    } else {
                        let footing = ground.footing(&ground.spot(place));
                        plants.push(stand(layer.seed, place.id(), &footing, &layer.stance, forms));
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
fn refusing_mask<S: Surface>(ground: &S, seed: u32, rules: &Rules, place: &S::Place) -> u8 {
    let own = unit(draw(seed, place.id().0, Channel::Mask)[0]);
    let spot = ground.spot(place);
    let mut product = 1.0;
    for i in 0..rules.count() {
        product *= rules.value(i, ground, &spot);
        if own >= product {
            return i as u8;
        }
    }
    STANDS
}
