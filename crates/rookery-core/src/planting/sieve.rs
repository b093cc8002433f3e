//! From places to plants: the masks, the total and the cap, and the account of what fell.

use super::clearance::Index;
use super::pattern::{Layout, laid_out};
use super::{GrowError, Growth, Place, Plant, Reason, Refused, Strewn, Tally, amount_in, per_m2};
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::{Quota, Surface};
use crate::habitat::{Allowed, Driven, LookedAt, Rules, SurveyedRun};
use crate::math::hash::{Channel, draw, unit};
use crate::scene::{Amount, Layer, Mask, Pattern};
use rayon::prelude::*;
use std::any::Any;
use std::ops::Range;
use std::sync::Arc;

pub(super) const STANDS: u16 = u16::MAX;
pub(super) const CHUNK: usize = 4096;

/// What growing again near a change starts from.
#[derive(Clone, Debug, Default)]
pub(super) struct Kept {
    pub runs: Vec<SurveyedRun>,
    /// Of every place looked at, in the order of the pattern.
    pub verdicts: Vec<u16>,
    /// Whether every standing place became a plant: neither the total nor the cap cut anything off.
    pub whole: bool,
    /// The places themselves, as a list of the ground's own kind, shared with what grows from this.
    pub places: Option<Arc<dyn Any + Send + Sync>>,
    /// Where the plants come from, after an earlier growth.
    pub spans: Option<Vec<Span>>,
    /// Where the places lie, once that was asked.
    pub index: Option<Index>,
    /// The farthest any plant keeps its own kind away, metres.
    pub widest_m: f32,
    /// What the mask whose curve was drawn last looks at.
    pub looked_at: Option<Arc<LookedAt>>,
}

/// An earlier growth of the same layer, most of which still holds.
pub(super) struct Before<'a, P> {
    pub verdicts: &'a [u16],
    /// The places themselves.
    pub places: Option<Arc<dyn Any + Send + Sync>>,
    /// The plants of all standing places, in their order, where neither the total nor the cap cut anything off.
    pub plants: Option<&'a [Plant]>,
    /// Where the places lie, where that is known.
    pub index: Option<Index>,
    /// The farthest any plant kept its own kind away, metres.
    pub widest_m: f32,
    /// Whether nothing changed at a place, which is named by its number among the candidates too.
    pub stays: &'a (dyn Fn(usize, &P) -> bool + Sync),
}

impl<'a, P> Before<'a, P> {
    /// What a growth is started from again.
    pub fn new(before: &'a Growth, stays: &'a (dyn Fn(usize, &P) -> bool + Sync)) -> Self {
        let kept = &before.kept;
        Self {
            verdicts: &kept.verdicts,
            places: kept.places.clone(),
            plants: kept.whole.then_some(before.plants.as_slice()),
            index: kept.index.clone(),
            widest_m: kept.widest_m,
            stays,
        }
    }
}

/// Growing one layer on one ground.
pub(super) struct Work<'a, S: Surface> {
    pub ground: &'a S,
    pub layer: &'a Layer,
    pub rules: &'a Rules,
    pub before: Option<Before<'a, S::Place>>,
    /// What drifts strew; empty until it was looked for.
    pub strewn: Strewn,
    pub cancel: &'a CancelToken,
}

/// Candidates with the place of the reason that refused each among all reasons, or [`STANDS`].
pub(super) struct Sieve<P> {
    pub candidates: Arc<Vec<P>>,
    pub verdicts: Vec<u16>,
    pub standing: usize,
    /// By run of candidates: whether anything may have changed in it since before.
    pub touched: Vec<bool>,
    /// Where the places lie, once that was asked.
    pub index: Option<Index>,
    /// The farthest any plant keeps its own kind away, metres.
    pub widest_m: f32,
}

/// What all candidates came to.
struct Settled {
    plants: Vec<Plant>,
    refused: Vec<Refused>,
    /// Where the plants come from, after an earlier growth.
    spans: Option<Vec<Span>>,
}

/// Plants in a row that were there before, then some that were not.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Span {
    /// Their places among the plants of before.
    pub kept: Range<usize>,
    /// How many follow that are new or stand anew.
    pub grown: usize,
}

