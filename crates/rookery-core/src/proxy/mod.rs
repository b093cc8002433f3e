//! Lightweight stand-ins of a form.

mod card;
mod hull;
mod simplify;

pub use card::Card;
pub use hull::{box_of, hull_of};
pub use simplify::{Simplified, simplified};
