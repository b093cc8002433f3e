//! What masks look at: one file a quantity, which holds all that is to be known of it.
//!
//! To add one: a variant of [`Quantity`], a file here, an arm in [`source`], and a card in `web/src/sheet/masks/quantities.ts`. The compiler
//! asks for the rest.

mod altitude;
mod aspect;
mod curvature;
mod distance;
mod downhill;
mod facing;
mod height_share;
mod in_view;
mod noise;
mod openness;
mod painted;
mod picture;
mod sampled;
mod slope;
mod sun_hours;
mod water_depth;
mod water_height;
mod wetness;
mod wind;
mod words;
mod zone;

pub use distance::near_words;
pub use sampled::{Beside, Sampled, water_distance_m};
pub use words::{Words, band, number};

use super::{Given, Needs, NoiseField, PaintField, PictureField, SteadyNear, ViewField, ZoneField};
use crate::document::Refusal;
use crate::document::{Document, GroundId, Mask, Quantity, Response};
use std::sync::Arc;

/// One quantity that masks look at.
pub trait Source: Sync {
    /// Its name in a word or two, such as "the slope".
    fn name(&self) -> &'static str;

    /// What the values of a response to it may be.
    fn span(&self) -> Span;

    /// Which of a mask's own settings it reads. A mask must have that one and none of the others.
    fn asks(&self) -> Asks {
        Asks::Nothing
    }

    /// Checks what else a mask of it must be.
    ///
    /// # Errors
    /// [`Refusal`], in words.
    fn check(&self, _mask: &Mask) -> Result<(), Refusal> {
        Ok(())
    }

    /// Whether it changes when a ground is moved or turned in the scene. Zones are told apart by what they hold.
    fn of_the_scene(&self) -> bool {
        false
    }

    /// Whether it hangs on the waters of the scene wherever they are.
    fn of_waters(&self) -> bool {
        false
    }

    /// Whether, on a water, it looks at the land beneath.
    fn of_the_land(&self) -> bool {
        false
    }

    /// Adds what has to be known before a mask of it can be asked.
    fn needs(&self, _mask: &Mask, _document: &Document, _needs: &mut Needs) {}

    /// What a mask of it reads on one ground.
    fn field(&self, mask: &Mask, on: &On<'_>) -> Field;

    /// The lowest and the highest value that its curve is drawn over, of those that a ground has.
    fn shown(&self, known: &[f32], mask: &Mask) -> (f32, f32);

    /// What a mask of it lets through, as words of a layer's sentence.
    fn words(&self, mask: &Mask, document: &Document) -> Words;

    /// A value of it at a point, in words.
    fn told(&self, value: f32) -> String;

    /// What is said where it has no value.
    fn told_unknown(&self) -> &'static str {
        "what is not known here"
    }
}

/// All that is to be known of a quantity.
pub fn source(quantity: Quantity) -> &'static dyn Source {
    match quantity {
        Quantity::Slope => &slope::Slope,
        Quantity::Altitude => &altitude::Altitude,
        Quantity::HeightShare => &height_share::HeightShare,
        Quantity::Zone => &zone::InZone,
        Quantity::Aspect => &aspect::Aspect,
        Quantity::ProfileCurvature => &curvature::PROFILE,
        Quantity::PlanCurvature => &curvature::PLAN,
        Quantity::Wetness => &wetness::Wetness,
        Quantity::Openness => &openness::Openness,
        Quantity::SunHours => &sun_hours::SunHours,
        Quantity::Noise => &noise::OwnNoise,
        Quantity::Distance => &distance::Distance,
        Quantity::WaterHeight => &water_height::WaterHeight,
        Quantity::WaterDepth => &water_depth::WaterDepth,
        Quantity::Downhill => &downhill::Downhill,
        Quantity::Painted => &painted::Painted,
        Quantity::Facing => &facing::Facing,
        Quantity::InView => &in_view::InView,
        Quantity::Wind => &wind::InWind,
        Quantity::Picture => &picture::Channel,
        Quantity::Colour => &picture::Colour,
    }
}

