//! Randomness by hash, noise, and small geometry.

pub mod bearing;
pub mod distance_transform;
pub mod flap;
mod grouped;
pub mod hash;
pub mod limb;
pub mod mesh_distance;
pub mod noise;
pub mod plan_grid;
pub mod power;
pub mod sampling;
pub mod sine;

pub use grouped::grouped;
