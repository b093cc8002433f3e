//! The stage of growth in which plants are refused for want of room.

use super::{Ball, Body, Room, stand_apart};
use crate::cancel::Cancelled;
use crate::ground::Surface;
use crate::habitat::Driven;
use crate::planting::sieve::{CHUNK, STANDS, Sieve, Work, standing};
use crate::planting::{Place, Plant, PlantId, Standing};
use glam::Vec3;
use rayon::prelude::*;

/// A place that nothing around it refuses.
#[derive(Clone, Copy)]
struct Left {
    birth: f32,
    /// Where it is among all places.
    at: u32,
    id: PlantId,
    ball: Ball,
}

impl<S: Surface> Work<'_, S> {
    /// How plants of the layer stand.
    pub(in crate::planting) fn standing_as(&self) -> Standing<'_> {
        Standing {
            seed: self.layer.seed,
            stance: &self.layer.stance,
            tint: &self.layer.tint,
            mix: self.rules.mix(),
            north: self.rules.frame().turn.inverse() * Vec3::NEG_Z,
        }
    }

    /// The share of its size that a plant which stands is left by what is around it.
    pub(in crate::planting) fn share_left(&self, plant: &Plant) -> f32 {
        let at_m = self.rules.frame().point(plant.position_m);
        match self.rules.clear().room(self.rules.mix(), &Body::of(plant), at_m) {
            Room::Stands(share) => share,
            Room::Refused(_) => 1.0,
        }
    }

    /// Refuses places whose plants have too little room: beside edges, obstacles and plants of other layers, each by itself; then
    /// among themselves, in the order in which they appear, so that more plants never push out earlier ones.
    pub(in crate::planting) fn clear(&self, sieve: &mut Sieve<S::Place>) -> Result<(), Cancelled> {
        let (clear, tending) = (self.rules.clear(), self.rules.tending());
        if clear.is_off() && tending.is_none() {
            return Ok(());
        }
        let tended = if tending.is_none() { None } else { Some(tending) };
        let (mix, frame, standing_as) = (self.rules.mix(), self.rules.frame(), self.standing_as());
        let first = self.layer.masks.len();
        let (around, drives) = (clear.looks_around(), self.rules.drives());
        let by_hand = (first + clear.reasons().len()) as u16;
        let own = clear.settings().own.is_on();
        let places = sieve.candidates.par_chunks(CHUNK).zip(sieve.verdicts.par_chunks_mut(CHUNK)).enumerate();
        let left: Vec<Vec<Left>> = places
            .map(|(chunk, (places, verdicts))| {
                let mut left = Vec::new();
                if self.cancel.is_cancelled() {
                    return left;
                }
                for (i, (place, verdict)) in places.iter().zip(verdicts).enumerate() {
                    if *verdict != STANDS {
                        continue;
                    }
                    let spot = self.ground.spot(place);
                    let driven = if drives { self.rules.driven(self.ground, &spot) } else { Driven::default() };
                    let mut body = standing_as.body(self.ground, &spot, place.id(), &driven);
                    if tended.is_some_and(|t| t.refuses(place.id(), body.at_m, S::ON_PLAN)) {
                        *verdict = by_hand;
                        continue;
                    }
                    if around {
                        match clear.room(mix, &body, frame.point(body.at_m)) {
                            Room::Stands(share) => body.across *= share,
                            Room::Refused(reason) => {
                                *verdict = (first + reason) as u16;
                                continue;
                            }
                        }
                    }
                    if own {
                        let ball = (body.at_m, clear.own_reach_m(mix, &body));
                        left.push(Left { birth: place.birth(), id: place.id(), at: (chunk * CHUNK + i) as u32, ball });
                    }
                }
                left
            })
            .collect();
        if self.cancel.is_cancelled() {
            return Err(Cancelled);
        }
        if own {
            let mut left: Vec<Left> = left.concat();
            left.par_sort_unstable_by(|a, b| a.birth.total_cmp(&b.birth).then(a.id.cmp(&b.id)));
            let balls: Vec<Ball> = left.par_iter().map(|l| l.ball).collect();
            let order: Vec<u32> = (0..balls.len() as u32).collect();
            let fixed = tended.map(|t| t.balls(self.ground, mix, clear)).unwrap_or_default();
            let stands = stand_apart(&balls, &order, &fixed);
            let verdict = (first + clear.own_place()) as u16;
            for (l, _) in left.iter().zip(stands).filter(|(_, stands)| !stands) {
                sieve.verdicts[l.at as usize] = verdict;
            }
        }
        sieve.standing = sieve.verdicts.par_chunks(CHUNK).map(standing).sum();
        if let Some(before) = self.before(sieve.candidates.len()) {
            let now = sieve.verdicts.chunks(CHUNK).zip(before.verdicts.chunks(CHUNK));
            sieve.touched.iter_mut().zip(now).for_each(|(touched, (now, then))| *touched |= now != then);
        }
        Ok(())
    }
}
