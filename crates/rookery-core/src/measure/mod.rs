//! Saying what a layer is, in words.

mod grouped;
mod section;
mod sentence;

pub use grouped::grouped;
pub use section::{Cut, Section, SectionPlant, section};
pub use sentence::{Part, sentence};
