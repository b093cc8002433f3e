//! Last step: the account, and what is kept for growing again.

use super::Work;
use super::budget::Tried;
use super::by_hand::ByHand;
use super::kept::Kept;
use super::stand::Stood;
use crate::ground::Surface;
use crate::habitat::SurveyedRun;
use crate::planting::{Growth, Plant, Tally, amount_in};
use rayon::prelude::*;
use std::any::Any;
use std::sync::Arc;

impl<S: Surface> Work<'_, S> {
    /// Counts what was tried and what came of it.
    pub(super) fn account(
        &self,
        tried: Tried<S::Place>,
        stood: Stood,
        by_hand: ByHand,
        runs: Vec<SurveyedRun>,
    ) -> Growth {
        let (layer, Tried { sieve, allowed, asked, room }) = (self.layer, tried);
        let Stood { plants, refused, spans } = stood;
        let grown = plants.len() - by_hand.set - by_hand.strewn;
        let tally = Tally {
            asked,
            cap: layer.cap,
            room,
            amount: amount_in(layer, self.rules.crown(), allowed.allowed_m2),
            placed: plants.len() as u64,
            per_species: per_species(&plants, layer.mix.len()),
            by_hand: by_hand.set as u64,
            in_drifts: by_hand.strewn as u64,
            candidates: plants.len() as u64 + refused.iter().map(|r| r.count).sum::<u64>(),
            refused,
            ground_m2: self.ground.area_m2(),
            allowed_m2: allowed.allowed_m2,
            mask_shares: allowed.each.iter().map(|s| s.share).collect(),
        };
        let kept = Kept {
            runs,
            whole: grown == sieve.standing,
            verdicts: sieve.verdicts,
            places: Some(sieve.candidates as Arc<dyn Any + Send + Sync>),
            spans,
            index: sieve.index,
            widest_m: sieve.widest_m,
            looked_at: None,
        };
        Growth { plants, tally, kept, since: None }
    }
}

/// How many plants are of each species of a mix of so many.
fn per_species(plants: &[Plant], species: usize) -> Vec<u64> {
    if species == 1 {
        return vec![plants.len() as u64];
    }
    let own = |part: &[Plant]| {
        let mut counts = vec![0; species];
        for p in part {
            if let Some(count) = counts.get_mut(usize::from(p.species)) {
                *count += 1;
            }
        }
        counts
    };
    let both = |a: Vec<u64>, b: Vec<u64>| a.iter().zip(&b).map(|(a, b)| a + b).collect();
    plants.par_chunks(1 << 16).map(own).reduce(|| vec![0; species], both)
}
