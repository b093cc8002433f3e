//! Randomness by hash, noise, and small geometry.

pub mod bearing;
pub mod distance_transform;
pub mod hash;
pub mod mesh_distance;
pub mod noise;
pub mod plan_grid;
pub mod sampling;
