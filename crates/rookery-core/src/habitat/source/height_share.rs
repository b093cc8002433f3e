//! Height between the lowest and the highest land of a ground.

use super::{Field, Needs, On, Source, Span, Words};
use crate::document::{Document, Mask};

pub(super) struct HeightShare;

impl Source for HeightShare {
    fn name(&self) -> &'static str {
        "the share of the height"
    }

    fn span(&self) -> Span {
        Span::share("the response to the share of the height")
    }

    fn needs(&self, _: &Mask, _: &Document, needs: &mut Needs) {
        needs.whole_height = true;
    }

    fn field(&self, _: &Mask, _: &On<'_>) -> Field {
        Field::HeightShare
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, 1.0)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::percent(mask, ["lies ", "does not lie "], " of the way up")
    }

    fn told(&self, value: f32) -> String {
        format!("{:.0} % of the height", value * 100.0)
    }
}
