//! Masks: where a layer's plants may stand, as a value from 0 to 1 at each point of the ground.

mod allowed;
mod given;
mod masks;
mod near;
mod noise_field;
mod paint_field;
mod picture_field;
mod quantity;
mod redrawn;
mod response;
mod source;
mod steady_near;
mod view_field;
mod volume;

pub use crate::ground::Histogram;
pub use allowed::{Allowed, AllowedByMask, SurveyedRun, shares, survey};
pub use given::{Given, Needs};
pub use masks::{Masks, ZoneField, joined, respond};
pub use near::{Crowns, NearField};
pub use noise_field::NoiseField;
pub use paint_field::{PaintField, reach_of_stroke};
pub use picture_field::PictureField;
pub use quantity::{MaskSpread, spread, values_at};
pub use redrawn::{LookedAt, Redrawn};
pub use response::{is_level, response_at};
pub use source::{Asks, Beside, Sampled, Source, Span, Words, band, number, source, water_distance_m};
pub use steady_near::SteadyNear;
pub use view_field::ViewField;
