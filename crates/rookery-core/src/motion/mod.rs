//! What moves, as a pure function of the document and the time: nothing is played from a start, and growth knows no time.
//!
//! [`Gusts`] gives the unrest of the wind at any place and time, [`Profile`] its mean speed over height, [`Sway`] how a plant answers, and
//! [`Limb`](crate::math::limb::Limb) how a bent stem lies. All is a sum of the same few waves in a fixed order, so that any worker and any thread gets the same
//! bits; the view computes the same from the numbers of [`Gusts::at`].

mod beaufort;
mod blowing;
mod course;
mod facts;
mod fall;
mod glsl;
mod gusts;
mod moving;
mod notes;
mod pressing;
mod profile;
mod response;
mod riding;
mod shape;
mod spectrum;

pub use beaufort::{Beaufort, beaufort};
pub use blowing::{BlowerNow, BlowerTrack, PAST, PAST_STEP_S};
pub use course::{Place, place_at};
pub use facts::{
    BlowerReach, BodyReach, LayerMotion, MotionFacts, Reached, SpeciesMotion, SpeedAt, Standing, WindAt,
    WindHere,
};
pub use glsl::glsl;
pub use gusts::{Gusts, GustsNow, WAVES, Wave};
pub use moving::{BodyMeshes, Moving, Now};
pub use notes::MotionNote;
pub use pressing::{BodyNow, BodyTrack, MOST_POINTS};
pub use profile::{Canopy, Profile};
pub use response::{MOST_TILT, Push, Stands, Sway};
pub use riding::{Ride, RideKey, RideNow};
pub use shape::{body_mesh, fitted};
