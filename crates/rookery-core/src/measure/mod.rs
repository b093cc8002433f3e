//! Saying what a layer is, in words.

mod sentence;

pub use sentence::{Part, sentence};
