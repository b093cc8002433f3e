//! The way the ground faces.

use super::{Field, On, Source, Span, Words};
use crate::document::{Document, Mask};

pub(super) struct Aspect;

impl Source for Aspect {
    fn name(&self) -> &'static str {
        "the aspect"
    }

    /// It may run past north.
    fn span(&self) -> Span {
        Span::new("the aspect response", -360.0, 720.0, " degrees")
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn field(&self, _: &Mask, _: &On<'_>) -> Field {
        Field::Aspect
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, 360.0)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::band(mask, ["faces ", "does not face "], "\u{b0}", "")
    }

    fn told(&self, value: f32) -> String {
        format!("aspect: {value:.0}\u{b0}")
    }

    fn told_unknown(&self) -> &'static str {
        "level ground, which faces nowhere"
    }
}
