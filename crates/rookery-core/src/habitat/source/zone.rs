//! A named part of the ground.

use super::{Asks, Field, On, Source, Span, Words};
use crate::document::{Document, Mask};
use crate::habitat::ZoneField;
use std::sync::Arc;

pub(super) struct InZone;

impl Source for InZone {
    fn name(&self) -> &'static str {
        "the zone"
    }

    fn span(&self) -> Span {
        Span::share("the zone response")
    }

    fn asks(&self) -> Asks {
        Asks::Zone
    }

    fn field(&self, mask: &Mask, on: &On<'_>) -> Field {
        let zone = mask.zone.and_then(|id| on.document.zones.iter().find(|z| z.id == id));
        let field = zone.map(|z| ZoneField::new(on.document, z, on.ground, on.groups));
        Field::Zone(Arc::new(field.unwrap_or_default()))
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, 1.0)
    }

    fn words(&self, mask: &Mask, document: &Document) -> Words {
        let zone = document.zones.iter().find(|z| Some(z.id) == mask.zone);
        let name = zone.map_or("a zone that is gone", |z| z.name.as_str());
        Words::new(mask, ["is in ", "is not in "], name.to_owned(), "")
    }

    fn told(&self, value: f32) -> String {
        format!("zone: {:.0} % in it", value * 100.0)
    }
}
