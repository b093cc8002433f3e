//! The ray tracer that takes stills.
//!
//! A two-level acceleration structure over shared form meshes, a sun with soft shadows, a sky, diffuse bounces,
//! and leaves that are lit from both sides. Pure: the same scene, seed and size give the same picture on any
//! number of threads.

#![cfg_attr(not(test), warn(clippy::unwrap_used))]

pub mod accel;
mod bent;
mod camera;
mod card;
mod film;
mod integrator;
pub mod light;
mod nap;
mod portrait;
pub mod sampling;
mod scene;
mod still;
mod water;

pub use bent::{BentFacts, Moment};
pub use camera::Camera;
pub use card::{card, outline_errors};
pub use film::{Film, srgb_from_linear, tone};
pub use integrator::{Depth, radiance};
pub use portrait::{PortraitSettings, portrait};
pub use scene::{RenderScene, Surface, Water};
pub use still::{Developing, StillError, StillSettings, take, take_shot};
