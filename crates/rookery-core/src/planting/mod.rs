//! Growing a layer: candidates, masks, stance, and a tally of what fell and why.

mod candidate;
mod grow;
pub mod pattern;
mod probe;
mod stance;
mod tally;

pub use candidate::{Candidate, PlantId};
pub use grow::{GrowError, Growth, MAX_CANDIDATES, Plant, grow, grow_with};
pub use probe::{MaskReading, Verdict, probe};
pub use stance::stand;
pub use tally::{Reason, Refused, Tally};
