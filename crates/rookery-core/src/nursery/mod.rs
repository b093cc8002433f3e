//! Species: what grows, generated from real sizes.

mod bending;
mod figure;
mod look;
pub mod make;
mod mesh;
mod ready;
mod settings;
mod species;

pub use bending::Bending;
pub use figure::figure;
pub use look::{Colours, Look, Rgb, Season, Year};
pub use mesh::{Detail, Mesh};
pub use ready::{BOULDER, MARRAM, ready, ready_species};
pub use settings::Setting;
pub use species::{Kind, Plan, Species};
