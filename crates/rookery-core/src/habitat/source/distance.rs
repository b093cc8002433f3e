//! Distance to something.

use super::{Asks, Field, Needs, On, Sampled, Source, Span, Words, band, limit_m, limit_of, number};
use crate::document::{Document, Mask, Near};
use crate::habitat::{NearField, SteadyNear};
use std::sync::Arc;

pub(super) struct Distance;

impl Source for Distance {
    fn name(&self) -> &'static str {
        "distance"
    }

    fn span(&self) -> Span {
        Span::new("the distance response", 0.0, 20_000.0, " m")
    }

    fn asks(&self) -> Asks {
        Asks::Near
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn needs(&self, mask: &Mask, document: &Document, needs: &mut Needs) {
        match mask.near {
            Some(Near::Water) => needs.sample(Sampled::ToWater),
            Some(Near::Obstacle { id }) => needs.obstacles.push(id),
            Some(Near::Obstacles) => needs.obstacles.extend(document.obstacles.iter().map(|o| o.id)),
            Some(Near::Layer { id }) => needs.layers.push(id),
            Some(
                Near::Outline { .. }
                | Near::Tracks
                | Near::Straight { .. }
                | Near::Ball { .. }
                | Near::Cylinder { .. }
                | Near::Box { .. }
                | Near::Camera { .. },
            )
            | None => {}
        }
    }

    fn field(&self, mask: &Mask, on: &On<'_>) -> Field {
        if mask.near == Some(Near::Water) {
            return Field::given(on.given.sampled(&Sampled::ToWater));
        }
        let near = NearField::for_mask(on.document, mask, on.given);
        near.map_or(Field::Unknown, |field| {
            Field::Near(Arc::new(SteadyNear::new(field, mask.response, limit_of(&mask.response))))
        })
    }

    fn shown(&self, _: &[f32], mask: &Mask) -> (f32, f32) {
        (0.0, limit_m(mask))
    }

    fn words(&self, mask: &Mask, document: &Document) -> Words {
        let (what, verbs, from) = within(mask);
        Words::new(mask, verbs, format!("{what} {from} {}", near_words(document, mask)), "")
    }

    fn told(&self, value: f32) -> String {
        format!("distance: {value:.1} m")
    }
}

/// A band of distances, the verbs that go with it, and what stands before that which it is measured to.
pub(super) fn within(mask: &Mask) -> (String, [&'static str; 2], &'static str) {
    let (from, to) = (mask.response.full_from, mask.response.full_to);
    if to >= super::NO_END_M {
        let verbs = ["lies farther than ", "does not lie farther than "];
        (format!("{} m", number(from)), verbs, "from")
    } else {
        (format!("{} m", band(from, to)), ["lies within ", "does not lie within "], "of")
    }
}

/// What a mask measures to, by name.
pub fn near_words(document: &Document, mask: &Mask) -> String {
    let named = |name: Option<&String>, gone: &str| name.map_or_else(|| gone.to_owned(), |n| n.clone());
    match mask.near {
        Some(Near::Outline { id }) => {
            named(document.outlines.iter().find(|o| o.id == id).map(|o| &o.name), "an outline that is gone")
        }
        Some(Near::Tracks) => "a track".to_owned(),
        Some(Near::Water) | None => "water".to_owned(),
        Some(Near::Obstacle { id }) => {
            named(document.obstacles.iter().find(|o| o.id == id).map(|o| &o.name), "an obstacle that is gone")
        }
        Some(Near::Obstacles) => "an obstacle".to_owned(),
        Some(Near::Straight { bearing_deg, .. }) => {
            format!("a line that faces {}\u{b0}", number(bearing_deg))
        }
        Some(Near::Ball { radius_m: 0.0, .. } | Near::Cylinder { radius_m: 0.0, .. }) => "a point".to_owned(),
        Some(Near::Ball { .. }) => "a ball".to_owned(),
        Some(Near::Cylinder { .. }) => "a cylinder".to_owned(),
        Some(Near::Box { .. }) => "a box".to_owned(),
        Some(Near::Camera { id }) => {
            named(document.shots.iter().find(|s| s.id == id).map(|s| &s.name), "a shot that is gone")
        }
        Some(Near::Layer { id }) => named(document.layer(id).map(|l| &l.name), "a layer that is gone"),
    }
}
