//! What was painted on the ground.

use super::{Asks, Field, On, Source, Span, Words};
use crate::document::{Document, Mask};
use crate::habitat::PaintField;
use std::sync::Arc;

pub(super) struct Painted;

impl Source for Painted {
    fn name(&self) -> &'static str {
        "what was painted"
    }

    fn span(&self) -> Span {
        Span::share("the painted response")
    }

    fn asks(&self) -> Asks {
        Asks::Paint
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn field(&self, mask: &Mask, on: &On<'_>) -> Field {
        let paint = mask.paint.and_then(|id| on.document.paint(id));
        paint.map_or(Field::Unknown, |p| Field::Paint(Arc::new(PaintField::new(p))))
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, 1.0)
    }

    fn words(&self, mask: &Mask, document: &Document) -> Words {
        let paint = mask.paint.and_then(|id| document.paint(id));
        let name = paint.map_or("a painting that is gone", |p| p.name.as_str());
        Words::new(mask, ["is painted: ", "is not painted: "], name.to_owned(), "")
    }

    fn told(&self, value: f32) -> String {
        format!("paint: {:.0} %", value * 100.0)
    }
}
