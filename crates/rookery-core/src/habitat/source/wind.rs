//! Shelter from the wind, and exposure to it.

use super::{Asks, Field, Needs, On, Sampled, Source, Span, Words, band, most_of, number};
use crate::document::{Document, Mask};

pub(super) struct InWind;

/// No more than so many times the wind over level ground is told.
const MOST: f32 = 3.0;

impl Source for InWind {
    fn name(&self) -> &'static str {
        "exposure to the wind"
    }

    fn span(&self) -> Span {
        Span::new("the response to the wind", 0.0, MOST, " times")
    }

    fn asks(&self) -> Asks {
        Asks::Wind
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn needs(&self, mask: &Mask, _: &Document, needs: &mut Needs) {
        mask.wind.into_iter().for_each(|wind| needs.sample(Sampled::Wind(wind)));
    }

    fn field(&self, mask: &Mask, on: &On<'_>) -> Field {
        Field::given(mask.wind.and_then(|wind| on.given.sampled(&Sampled::Wind(wind))))
    }

    fn shown(&self, known: &[f32], _: &Mask) -> (f32, f32) {
        let (low, high) = most_of(known);
        (low.min(0.8), high.max(1.2))
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        let (from, to) = (mask.response.full_from, mask.response.full_to);
        let what = match (from <= 0.0, to >= MOST) {
            (_, true) => format!("{} times the wind of level ground or more", number(from)),
            (true, _) => format!("at most {} times the wind of level ground", number(to)),
            _ => format!("{} times the wind of level ground", band(from, to)),
        };
        let side = mask.wind.map(|w| format!(", from {}\u{b0}", number(w.from_deg))).unwrap_or_default();
        Words::new(mask, ["has ", "does not have "], format!("{what}{side}"), "")
    }

    fn told(&self, value: f32) -> String {
        format!("wind: {value:.2} times")
    }
}
