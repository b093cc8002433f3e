//! How places are chosen. Every pattern is progressive: more candidates contain the fewer.

mod even;
mod random;
mod spots;

pub use even::EvenPattern;
pub use random::random_candidates;
