//! Looking for room again after a change within a part of the plan: only there, and as far as who stands changes beside it.

use super::room::Looking;
use super::{Before, CHUNK, STANDS, Sieve};
use crate::cancel::Cancelled;
use crate::ground::Surface;
use crate::habitat::Crowns;
use crate::math::plan_grid::PlanGrid;
use crate::planting::clearance::Ball;
use crate::planting::{Place, PlantId};
use glam::Vec2;
use rayon::prelude::*;
use rustc_hash::FxHashSet;
use std::cmp::Reverse;
use std::collections::BinaryHeap;
use std::sync::Arc;

/// Where the places of a growth lie, and how far its plants reach, kept for the next time.
#[derive(Clone, Debug)]
pub(in crate::planting) struct Index {
    grid: Arc<PlanGrid<'static>>,
    /// The farthest any of its plants keeps its own kind away, metres.
    pub widest_m: f32,
}

/// In the order of appearance.
type Turn = (u32, PlantId, u32);

impl<S: Surface> Looking<'_, S> {
    /// An index of these places.
    pub(super) fn index(&self, places: &[S::Place], widest_m: f32) -> Index {
        let points: Vec<Vec2> = places.par_iter().map(|p| self.work.ground.plan(p)).collect();
        Index { grid: Arc::new(PlanGrid::new(points)), widest_m }
    }

    /// Looks again at places where something changed, and at all others whose neighbours changed by it. Places are gone through in
    /// the order of appearance, so that each is settled once: only those that come later can change by it.
    pub(super) fn again(
        &self,
        sieve: &mut Sieve<S::Place>,
        before: &Before<'_, S::Place>,
        mut index: Index,
    ) -> Result<Index, Cancelled> {
        let touched =
            sieve.touched.par_iter().enumerate().filter(|(_, t)| **t).map(|(chunk, _)| chunk * CHUNK);
        let changed: Vec<usize> = touched
            .flat_map_iter(|first| first..(first + CHUNK).min(sieve.candidates.len()))
            .filter(|i| !(before.stays)(*i, &sieve.candidates[*i]))
            .collect();
        let rooms: Vec<(usize, Result<Ball, u16>)> = changed
            .par_iter()
            .filter(|i| sieve.verdicts[**i] == STANDS)
            .map(|i| (*i, self.room(&sieve.candidates[*i])))
            .collect();
        for (i, room) in rooms {
            match room {
                Ok((_, reach)) => index.widest_m = index.widest_m.max(reach),
                Err(verdict) => sieve.verdicts[i] = verdict,
            }
        }
        if self.own {
            self.settle(sieve, before, &index, &changed)?;
        }
        Ok(index)
    }

    fn settle(
        &self,
        sieve: &mut Sieve<S::Place>,
        before: &Before<'_, S::Place>,
        index: &Index,
        changed: &[usize],
    ) -> Result<(), Cancelled> {
        let places = sieve.candidates.clone();
        let verdicts = &mut sieve.verdicts;
        let turn = |i: u32| -> Turn { (places[i as usize].birth().to_bits(), places[i as usize].id(), i) };
        let takes_part = |verdict: u16| verdict == STANDS || verdict == self.own_verdict;
        let fixed = Crowns::new(self.fixed.clone());
        // A plant may be shifted from its place.
        let beside_m = 2.0 * self.work.layer.stance.shift_m;
        let mut waiting: BinaryHeap<Reverse<Turn>> =
            changed.iter().map(|i| Reverse(turn(*i as u32))).collect();
        let mut seen: FxHashSet<u32> = changed.iter().map(|i| *i as u32).collect();
        let changed = seen.clone();
        let mut near = Vec::new();
        let mut count = 0_u32;
        while let Some(Reverse(own)) = waiting.pop() {
            count += 1;
            if count.is_multiple_of(1024) && self.work.cancel.is_cancelled() {
                return Err(Cancelled);
            }
            let i = own.2 as usize;
            let place = &places[i];
            let at = self.work.ground.plan(place);
            let around = |reach: f32, near: &mut Vec<u32>| {
                near.clear();
                index.grid.within(at - (reach + beside_m), at + (reach + beside_m), |j| near.push(j));
            };
            if takes_part(verdicts[i]) {
                let (p, reach) = self.ball(place);
                around(reach + index.widest_m, &mut near);
                let falls = reach > 0.0
                    && (fixed.nearer_than(p, reach)
                        || near.iter().any(|&j| {
                            verdicts[j as usize] == STANDS && j as usize != i && turn(j) < own && {
                                let (q, other) = self.ball(&places[j as usize]);
                                p.distance_squared(q) < (reach + other) * (reach + other)
                            }
                        }));
                verdicts[i] = if falls { self.own_verdict } else { STANDS };
            }
            let (was, now) = (before.verdicts[i] == STANDS, verdicts[i] == STANDS);
            // One that stands on may still have another size.
            if was != now || (now && self.drives && changed.contains(&own.2)) {
                around(2.0 * index.widest_m, &mut near);
                for &j in near.iter().filter(|j| takes_part(verdicts[**j as usize])) {
                    let later = turn(j);
                    if later > own && seen.insert(j) {
                        waiting.push(Reverse(later));
                    }
                }
            }
        }
        Ok(())
    }
}
