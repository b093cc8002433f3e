//! Waves on water, as a pure function of the wind, the land and the time: a sum of the same few waves in a still and in the view.
//!
//! [`Spectrum`] says how much of them there is in a wind over a fetch, [`Waves`] is the sum, [`Shores`] where land shelters the water and how deep it lies,
//! [`Sea`] all of it together.

mod sea;
mod shores;
mod spectrum;
mod waves;

pub use sea::{Sea, SeaNow};
pub use shores::Shores;
pub use spectrum::{OPEN_M, Spectrum};
pub use waves::{Component, PIXEL, SHORTEST_M, Slopes, WAVES, Waves, WavesNow};
