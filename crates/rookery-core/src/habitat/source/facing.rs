//! How far the surface faces up.

use super::{Field, On, Source, Span, Words};
use crate::document::{Document, Mask};

pub(super) struct Facing;

impl Source for Facing {
    fn name(&self) -> &'static str {
        "the way it faces"
    }

    fn span(&self) -> Span {
        Span::new("the facing response", -1.0, 1.0, "")
    }

    fn field(&self, _: &Mask, _: &On<'_>) -> Field {
        Field::Facing
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (-1.0, 1.0)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::band(mask, ["faces up by ", "does not face up by "], "", "")
    }

    fn told(&self, value: f32) -> String {
        format!("facing up: {value:.2}")
    }
}
