//! Grounds beside the land: meshes and further terrains, each placed, turned and scaled.

use super::site::{Earths, MeshPlacing, Stroke};
use super::{BlobId, HeightmapGround, NoiseGround};
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Names a ground within the scene. The land is always [`GroundId::LAND`].
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct GroundId(pub u32);

impl GroundId {
    /// The land itself, which has no place of its own.
    pub const LAND: Self = Self(0);
    /// The plants of another layer, for a layer that grows on them. No ground of a scene has this number.
    pub const PLANTS: Self = Self(u32::MAX);
}

/// Which way is up for what grows on a ground.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Upright {
    /// Everything stands by the plumb line.
    #[default]
    Gravity,
    /// Everything stands square to the surface.
    Surface,
    /// Away from the middle of the ground, as on a small planet.
    Centre,
}

/// A sea arch, closed all round: a fin of rock with a hole through it and a needle beside it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ArchGround {
    /// Length from end to end, metres, 4 to 400.
    pub length_m: f32,
    /// Height of its back over its foot, metres, 3 to 200.
    pub height_m: f32,
    /// Thickness of the fin, metres, 1 to 200.
    pub thickness_m: f32,
    /// Share of the length that the opening spans, 0 to 0.8.
    pub opening: f32,
    /// How rough the rock is, 0 to 1.
    pub ruggedness: f32,
    /// Another number, another arch.
    pub seed: u32,
    /// Length of the faces, metres, 0.1 to 10.
    pub detail_m: f32,
}

impl Default for ArchGround {
    fn default() -> Self {
        Self {
            length_m: 46.0,
            height_m: 24.0,
            thickness_m: 11.0,
            opening: 0.42,
            ruggedness: 0.55,
            seed: 7,
            detail_m: 0.45,
        }
    }
}

/// A small planet: a ball with hills.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PlanetGround {
    /// Its mean radius, metres, 0.5 to 500.
    pub radius_m: f32,
    /// Height from the lowest to the highest land as a share of the radius, 0 to 0.6.
    pub relief: f32,
    /// Another number, another planet.
    pub seed: u32,
    /// Faces along a quarter of its round, 8 to 256.
    pub faces: u32,
}

impl Default for PlanetGround {
    fn default() -> Self {
        Self { radius_m: 12.0, relief: 0.16, seed: 3, faces: 80 }
    }
}

/// A mesh from an uploaded file.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MeshGround {
    /// The file itself.
    pub blob: BlobId,
    /// What the file was called.
    pub name: String,
    /// How it is read.
    pub placing: MeshPlacing,
    /// The parts of the file that are taken, by name or material; all of them when empty.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub parts: Vec<String>,
}

/// Where the surface of a placed ground comes from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum PlacedSource {
    /// A mesh from a file.
    Mesh(MeshGround),
    /// A sea arch.
    Arch(ArchGround),
    /// A small planet.
    Planet(PlanetGround),
    /// A terrain from noise.
    Noise(NoiseGround),
    /// A terrain from a file.
    Heightmap(HeightmapGround),
}

impl PlacedSource {
    /// Whether it is a terrain, on which everything has its place on the plan.
    pub fn has_plan(&self) -> bool {
        matches!(self, Self::Noise(_) | Self::Heightmap(_))
    }
}

/// A ground beside the land. What grows on it moves and turns with it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PlacedGround {
    /// Lasting name within the scene; above zero.
    pub id: GroundId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// Where its surface comes from.
    pub source: PlacedSource,
    /// Where its origin stands, east, metres.
    pub x_m: f32,
    /// Height of its origin, metres.
    pub y_m: f32,
    /// Where its origin stands, south, metres.
    pub z_m: f32,
    /// Turn about the vertical, degrees clockwise from north, -360 to 360.
    pub turn_deg: f32,
    /// Times its own size, 0.001 to 1000. Plants on it keep their own size.
    pub scale: f32,
    /// Which way is up for what grows on it.
    #[serde(default)]
    pub upright: Upright,
    /// What it looks like where it is bare.
    #[serde(default, skip_serializing_if = "Earths::is_default")]
    pub earths: Earths,
    /// Sculpting strokes, in order; only on a terrain. In its own metres before it is scaled, so that they go with it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub strokes: Vec<Stroke>,
    /// A hidden ground and what grows on it are not in the view, stills or handoff.
    #[serde(default)]
    pub hidden: bool,
}
