//! Grounds beside the land: meshes and further terrains, each placed, turned and scaled.

use super::site::{Earths, MeshPlacing, Stroke, WaterId, WaterPlane};
use super::{BlobId, Document, GroundMoves, GroundSource, HeightmapGround, NoiseGround};
use serde::{Deserialize, Serialize};
use std::borrow::Cow;

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
    /// The water that is everywhere, as far as the land reaches.
    pub const WATER: Self = Self(Self::WATERS + Self::MOST_WATERS);
    /// From here on grounds are sheets of water, numbered as they are.
    const WATERS: u32 = 1 << 30;
    const MOST_WATERS: u32 = (1 << 30) - 1;

    /// The surface of a sheet of water; none for a sheet whose number is too large for it.
    pub fn of_water(id: WaterId) -> Option<Self> {
        (id.0 < Self::MOST_WATERS).then(|| Self(Self::WATERS + id.0))
    }

    /// Whether it is the surface of a water.
    pub fn is_water(self) -> bool {
        (Self::WATERS..=Self::WATER.0).contains(&self.0)
    }
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
    /// The surface of a water. A scene has it as a sheet of water, not as a ground of its own.
    Water(WaterSurface),
}

/// The level surface of a water: its middle is the origin.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct WaterSurface {
    /// West to east, metres.
    pub width_m: f32,
    /// North to south, metres.
    pub depth_m: f32,
    /// An oval, not a rectangle.
    pub round: bool,
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
    /// How it moves over time; none for one that stays.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub moves: Option<GroundMoves>,
}

impl PlacedGround {
    /// The surface of a sheet of water, to grow on.
    fn on_water(id: GroundId, water: &WaterPlane) -> Self {
        Self {
            id,
            name: water.name.clone(),
            source: PlacedSource::Water(WaterSurface {
                width_m: water.width_m,
                depth_m: water.depth_m,
                round: water.round,
            }),
            x_m: water.x_m,
            y_m: water.height_m,
            z_m: water.z_m,
            turn_deg: water.turn_deg,
            scale: 1.0,
            upright: Upright::Gravity,
            earths: Earths::default(),
            strokes: Vec::new(),
            hidden: false,
            moves: None,
        }
    }
}

impl Document {
    /// The waters of the scene as grounds: the one that is everywhere, if there is any, and its sheets. Layers grow on them only where
    /// they say so.
    pub fn water_ids(&self) -> Vec<GroundId> {
        let everywhere = self.ground.water_m.filter(|_| !self.ground.absent).map(|_| GroundId::WATER);
        everywhere.into_iter().chain(self.waters.iter().filter_map(|w| GroundId::of_water(w.id))).collect()
    }

    /// Whether something can grow on it here: it is one of the grounds of the scene, or one of its waters.
    pub fn has_ground(&self, id: GroundId) -> bool {
        self.ground_ids().contains(&id) || self.water_ids().contains(&id)
    }

    /// What a ground is called.
    pub fn ground_name(&self, id: GroundId) -> String {
        self.placed(id).map_or_else(|| "Land".to_owned(), |g| g.name.clone())
    }

    /// A ground beside the land, or the surface of a water.
    pub fn placed(&self, id: GroundId) -> Option<Cow<'_, PlacedGround>> {
        if let Some(ground) = self.grounds.iter().find(|g| g.id == id) {
            return Some(Cow::Borrowed(ground));
        }
        if id == GroundId::WATER {
            return self.everywhere().map(|w| Cow::Owned(PlacedGround::on_water(id, &w)));
        }
        let sheet = self.waters.iter().find(|w| GroundId::of_water(w.id) == Some(id))?;
        Some(Cow::Owned(PlacedGround::on_water(id, sheet)))
    }

    /// The water that is everywhere, as a sheet as large as the land.
    fn everywhere(&self) -> Option<WaterPlane> {
        let height_m = self.ground.water_m.filter(|_| !self.ground.absent)?;
        let (width_m, depth_m) = match &self.ground.source {
            GroundSource::Noise(n) => (n.size_m, n.size_m),
            GroundSource::Heightmap(h) => (h.width_m, h.depth_m),
        };
        Some(WaterPlane {
            id: WaterId(0),
            name: "the water".to_owned(),
            height_m,
            x_m: 0.0,
            z_m: 0.0,
            width_m,
            depth_m,
            turn_deg: 0.0,
            round: false,
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Layer, LayerId, bare};
    use crate::nursery::ready;

    fn pool(id: u32) -> WaterPlane {
        let everywhere =
            Document { ground: crate::document::Ground { water_m: Some(2.0), ..bare().ground }, ..bare() };
        WaterPlane { id: WaterId(id), name: "Pool".into(), round: true, ..everywhere.everywhere().unwrap() }
    }

    #[test]
    fn a_layer_grows_on_water_only_where_it_says_so() {
        let mut d = bare();
        d.waters = vec![pool(0), pool(7)];
        d.ground.water_m = Some(1.0);
        assert_eq!(d.water_ids().len(), 3);
        let mut layer = Layer::usual(&ready()[0], LayerId(1), "New");
        assert_eq!(d.grounds_of(&layer), d.ground_ids());
        layer.grounds = vec![GroundId::of_water(WaterId(7)).unwrap(), GroundId::LAND];
        assert_eq!(d.grounds_of(&layer).len(), 2);
        layer.grounds = vec![GroundId::WATER];
        assert_eq!(d.grounds_of(&layer), [GroundId::WATER]);
        d.ground.water_m = None;
        assert!(d.grounds_of(&layer).is_empty(), "no water is there any more");
    }

    #[test]
    fn waters_have_numbers_that_no_other_ground_has() {
        let last = WaterId((1 << 30) - 2);
        let ids = [WaterId(0), WaterId(7), last].map(|id| GroundId::of_water(id).unwrap());
        assert!(ids.iter().chain([&GroundId::WATER]).all(|id| id.is_water()));
        assert!(
            !GroundId::LAND.is_water() && !GroundId::PLANTS.is_water() && !ids.contains(&GroundId::WATER)
        );
        assert_eq!(GroundId::of_water(WaterId(u32::MAX)), None);
    }
}
