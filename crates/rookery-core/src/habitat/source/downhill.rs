//! Distance downhill to a track or an outline: the way that water takes there.

use super::distance::within;
use super::{Asks, Field, Needs, On, Sampled, Source, Span, Words, limit_m, near_words};
use crate::document::Refusal;
use crate::document::{Document, Mask, Near};

pub(super) struct Downhill;

/// What is looked for downhill, where a mask says so.
fn to(mask: &Mask) -> Option<Sampled> {
    match mask.near? {
        Near::Outline { id } => Some(Sampled::DownhillTo(Some(id))),
        Near::Tracks => Some(Sampled::DownhillTo(None)),
        _ => None,
    }
}

impl Source for Downhill {
    fn name(&self) -> &'static str {
        "the way downhill"
    }

    fn span(&self) -> Span {
        Span::new("the response to the way downhill", 0.0, 20_000.0, " m")
    }

    fn asks(&self) -> Asks {
        Asks::Near
    }

    fn check(&self, mask: &Mask) -> Result<(), Refusal> {
        if to(mask).is_some() { Ok(()) } else { Err(Refusal::NotDownhill) }
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn needs(&self, mask: &Mask, _: &Document, needs: &mut Needs) {
        to(mask).into_iter().for_each(|what| needs.sample(what));
    }

    fn field(&self, mask: &Mask, on: &On<'_>) -> Field {
        Field::given(to(mask).and_then(|what| on.given.sampled(&what)))
    }

    fn shown(&self, _: &[f32], mask: &Mask) -> (f32, f32) {
        (0.0, limit_m(mask))
    }

    fn words(&self, mask: &Mask, document: &Document) -> Words {
        let (what, verbs, _) = within(mask);
        Words::new(mask, verbs, format!("{what} uphill of {}", near_words(document, mask)), "")
    }

    fn told(&self, value: f32) -> String {
        format!("downhill: {value:.1} m")
    }
}
