//! What the amount asks for, how many places are tried for it, and where the total and the cap end.

use super::places::laid_out;
use super::{STANDS, Sieve, Work};
use crate::document::{Amount, Pattern};
use crate::ground::{Quota, Surface};
use crate::habitat::Allowed;
use crate::planting::{GrowError, Place, per_m2};
use std::sync::Arc;

/// What a layer's amount comes to on its ground.
pub(super) struct Wanted {
    amount: Amount,
    /// Plants to the square metre, where the amount is no total.
    density: f64,
    ground_m2: f64,
    /// What the masks allow, by survey.
    pub allowed: Allowed,
}

impl Wanted {
    pub fn new<S: Surface>(work: &Work<'_, S>, allowed: Allowed) -> Self {
        let density = per_m2(work.layer, work.rules.crown()).map_or(0.0, f64::from);
        Self { amount: work.layer.amount, density, ground_m2: work.ground.area_m2(), allowed }
    }

    /// The total, where the amount is one.
    fn total(&self) -> Option<u32> {
        match self.amount {
            Amount::Total { value } => Some(value),
            _ => None,
        }
    }

    /// Plants on the area that is allowed.
    fn asked(&self) -> u64 {
        self.total().map_or_else(|| (self.density * self.allowed.allowed_m2).round() as u64, u64::from)
    }

    /// Places that are looked at first.
    fn first_count(&self) -> u64 {
        let (area, allowed) = (self.ground_m2, self.allowed.allowed_m2);
        match self.total() {
            Some(total) => (f64::from(total) * area / allowed.max(area * 1e-4)).ceil() as u64,
            None => (self.density * area).round() as u64,
        }
    }

    /// Plants to the square metre; none where a total is asked for.
    pub fn per_m2(&self) -> Option<f64> {
        self.total().is_none().then_some(self.density)
    }
}

/// Places that were looked at, and what they were looked at for.
pub(super) struct Tried<P> {
    pub sieve: Sieve<P>,
    /// What the masks allow: by survey, and by the places themselves where these are more.
    pub allowed: Allowed,
    /// Plants asked for.
    pub asked: u64,
    /// The most places that the pattern has, where it has only so many.
    pub room: Option<u64>,
}

impl<S: Surface> Work<'_, S> {
    /// Looks at as many places as the amount takes: masks, then room.
    pub(super) fn tried(&self, even: &mut S::Even, wanted: Wanted) -> Result<Tried<S::Place>, GrowError> {
        let layer = self.layer;
        if let Some(layout) = laid_out(layer, self.rules) {
            let (places, room) = self.laid_out(&layout, wanted.per_m2())?;
            let by_place = layer.pattern == Pattern::Along && wanted.total().is_none();
            let asked = if by_place { places.len() as u64 } else { wanted.asked() };
            let mut sieve = self.masks(Arc::new(places))?;
            self.clear(&mut sieve)?;
            return Ok(Tried { sieve, allowed: wanted.allowed, asked, room: Some(room) });
        }
        let mut count = wanted.first_count();
        // Where the masks let nothing through there is nothing to look for, however large the ground.
        let limit = self.ground.most_places(layer.pattern);
        if wanted.allowed.allowed_m2 <= 0.0 && count > limit {
            count = 0;
        }
        // Where plants keep clear of one another only so many fit, however many places are looked at.
        let crowded = if self.rules.clear().is_off() && self.rules.tending().is_none() {
            u64::MAX
        } else {
            count.saturating_mul(16).min(limit)
        };
        loop {
            if count > limit {
                return Err(GrowError::TooMany { candidates: count, limit });
            }
            let places = self.places(even, Quota { count: count as usize, per_m2: wanted.per_m2() })?;
            let mut sieve = self.masks(places)?;
            // In clumps places are together what they are not alone.
            let allowed = match layer.pattern {
                Pattern::Clumped => wanted.allowed.clone(),
                _ => {
                    let passing = self.passing(&sieve.verdicts);
                    wanted.allowed.clone().and(sieve.candidates.len(), passing, wanted.ground_m2)
                }
            };
            self.clear(&mut sieve)?;
            let short = wanted.total().map_or(0, |total| (total as usize).saturating_sub(sieve.standing));
            if short == 0 || sieve.standing == 0 || wanted.allowed.allowed_m2 <= 0.0 || count >= crowded {
                let asked = Wanted { allowed, ..wanted };
                return Ok(Tried { sieve, asked: asked.asked(), allowed: asked.allowed, room: None });
            }
            let more = short as f64 / sieve.standing as f64 * count as f64 * 1.05 + 16.0;
            count = (count + more as u64).min(crowded);
        }
    }
}

/// Where the total and the cap cut standing places off.
pub(super) struct Cut<P> {
    /// Nothing was asked for.
    nothing: bool,
    /// Nothing is left of the cap of the scene.
    none_left: bool,
    /// The last within the total, where there are more.
    end: Option<P>,
    /// The last within the cap, where there are more.
    capped: Option<P>,
}

impl<P: Place> Cut<P> {
    pub fn new<S: Surface<Place = P>>(work: &Work<'_, S>, sieve: &Sieve<P>) -> Self {
        let layer = work.layer;
        let total = match layer.amount {
            Amount::Total { value } => value as usize,
            _ => usize::MAX,
        };
        Self {
            nothing: total == 0,
            none_left: layer.cap == 0,
            end: sieve.last_within(total),
            capped: sieve.last_within((layer.cap as usize).min(total)),
        }
    }

    /// Whether every standing place becomes a plant.
    pub fn is_none(&self) -> bool {
        !self.nothing && !self.none_left && self.end.is_none() && self.capped.is_none()
    }

    /// Whether a place, standing or not, is beyond what was asked for.
    pub fn not_asked(&self, place: &P) -> bool {
        self.nothing || self.end.is_some_and(|last| place.order(&last).is_gt())
    }

    /// Whether the cap refuses a place that stands.
    pub fn beyond_cap(&self, place: &P) -> bool {
        self.none_left || self.capped.is_some_and(|last| place.order(&last).is_gt())
    }
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
