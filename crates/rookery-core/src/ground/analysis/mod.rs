//! Quantities read off a terrain, one value per sample.

mod curvature;
mod downhill;
mod flow;
mod horizon;
mod horn;
mod openness;
mod sun;
mod wetness;
mod window;

pub use curvature::{plan_curvature_per_m, profile_curvature_per_m};
pub use downhill::downhill_m;
pub use flow::Flow;
pub use horn::{aspect_deg, slope_deg, slope_deg_in};
pub use openness::openness;
pub use sun::sun_hours;
pub use wetness::wetness;
