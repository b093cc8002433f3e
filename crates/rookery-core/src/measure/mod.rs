//! Saying what a layer is, in words.

mod bare;
mod crossings;
mod findings;
mod held;
mod responses;
mod section;
mod sentence;

pub use crate::math::grouped;
pub use bare::Bare;
pub use crossings::{Crossing, crossings};
pub use findings::{Finding, Findings, findings};
pub use responses::{Beside, ResponseCount, response_count, with_responses};
pub use section::{Cut, CutLand, CutSolid, Section, SectionPlant, SectionReading, section};
pub use sentence::{Part, sentence};
