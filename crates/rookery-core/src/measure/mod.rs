//! Saying what a layer is, in words.

mod grouped;
mod sentence;

pub use grouped::grouped;
pub use sentence::{Part, sentence};
