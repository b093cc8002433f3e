//! Height above the nearest water.

use super::{Field, Needs, On, Sampled, Source, Span, Words, most_of};
use crate::document::{Document, Mask};

pub(super) struct WaterHeight;

impl Source for WaterHeight {
    fn name(&self) -> &'static str {
        "the height above water"
    }

    fn span(&self) -> Span {
        Span::new("the response to the height above water", -12_000.0, 12_000.0, " m")
    }

    fn of_the_scene(&self) -> bool {
        true
    }

    fn of_waters(&self) -> bool {
        true
    }

    fn needs(&self, _: &Mask, _: &Document, needs: &mut Needs) {
        needs.sample(Sampled::OverWater);
    }

    fn field(&self, _: &Mask, on: &On<'_>) -> Field {
        Field::given(on.given.sampled(&Sampled::OverWater))
    }

    fn shown(&self, known: &[f32], _: &Mask) -> (f32, f32) {
        most_of(known)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::open_band(mask, ["lies ", "does not lie "], 2, " m", " above the nearest water", &self.span())
    }

    fn told(&self, value: f32) -> String {
        format!("above water: {value:.1} m")
    }

    fn told_unknown(&self) -> &'static str {
        "no water to be above"
    }
}
