//! Second step: the masks are asked about every place.

use super::{CHUNK, STANDS, Sieve, Work, standing};
use crate::cancel::Cancelled;
use crate::ground::Surface;
use crate::math::hash::{Channel, draw, unit};
use crate::planting::Place;
use rayon::prelude::*;
use std::sync::Arc;

impl<S: Surface> Work<'_, S> {
    /// Refuses places whose masks leave too little.
    pub(super) fn masks(&self, candidates: Arc<Vec<S::Place>>) -> Result<Sieve<S::Place>, Cancelled> {
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
    pub(super) fn passing(&self, verdicts: &[u16]) -> usize {
        let masks = self.layer.masks.len();
        verdicts.par_chunks(CHUNK).map(|v| v.iter().filter(|v| usize::from(**v) >= masks).count()).sum()
    }

    /// The mask that leaves too little for the candidate's own number, see [`Rules::refusing`](crate::habitat::Rules::refusing).
    ///
    /// The number belongs to the candidate alone, so a plant stays or goes only when its own mask values change.
    #[inline]
    fn refusing_mask(&self, place: &S::Place) -> u16 {
        let own = unit(draw(self.layer.seed, place.id().0, Channel::Mask)[0]);
        let spot = self.ground.spot(place);
        let refused = self.rules.refusing(own, |i| self.rules.response(i, self.ground, &spot));
        refused.map_or(STANDS, |i| i as u16)
    }
}
