//! What lies on a ground: sculpting strokes, outlines, obstacles.

use super::placed::GroundId;
use crate::names::BlobId;
pub use crate::nursery::{MeshPlacing, UpAxis};
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Names a sculpting stroke within its ground.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct StrokeId(pub u32);

/// What a sculpting stroke does.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum SculptTool {
    /// Lifts the ground by `strength` metres.
    Raise,
    /// Lowers the ground by `strength` metres.
    Lower,
    /// Draws the ground towards the mean around it; `strength` 0 to 1.
    Smooth,
    /// Draws the ground towards its height where the stroke began; `strength` 0 to 1.
    Flatten,
}

/// One stroke over a ground. It acts once wherever it passes, however often it crosses itself.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Stroke {
    /// Lasting name within the ground.
    pub id: StrokeId,
    /// What it does.
    pub tool: SculptTool,
    /// How far to either side it reaches, metres, 0.1 to 1000.
    pub radius_m: f32,
    /// How much: metres for raising and lowering, 0 to 200; a share for the others, 0 to 1.
    pub strength: f32,
    /// How much of the radius fades out, 0 to 1.
    pub falloff: f32,
    /// Where it went: x, z in metres, 1 to 2000 points.
    #[cfg_attr(feature = "openapi", schema(value_type = Vec<Vec<f32>>))]
    pub points: Vec<[f32; 2]>,
}

impl Stroke {
    /// The same on a ground that is so many times as large.
    pub fn scaled(&self, scale: f32) -> Self {
        let strength = match self.tool {
            SculptTool::Raise | SculptTool::Lower => self.strength * scale,
            SculptTool::Smooth | SculptTool::Flatten => self.strength,
        };
        let points = self.points.iter().map(|p| p.map(|v| v * scale)).collect();
        Self { radius_m: self.radius_m * scale, strength, points, ..*self }
    }
}

/// A kind of bare ground.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Earth {
    /// Short grass and soil.
    Turf,
    /// Dark and fibrous.
    Peat,
    /// Pale and warm.
    Sand,
    /// Grey pebbles.
    Shingle,
    /// Bare, in level bands.
    Rock,
}

impl Earth {
    /// Its name in documents.
    pub fn name(self) -> &'static str {
        match self {
            Self::Turf => "turf",
            Self::Peat => "peat",
            Self::Sand => "sand",
            Self::Shingle => "shingle",
            Self::Rock => "rock",
        }
    }
}

/// An earth where water gathers.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct WetEarth {
    /// Which.
    pub earth: Earth,
    /// From which topographic wetness index on, 0 to 25.
    pub from: f32,
}

/// What bare ground looks like, so that gaps between plants show soil. Only appearance.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Earths {
    /// On gentle ground.
    pub cover: Earth,
    /// Where it is steep.
    pub steep: Earth,
    /// From which slope on, degrees, 5 to 85.
    pub steep_deg: f32,
    /// Near the water, if there is any.
    pub shore: Earth,
    /// How high over the water the shore reaches, metres, 0 to 50.
    pub shore_m: f32,
    /// Where water gathers; none for the cover everywhere. Working it out takes a moment, also after each sculpting stroke.
    pub wet: Option<WetEarth>,
    /// How patchy, 0 one tone to 2.
    pub patches: f32,
}

impl Default for Earths {
    fn default() -> Self {
        Self {
            cover: Earth::Turf,
            steep: Earth::Rock,
            steep_deg: 38.5,
            shore: Earth::Sand,
            shore_m: 2.0,
            wet: None,
            patches: 1.0,
        }
    }
}

impl Earths {
    pub(super) fn is_default(&self) -> bool {
        *self == Self::default()
    }
}

/// Names an outline within the scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct OutlineId(pub u32);

/// What an outline is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum OutlineKind {
    /// A closed line that plants grow inside.
    Bed,
    /// A closed line that plants keep out of.
    Clearing,
    /// An open line with a width: a path, a burn.
    Track,
}

/// A line on the plan that masks and the artist can name.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Outline {
    /// Lasting name within the scene.
    pub id: OutlineId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// What it is for.
    pub kind: OutlineKind,
    /// Its nodes in order: x, z in metres. 3 to 1000 for a closed line, 2 to 1000 for a track.
    #[cfg_attr(feature = "openapi", schema(value_type = Vec<Vec<f32>>))]
    pub nodes: Vec<[f32; 2]>,
    /// Led through its nodes in a smooth curve, not in straight pieces.
    pub smooth: bool,
    /// How far the edge fades, metres, 0 to 100: inwards of a closed line, outwards of a track.
    pub soft_m: f32,
    /// Width of a track, metres, 0.05 to 100. Closed lines have none.
    pub width_m: f32,
    /// The earth that is laid within it, only to be seen. None leaves a bed and a clearing as they are, and wears down what a track goes over.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub earth: Option<Earth>,
}

impl Outline {
    /// As plants know it: what is laid within it is only seen.
    pub(crate) fn grown_by(&self) -> Self {
        Self { earth: None, ..self.clone() }
    }
}

/// Names a zone within the scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct ZoneId(pub u32);

/// A face group of a mesh ground.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct FaceGroup {
    /// The ground.
    pub ground: GroundId,
    /// The group's name in its file, 1 to 80 characters.
    pub name: String,
}