/// What the values of a response may be.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Span {
    /// What a refusal calls it.
    pub field: &'static str,
    /// The lowest.
    pub low: f32,
    /// The highest.
    pub high: f32,
    /// Written behind a value, with a space before it.
    pub unit: &'static str,
}

impl Span {
    const fn new(field: &'static str, low: f32, high: f32, unit: &'static str) -> Self {
        Self { field, low, high, unit }
    }

    /// 0 to 1.
    const fn share(field: &'static str) -> Self {
        Self::new(field, 0.0, 1.0, "")
    }
}

/// Which of a mask's own settings a quantity reads.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Asks {
    /// None.
    Nothing,
    /// A zone.
    Zone,
    /// A noise.
    Noise,
    /// What a distance is measured to.
    Near,
    /// A painting.
    Paint,
    /// A shot.
    Shot,
    /// A picture.
    Picture,
    /// A day.
    Sun,
    /// Where the wind mostly comes from.
    Wind,
}

/// One ground that a mask is to be asked on.
pub struct On<'a> {
    /// The scene.
    pub document: &'a Document,
    /// Which ground.
    pub ground: GroundId,
    /// Names of its face groups.
    pub groups: &'a [String],
    /// What was computed for it.
    pub given: &'a Given,
}

/// What a mask reads on one ground.
#[derive(Clone)]
pub enum Field {
    /// Its slope.
    Slope,
    /// Its altitude.
    Altitude,
    /// The share of its height.
    HeightShare,
    /// How far it faces up.
    Facing,
    /// The way it faces.
    Aspect,
    /// A zone.
    Zone(Arc<ZoneField>),
    /// Values at its samples.
    Samples(Arc<Vec<f32>>),
    /// A noise.
    Noise(Arc<NoiseField>),
    /// A painting.
    Paint(Arc<PaintField>),
    /// A picture over the plan; how far its colour is from a picked one, or a channel.
    Picture {
        /// The picture.
        picture: Arc<PictureField>,
        /// Whether the colour is asked for.
        colour: bool,
    },
    /// What a shot has in its picture.
    View(ViewField),
    /// Something that is near or far.
    Near(Arc<SteadyNear>),
    /// Nothing that is known on this ground.
    Unknown,
}

impl Field {
    /// Values at samples, where they are given.
    fn given(values: Option<Arc<Vec<f32>>>) -> Self {
        values.map_or(Self::Unknown, Self::Samples)
    }
}

/// A band of distances that ends here or beyond has no end, metres.
const NO_END_M: f32 = 10_000.0;

/// Farther than this all distances are alike to a mask with this curve, metres.
fn limit_of(r: &Response) -> f32 {
    // A band without an end tells nothing apart once all is let through. Some more, so that its curve has ground beside it.
    let reach = if r.full_to >= NO_END_M { r.full_from } else { r.end.max(r.full_to) };
    (reach * 3.0).max(20.0)
}

/// Farther than this a mask tells no distances apart, metres; infinite for all that are no distances.
pub fn limit_m(mask: &Mask) -> f32 {
    match mask.quantity {
        Quantity::Distance | Quantity::Downhill => limit_of(&mask.response),
        _ => f32::INFINITY,
    }
}

/// All but two in a thousand of these at either end.
fn most_of(known: &[f32]) -> (f32, f32) {
    (quantile(known.to_vec(), 0.002), quantile(known.to_vec(), 0.998))
}

fn quantile(mut values: Vec<f32>, share: f32) -> f32 {
    if values.is_empty() {
        return 0.0;
    }
    let at = (share * (values.len() - 1) as f32) as usize;
    *values.select_nth_unstable_by(at, f32::total_cmp).1
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_quantity_has_a_span_and_a_name_of_its_own() {
        let mut names = Vec::new();
        for quantity in Quantity::ALL {
            let s = source(quantity);
            let span = s.span();
            assert!(span.low < span.high && !span.field.is_empty(), "{quantity:?}");
            names.push(s.name());
        }
        names.sort_unstable();
        names.dedup();
        assert_eq!(names.len(), Quantity::ALL.len());
    }
}
