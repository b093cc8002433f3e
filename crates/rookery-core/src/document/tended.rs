//! Plants that were worked on by hand.

use super::SpeciesId;
use super::placed::GroundId;
use crate::names::PlantId;
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Names something tended within its layer; never used twice.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct TendedId(pub u32);

/// A plant set by hand, or a spot that was cleared by hand. It stays through every change of the layer's settings.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Tended {
    /// Lasting name within the layer.
    pub id: TendedId,
    /// The ground it stands on.
    #[serde(default, skip_serializing_if = "is_land")]
    pub ground: GroundId,
    /// Where, in that ground's own frame, metres. On a terrain the height follows the ground.
    pub at_m: [f32; 3],
    /// The plant that grew by itself and was taken in hand; it no longer does.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub from: Option<Origin>,
    /// The plant; none where the spot is to stay clear.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub plant: Option<Pose>,
    /// How far a spot that is to stay clear reaches, metres, 0 to 100.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub room_m: f32,
}

/// Names a plant that grew by itself.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Origin {
    /// The arrangement it was part of; in others its name means another plant.
    pub seed: u32,
    /// Its lasting name in that arrangement, 16 hexadecimal digits.
    pub name: String,
}

impl Origin {
    /// Names a plant of an arrangement.
    pub fn new(seed: u32, id: PlantId) -> Self {
        Self { seed, name: format!("{:016x}", id.0) }
    }

    /// The plant, if the name is one.
    pub fn plant(&self) -> Option<PlantId> {
        (self.name.len() == 16).then(|| u64::from_str_radix(&self.name, 16).ok().map(PlantId))?
    }
}

/// How a tended plant stands.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Pose {
    /// What it is. Where the layer does not grow it any more, it stands as what the layer grows most of.
    pub species: SpeciesId,
    /// Which individual.
    #[serde(default)]
    pub form: u16,
    /// Against full size, 0.01 to 100.
    pub size: f32,
    /// Height and depth against that size, 0.25 to 4.
    #[serde(default = "ones", skip_serializing_if = "is_ones")]
    pub stretch: [f32; 2],
    /// Turn about its stem, degrees clockwise from north, -360 to 360.
    pub turn_deg: f32,
    /// Tilt from the upright, degrees, 0 to 180.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub tilt_deg: f32,
    /// Which way it tilts, degrees clockwise from north, -360 to 360.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub tilt_to_deg: f32,
    /// How far its base is above the ground, metres, -20 to 200.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub lift_m: f32,
    /// Its own number for colour.
    #[serde(default = "middle")]
    pub tint: u16,
    /// What its colours are multiplied with, in 128ths.
    #[serde(default = "plain", skip_serializing_if = "is_plain")]
    pub colour: [u8; 3],
}

fn is_land(ground: &GroundId) -> bool {
    *ground == GroundId::LAND
}

fn is_zero(value: &f32) -> bool {
    *value == 0.0
}

fn ones() -> [f32; 2] {
    [1.0; 2]
}

fn is_ones(value: &[f32; 2]) -> bool {
    *value == ones()
}

fn middle() -> u16 {
    0x8080
}

fn plain() -> [u8; 3] {
    [128; 3]
}

fn is_plain(value: &[u8; 3]) -> bool {
    *value == plain()
}