/// A named part of the ground, for masks: everything in any of its outlines and face groups.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Zone {
    /// Lasting name within the scene.
    pub id: ZoneId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// Outlines that belong to it, with their soft edges; whatever their kind, what lies inside counts.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub outlines: Vec<OutlineId>,
    /// Face groups that belong to it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub groups: Vec<FaceGroup>,
}

/// Names a sheet of water within the scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct WaterId(pub u32);

/// A level sheet of water with an end: a pool, a tank, a tarn above the sea.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct WaterPlane {
    /// Lasting name within the scene.
    pub id: WaterId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// Its height, metres, -1000 to 10000.
    pub height_m: f32,
    /// Its middle, east, metres.
    pub x_m: f32,
    /// Its middle, south, metres.
    pub z_m: f32,
    /// West to east before it is turned, metres, 0.1 to 60000.
    pub width_m: f32,
    /// North to south before it is turned, metres, 0.1 to 60000.
    pub depth_m: f32,
    /// Turn, degrees clockwise from north, -360 to 360.
    pub turn_deg: f32,
    /// An oval, not a rectangle.
    pub round: bool,
}

impl WaterPlane {
    /// Whether a point of the plan lies on it or under it.
    pub fn covers(&self, x: f32, z: f32) -> bool {
        let (sin, cos) = libm::sincosf(self.turn_deg.to_radians());
        let (dx, dz) = (x - self.x_m, z - self.z_m);
        // Clockwise from north: its own east lies towards (cos, sin) of the plan.
        let (u, v) = ((dx * cos + dz * sin) / self.width_m, (dz * cos - dx * sin) / self.depth_m);
        if self.round { u * u + v * v <= 0.25 } else { u.abs() <= 0.5 && v.abs() <= 0.5 }
    }

    /// Its edge on the plan, as a fan of triangles about the middle needs it: x and z, metres.
    pub fn edge(&self) -> Vec<[f32; 2]> {
        let (sin, cos) = libm::sincosf(self.turn_deg.to_radians());
        let at = |u: f32, v: f32| {
            let (u, v) = (u * self.width_m, v * self.depth_m);
            [self.x_m + u * cos - v * sin, self.z_m + u * sin + v * cos]
        };
        if self.round {
            let turn = |i: u32| libm::sincosf(i as f32 / 48.0 * std::f32::consts::TAU);
            (0..48).map(|i| at(turn(i).1 * 0.5, turn(i).0 * 0.5)).collect()
        } else {
            vec![at(-0.5, -0.5), at(0.5, -0.5), at(0.5, 0.5), at(-0.5, 0.5)]
        }
    }
}

/// Names an obstacle within the scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct ObstacleId(pub u32);

/// What an obstacle looks like. Lengths are in metres, 0.05 to 500, before the obstacle's own scale.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Shape {
    /// A block.
    Box {
        /// West to east before it is turned.
        width_m: f32,
        /// North to south.
        depth_m: f32,
        /// Above the ground.
        height_m: f32,
    },
    /// An upright round block.
    Cylinder {
        /// Of its round.
        radius_m: f32,
        /// Above the ground.
        height_m: f32,
    },
    /// A dry-stone wall along a line, following the ground.
    Wall {
        /// The line from the obstacle's place: x, z in metres, 2 to 200 points.
        #[cfg_attr(feature = "openapi", schema(value_type = Vec<Vec<f32>>))]
        points: Vec<[f32; 2]>,
        /// To the top of the cope stones.
        height_m: f32,
        /// At the foot; the top is two thirds of it.
        thickness_m: f32,
    },
    /// A small stone house with a gabled roof and two chimneys.
    Cottage {
        /// Along the ridge.
        width_m: f32,
        /// Across the ridge.
        depth_m: f32,
        /// From the ground to the eaves.
        eaves_m: f32,
        /// Steepness of the roof, degrees, 10 to 70.
        roof_deg: f32,
    },
    /// A flight of steps that rises to the north before it is turned.
    Steps {
        /// Across the flight.
        width_m: f32,
        /// How many, 1 to 200.
        count: u32,
        /// Height of one.
        rise_m: f32,
        /// Depth of one.
        tread_m: f32,
    },
    /// A mesh from an uploaded file.
    Mesh {
        /// The file itself.
        blob: BlobId,
        /// What the file was called.
        name: String,
        /// How it is read.
        placing: MeshPlacing,
    },
    /// A boulder.
    Boulder {
        /// Across.
        size_m: f32,
        /// Which individual, 0 to 5.
        form: u16,
    },
}

/// Something plants keep clear of. It stands in the view, in stills and in the handoff.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Obstacle {
    /// Lasting name within the scene.
    pub id: ObstacleId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// What it looks like.
    pub shape: Shape,
    /// Where it stands, east, metres.
    pub x_m: f32,
    /// Where it stands, south, metres.
    pub z_m: f32,
    /// Above the ground when it stands on it, above zero otherwise, metres.
    pub lift_m: f32,
    /// Whether it stands on the ground and follows it.
    pub on_ground: bool,
    /// Turn about the vertical, degrees clockwise from north, -360 to 360.
    pub turn_deg: f32,
    /// Times its own size, 0.01 to 100.
    pub scale: f32,
    /// Hidden obstacles still count for plants; they are not in the view, stills or handoff.
    pub hidden: bool,
}
