//! Lightweight stand-ins of a form.

mod card;
mod hull;

pub use card::Card;
pub use hull::{box_of, hull_of};
