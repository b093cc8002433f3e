//! Layers: what grows in them, how many, in which pattern, and how each plant stands.

use super::Range;
use super::clearance::Clearance;
use super::drift::Drift;
use super::mask::Mask;
use super::motion::{all_wind, is_all_wind};
use super::placed::GroundId;
use super::site::OutlineId;
use super::tended::Tended;
use super::{LayerId, SpeciesId};
use serde::{Deserialize, Deserializer, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// A group of plants with shared rules.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Layer {
    /// Lasting name within the scene.
    pub id: LayerId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// What grows: 1 to 16 species with their shares. A document may give a single species by its id, as `species`.
    #[serde(alias = "species", deserialize_with = "one_or_many")]
    pub mix: Vec<MixPart>,
    /// Where it grows; on every ground of the scene when empty.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub grounds: Vec<GroundId>,
    /// Another layer whose plants it grows on, instead of on any ground: moss on boulders.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub on_plants: Option<LayerId>,
    /// Hidden layers are neither shown nor rendered nor handed off.
    pub visible: bool,
    /// Locked layers refuse every change but unlocking, showing, hiding and grouping.
    pub locked: bool,
    /// Another number, another arrangement.
    pub seed: u32,
    /// Seeds of arrangements to come back to, at most 24, each once.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub kept_seeds: Vec<u32>,
    /// The group it belongs to, 1 to 80 characters: those of one group are folded, hidden and locked together. Nothing of it grows
    /// otherwise.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub group: Option<String>,
    /// How the places are chosen.
    pub pattern: Pattern,
    /// How many are asked for.
    pub amount: Amount,
    /// The most plants this layer may place, 1 to 10 million.
    pub cap: u32,
    /// Where plants may stand, and what else changes from place to place.
    pub masks: Vec<Mask>,
    /// How each plant stands.
    pub stance: Stance,
    /// What colour is laid over its plants.
    #[serde(default, skip_serializing_if = "Tint::is_none")]
    pub tint: Tint,
    /// The clumps of the clumped pattern.
    #[serde(default, skip_serializing_if = "Clumps::is_default")]
    pub clumps: Clumps,
    /// The rows of the patterns in rows and along a line.
    #[serde(default, skip_serializing_if = "Rows::is_default")]
    pub rows: Rows,
    /// What its plants keep clear of.
    #[serde(default, skip_serializing_if = "Clearance::is_default")]
    pub clearance: Clearance,
    /// Plants set by hand and spots cleared by hand.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tended: Vec<Tended>,
    /// Strokes that strew plants of its mix.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub drifts: Vec<Drift>,
    /// How its plants are drawn in the view. Stills and handoff have them in full.
    #[serde(default, skip_serializing_if = "ShowAs::is_auto")]
    pub show_as: ShowAs,
    /// The share of the wind that its plants take, 0 to 1; 0 holds them out of it.
    #[serde(default = "all_wind", skip_serializing_if = "is_all_wind")]
    pub wind_share: f32,
}

impl Layer {
    /// The species that the layer is known by: the one with the greatest share, the first of several.
    pub fn lead(&self) -> &SpeciesId {
        let most = self.mix.iter().map(|m| m.share).fold(0.0, f32::max);
        let lead = self.mix.iter().find(|m| m.share >= most).or(self.mix.first());
        &lead.expect("a layer grows at least one species").species
    }

    /// Whether it grows a species.
    pub fn grows(&self, species: &SpeciesId) -> bool {
        self.mix.iter().any(|m| m.species == *species)
    }
}

/// One species of a mix.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MixPart {
    /// Which.
    pub species: SpeciesId,
    /// Its part of the plants, 0 to 1, against the sum of all shares of the mix.
    pub share: f32,
}

/// A mix of one species.
pub fn all_of(species: SpeciesId) -> Vec<MixPart> {
    vec![MixPart { species, share: 1.0 }]
}

fn one_or_many<'de, D: Deserializer<'de>>(from: D) -> Result<Vec<MixPart>, D::Error> {
    #[derive(Deserialize)]
    #[serde(untagged)]
    enum Written {
        One(SpeciesId),
        Many(Vec<MixPart>),
    }
    Ok(match Written::deserialize(from)? {
        Written::One(species) => all_of(species),
        Written::Many(mix) => mix,
    })
}

