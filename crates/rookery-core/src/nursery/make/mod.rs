//! Generators: one file a kind of plant or stone.

mod blades;
mod builder;
mod cushion;
mod debris;
mod frond;
mod herb;
mod pads;
mod rock;
mod wood;

pub use blades::{Blades, Head};
pub(crate) use builder::{Builder, heading};
pub use cushion::{Cover, Cushion};
pub use debris::{Debris, Litter};
pub use frond::{Divided, Frond};
pub use herb::{Bloom, Herb, LeafShape};
pub use pads::Pads;
pub use rock::Rock;
pub(crate) use rock::ball;
pub use wood::{CrownShape, Foliage, Wood};

use super::{Detail, Look, Mesh, Plan};
use glam::Vec3;

/// What a lighter mesh needs to be like the full one.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Likeness {
    /// How much broader leaves, blades and twigs are than the number of those left out says.
    pub broader: f32,
    /// How much larger all of it is.
    pub larger: f32,
    /// What its colours are multiplied by.
    pub tint: Vec3,
}

impl Default for Likeness {
    fn default() -> Self {
        Self { broader: 1.0, larger: 1.0, tint: Vec3::ONE }
    }
}

/// Makes one individual of a plan. Nothing but the arguments plays a part.
pub(super) fn build(
    plan: &Plan,
    look: &Look,
    seed: u32,
    form: u16,
    detail: Detail,
    likeness: Likeness,
) -> Mesh {
    let mut b = Builder::new(seed, form, detail);
    b.broader = likeness.broader;
    b.through = look.through;
    b.leafless = look.kept < 0.4;
    if matches!(plan, Plan::Herb(_) | Plan::Frond(_)) {
        // Few leaves, each of which counts.
        b.shares = [0.33, 0.08];
    }
    match plan {
        Plan::Blades(s) => blades::build(&mut b, s, look),
        Plan::Herb(s) => herb::build(&mut b, s, look),
        Plan::Frond(s) => frond::build(&mut b, s, look),
        Plan::Cushion(s) => cushion::build(&mut b, s, look),
        Plan::Wood(s) => wood::build(&mut b, s, look),
        Plan::Pads(s) => pads::build(&mut b, s, look),
        Plan::Rock(s) => rock::build(&mut b, s, look),
        Plan::Debris(s) => debris::build(&mut b, s, look),
        // Read from a file, not made.
        Plan::Imported(_) => {}
    }
    super::likeness::apply(&mut b.mesh, likeness);
    b.mesh
}
