//! Surfaces that plants grow on, and reading them.

pub mod analysis;
pub mod colour;
pub mod model;
pub mod noise_terrain;
pub mod terrain;

pub use model::GroundModel;
pub use terrain::{Terrain, TerrainError};