/// Plants of a run of candidates, in their order.
enum Piece {
    /// Taken from those of before.
    Kept(Range<usize>),
    /// Stood anew.
    Grown(Vec<Plant>),
}

impl Piece {
    fn len(&self) -> usize {
        match self {
            Self::Kept(range) => range.len(),
            Self::Grown(plants) => plants.len(),
        }
    }
}

/// What a run of candidates came to.
struct Part {
    pieces: Vec<Piece>,
    /// Fallen by mask, then for want of room, then by the cap.
    fallen: Vec<u64>,
}

impl Part {
    fn keep(&mut self, at: usize) {
        match self.pieces.last_mut() {
            Some(Piece::Kept(range)) if range.end == at => range.end += 1,
            _ => self.pieces.push(Piece::Kept(at..at + 1)),
        }
    }

    /// `room` is how many may follow.
    fn grow(&mut self, plant: Plant, room: usize) {
        if let Some(Piece::Grown(plants)) = self.pieces.last_mut() {
            plants.push(plant);
            return;
        }
        let mut plants = Vec::with_capacity(if self.pieces.is_empty() { room } else { 4 });
        plants.push(plant);
        self.pieces.push(Piece::Grown(plants));
    }
}

impl<S: Surface> Work<'_, S> {
    /// Grows from a survey of the ground.
    pub fn grow(&self, even: &mut S::Even, runs: Vec<SurveyedRun>) -> Result<Growth, GrowError> {
        let (ground, layer) = (self.ground, self.layer);
        let area = ground.area_m2();
        let shares = Allowed::together(&runs, self.rules.count(), area);
        let density = per_m2(layer, self.rules.crown()).map_or(0.0, f64::from);
        let asked = |shares: &Allowed| match layer.amount {
            Amount::Total { value } => u64::from(value),
            _ => (density * shares.allowed_m2).round() as u64,
        };
        let mut looked_at = match layer.amount {
            Amount::Total { value } => {
                (f64::from(value) * area / shares.allowed_m2.max(area * 1e-4)).ceil() as u64
            }
            _ => (density * area).round() as u64,
        };
        let mut room = None;
        if let Some(layout) = laid_out(layer, self.rules) {
            let (places, full) = self.lay(&layout, density)?;
            looked_at = places.len() as u64;
            room = Some(full);
            let mut sieve = self.judge(Arc::new(places))?;
            self.clear(&mut sieve)?;
            let asked = if layer.pattern == Pattern::Along && !matches!(layer.amount, Amount::Total { .. }) {
                looked_at
            } else {
                asked(&shares)
            };
            return self.account(sieve, runs, &shares, asked, room);
        }
        // Where the masks let nothing through there is nothing to look for, however large the ground.
        let limit = ground.most_places(layer.pattern);
        if shares.allowed_m2 <= 0.0 && looked_at > limit {
            looked_at = 0;
        }
        // Where plants keep clear of one another only so many fit, however many places are looked at.
        let crowded = if self.rules.clear().is_off() && self.rules.tending().is_none() {
            u64::MAX
        } else {
            looked_at.saturating_mul(16).min(limit)
        };
        // In clumps places are together what they are not alone.
        let alone = layer.pattern != Pattern::Clumped;
        let (sieve, shares) = loop {
            if looked_at > limit {
                return Err(GrowError::TooMany { candidates: looked_at, limit });
            }
            let per_m2 = (!matches!(layer.amount, Amount::Total { .. })).then_some(density);
            let mut sieve = self.sieve(even, Quota { count: looked_at as usize, per_m2 })?;
            let known = match alone {
                true => shares.clone().and(sieve.candidates.len(), self.passing(&sieve.verdicts), area),
                false => shares.clone(),
            };
            self.clear(&mut sieve)?;
            let Amount::Total { value } = layer.amount else { break (sieve, known) };
            let short = (value as usize).saturating_sub(sieve.standing);
            if short == 0 || sieve.standing == 0 || shares.allowed_m2 <= 0.0 || looked_at >= crowded {
                break (sieve, known);
            }
            let more = short as f64 / sieve.standing as f64 * looked_at as f64 * 1.05 + 16.0;
            looked_at = (looked_at + more as u64).min(crowded);
        };
        let asked = asked(&shares);
        self.account(sieve, runs, &shares, asked, room)
    }

    fn account(
        &self,
        sieve: Sieve<S::Place>,
        runs: Vec<SurveyedRun>,
        shares: &Allowed,
        asked: u64,
        room: Option<u64>,
    ) -> Result<Growth, GrowError> {
        let layer = self.layer;
        let Settled { mut plants, mut refused, mut spans } = self.settle(&sieve)?;
        let whole = plants.len() == sieve.standing;
        // Those strewn and set by hand come last: no total and no cap takes them.
        let grown = plants.len();
        plants.extend(&self.strewn.plants);
        let in_drifts = plants.len() - grown;
        for (refused, fallen) in refused[layer.masks.len()..].iter_mut().zip(&self.strewn.fallen) {
            refused.count += fallen;
        }
        plants.extend(self.rules.tending().plants(self.ground, self.rules.mix()));
        let by_hand = plants.len() - grown - in_drifts;
        if let Some(spans) = &mut spans
            && plants.len() > grown
        {
            spans.push(Span { kept: 0..0, grown: plants.len() - grown });
        }
        let tally = Tally {
            asked,
            cap: layer.cap,
            room,
            amount: amount_in(layer, self.rules.crown(), shares.allowed_m2),
            placed: plants.len() as u64,
            by_hand: by_hand as u64,
            in_drifts: in_drifts as u64,
            candidates: plants.len() as u64 + refused.iter().map(|r| r.count).sum::<u64>(),
            refused,
            ground_m2: self.ground.area_m2(),
            allowed_m2: shares.allowed_m2,
            mask_shares: shares.each.iter().map(|s| s.share).collect(),
        };
        let (widest_m, index) = (sieve.widest_m, sieve.index);
        let places = Some(sieve.candidates as Arc<dyn Any + Send + Sync>);
        let kept =
            Kept { runs, whole, verdicts: sieve.verdicts, places, spans, index, widest_m, looked_at: None };
        Ok(Growth { plants, tally, kept, since: None })
    }

    /// All places of a layout up to a share of them, with how many there are in all. A total looks at all of them.
    fn lay(&self, layout: &Layout<'_>, density: f64) -> Result<(Vec<S::Place>, u64), GrowError> {
        let limit = super::MAX_CANDIDATES;
        let expected = layout.expected(self.ground.area_m2());
        if expected > limit {
            return Err(GrowError::TooMany { candidates: expected, limit });
        }
        let per_m2 = (!matches!(self.layer.amount, Amount::Total { .. })).then_some(density);
        Ok(self.ground.laid_places(self.layer.seed, layout, per_m2))
    }

    /// The earlier growth, where its places are those of now: random ones of another count come in another order, even
    /// ones never do.
    pub(super) fn before(&self, count: usize) -> Option<&Before<'_, S::Place>> {
        self.before.as_ref().filter(|b| self.layer.pattern == Pattern::Even || b.verdicts.len() == count)
    }

    fn sieve(&self, even: &mut S::Even, quota: Quota) -> Result<Sieve<S::Place>, Cancelled> {
        // As many as before are the same ones.
        if let Some(known) =
            self.before.as_ref().and_then(|b| b.places.clone()?.downcast::<Vec<S::Place>>().ok())
            && known.len() == quota.count
        {
            return self.judge(known);
        }
        let candidates = match self.layer.pattern {
            Pattern::Random => self.ground.random_places(self.layer.seed, quota),
            Pattern::Clumped => self.ground.clumped_places(self.layer.seed, &self.layer.clumps, quota),
            Pattern::Even => self.ground.even_places(even, quota, self.cancel)?,
            Pattern::Rows | Pattern::Along | Pattern::Vertices | Pattern::Faces => Vec::new(),
        };
        self.judge(Arc::new(candidates))
    }

    /// Asks the masks about every place.
    fn judge(&self, candidates: Arc<Vec<S::Place>>) -> Result<Sieve<S::Place>, Cancelled> {
        let before = self.before(candidates.len());
        let mut verdicts = vec![STANDS; candidates.len()];
        let mut touched = vec![true; candidates.len().div_ceil(CHUNK)];
        let chunks = verdicts.par_chunks_mut(CHUNK).zip(candidates.par_chunks(CHUNK)).zip(&mut touched);
        let standing = chunks.enumerate().map(|(chunk, ((out, places), touched))| {
            if self.cancel.is_cancelled() {
                return 0;
            }
            let known = before.map_or(0, |b| b.verdicts.len().saturating_sub(chunk * CHUNK)).min(out.len());
            let (earlier, fresh) = out.split_at_mut(known);
            *touched = !fresh.is_empty();
            if let Some(b) = before.filter(|_| known > 0) {
                earlier.copy_from_slice(&b.verdicts[chunk * CHUNK..chunk * CHUNK + known]);
                for (i, (verdict, place)) in earlier.iter_mut().zip(places).enumerate() {
                    if !(b.stays)(chunk * CHUNK + i, place) {
                        *verdict = self.refusing_mask(place);
                        *touched = true;
                    }
                }
            }
            for (verdict, place) in fresh.iter_mut().zip(&places[known..]) {
                *verdict = self.refusing_mask(place);
            }
            standing(out)
        });
        let standing = standing.sum();
        if self.cancel.is_cancelled() {
            return Err(Cancelled);
        }
        Ok(Sieve { candidates, verdicts, standing, touched, index: None, widest_m: 0.0 })
    }

    /// How many places the masks let stand, whatever else refused them.
    fn passing(&self, verdicts: &[u16]) -> usize {
        let masks = self.layer.masks.len();
        verdicts.par_chunks(CHUNK).map(|v| v.iter().filter(|v| usize::from(**v) >= masks).count()).sum()
    }

    /// The mask that leaves too little for the candidate's own number, see [`Rules::refusing`].
    ///
    /// The number belongs to the candidate alone, so a plant stays or goes only when its own mask values change.
    #[inline]
    fn refusing_mask(&self, place: &S::Place) -> u16 {
        let own = unit(draw(self.layer.seed, place.id().0, Channel::Mask)[0]);
        let spot = self.ground.spot(place);
        let refused = self.rules.refusing(own, |i| self.rules.response(i, self.ground, &spot));
        refused.map_or(STANDS, |i| i as u16)
    }

    /// Applies the total and the cap, stands the plants and counts the rest.
    fn settle(&self, sieve: &Sieve<S::Place>) -> Result<Settled, Cancelled> {
        let layer = self.layer;
        let total = match layer.amount {
            Amount::Total { value } => value as usize,
            _ => usize::MAX,
        };
        let end = sieve.last_within(total);
        let capped = sieve.last_within((layer.cap as usize).min(total));
        // Nothing is left of the cap of the scene.
        let none_left = layer.cap == 0;
        let all = total > 0 && end.is_none() && capped.is_none() && !none_left;
        let standing_as = self.standing_as();
        let (drives, shrinks) = (self.rules.drives(), self.rules.clear().shrinks());
        let masks = layer.masks.iter().map(|m: &Mask| Reason::Mask { id: m.id, quantity: m.quantity });
        let by_hand = (!self.rules.tending().is_none()).then_some(Reason::Tended);
        let room = self.rules.clear().reasons().into_iter().chain(by_hand);
        let reasons: Vec<Reason> = masks.chain(room).chain([Reason::Cap]).collect();
        let cap = reasons.len() - 1;
        let before = self.before(sieve.candidates.len());
        // Where the earlier plants of each run of candidates begin.
        let mut earlier = Vec::new();
        let stood = before.and_then(|b| b.plants).unwrap_or_default();
        if let Some(b) = before.filter(|b| b.plants.is_some()) {
            let mut first = 0;
            for run in b.verdicts.chunks(CHUNK) {
                earlier.push((run, first));
                first += standing(run);
            }
        }
        let chunks = sieve.candidates.par_chunks(CHUNK).zip(sieve.verdicts.par_chunks(CHUNK)).enumerate();
        let parts: Vec<Part> = chunks
            .map(|(chunk, (places, verdicts))| {
                let mut part = Part { pieces: Vec::new(), fallen: vec![0; reasons.len()] };
                if self.cancel.is_cancelled() {
                    return part;
                }
                let known = earlier.get(chunk).copied();
                if let Some((run, first)) = known.filter(|_| all && !sieve.touched[chunk]) {
                    for &verdict in run.iter().filter(|v| **v != STANDS) {
                        part.fallen[usize::from(verdict)] += 1;
                    }
                    part.pieces.push(Piece::Kept(first..first + standing(run)));
                    return part;
                }
                let (run, mut next) = known.unwrap_or_default();
                for (i, (place, &verdict)) in places.iter().zip(verdicts).enumerate() {
                    let own = next;
                    let was_there = run.get(i) == Some(&STANDS);
                    next += usize::from(was_there);
                    let past = |limit: &Option<S::Place>| limit.is_some_and(|l| place.order(&l).is_gt());
                    if total == 0 || past(&end) {
                        continue;
                    }
                    if verdict != STANDS {
                        part.fallen[usize::from(verdict)] += 1;
                    } else if none_left || past(&capped) {
                        part.fallen[cap] += 1;
                    } else if was_there && before.is_some_and(|b| (b.stays)(chunk * CHUNK + i, place)) {
                        part.keep(own);
                    } else {
                        let spot = self.ground.spot(place);
                        let driven =
                            if drives { self.rules.driven(self.ground, &spot) } else { Driven::default() };
                        let mut plant = standing_as.at(self.ground, &spot, place.id(), &driven);
                        if shrinks {
                            let body = standing_as.body(self.ground, &spot, place.id(), &driven);
                            plant.size *= self.share_left(&body);
                        }
                        part.grow(plant, verdicts.len());
                    }
                }
                part
            })
            .collect();
        if self.cancel.is_cancelled() {
            return Err(Cancelled);
        }
        let refused = reasons.into_iter().enumerate();
        let refused = refused
            .map(|(i, reason)| Refused { reason, count: parts.iter().map(|p| p.fallen[i]).sum() })
            .collect();
        let pieces: Vec<&Piece> = parts.iter().flat_map(|p| &p.pieces).collect();
        let plants = gathered(&pieces, stood);
        let mut spans = Vec::<Span>::new();
        for piece in pieces {
            match (piece, spans.last_mut()) {
                (Piece::Kept(r), Some(s)) if s.grown == 0 && s.kept.end == r.start => s.kept.end = r.end,
                (Piece::Kept(r), _) => spans.push(Span { kept: r.clone(), grown: 0 }),
                (Piece::Grown(fresh), Some(span)) => span.grown += fresh.len(),
                (Piece::Grown(fresh), None) => spans.push(Span { kept: 0..0, grown: fresh.len() }),
            }
        }
        let spans = before.is_some_and(|b| b.plants.is_some()).then_some(spans);
        Ok(Settled { plants, refused, spans })
    }
}

/// The plants of all pieces, one after the other. Most of the time goes into fresh memory, so all threads take part.
fn gathered(pieces: &[&Piece], stood: &[Plant]) -> Vec<Plant> {
    let mut ends = Vec::with_capacity(pieces.len());
    let mut count = 0;
    for piece in pieces {
        count += piece.len();
        ends.push(count);
    }
    let mut plants = Vec::new();
    let places = (0..count).into_par_iter().with_min_len(CHUNK);
    places
        .map_init(
            || (0, 0..0),
            |(at, range), i| {
                if !range.contains(&i) {
                    *at = ends.partition_point(|end| *end <= i);
                    *range = ends[*at] - pieces[*at].len()..ends[*at];
                }
                match pieces[*at] {
                    Piece::Kept(kept) => stood[kept.start + i - range.start],
                    Piece::Grown(fresh) => fresh[i - range.start],
                }
            },
        )
        .collect_into_vec(&mut plants);
    plants
}

pub(super) fn standing(verdicts: &[u16]) -> usize {
    verdicts.iter().filter(|&&v| v == STANDS).count()
}

impl<P: Place> Sieve<P> {
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
}
