//! How places are chosen. Every pattern is progressive: more candidates contain the fewer.

pub(crate) mod clumped;
mod even;
mod layout;
mod place;
mod random;
mod spots;

pub use clumped::clumped_candidates;
pub use even::EvenPattern;
pub use layout::{FACES, Layout, PlanPoint, VERTICES, own_birth};
pub use place::{Candidate, MAX_CANDIDATES, MeshPlace, Place};
pub use random::random_candidates;
