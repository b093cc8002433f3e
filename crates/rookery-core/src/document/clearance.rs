//! What plants keep clear of, and which layer yields to which.

use super::LayerId;
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// How much of a plant keeps clear.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Reach {
    /// Nothing: it does not keep clear.
    #[default]
    Nothing,
    /// What stands on the ground, see [`Species::footprint_m`](crate::nursery::Species::footprint_m).
    Footprint,
    /// All of it seen from above, see [`Species::radius_m`](crate::nursery::Species::radius_m).
    Crown,
}

/// What becomes of a plant that has too little room.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum TooClose {
    /// It does not stand.
    #[default]
    Remove,
    /// It is made as small as the room it has; below the least size it does not stand.
    Shrink,
    /// Its blades and stems lean and wrap around what is too near; only its footprint must have room. Of use for obstacles.
    /// Woody plants and stones cannot: they do not stand.
    Bend,
    /// What hangs over is cut off; only its base point must have room. Of use for edges and tracks.
    Trim,
}

/// How plants keep clear of one kind of thing.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Keep {
    /// How much of a plant keeps clear, at its real size.
    pub by: Reach,
    /// Room beside that, metres, -10 to 100; below zero they may reach into one another.
    #[serde(default)]
    pub margin_m: f32,
    /// What becomes of those with too little room; of use for obstacles, edges and tracks only.
    #[serde(default)]
    pub response: TooClose,
}

impl Keep {
    /// Keeps clear by the footprint, without a margin.
    pub const FOOTPRINT: Self = Self { by: Reach::Footprint, margin_m: 0.0, response: TooClose::Remove };

    /// Whether it keeps clear at all.
    pub fn is_on(&self) -> bool {
        self.by != Reach::Nothing
    }

    /// Whether it keeps clear by changing the form of plants.
    pub fn fits(&self) -> bool {
        self.is_on() && matches!(self.response, TooClose::Bend | TooClose::Trim)
    }
}

/// What the plants of a layer keep clear of. By default of nothing.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Clearance {
    /// Plants of the same layer. The one that appears first stands.
    pub own: Keep,
    /// Plants of layers that claim their ground first, see [`Document::claims`](super::Document::claims). How much of its
    /// plants a layer claims for is its own setting here.
    pub others: Keep,
    /// Obstacles, hidden ones too, by exact distance to their mesh.
    pub obstacles: Keep,
    /// The edges of the zones that masks let through.
    pub edges: Keep,
    /// Tracks: outlines of that kind, at their width.
    #[serde(default)]
    pub tracks: Keep,
    /// The least size that shrinking leaves, against the plant's own size, 0.05 to 1.
    #[serde(default = "least")]
    pub least: f32,
}

fn least() -> f32 {
    0.3
}

impl Default for Clearance {
    fn default() -> Self {
        let off = Keep::default();
        Self { own: off, others: off, obstacles: off, edges: off, tracks: off, least: least() }
    }
}

impl Clearance {
    /// Where every new layer begins: footprints stand clear of one another and of obstacles.
    pub fn usual() -> Self {
        let on = Keep::FOOTPRINT;
        Self { own: on, others: on, obstacles: on, ..Self::default() }
    }

    /// Whether it keeps clear of nothing.
    pub fn is_off(&self) -> bool {
        [self.own, self.others, self.obstacles, self.edges, self.tracks].iter().all(|k| !k.is_on())
    }

    /// Whether plants may be bent or trimmed.
    pub fn fits(&self) -> bool {
        self.obstacles.fits() || self.edges.fits() || self.tracks.fits()
    }

    pub(super) fn is_default(&self) -> bool {
        *self == Self::default()
    }
}

/// An exception to the rule that of two layers the lower in the profile yields to the higher, and plants to stones.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Yield {
    /// One layer.
    pub layer: LayerId,
    /// Another.
    pub to: LayerId,
    /// True: the first keeps clear of the second, wherever they stand in the profile. False: neither keeps clear of the other.
    pub yields: bool,
}

impl Yield {
    /// Whether it is about these two layers, in either order.
    pub fn is_of(&self, a: LayerId, b: LayerId) -> bool {
        (self.layer, self.to) == (a, b) || (self.layer, self.to) == (b, a)
    }
}
