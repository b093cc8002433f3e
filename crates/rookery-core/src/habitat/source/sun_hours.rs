//! Hours of direct sun on one day.

use super::{Asks, Field, Needs, On, Sampled, Source, Span, Words, band, number};
use crate::document::{Document, Mask};

pub(super) struct SunHours;

impl Source for SunHours {
    fn name(&self) -> &'static str {
        "hours of sun"
    }

    fn span(&self) -> Span {
        Span::new("the response to hours of sun", 0.0, 24.0, " hours")
    }

    fn asks(&self) -> Asks {
        Asks::Sun
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn needs(&self, mask: &Mask, _: &Document, needs: &mut Needs) {
        if let Some(day) = mask.sun {
            needs.sample(Sampled::Sun(day));
        }
    }

    fn field(&self, mask: &Mask, on: &On<'_>) -> Field {
        Field::given(mask.sun.and_then(|day| on.given.sampled(&Sampled::Sun(day))))
    }

    /// Up to the longest that any of it has, in whole hours.
    fn shown(&self, known: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, known.iter().fold(0.0_f32, |most, v| most.max(*v)).ceil().max(1.0))
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        let (from, to) = (mask.response.full_from, mask.response.full_to);
        let most = if to >= 24.0 {
            format!("{} hours of sun or more", number(from))
        } else {
            format!("{} hours of sun", band(from, to))
        };
        let day = mask.sun.map(|s| format!(" on {} {}", s.day, s.month_name())).unwrap_or_default();
        Words::new(mask, ["has ", "does not have "], format!("{most}{day}"), "")
    }

    fn told(&self, value: f32) -> String {
        format!("sun: {value:.1} hours")
    }
}
