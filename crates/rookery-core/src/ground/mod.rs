//! Surfaces that plants grow on, and reading them.

pub mod analysis;
mod any;
mod beyond;
pub mod colour;
mod histogram;
pub mod made;
pub mod mesh;
pub mod model;
pub mod noise_terrain;
pub mod obstacle;
pub mod reading;
pub mod sculpt;
mod sun_path;
mod surface;
pub mod terrain;
mod terrain_surface;

pub use crate::plan::{Frame, OutlineField, PlanBox, PlanBoxes, outline};
pub use any::{AnyGround, GroundRef, KeptEven};
pub use beyond::{beyond, hills};
pub use histogram::Histogram;
pub use mesh::{BodyName, MeshGroundError, MeshModel, MeshStanding, MeshSurface};
pub use model::GroundModel;
pub use reading::{Reading, Scale};
pub use sun_path::SunPath;
pub use surface::{Footing, Quota, Surface, Visit};
pub use terrain::{Terrain, TerrainError};