/// A colour laid over the plants of a layer. Light and dark stay as the species has them.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Tint {
    /// Towards which colour, sRGB, each 0 to 1.
    pub colour: [f32; 3],
    /// How far, 0 to 1.
    pub strength: f32,
    /// How much lighter or darker single plants are, 0 to 1: at 1 by half to either side.
    pub spread: f32,
}

impl Default for Tint {
    fn default() -> Self {
        Self { colour: [1.0; 3], strength: 0.0, spread: 0.0 }
    }
}

impl Tint {
    /// Whether it leaves all plants as they are.
    pub fn is_none(&self) -> bool {
        *self == Self::default()
    }
}

/// How plants are drawn in the view.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum ShowAs {
    /// Each by its size on screen and the budget of triangles.
    #[default]
    Auto,
    /// With every leaf.
    Full,
    /// With a sixth of the leaves or so, made larger.
    Light,
    /// With a handful of leaves.
    Far,
    /// As two crossed pictures.
    Card,
    /// As the hull about it.
    Hull,
    /// As the box about it.
    Box,
    /// As a dot.
    Dot,
    /// Not at all in the view; in stills and handoff as ever. For what is too heavy to draw.
    Stills,
}

impl ShowAs {
    /// Whether nothing special is asked for.
    pub fn is_auto(&self) -> bool {
        *self == Self::Auto
    }
}

/// Clumps that plants stand in.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Clumps {
    /// How far from its middle a clump reaches, metres, 0.02 to 200: seven plants of eight stand within.
    pub radius_m: f32,
    /// Plants of a clump, on average, 2 to 500.
    pub plants: f32,
}

impl Default for Clumps {
    fn default() -> Self {
        Self { radius_m: 1.5, plants: 12.0 }
    }
}

impl Clumps {
    fn is_default(&self) -> bool {
        *self == Self::default()
    }

    /// Standard deviation of places about the middle, each way, metres.
    pub fn sigma_m(&self) -> f32 {
        self.radius_m * 0.5
    }
}

/// Rows that plants stand in.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Rows {
    /// From row to row on the plan, metres, 0.05 to 500.
    pub between_m: f32,
    /// From plant to plant in a row on the plan, metres, 0.05 to 500.
    pub along_m: f32,
    /// How far plants stray from their place, against half the spacing each way, 0 to 1.
    pub jitter: f32,
    /// Which way straight rows run, degrees clockwise from north, -360 to 360.
    pub turn_deg: f32,
    /// Whether every second row is shifted by half a step.
    pub staggered: bool,
    /// Beside which outline or track; only for rows along a line.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub line: Option<OutlineId>,
    /// How many rows lie beside the line, 1 to 50: the first to its right, the next to its left, and so on outwards.
    pub count: u32,
    /// How far the first rows lie from the line, metres, 0 to 500.
    pub offset_m: f32,
}

impl Default for Rows {
    fn default() -> Self {
        Self {
            between_m: 1.0,
            along_m: 0.5,
            jitter: 0.2,
            turn_deg: 0.0,
            staggered: false,
            line: None,
            count: 2,
            offset_m: 0.5,
        }
    }
}

impl Rows {
    fn is_default(&self) -> bool {
        *self == Self::default()
    }
}

/// How places are chosen. All patterns only add plants when the amount rises.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Pattern {
    /// Every place is as likely as any other.
    Random,
    /// Blue noise: no two plants much nearer than the rest.
    Even,
    /// In clumps, see [`Clumps`]; the clumps themselves lie at random.
    Clumped,
    /// In straight rows, see [`Rows`].
    Rows,
    /// Beside an outline or a track, see [`Rows`].
    Along,
    /// At the corners of a mesh, or the samples of a terrain: a layout made elsewhere.
    Vertices,
    /// At the middles of the faces of a mesh, or of the cells of a terrain.
    Faces,
}

