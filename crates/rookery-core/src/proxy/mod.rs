//! Lightweight stand-ins of a form.

mod hull;

pub use hull::{box_of, hull_of};
