//! Quantities read off a terrain, one value per sample.

mod horn;

pub use horn::{aspect_deg, slope_deg};