/// How many plants are asked for.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "unit", rename_all = "snake_case", deny_unknown_fields)]
pub enum Amount {
    /// Plants per square metre of allowed plan area, 0 to 1000.
    PerM2 {
        /// Density.
        value: f32,
    },
    /// Plants in all, 0 to 10 million.
    Total {
        /// Count.
        value: u32,
    },
    /// Share of the allowed ground that crowns cover seen from above, 0 to 0.98. It is held when sizes change.
    Cover {
        /// Share.
        value: f32,
    },
    /// Side of the square of allowed ground that each plant has, metres, 0.03 to 1000.
    Spacing {
        /// Mean spacing.
        value_m: f32,
    },
}

/// How sizes lie within their range. Whichever it is, the plant that is larger than another stays so.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum SizeSpread {
    /// Every size is equally common.
    #[default]
    Even,
    /// Most near the middle: a triangle.
    Middle,
    /// Many small ones and few large ones, as stones and seedlings are.
    Small,
    /// Many large ones and few small ones, as a stand that has closed.
    Large,
}

/// Which way plants lean.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "to", rename_all = "snake_case")]
pub enum LeanTo {
    /// Down the slope; in full from 30 degrees on, not at all on level ground.
    #[default]
    Downhill,
    /// One way for all, such as the way the wind blows to.
    Bearing {
        /// Degrees clockwise from north, -360 to 360.
        deg: f32,
    },
}

/// How each plant stands. No part of it changes which plants there are.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Stance {
    /// Size against the species' full size, 0.01 to 100.
    pub size: Range,
    /// How sizes lie within that range.
    #[serde(default, skip_serializing_if = "is_default")]
    pub sizes: SizeSpread,
    /// Height along the stem against that size, 0.25 to 4.
    #[serde(default = "one", skip_serializing_if = "is_one")]
    pub tall: Range,
    /// Depth from front to back against that size, 0.25 to 4.
    #[serde(default = "one", skip_serializing_if = "is_one")]
    pub deep: Range,
    /// Turn about the upright, degrees clockwise from north, -360 to 360.
    pub turn_deg: Range,
    /// Most a plant tilts from its upright, any way, degrees, 0 to 180.
    pub tilt_deg: f32,
    /// How far plants lie as they fell, on any side: 0 stands, 1 lies any way at all.
    #[serde(default, skip_serializing_if = "is_default")]
    pub tumble: f32,
    /// 0 stands upright by gravity, 1 stands square to the surface.
    pub upright: f32,
    /// How far all plants lean, degrees, -90 to 90; below zero the other way.
    #[serde(default, skip_serializing_if = "is_default")]
    pub lean_deg: f32,
    /// Which way they lean.
    #[serde(default, skip_serializing_if = "is_default")]
    pub lean: LeanTo,
    /// How deep the base is sunk, metres, -10 to 10.
    pub sink_m: f32,
    /// How far single plants are raised above that, metres, 0 to 100: floating things.
    #[serde(default = "none", skip_serializing_if = "is_none")]
    pub lift_m: Range,
    /// How far a plant is shifted from its place along the ground, at most, any way, metres, 0 to 10.
    #[serde(default, skip_serializing_if = "is_default")]
    pub shift_m: f32,
    /// Whether tilt, tumble and lean may go beyond what fits each kind, see [`Kind::most`](crate::nursery::Kind::most).
    #[serde(default, skip_serializing_if = "is_default")]
    pub beyond: bool,
}

impl Default for Stance {
    /// Full size, upright, on the ground, facing north.
    fn default() -> Self {
        let [none, one] = [none(), one()];
        Self {
            size: one,
            sizes: SizeSpread::Even,
            tall: one,
            deep: one,
            turn_deg: none,
            tilt_deg: 0.0,
            tumble: 0.0,
            upright: 0.0,
            lean_deg: 0.0,
            lean: LeanTo::Downhill,
            sink_m: 0.0,
            lift_m: none,
            shift_m: 0.0,
            beyond: false,
        }
    }
}

fn one() -> Range {
    Range { min: 1.0, max: 1.0 }
}

fn is_one(range: &Range) -> bool {
    *range == one()
}

fn none() -> Range {
    Range { min: 0.0, max: 0.0 }
}

fn is_none(range: &Range) -> bool {
    *range == none()
}

fn is_default<T: Default + PartialEq>(value: &T) -> bool {
    *value == T::default()
}
