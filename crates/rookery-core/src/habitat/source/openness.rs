//! Share of the sky that is seen.

use super::{Field, Needs, On, Sampled, Source, Span, Words};
use crate::document::{Document, Mask};
use crate::ground::Reading;

pub(super) struct Openness;

const READ: Sampled = Sampled::Reading(Reading::Openness);

impl Source for Openness {
    fn name(&self) -> &'static str {
        "openness"
    }

    fn span(&self) -> Span {
        Span::share("the openness response")
    }

    fn needs(&self, _: &Mask, _: &Document, needs: &mut Needs) {
        needs.sample(READ);
    }

    fn field(&self, _: &Mask, on: &On<'_>) -> Field {
        Field::given(on.given.sampled(&READ))
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, 1.0)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::percent(mask, ["sees ", "does not see "], " of the sky")
    }

    fn told(&self, value: f32) -> String {
        format!("openness: {:.0} % of the sky", value * 100.0)
    }
}
