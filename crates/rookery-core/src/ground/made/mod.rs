//! Meshes made in core: a sea arch and a small planet, both closed all round, and the surface of a water.

mod arch;
mod nets;
mod planet;
mod water;

pub use arch::arch;
pub use planet::planet;
pub use water::water_surface;
