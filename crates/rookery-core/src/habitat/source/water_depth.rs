//! Depth of the water.

use super::{Field, Needs, On, Sampled, Source, Span, Words, most_of};
use crate::document::{Document, Mask};

pub(super) struct WaterDepth;

impl Source for WaterDepth {
    fn name(&self) -> &'static str {
        "the depth of water"
    }

    fn span(&self) -> Span {
        Span::new("the response to the depth of water", -1.0, 12_000.0, " m")
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn of_waters(&self) -> bool {
        true
    }

    fn of_the_land(&self) -> bool {
        true
    }

    fn needs(&self, _: &Mask, _: &Document, needs: &mut Needs) {
        needs.sample(Sampled::Depth);
    }

    fn field(&self, _: &Mask, on: &On<'_>) -> Field {
        Field::given(on.given.sampled(&Sampled::Depth))
    }

    fn shown(&self, known: &[f32], _: &Mask) -> (f32, f32) {
        let (low, high) = most_of(known);
        (low.min(0.0), high)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::open_band(mask, ["lies under ", "does not lie under "], 2, " m", " of water", &self.span())
    }

    fn told(&self, value: f32) -> String {
        if value > 0.0 { format!("water: {value:.2} m deep") } else { "water: none stands here".to_owned() }
    }
}
