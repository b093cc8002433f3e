//! Settings that several layers have in common: changed for one, they change for all.

use super::{Document, LayerId};
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
}

impl Document {
    /// The layers that change with this one when these settings do, without itself.
    pub fn sharing(&self, id: LayerId, settings: SharedSettings) -> Vec<LayerId> {
        let shares = self.shares.iter().filter(|s| s.settings == settings && s.layers.contains(&id));
        shares.flat_map(|s| &s.layers).copied().filter(|l| *l != id && self.layer(*l).is_some()).collect()
    }
}
