//! Third step: plants with too little room are refused.

use super::{CHUNK, STANDS, Sieve, Work, standing};
use crate::cancel::Cancelled;
use crate::ground::Surface;
use crate::planting::Driven;
use crate::planting::clearance::{Ball, Body, Room, stand_apart};
use crate::planting::{Place, PlantId, Standing, Tending};
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
    pub(super) fn standing_as(&self) -> Standing<'_> {
        Standing {
            seed: self.layer.seed,
            stance: &self.layer.stance,
            tint: &self.layer.tint,
            mix: self.rules.mix(),
            north: self.rules.frame().turn.inverse() * Vec3::NEG_Z,
        }
    }

    /// The share of its size that a plant which stands is left by what is around it, asked where it was asked whether it stands.
    pub(super) fn share_left(&self, body: &Body) -> f32 {
        match self.rules.clear().room(self.rules.mix(), body, self.rules.frame().point(body.at_m)) {
            Room::Stands(share) => share,
            Room::Refused(_) => 1.0,
        }
    }

    /// Refuses places whose plants have too little room: beside edges, obstacles and plants of other layers, each by itself; then
    /// among themselves, in the order in which they appear, so that more plants never push out earlier ones.
    pub(super) fn clear(&self, sieve: &mut Sieve<S::Place>) -> Result<(), Cancelled> {
        if self.rules.clear().is_off() && self.rules.tending().is_none() {
            return Ok(());
        }
        let looking = Looking::new(self);
        let before = self.before(sieve.candidates.len());
        match before {
            Some(before) if before.verdicts.len() == sieve.candidates.len() => {
                let known = before.index.clone();
                let index = known.unwrap_or_else(|| looking.index(&sieve.candidates, before.widest_m));
                let index = looking.again(sieve, before, index)?;
                (sieve.widest_m, sieve.index) = (index.widest_m, Some(index));
            }
            _ => sieve.widest_m = looking.anew(sieve)?,
        }
        sieve.standing = sieve.verdicts.par_chunks(CHUNK).map(standing).sum();
        if let Some(before) = before {
            let now = sieve.verdicts.chunks(CHUNK).zip(before.verdicts.chunks(CHUNK));
            sieve.touched.iter_mut().zip(now).for_each(|(touched, (now, then))| *touched |= now != then);
        }
        Ok(())
    }
}

/// What looking for room needs, read once.
pub(super) struct Looking<'a, S: Surface> {
    pub work: &'a Work<'a, S>,
    standing_as: Standing<'a>,
    tended: Option<&'a Tending>,
    /// What was set by hand, which all others keep clear of.
    pub fixed: Vec<Ball>,
    pub own: bool,
    pub drives: bool,
    around: bool,
    /// The verdict on those that are too near their own kind.
    pub own_verdict: u16,
    by_hand: u16,
    first: usize,
}

impl<'a, S: Surface> Looking<'a, S> {
    fn new(work: &'a Work<'a, S>) -> Self {
        let (clear, tending) = (work.rules.clear(), work.rules.tending());
        let first = work.layer.masks.len();
        let own = clear.settings().own.is_on();
        let mut fixed = if own { tending.balls(work.ground, work.rules.mix(), clear) } else { Vec::new() };
        fixed.extend(work.strewn.balls.iter().filter(|(_, reach)| own && *reach > 0.0));
        Self {
            work,
            standing_as: work.standing_as(),
            tended: (!tending.is_none()).then_some(tending),
            fixed,
            own,
            drives: work.rules.drives(),
            around: clear.looks_around(),
            own_verdict: (first + clear.own_place()) as u16,
            by_hand: (first + clear.reasons().len()) as u16,
            first,
        }
    }

    /// How far the plant of a place keeps its own kind away, and from where; or why it cannot stand whatever its own kind does.
    pub fn room(&self, place: &S::Place) -> Result<Ball, u16> {
        let Work { ground, rules, .. } = *self.work;
        let (clear, mix) = (rules.clear(), rules.mix());
        let spot = ground.spot(place);
        let driven = if self.drives { rules.driven(ground, &spot) } else { Driven::default() };
        let mut body = self.standing_as.body(ground, &spot, place.id(), &driven);
        if self.tended.is_some_and(|t| t.refuses(place.id(), body.at_m, S::ON_PLAN)) {
            return Err(self.by_hand);
        }
        if self.around {
            match clear.room(mix, &body, rules.frame().point(body.at_m)) {
                Room::Stands(share) => body.across *= share,
                Room::Refused(reason) => return Err((self.first + reason) as u16),
            }
        }
        Ok((body.at_m, clear.own_reach_m(mix, &body)))
    }

    /// The same for one that is known to have room.
    pub fn ball(&self, place: &S::Place) -> Ball {
        if self.work.rules.clear().shrinks() {
            return self.room(place).unwrap_or_default();
        }
        let Work { ground, rules, .. } = *self.work;
        let spot = ground.spot(place);
        let driven = if self.drives { rules.driven(ground, &spot) } else { Driven::default() };
        let body = self.standing_as.body(ground, &spot, place.id(), &driven);
        (body.at_m, rules.clear().own_reach_m(rules.mix(), &body))
    }

    /// Looks at all places; gives the farthest that any plant keeps its own kind away.
    fn anew(&self, sieve: &mut Sieve<S::Place>) -> Result<f32, Cancelled> {
        let places = sieve.candidates.par_chunks(CHUNK).zip(sieve.verdicts.par_chunks_mut(CHUNK)).enumerate();
        let left: Vec<Vec<Left>> = places
            .map(|(chunk, (places, verdicts))| {
                let mut left = Vec::new();
                if self.work.cancel.is_cancelled() {
                    return left;
                }
                for (i, (place, verdict)) in places.iter().zip(verdicts).enumerate() {
                    // One that fell for want of room before is looked at again.
                    if usize::from(*verdict) < self.first {
                        continue;
                    }
                    *verdict = STANDS;
                    match self.room(place) {
                        Err(refused) => *verdict = refused,
                        Ok(ball) if self.own => {
                            let (birth, id) = (place.birth(), place.id());
                            left.push(Left { birth, id, at: (chunk * CHUNK + i) as u32, ball });
                        }
                        Ok(_) => {}
                    }
                }
                left
            })
            .collect();
        if self.work.cancel.is_cancelled() {
            return Err(Cancelled);
        }
        let mut left: Vec<Left> = left.concat();
        left.par_sort_unstable_by(|a, b| a.birth.total_cmp(&b.birth).then(a.id.cmp(&b.id)));
        let balls: Vec<Ball> = left.par_iter().map(|l| l.ball).collect();
        let order: Vec<u32> = (0..balls.len() as u32).collect();
        let stands = stand_apart(&balls, &order, &self.fixed);
        for (l, _) in left.iter().zip(stands).filter(|(_, stands)| !stands) {
            sieve.verdicts[l.at as usize] = self.own_verdict;
        }
        Ok(balls.iter().map(|b| b.1).fold(0.0, f32::max))
    }
}
