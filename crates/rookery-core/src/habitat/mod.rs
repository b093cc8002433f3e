//! Masks: where a layer's plants may stand, as a value from 0 to 1 at each point of the ground.

mod histogram;
mod response;
mod share;

pub use histogram::Histogram;
pub use response::response_at;
pub use share::{MaskShare, Shares, shares};

use crate::ground::{GroundModel, terrain::CellPoint};
use crate::scene::{Mask, Quantity};

/// The value of a quantity at a located point, in the quantity's own unit.
#[inline]
pub fn quantity_at(ground: &GroundModel, quantity: Quantity, p: CellPoint) -> f32 {
    match quantity {
        Quantity::Slope => ground.slope_in(p),
        Quantity::Altitude => ground.terrain.height_in(p),
    }
}

/// The value of one mask at a located point, 0 to 1. A mask that is switched off lets everything through.
#[inline]
pub fn mask_at(ground: &GroundModel, mask: &Mask, p: CellPoint) -> f32 {
    if mask.enabled { response_at(&mask.response, quantity_at(ground, mask.quantity, p)) } else { 1.0 }
}
