//! Height above zero.

use super::{Field, On, Source, Span, Words, most_of};
use crate::document::{Document, Mask};

pub(super) struct Altitude;

impl Source for Altitude {
    fn name(&self) -> &'static str {
        "the altitude"
    }

    fn span(&self) -> Span {
        Span::new("the altitude response", -12_000.0, 12_000.0, " m")
    }

    fn field(&self, _: &Mask, _: &On<'_>) -> Field {
        Field::Altitude
    }

    fn shown(&self, known: &[f32], _: &Mask) -> (f32, f32) {
        most_of(known)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::open_band(mask, ["lies ", "does not lie "], 2, " m", " up", &self.span())
    }

    fn told(&self, value: f32) -> String {
        format!("altitude: {value:.1} m")
    }
}
