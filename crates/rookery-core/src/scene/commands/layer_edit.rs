//! Changes of single settings of a layer.

use super::exchange::exchange;
use super::lists::{insert, put_in, take_out};
use crate::document::*;
use crate::scene::check::Refusal;
use serde::{Deserialize, Serialize};
use std::mem::replace;

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// A change of one setting of a layer; the others stay as they are.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum LayerEdit {
    /// Its name.
    Name {
        /// 1 to 80 characters.
        value: String,
    },
    /// One species alone, instead of what grew.
    Species {
        /// A species of the nursery.
        value: SpeciesId,
    },
    /// What grows, with shares.
    Mix {
        /// 1 to 16 species.
        value: Vec<MixPart>,
    },
    /// The colour laid over its plants.
    Tint {
        /// All of it.
        value: Tint,
    },
    /// The rows of the patterns in rows and along a line.
    Rows {
        /// All of them.
        value: Rows,
    },
    /// Where it grows.
    Grounds {
        /// The grounds; every one of the scene when empty.
        value: Vec<GroundId>,
    },
    /// Another layer whose plants it grows on; none for grounds.
    OnPlants {
        /// The other layer.
        value: Option<LayerId>,
    },
    /// How its plants are drawn in the view.
    ShowAs {
        /// Which stand-in, or automatic.
        value: ShowAs,
    },
    /// The group it belongs to.
    Group {
        /// 1 to 80 characters; none for no group.
        value: Option<String>,
    },
    /// Shown or hidden.
    Visible {
        /// Whether it is shown.
        value: bool,
    },
    /// How much of the wind its plants take.
    WindShare {
        /// 0 to 1.
        value: f32,
    },
    /// Locked or open.
    Locked {
        /// Whether it is locked.
        value: bool,
    },
    /// The arrangement.
    Seed {
        /// Any number.
        value: u32,
    },
    /// The arrangements to come back to.
    KeptSeeds {
        /// All of them, at most 24, each once.
        value: Vec<u32>,
    },
    /// How places are chosen.
    Pattern {
        /// The pattern.
        value: Pattern,
    },
    /// The clumps of the clumped pattern.
    Clumps {
        /// The clumps.
        value: Clumps,
    },
    /// How many.
    Amount {
        /// The amount.
        value: Amount,
    },
    /// Sets plants by hand, clears spots by hand, and lets go of either.
    Tend {
        /// What is set or cleared; it takes the place of what has its id.
        #[serde(default)]
        put: Vec<Tended>,
        /// What is let go of: it grows by itself again.
        #[serde(default)]
        let_go: Vec<TendedId>,
    },
    /// Strews plants by strokes, and takes strokes out.
    Drifts {
        /// Strokes; each takes the place of the one with its id.
        #[serde(default)]
        put: Vec<Drift>,
        /// Strokes that are taken out.
        #[serde(default)]
        take_out: Vec<DriftId>,
    },
    /// What its plants keep clear of.
    Clearance {
        /// All of it.
        value: Clearance,
    },
    /// The most plants.
    Cap {
        /// 1 to 10 million.
        value: u32,
    },
    /// Adds a mask, or replaces the one with its id.
    PutMask {
        /// The whole mask.
        value: Mask,
        /// Its place among the masks when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a mask out.
    RemoveMask {
        /// Which.
        id: MaskId,
    },
    /// Moves a mask to another place among them.
    MoveMask {
        /// Which.
        id: MaskId,
        /// Its new place, counted without it.
        place: u32,
    },
    /// All masks at once.
    Masks {
        /// The masks, in order.
        value: Vec<Mask>,
    },
    /// One mask's curve or switch.
    Mask {
        /// The mask with its id.
        value: Mask,
    },
    /// Size range.
    Size {
        /// Against full size.
        value: Range,
    },
    /// Turn range.
    Turn {
        /// Degrees.
        value: Range,
    },
    /// Most tilt.
    Tilt {
        /// Degrees.
        value: f32,
    },
    /// Upright by gravity or by the surface.
    Upright {
        /// 0 to 1.
        value: f32,
    },
    /// How deep the base is sunk.
    Sink {
        /// Metres.
        value: f32,
    },
    /// How sizes lie within their range.
    Sizes {
        /// The spread.
        value: SizeSpread,
    },
    /// Height along the stem against size.
    Tall {
        /// 0.25 to 4.
        value: Range,
    },
    /// Depth from front to back against size.
    Deep {
        /// 0.25 to 4.
        value: Range,
    },
    /// How far plants lie as they fell.
    Tumble {
        /// 0 to 1.
        value: f32,
    },
    /// How far all plants lean, and which way.
    Lean {
        /// Degrees, -90 to 90.
        deg: f32,
        /// Which way.
        value: LeanTo,
    },
    /// How far single plants are raised.
    Lift {
        /// Metres.
        value: Range,
    },
    /// How far plants are shifted from their places.
    Shift {
        /// Metres.
        value: f32,
    },
    /// Whether tilt, tumble and lean may go beyond what fits each kind.
    Beyond {
        /// Whether they may.
        value: bool,
    },
}

