//! Surfaces that plants grow on, and reading them.

pub mod analysis;
mod any;
pub mod colour;
mod frame;
pub mod made;
pub mod mesh;
pub mod model;
pub mod noise_terrain;
pub mod obstacle;
pub mod outline;
mod outline_field;
mod plan_box;
pub mod reading;
pub mod sculpt;
mod sun_path;
mod surface;
pub mod terrain;
mod terrain_surface;

pub use any::{AnyGround, GroundRef, KeptEven};
pub use frame::Frame;
pub use mesh::{BodyName, MeshGroundError, MeshModel, MeshStanding, MeshSurface};
pub use model::GroundModel;
pub use outline_field::OutlineField;
pub use plan_box::{PlanBox, PlanBoxes};
pub use reading::{Reading, Scale};
pub use sun_path::SunPath;
pub use surface::{Footing, Quota, Surface, Visit};
pub use terrain::{Terrain, TerrainError};
