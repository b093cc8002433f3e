//! The topographic wetness index.

use super::{Field, Needs, On, Sampled, Source, Span, Words, most_of};
use crate::document::{Document, Mask};
use crate::ground::Reading;

pub(super) struct Wetness;

const READ: Sampled = Sampled::Reading(Reading::Wetness);

impl Source for Wetness {
    fn name(&self) -> &'static str {
        "wetness"
    }

    fn span(&self) -> Span {
        Span::new("the wetness response", -50.0, 100.0, "")
    }

    fn needs(&self, _: &Mask, _: &Document, needs: &mut Needs) {
        needs.sample(READ);
    }

    fn field(&self, _: &Mask, on: &On<'_>) -> Field {
        Field::given(on.given.sampled(&READ))
    }

    fn shown(&self, known: &[f32], _: &Mask) -> (f32, f32) {
        most_of(known)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::open_band(mask, ["has a wetness of ", "does not have a wetness of "], 2, "", "", &self.span())
    }

    fn told(&self, value: f32) -> String {
        format!("wetness: {value:.1}")
    }
}
