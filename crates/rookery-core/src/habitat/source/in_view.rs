//! What a shot has in its picture.

use super::{Asks, Field, On, Source, Span, Words, number};
use crate::document::{Document, Mask};
use crate::habitat::ViewField;

pub(super) struct InView;

impl Source for InView {
    fn name(&self) -> &'static str {
        "what a shot sees"
    }

    fn span(&self) -> Span {
        Span::new("the response to a shot's picture", 0.0, 180.0, " degrees")
    }

    fn asks(&self) -> Asks {
        Asks::Shot
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn field(&self, mask: &Mask, on: &On<'_>) -> Field {
        let shot = mask.shot.and_then(|id| on.document.shots.iter().find(|s| s.id == id));
        shot.map_or(Field::Unknown, |s| Field::View(ViewField::new(s)))
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, 180.0)
    }

    fn words(&self, mask: &Mask, document: &Document) -> Words {
        let shot = mask.shot.and_then(|id| document.shots.iter().find(|s| s.id == id));
        let name = shot.map_or("a shot that is gone", |s| s.name.as_str());
        let aside = mask.response.full_to;
        let what = if aside > 0.0 {
            format!("{}\u{b0} of the picture of {name}", number(aside))
        } else {
            format!("the picture of {name}")
        };
        Words::new(mask, ["is within ", "is not within "], what, "")
    }

    fn told(&self, value: f32) -> String {
        if value > 0.0 {
            format!("{value:.0}\u{b0} beside the shot's picture")
        } else {
            "in the shot's picture".to_owned()
        }
    }
}
