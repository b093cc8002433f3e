//! What moves by itself in a scene: blowers that stir the air about them, and bodies that press through what grows.

use super::{BlobId, MeshPlacing};
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Names a blower for as long as the scene lives.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct BlowerId(pub u32);

/// Names a body for as long as the scene lives.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct BodyId(pub u32);

/// A place over the land.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Spot {
    /// East, metres.
    pub x_m: f32,
    /// South, metres.
    pub z_m: f32,
    /// Above the ground, metres, 0 to 1000.
    pub over_m: f32,
}

/// A place at a time.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PathNode {
    /// Seconds, 0 to 3600.
    pub time_s: f32,
    /// East, metres.
    pub x_m: f32,
    /// South, metres.
    pub z_m: f32,
    /// Above the ground, metres, 0 to 1000.
    pub over_m: f32,
}

impl PathNode {
    /// Where.
    pub fn spot(&self) -> Spot {
        Spot { x_m: self.x_m, z_m: self.z_m, over_m: self.over_m }
    }
}

/// Where something is over time.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Course {
    /// It stays where it is.
    Still {
        /// Where.
        at: Spot,
    },
    /// It goes from node to node in a smooth line; before the first and after the last it stays there.
    Path {
        /// In order of time, 2 to 64.
        nodes: Vec<PathNode>,
    },
}

impl Course {
    /// Nodes of a path, at most.
    pub const MOST_NODES: usize = 64;

    /// Its places in order of time; a single one where it stays.
    pub fn spots(&self) -> Vec<Spot> {
        match self {
            Self::Still { at } => vec![*at],
            Self::Path { nodes } => nodes.iter().map(PathNode::spot).collect(),
        }
    }
}

/// Where a ground is at a time, against where it stands.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MoveKey {
    /// Seconds, 0 to 3600.
    pub time_s: f32,
    /// To the east, metres, -1000 to 1000.
    pub x_m: f32,
    /// Up, metres, -1000 to 1000.
    pub y_m: f32,
    /// To the south, metres, -1000 to 1000.
    pub z_m: f32,
    /// Turned about its base point, degrees clockwise, -3600 to 3600.
    pub turn_deg: f32,
}

/// How a ground moves: smoothly from key to key, at rest before the first and after the last.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct GroundMoves {
    /// In order of time, 2 to 64.
    pub keys: Vec<MoveKey>,
}

impl GroundMoves {
    /// Keys, at most.
    pub const MOST_KEYS: usize = 64;
    /// Grounds of a scene that move, at most.
    pub const MOST: usize = 4;
}

/// Which way a blower blows.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Blows {
    /// Away from it to all sides, as a wash from above does.
    Outwards {},
    /// One way.
    From {
        /// Where it comes from, degrees clockwise from north, 0 to 360.
        deg: f32,
    },
}

/// A local source of wind.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Blower {
    /// Lasting name within the scene.
    pub id: BlowerId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// Where it is over time.
    pub course: Course,
    /// Which way it blows.
    pub blows: Blows,
    /// Speed of the air next to it, m/s, 0 to 60.
    pub speed_m_per_s: f32,
    /// How far it reaches, metres, 0.5 to 500.
    pub reach_m: f32,
    /// How soon it fades: the power of what is left of its reach, 0.25 to 4.
    pub falloff: f32,
    /// Whether it blows at all.
    pub enabled: bool,
}

impl Blower {
    /// Blowers of a scene, at most.
    pub const MOST: usize = 8;
}

/// What a body looks like. Lengths are in metres, 0.05 to 50.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum BodyForm {
    /// A ball.
    Ball {
        /// Of its round.
        radius_m: f32,
    },
    /// A mooring buoy: a ball with a ring to tie up to.
    Buoy {
        /// Of its round.
        radius_m: f32,
    },
    /// A barrel that lies on its side.
    Barrel {
        /// Of its ends.
        radius_m: f32,
        /// Along it.
        length_m: f32,
    },
    /// A boulder.
    Boulder {
        /// Across.
        size_m: f32,
        /// Which individual, 0 to 5.
        form: u16,
    },
    /// A mesh from an uploaded file.
    Mesh {
        /// The file itself.
        blob: BlobId,
        /// What the file was called.
        name: String,
        /// How it is read.
        placing: MeshPlacing,
        /// Its largest extent, whatever the file's unit.
        size_m: f32,
    },
}

impl BodyForm {
    /// Half of what it is across, metres: what air and water meet of it. How high it lies is told by its mesh.
    pub fn radius_m(&self) -> f32 {
        match self {
            Self::Ball { radius_m } | Self::Buoy { radius_m } | Self::Barrel { radius_m, .. } => *radius_m,
            Self::Boulder { size_m, .. } | Self::Mesh { size_m, .. } => 0.5 * size_m,
        }
    }

    /// How far to either side of its way it presses down what grows, metres.
    pub fn press_m(&self) -> f32 {
        match self {
            Self::Barrel { radius_m, length_m } => radius_m.max(0.5 * length_m),
            other => other.radius_m(),
        }
    }
}

/// How a body goes on by itself.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Loose {
    /// When it is let go, seconds, 0 to 3600; not before the end of its path.
    pub at_s: f32,
    /// What it is pushed with then, m/s east, up and south, each -100 to 100, added to how fast it goes along its path.
    pub velocity_m_per_s: [f32; 3],
    /// What it is spun with, radians a second about east, up and south, each -100 to 100.
    pub spin_rad_per_s: [f32; 3],
    /// kg/m3, 1 to 20000.
    pub density_kg_per_m3: f32,
    /// Share of its speed that it keeps when it bounces, 0 to 1.
    pub bounce: f32,
    /// Friction against the ground, 0 to 2.
    pub friction: f32,
    /// Share of the wind that it takes, 0 to 1.
    pub wind_share: f32,
}

/// A body that moves.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Body {
    /// Lasting name within the scene.
    pub id: BodyId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// What it looks like.
    pub form: BodyForm,
    /// Where it is over time. One on the ground rolls.
    pub course: Course,
    /// How it goes on by itself; it stays where its course ends when left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub loose: Option<Loose>,
    /// Whether plants feel it; it passes through them otherwise.
    pub felt: bool,
    /// Whether it is left out of the view, of stills and of what plants feel.
    pub hidden: bool,
}

impl Body {
    /// Bodies of a scene, at most.
    pub const MOST: usize = 8;
}
