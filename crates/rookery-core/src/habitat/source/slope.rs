//! Steepness of the ground.

use super::{Field, On, Source, Span, Words};
use crate::document::{Document, Mask};

pub(super) struct Slope;

impl Source for Slope {
    fn name(&self) -> &'static str {
        "the slope"
    }

    fn span(&self) -> Span {
        Span::new("the slope response", 0.0, 180.0, " degrees")
    }

    fn field(&self, _: &Mask, _: &On<'_>) -> Field {
        Field::Slope
    }

    fn shown(&self, known: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, if known.iter().any(|v| *v > 90.0) { 180.0 } else { 90.0 })
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::band(mask, ["slopes ", "does not slope "], "\u{b0}", "")
    }

    fn told(&self, value: f32) -> String {
        format!("slope: {value:.1}\u{b0}")
    }
}
