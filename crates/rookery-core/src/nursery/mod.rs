//! Species: what grows, generated from real sizes.

mod bending;
mod bent;
mod dress;
mod figure;
mod flutter;
mod imported;
mod likeness;
mod look;
pub mod make;
mod mesh;
mod open;
mod placing;
mod ready;
mod seen;
mod settings;
mod skin;
mod species;
mod sways;

pub use bending::Bending;
pub use bent::{Hung, Pose, Stood};
pub use dress::{Dress, Place, five, four, worn};
pub use figure::figure;
pub use flutter::{FLUTTER_HZ, FLUTTER_RAD, Flutter, flutter_turns};
pub use imported::{Held, Imported};
pub use look::{Colours, Look, Rgb, Season, Year};
pub use mesh::{Detail, Mesh};
pub use open::open_to_sky;
pub use placing::{MeshPlacing, UpAxis};
pub use ready::{BOULDER, EDITION, MARRAM, ready, ready_in, ready_species, remade_since};
pub use seen::Seen;
pub use settings::Setting;
pub use skin::{Picture, Skin, srgb_to_linear};
pub use species::{Kind, MostStance, Plan, Species};
pub use sways::Sways;
