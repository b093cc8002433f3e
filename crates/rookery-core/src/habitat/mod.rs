//! Masks: where a layer's plants may stand, as a value from 0 to 1 at each point of the ground.

mod histogram;
mod response;
mod rules;
mod share;

pub use histogram::Histogram;
pub use response::response_at;
pub use rules::{Rules, ZoneField};
pub use share::{MaskShare, RunShare, Shares, shares, survey};
