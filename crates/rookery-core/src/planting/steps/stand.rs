//! Fourth step: what stands becomes plants, as far as the total and the cap go, and the rest is counted.

use super::budget::Cut;
use super::pieces::{Part, Piece, Span, gathered, spans};
use super::{CHUNK, STANDS, Sieve, Work, standing};
use crate::cancel::Cancelled;
use crate::document::Mask;
use crate::ground::Surface;
use crate::planting::Driven;
use crate::planting::{Place, Plant, Reason, Refused};
use rayon::prelude::*;

/// What all places came to.
pub(super) struct Stood {
    pub plants: Vec<Plant>,
    pub refused: Vec<Refused>,
    /// Where the plants come from, after an earlier growth.
    pub spans: Option<Vec<Span>>,
}

impl<S: Surface> Work<'_, S> {
    /// Everything that can refuse a place: masks, then want of room, what was tended, the cap. Verdicts name them by their place here.
    fn reasons(&self) -> Vec<Reason> {
        let masks = self.layer.masks.iter().map(|m: &Mask| Reason::Mask { id: m.id, quantity: m.quantity });
        let by_hand = (!self.rules.tending().is_none()).then_some(Reason::Tended);
        let room = self.rules.clear().reasons().into_iter().chain(by_hand);
        masks.chain(room).chain([Reason::Cap]).collect()
    }

    /// Stands the plants. Those of before are taken over where nothing changed.
    pub(super) fn stand(&self, sieve: &Sieve<S::Place>) -> Result<Stood, Cancelled> {
        let cut = Cut::new(self, sieve);
        let all = cut.is_none();
        let reasons = self.reasons();
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
        let plant = self.planter();
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
                    if cut.not_asked(place) {
                        continue;
                    }
                    if verdict != STANDS {
                        part.fallen[usize::from(verdict)] += 1;
                    } else if cut.beyond_cap(place) {
                        part.fallen[cap] += 1;
                    } else if was_there && before.is_some_and(|b| (b.stays)(chunk * CHUNK + i, place)) {
                        part.keep(own);
                    } else {
                        part.grow(plant(place), verdicts.len());
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
        let spans = before.is_some_and(|b| b.plants.is_some()).then(|| spans(&pieces));
        Ok(Stood { plants, refused, spans })
    }

    /// Stands the plant of a place: pose, size, species and colour.
    fn planter(&self) -> impl Fn(&S::Place) -> Plant + Sync + '_ {
        let standing_as = self.standing_as();
        let (drives, shrinks) = (self.rules.drives(), self.rules.clear().shrinks());
        move |place| {
            let spot = self.ground.spot(place);
            let driven = if drives { self.rules.driven(self.ground, &spot) } else { Driven::default() };
            let mut plant = standing_as.at(self.ground, &spot, place.id(), &driven);
            if shrinks {
                let body = standing_as.body(self.ground, &spot, place.id(), &driven);
                plant.size *= self.share_left(&body);
            }
            plant
        }
    }
}
