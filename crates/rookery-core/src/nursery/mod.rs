//! Species: what grows, generated from real sizes.

mod boulder;
mod marram;
mod mesh;
mod species;

pub use mesh::{Detail, Mesh};
pub use species::{BOULDER, Kind, MARRAM, SPECIES, Species, build, species};
