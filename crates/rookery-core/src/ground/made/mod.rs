//! Meshes made in core: a sea arch and a small planet, both closed all round.

mod arch;
mod nets;
mod planet;

pub use arch::arch;
pub use planet::planet;
