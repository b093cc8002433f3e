//! Settings that several layers have in common: changed for one, they change for all.

use super::command::LayerEdit;
use super::document::{Document, LayerId};
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Names a share within the scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct ShareId(pub u32);

/// Settings of a layer that can be shared.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum SharedSettings {
    /// What grows, and its tint.
    Mix,
    /// Amount, pattern and what belongs to it.
    Amount,
    /// All masks.
    Masks,
    /// How plants stand.
    Stance,
    /// What plants keep clear of.
    Clearance,
}

/// Layers with settings in common. A layer is in at most one share for each kind of settings.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Share {
    /// Lasting name within the scene.
    pub id: ShareId,
    /// What they have in common.
    pub settings: SharedSettings,
    /// Which layers, 2 or more. When the share is made the others take over what the first one has.
    pub layers: Vec<LayerId>,
}

impl SharedSettings {
    /// All kinds of settings.
    pub const ALL: [Self; 5] = [Self::Mix, Self::Amount, Self::Masks, Self::Stance, Self::Clearance];

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
            | E::Grounds { .. }
            | E::OnPlants { .. }
            | E::ShowAs { .. }
            | E::Visible { .. }
            | E::Locked { .. }
            | E::Seed { .. }
            | E::KeptSeeds { .. }
            | E::Tend { .. }
            | E::Drifts { .. }
            | E::Cap { .. } => None,
        }
    }
}

impl Document {
    /// The layers that change with this one when these settings do, without itself.
    pub fn sharing(&self, id: LayerId, settings: SharedSettings) -> Vec<LayerId> {
        let shares = self.shares.iter().filter(|s| s.settings == settings && s.layers.contains(&id));
        shares.flat_map(|s| &s.layers).copied().filter(|l| *l != id && self.layer(*l).is_some()).collect()
    }
}

/// Gives a layer the settings of another.
pub(super) fn take_over(document: &mut Document, from: LayerId, to: LayerId, settings: SharedSettings) {
    let Some(source) = document.layer(from).cloned() else { return };
    let Some(layer) = document.layers.iter_mut().find(|l| l.id == to) else { return };
    match settings {
        SharedSettings::Mix => (layer.mix, layer.tint) = (source.mix, source.tint),
        SharedSettings::Amount => {
            (layer.amount, layer.pattern) = (source.amount, source.pattern);
            (layer.clumps, layer.rows) = (source.clumps, source.rows);
        }
        SharedSettings::Masks => layer.masks = source.masks,
        SharedSettings::Stance => layer.stance = source.stance,
        SharedSettings::Clearance => layer.clearance = source.clearance,
    }
}