impl SharedSettings {
    /// The settings an edit changes; none for what is never shared.
    pub fn set_by(edit: &LayerEdit) -> Option<Self> {
        use LayerEdit as E;
        match edit {
            E::Species { .. } | E::Mix { .. } | E::Tint { .. } => Some(Self::Mix),
            E::Pattern { .. } | E::Clumps { .. } | E::Rows { .. } | E::Amount { .. } => Some(Self::Amount),
            E::Masks { .. }
            | E::Mask { .. }
            | E::PutMask { .. }
            | E::RemoveMask { .. }
            | E::MoveMask { .. } => Some(Self::Masks),
            E::Size { .. }
            | E::Turn { .. }
            | E::Tilt { .. }
            | E::Upright { .. }
            | E::Sink { .. }
            | E::Sizes { .. }
            | E::Tall { .. }
            | E::Deep { .. }
            | E::Tumble { .. }
            | E::Lean { .. }
            | E::Lift { .. }
            | E::Shift { .. }
            | E::Beyond { .. } => Some(Self::Stance),
            E::Clearance { .. } => Some(Self::Clearance),
            E::Name { .. }
            | E::Group { .. }
            | E::Grounds { .. }
            | E::OnPlants { .. }
            | E::ShowAs { .. }
            | E::Visible { .. }
            | E::Locked { .. }
            | E::WindShare { .. }
            | E::Seed { .. }
            | E::KeptSeeds { .. }
            | E::Tend { .. }
            | E::Drifts { .. }
            | E::Cap { .. } => None,
        }
    }
}

/// The paths an edit sets, below the layer.
pub(super) fn fields(edit: &LayerEdit) -> Vec<String> {
    use LayerEdit as E;
    let one = match edit {
        E::Name { .. } => "name",
        E::Species { .. } | E::Mix { .. } => "mix",
        E::Tint { .. } => "tint",
        E::Rows { .. } => "rows",
        E::Grounds { .. } => "grounds",
        E::OnPlants { .. } => "on_plants",
        E::ShowAs { .. } => "show_as",
        E::Visible { .. } => "visible",
        E::WindShare { .. } => "wind_share",
        E::Locked { .. } => "locked",
        E::Seed { .. } => "seed",
        E::KeptSeeds { .. } => "kept_seeds",
        E::Group { .. } => "group",
        E::Pattern { .. } => "pattern",
        E::Clumps { .. } => "clumps",
        E::Amount { .. } => "amount",
        E::Clearance { .. } => "clearance",
        E::Cap { .. } => "cap",
        E::Masks { .. } => "masks",
        E::Mask { value } => return vec![format!("masks/{}", value.id.0)],
        E::PutMask { value, .. } => return vec![format!("masks/{}", value.id.0)],
        E::RemoveMask { id } => return vec![format!("masks/{}", id.0)],
        E::MoveMask { id, .. } => return vec![format!("masks/{}/place", id.0)],
        E::Tend { put, let_go } => {
            let ids = put.iter().map(|t| t.id).chain(let_go.iter().copied());
            return ids.map(|id| format!("tended/{}", id.0)).collect();
        }
        E::Drifts { put, take_out } => {
            let ids = put.iter().map(|d| d.id).chain(take_out.iter().copied());
            return ids.map(|id| format!("drifts/{}", id.0)).collect();
        }
        E::Lean { .. } => return vec!["stance/lean".to_owned(), "stance/lean_deg".to_owned()],
        E::Size { .. } => "stance/size",
        E::Turn { .. } => "stance/turn_deg",
        E::Tilt { .. } => "stance/tilt_deg",
        E::Upright { .. } => "stance/upright",
        E::Sink { .. } => "stance/sink_m",
        E::Sizes { .. } => "stance/sizes",
        E::Tall { .. } => "stance/tall",
        E::Deep { .. } => "stance/deep",
        E::Tumble { .. } => "stance/tumble",
        E::Lift { .. } => "stance/lift_m",
        E::Shift { .. } => "stance/shift_m",
        E::Beyond { .. } => "stance/beyond",
    };
    vec![one.to_owned()]
}

