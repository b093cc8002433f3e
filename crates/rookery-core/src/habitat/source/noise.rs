//! A noise of the mask's own.

use super::{Asks, Field, On, Source, Span, Words, number};
use crate::document::{Document, Mask};
use crate::habitat::NoiseField;
use std::sync::Arc;

pub(super) struct OwnNoise;

impl Source for OwnNoise {
    fn name(&self) -> &'static str {
        "noise"
    }

    fn span(&self) -> Span {
        Span::share("the noise response")
    }

    fn asks(&self) -> Asks {
        Asks::Noise
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn field(&self, mask: &Mask, _: &On<'_>) -> Field {
        mask.noise.map_or(Field::Unknown, |n| Field::Noise(Arc::new(NoiseField::new(&n))))
    }

    fn shown(&self, _: &[f32], _: &Mask) -> (f32, f32) {
        (0.0, 1.0)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        let size_m = mask.noise.map_or(0.0, |n| n.size_m);
        Words::new(mask, ["lies on ", "lies off "], format!("a noise of {} m", number(size_m)), "")
    }

    fn told(&self, value: f32) -> String {
        format!("noise: {value:.2}")
    }
}
