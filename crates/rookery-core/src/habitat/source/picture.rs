//! Pictures over the plan: a channel of one, and how far its colour is from a picked one.

use super::{Asks, Field, On, Source, Span, Words};
use crate::document::{Document, Mask};
use crate::habitat::PictureField;
use std::sync::Arc;

pub(super) struct Channel;
pub(super) struct Colour;

fn field(mask: &Mask, on: &On<'_>, colour: bool) -> Field {
    let field = mask.picture.and_then(|look| {
        let picture = on.document.pictures.iter().find(|p| p.id == look.id)?;
        PictureField::new(picture, &look)
    });
    field.map_or(Field::Unknown, |f| Field::Picture { picture: Arc::new(f), colour })
}

fn words(mask: &Mask, document: &Document, verbs: [&'static str; 2]) -> Words {
    let picture = mask.picture.and_then(|look| document.pictures.iter().find(|p| p.id == look.id));
    let name = picture.map_or("a picture that is gone", |p| p.name.as_str());
    Words::new(mask, verbs, name.to_owned(), "")
}

impl Source for Channel {
    fn name(&self) -> &'static str {
        "a picture"
    }

    fn span(&self) -> Span {
        Span::share("the picture response")
    }

    fn asks(&self) -> Asks {
        Asks::Picture
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn field(&self, mask: &Mask, on: &On<'_>) -> Field {
        field(mask, on, false)
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, 1.0)
    }

    fn words(&self, mask: &Mask, document: &Document) -> Words {
        words(mask, document, ["is light in ", "is dark in "])
    }

    fn told(&self, value: f32) -> String {
        format!("picture: {:.0} %", value * 100.0)
    }
}

impl Source for Colour {
    fn name(&self) -> &'static str {
        "the colour of a picture"
    }

    fn span(&self) -> Span {
        Span::share("the colour response")
    }

    fn asks(&self) -> Asks {
        Asks::Picture
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn field(&self, mask: &Mask, on: &On<'_>) -> Field {
        field(mask, on, true)
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, 1.0)
    }

    fn words(&self, mask: &Mask, document: &Document) -> Words {
        words(mask, document, ["has a picked colour in ", "does not have a picked colour in "])
    }

    fn told(&self, value: f32) -> String {
        format!("colour: {:.0} % away", value * 100.0)
    }
}