/// Changes the layer and gives the edit that takes it back.
pub(super) fn change_layer(layer: &mut Layer, edit: LayerEdit) -> Result<LayerEdit, Refusal> {
    use LayerEdit as E;
    Ok(match edit {
        E::Name { value } => E::Name { value: replace(&mut layer.name, value) },
        E::Species { value } => E::Mix { value: replace(&mut layer.mix, all_of(value)) },
        E::Mix { value } => E::Mix { value: replace(&mut layer.mix, value) },
        E::Tint { value } => E::Tint { value: replace(&mut layer.tint, value) },
        E::Rows { value } => E::Rows { value: replace(&mut layer.rows, value) },
        E::Grounds { value } => E::Grounds { value: replace(&mut layer.grounds, value) },
        E::OnPlants { value } => E::OnPlants { value: replace(&mut layer.on_plants, value) },
        E::ShowAs { value } => E::ShowAs { value: replace(&mut layer.show_as, value) },
        E::Visible { value } => E::Visible { value: replace(&mut layer.visible, value) },
        E::WindShare { value } => E::WindShare { value: replace(&mut layer.wind_share, value) },
        E::Locked { value } => E::Locked { value: replace(&mut layer.locked, value) },
        E::Group { value } => E::Group { value: replace(&mut layer.group, value) },
        E::KeptSeeds { value } => E::KeptSeeds { value: replace(&mut layer.kept_seeds, value) },
        E::Seed { value } => E::Seed { value: replace(&mut layer.seed, value) },
        E::Pattern { value } => E::Pattern { value: replace(&mut layer.pattern, value) },
        E::Clumps { value } => E::Clumps { value: replace(&mut layer.clumps, value) },
        E::Amount { value } => E::Amount { value: replace(&mut layer.amount, value) },
        E::Tend { put, let_go } => {
            let (put, let_go) = exchange("tended plant", &mut layer.tended, put, let_go)?;
            E::Tend { put, let_go }
        }
        E::Drifts { put, take_out } => {
            let (put, take_out) = exchange("drift", &mut layer.drifts, put, take_out)?;
            E::Drifts { put, take_out }
        }
        E::Clearance { value } => E::Clearance { value: replace(&mut layer.clearance, value) },
        E::Cap { value } => E::Cap { value: replace(&mut layer.cap, value) },
        E::Masks { value } => E::Masks { value: replace(&mut layer.masks, value) },
        E::PutMask { value, place } => match put_in(&mut layer.masks, &value, place, |m| m.id == value.id) {
            Some(old) => E::PutMask { value: old, place },
            None => E::RemoveMask { id: value.id },
        },
        E::RemoveMask { id } => {
            let (value, place) = take_out(&mut layer.masks, "mask", || id.0.to_string(), |m| m.id == id)?;
            E::PutMask { value, place: Some(place) }
        }
        E::MoveMask { id, place } => {
            let (mask, from) = take_out(&mut layer.masks, "mask", || id.0.to_string(), |m| m.id == id)?;
            insert(&mut layer.masks, mask, place);
            E::MoveMask { id, place: from }
        }
        E::Mask { value } => {
            let mask = layer
                .masks
                .iter_mut()
                .find(|m| m.id == value.id)
                .ok_or_else(|| Refusal::Missing { what: "mask", id: value.id.0.to_string() })?;
            E::Mask { value: replace(mask, value) }
        }
        E::Size { value } => E::Size { value: replace(&mut layer.stance.size, value) },
        E::Turn { value } => E::Turn { value: replace(&mut layer.stance.turn_deg, value) },
        E::Tilt { value } => E::Tilt { value: replace(&mut layer.stance.tilt_deg, value) },
        E::Upright { value } => E::Upright { value: replace(&mut layer.stance.upright, value) },
        E::Sink { value } => E::Sink { value: replace(&mut layer.stance.sink_m, value) },
        E::Sizes { value } => E::Sizes { value: replace(&mut layer.stance.sizes, value) },
        E::Tall { value } => E::Tall { value: replace(&mut layer.stance.tall, value) },
        E::Deep { value } => E::Deep { value: replace(&mut layer.stance.deep, value) },
        E::Tumble { value } => E::Tumble { value: replace(&mut layer.stance.tumble, value) },
        E::Lean { deg, value } => E::Lean {
            deg: replace(&mut layer.stance.lean_deg, deg),
            value: replace(&mut layer.stance.lean, value),
        },
        E::Lift { value } => E::Lift { value: replace(&mut layer.stance.lift_m, value) },
        E::Shift { value } => E::Shift { value: replace(&mut layer.stance.shift_m, value) },
        E::Beyond { value } => E::Beyond { value: replace(&mut layer.stance.beyond, value) },
    })
}
