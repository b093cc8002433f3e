//! Surfaces that plants grow on, and reading them.

pub mod analysis;
pub mod colour;
pub mod model;
pub mod noise_terrain;
pub mod obstacle;
pub mod outline;
pub mod reading;
pub mod sculpt;
pub mod terrain;

pub use model::GroundModel;
pub use reading::{Reading, Scale};
pub use terrain::{Terrain, TerrainError};
