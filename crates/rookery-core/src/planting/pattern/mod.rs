//! How places are chosen. Every pattern is progressive: more candidates contain the fewer.

pub(crate) mod clumped;
mod even;
mod random;
mod spots;

pub use clumped::clumped_candidates;
pub use even::EvenPattern;
pub use random::random_candidates;
