//! How the ground bends, along the steepest way and across it.

use super::{Field, Needs, On, Sampled, Source, Span, Words, quantile};
use crate::document::{Document, Mask};
use crate::ground::Reading;

pub(super) struct Curvature {
    name: &'static str,
    reading: Reading,
    verbs: [&'static str; 2],
    told: &'static str,
}

pub(super) const PROFILE: Curvature = Curvature {
    name: "the curvature down the slope",
    reading: Reading::ProfileCurvature,
    verbs: ["has a curvature down the slope of ", "does not have a curvature down the slope of "],
    told: "profile curvature",
};

pub(super) const PLAN: Curvature = Curvature {
    name: "the curvature across the slope",
    reading: Reading::PlanCurvature,
    verbs: ["has a curvature across the slope of ", "does not have a curvature across the slope of "],
    told: "plan curvature",
};

impl Source for Curvature {
    fn name(&self) -> &'static str {
        self.name
    }

    fn span(&self) -> Span {
        Span::new("the curvature response", -1000.0, 1000.0, " per m")
    }

    fn needs(&self, _: &Mask, _: &Document, needs: &mut Needs) {
        needs.sample(Sampled::Reading(self.reading));
    }

    fn field(&self, _: &Mask, on: &On<'_>) -> Field {
        Field::given(on.given.sampled(&Sampled::Reading(self.reading)))
    }

    /// As far to both sides.
    fn shown(&self, known: &[f32], _: &Mask) -> (f32, f32) {
        let most = quantile(known.iter().map(|v| v.abs()).collect(), 0.98).max(1e-4);
        (-most, most)
    }

    fn words(&self, mask: &Mask, _: &Document) -> Words {
        Words::open_band(mask, self.verbs, 3, " per m", "", &self.span())
    }

    fn told(&self, value: f32) -> String {
        format!("{}: {value:.3} 1/m", self.told)
    }
}
