//! Masks whose curves were drawn anew: where that changes nothing.

use super::{Masks, respond};
use crate::document::{Mask, Quantity};
use crate::ground::Surface;
use rayon::prelude::*;
use std::sync::Arc;

/// What one mask of a layer looks at, at all places of a growth and at all points of its survey, kept while its curve is dragged.
#[derive(Clone, Debug, PartialEq)]
pub struct LookedAt {
    /// Its place among the masks.
    mask: usize,
    /// Its quantity at each place, in its unit.
    pub at_places: Vec<f32>,
    /// And at the points of each run of the survey.
    pub at_points: Vec<Vec<f32>>,
}

impl LookedAt {
    /// Looks at all places and points.
    fn new<S: Surface>(mask: usize, rules: &Masks, ground: &S, places: &[S::Place]) -> Self {
        let value = |spot: &S::Spot| rules.quantity(mask, ground, spot);
        let at_points = |run| {
            let mut values = Vec::new();
            ground.survey(run, &mut |spot, _| values.push(value(&spot())));
            values
        };
        Self {
            mask,
            at_places: places.par_iter().map(|place| value(&ground.spot(place))).collect(),
            at_points: (0..ground.runs()).into_par_iter().map(at_points).collect(),
        }
    }

    /// Memory it takes, bytes.
    pub fn bytes(&self) -> usize {
        let at_points = self.at_points.iter().map(|run| size_of_val(run.as_slice())).sum::<usize>();
        size_of_val(self.at_places.as_slice()) + at_points
    }
}

/// The masks of a layer before and after some of their curves were drawn anew, with nothing else changed.
pub struct Redrawn<'a> {
    was: &'a Masks,
    now: &'a Masks,
    masks: Vec<usize>,
    /// Beyond these values of its quantity a mask alone has the same value on both curves.
    between: [f32; 2],
}

impl<'a> Redrawn<'a> {
    /// Of masks that differ in their curves alone; none where more differs. Both must be of one layer on one ground.
    pub fn between(was: &'a Masks, now: &'a Masks) -> Option<Self> {
        if was.count() != now.count() {
            return None;
        }
        let masks: Vec<usize> = (0..now.count()).filter(|i| was.mask(*i) != now.mask(*i)).collect();
        // What keeps clear of the edges of a zone is told by its curve which side of them is meant.
        let alone = |i: &usize| {
            let (a, b) = (was.mask(*i), now.mask(*i));
            b.quantity != Quantity::Zone && Mask { response: b.response, ..*a } == *b
        };
        if !masks.iter().all(alone) {
            return None;
        }
        let between = match masks.as_slice() {
            [mask] => differ_between(was.mask(*mask), now.mask(*mask)),
            _ => EVERYWHERE,
        };
        Some(Self { was, now, masks, between })
    }

    /// Which masks were drawn anew.
    pub fn masks(&self) -> &[usize] {
        &self.masks
    }

    /// What the mask looks at, if it is one alone whose quantity is the same whatever its curve is: how far distances are measured
    /// hangs on it. `known` is what was looked at before at these places.
    pub fn looked_at<S: Surface>(
        &self,
        ground: &S,
        places: &[S::Place],
        known: Option<&Arc<LookedAt>>,
    ) -> Option<Arc<LookedAt>> {
        let &[mask] = self.masks.as_slice() else { return None };
        if self.now.limit_m(mask).is_finite() {
            return None;
        }
        let known = known.filter(|k| k.mask == mask).cloned();
        Some(known.unwrap_or_else(|| Arc::new(LookedAt::new(mask, self.now, ground, places))))
    }

    /// Whether every mask has the value at a point that it had.
    #[inline]
    pub fn leaves<S: Surface>(&self, ground: &S, spot: &S::Spot) -> bool {
        self.masks.iter().all(|i| self.was.response(*i, ground, spot) == self.now.response(*i, ground, spot))
    }

    /// The same of one mask where its quantity has a value.
    #[inline]
    pub fn leaves_at(&self, value: f32) -> bool {
        let [low, high] = self.between;
        value < low
            || value > high
            || self
                .masks
                .iter()
                .all(|i| respond(self.was.mask(*i), value) == respond(self.now.mask(*i), value))
    }
}

const EVERYWHERE: [f32; 2] = [f32::NEG_INFINITY, f32::INFINITY];

/// The values from and to which two curves may differ.
fn differ_between(was: &Mask, now: &Mask) -> [f32; 2] {
    let (a, b) = (was.response, now.response);
    if a.inverted != b.inverted || now.quantity == Quantity::Aspect {
        return EVERYWHERE;
    }
    let mut between = [f32::INFINITY, f32::NEG_INFINITY];
    for (a, b) in [([a.start, a.full_from], [b.start, b.full_from]), ([a.full_to, a.end], [b.full_to, b.end])]
    {
        if a != b {
            between = [between[0].min(a[0]).min(b[0]), between[1].max(a[1]).max(b[1])];
        }
    }
    between
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{MaskId, Response};
    use proptest::prelude::*;

    fn curve() -> impl Strategy<Value = Response> {
        (prop::array::uniform4(0_u8..12), any::<bool>()).prop_map(|(mut ends, inverted)| {
            ends.sort_unstable();
            let [start, full_from, full_to, end] = ends.map(f32::from);
            Response { start, full_from, full_to, end, inverted }
        })
    }

    proptest! {
        /// Whole numbers and few of them, so that ends of both curves meet often.
        #[test]
        fn beyond_where_curves_differ_both_have_one_value(
            a in curve(), b in curve(), value in -1.0_f32..13.0, on_end: bool
        ) {
            let mask = |response| Mask { response, ..Mask::band(MaskId(1), Quantity::Slope, [0.0; 4]) };
            let [low, high] = differ_between(&mask(a), &mask(b));
            let value = if on_end { value.round() } else { value };
            if value < low || value > high {
                prop_assert_eq!(respond(&mask(a), value), respond(&mask(b), value));
            }
        }
    }
}
