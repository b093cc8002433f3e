//! Randomness by hash, noise, and small geometry.

pub mod hash;
pub mod noise;
pub mod sampling;
