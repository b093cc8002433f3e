//! Counting what was asked, what was placed, and why the rest was not.

use super::AmountIn;
use crate::document::{LayerId, MaskId, Quantity};
use serde::Serialize;

/// Why a candidate does not stand.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(tag = "rule", rename_all = "snake_case")]
pub enum Reason {
    /// A mask let too little through here.
    Mask {
        /// Which mask of the layer.
        id: MaskId,
        /// What it looks at.
        quantity: Quantity,
    },
    /// It would hang over the edge of a zone.
    Edge,
    /// It would reach onto a track.
    Track,
    /// An obstacle is too near.
    Obstacle,
    /// A plant of a layer that claims its ground first is too near.
    Layer {
        /// Which layer.
        id: LayerId,
    },
    /// It was taken in hand, or its spot was cleared by hand.
    Tended,
    /// A plant of its own layer that came first is too near.
    OwnKind,
    /// The layer already holds as many plants as its cap, or that of the scene, allows.
    Cap,
}

/// How many candidates fell for one reason.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Refused {
    /// The reason.
    pub reason: Reason,
    /// Candidates.
    pub count: u64,
}

/// The account of one layer's growth. `candidates` is always `placed` and all `refused` together.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Tally {
    /// Plants asked for on the allowed ground.
    pub asked: u64,
    /// The most plants it may have: its own cap, or less where the cap of the scene leaves it no more.
    pub cap: u32,
    /// What is asked for, in every unit.
    pub amount: AmountIn,
    /// Plants placed, those set by hand too.
    pub placed: u64,
    /// Of those, how many are of each species, in the order of the mix.
    pub per_species: Vec<u64>,
    /// Plants set by hand.
    pub by_hand: u64,
    /// Plants strewn by drifts.
    pub in_drifts: u64,
    /// Places looked at on the whole ground.
    pub candidates: u64,
    /// Why places stayed empty; one entry per mask, then those of clearance, then the cap.
    pub refused: Vec<Refused>,
    /// The most places the pattern has on the whole ground, where it has only so many: rows, lines, corners and faces.
    pub room: Option<u64>,
    /// Plan area of the ground, m2.
    pub ground_m2: f64,
    /// Plan area the masks allow, m2, each part counted with the masks' value there.
    pub allowed_m2: f64,
    /// Share of the ground each mask alone lets through, in the order of the masks, 0 to 1.
    pub mask_shares: Vec<f32>,
}

impl Tally {
    /// The share of the whole ground, not only of what is allowed, that crowns cover, 0 to 1: about, from what was asked and placed.
    pub fn covered(&self) -> f32 {
        let part = |of: f64, all: f64| if all > 0.0 { (of / all).min(1.0) as f32 } else { 0.0 };
        let stands = part(self.placed as f64, self.asked as f64);
        self.amount.cover * stands * part(self.allowed_m2, self.ground_m2)
    }
}
