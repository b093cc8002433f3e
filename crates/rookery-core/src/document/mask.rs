//! Masks: what they look at, how that becomes a value, and how values come together.

use super::paint::PaintId;
use super::picture::PictureLook;
use super::site::{ObstacleId, OutlineId, ZoneId};
use super::sun_day::SunDay;
use super::{LayerId, MaskId, ShotId};
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// What a mask looks at.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Quantity {
    /// Steepness of the ground, degrees.
    Slope,
    /// Height above zero, metres; on a small planet over its lowest land.
    Altitude,
    /// Height between the lowest and the highest land of the ground, 0 to 1.
    HeightShare,
    /// How much the point belongs to a zone, 0 to 1.
    Zone,
    /// The way the ground faces, degrees clockwise from north. A response may run past north, from -360 to 720. Level ground
    /// faces nowhere.
    Aspect,
    /// Bend along the steepest way, 1/m: brows above zero, feet of slopes below.
    ProfileCurvature,
    /// Bend across the steepest way, 1/m: spurs above zero, hollows below.
    PlanCurvature,
    /// Topographic wetness index.
    Wetness,
    /// Share of the sky seen, 0 to 1.
    Openness,
    /// Hours of direct sun on one day of the year, 0 to 24.
    SunHours,
    /// Noise of the mask's own, 0 to 1.
    Noise,
    /// Distance to something, metres; 0 on it or in it.
    Distance,
    /// Height above the water that is nearest on the plan, metres; below zero under water. Unknown where there is none.
    WaterHeight,
    /// Depth of the water that stands on the ground there, metres; at or below zero, and -1 at least, where it is dry. On a water: how deep
    /// the land lies under it.
    WaterDepth,
    /// The way downhill to a track or an outline, as water takes it, metres; to within a sample of the ground.
    Downhill,
    /// What was painted there, 0 to 1.
    Painted,
    /// How far the surface faces up: 1 straight up, 0 a wall, -1 an underside.
    Facing,
    /// How far the point lies beside the picture a shot takes, degrees, 0 in it to 180.
    InView,
    /// The wind a metre above it against that over level ground: below 1 in shelter, above on brows, 0 to 3.
    Wind,
    /// A channel of a picture, 0 to 1.
    Picture,
    /// How far a picture's colour is from a picked one, 0 to 1. The nearest pixel counts: flat colours are not blended.
    Colour,
}

impl Quantity {
    /// All of them.
    pub const ALL: [Self; 21] = [
        Self::Slope,
        Self::Altitude,
        Self::HeightShare,
        Self::Zone,
        Self::Aspect,
        Self::ProfileCurvature,
        Self::PlanCurvature,
        Self::Wetness,
        Self::Openness,
        Self::SunHours,
        Self::Noise,
        Self::Distance,
        Self::WaterHeight,
        Self::WaterDepth,
        Self::Downhill,
        Self::Painted,
        Self::Facing,
        Self::InView,
        Self::Wind,
        Self::Picture,
        Self::Colour,
    ];
}

/// The wind that mostly blows: plants have grown up in it. That of the scene's motion plays no part.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct WindFrom {
    /// Where it comes from, degrees clockwise from north, 0 to 360.
    pub from_deg: f32,
}

/// The look of a noise.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum NoiseKind {
    /// Soft patches.
    Soft,
    /// Winding ridges.
    Ridged,
    /// Round clumps with gaps between.
    Clumps,
    /// Cells, each of one value.
    Cells,
}

/// A noise over the ground: over the plan of terrains, through space on meshes.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct NoiseMask {
    /// Its look.
    pub kind: NoiseKind,
    /// Width of its largest forms, metres, 0.05 to 2000.
    pub size_m: f32,
    /// How strong its finer forms are, 0 to 1.
    pub rough: f32,
    /// How sharply light and dark part, 0 to 1.
    pub contrast: f32,
    /// The least it comes to, 0 to 0.95: its gaps are never emptier than this.
    #[serde(default)]
    pub floor: f32,
    /// Another number, another noise.
    pub seed: u32,
}

impl Default for NoiseMask {
    fn default() -> Self {
        Self { kind: NoiseKind::Soft, size_m: 8.0, rough: 0.4, contrast: 0.3, floor: 0.0, seed: 1 }
    }
}

/// What a distance is measured to.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "what", rename_all = "snake_case")]
pub enum Near {
    /// An outline or a track, on the plan.
    Outline {
        /// Which.
        id: OutlineId,
    },
    /// The nearest of all tracks, on the plan.
    Tracks,
    /// Water that lies on the land, on the plan; to within a cell of the land.
    Water,
    /// The surface of an obstacle, hidden ones too, in space.
    Obstacle {
        /// Which.
        id: ObstacleId,
    },
    /// The nearest of all obstacles, in space.
    Obstacles,
    /// The crown of the nearest plant of another layer, in space.
    Layer {
        /// Which.
        id: LayerId,
    },
    /// How far a point lies beyond a line across the plan; 0 before it: a straight gradient.
    Straight {
        /// A point of the line, east, metres.
        x_m: f32,
        /// A point of the line, south, metres.
        z_m: f32,
        /// Which way it rises, degrees clockwise from north.
        bearing_deg: f32,
    },
    /// A ball; with no radius a round gradient in space.
    Ball {
        /// Its middle, metres.
        at_m: [f32; 3],
        /// Its radius, metres, 0 to 20,000.
        radius_m: f32,
    },
    /// An upright cylinder without end; with no radius a round gradient on the plan.
    Cylinder {
        /// Its middle, east, metres.
        x_m: f32,
        /// Its middle, south, metres.
        z_m: f32,
        /// Its radius, metres, 0 to 20,000.
        radius_m: f32,
    },
    /// A box.
    Box {
        /// Its middle, metres.
        at_m: [f32; 3],
        /// Its width, height and depth, metres, each 0 to 20,000.
        size_m: [f32; 3],
        /// Its turn, degrees clockwise seen from above.
        turn_deg: f32,
    },
    /// Where the camera of a shot stands.
    Camera {
        /// Which shot.
        id: ShotId,
    },
}

/// How a mask and those before it become one value. The first mask that is on begins: with [`Combine::Subtract`] it is taken
/// from all, with any other it stands by itself.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Combine {
    /// Both must let through.
    #[default]
    Multiply,
    /// The stricter of the two.
    Lowest,
    /// The more generous of the two.
    Highest,
    /// The two together, at most all.
    Add,
    /// What was let through less what this one would.
    Subtract,
}

impl Combine {
    fn is_multiply(&self) -> bool {
        *self == Self::Multiply
    }
}

/// What a mask changes.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "what", rename_all = "snake_case")]
pub enum Drives {
    /// Whether plants stand there at all.
    #[default]
    Amount,
    /// How large they are.
    Size {
        /// Times their size where the mask is 0, 0.05 to 20.
        low: f32,
        /// Times their size where the mask is 1, 0.05 to 20.
        high: f32,
    },
    /// Which species of the mix: the first where the mask is 0, the last where it is 1, the others between them in order.
    Mix,
    /// Their colour.
    Tint {
        /// Towards which colour where the mask is 1, sRGB, each 0 to 1.
        colour: [f32; 3],
    },
}

impl Drives {
    fn is_amount(&self) -> bool {
        *self == Self::Amount
    }
}

/// One rule of where plants may stand, or of how they differ from place to place.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Mask {
    /// Lasting name within the layer.
    pub id: MaskId,
    /// What it looks at.
    pub quantity: Quantity,
    /// Which zone, where it looks at one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub zone: Option<ZoneId>,
    /// Which noise, where it looks at one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub noise: Option<NoiseMask>,
    /// What the distance is measured to, where it looks at one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub near: Option<Near>,
    /// Which painting, where it looks at one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub paint: Option<PaintId>,
    /// Which shot, where it looks at what is in its picture.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shot: Option<ShotId>,
    /// Which picture, where it looks at one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub picture: Option<PictureLook>,
    /// Which day, where it looks at the sun.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sun: Option<SunDay>,
    /// Which wind, where it looks at shelter from it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub wind: Option<WindFrom>,
    /// A mask that is off plays no part.
    pub enabled: bool,
    /// How the quantity becomes a value from 0 to 1.
    pub response: Response,
    /// How much it counts, 0 to 1: at 0 it changes nothing.
    #[serde(default = "all", skip_serializing_if = "is_all")]
    pub strength: f32,
    /// How it comes together with those before it that drive the amount.
    #[serde(default, skip_serializing_if = "Combine::is_multiply")]
    pub combine: Combine,
    /// What it changes.
    #[serde(default, skip_serializing_if = "Drives::is_amount")]
    pub drives: Drives,
}

impl Mask {
    /// Whether it says where plants stand.
    pub fn counts(&self) -> bool {
        self.enabled && self.drives == Drives::Amount
    }
}

fn all() -> f32 {
    1.0
}

fn is_all(strength: &f32) -> bool {
    *strength == 1.0
}

/// A response curve: nothing up to `start`, all from `full_from` to `full_to`, nothing from `end`.
///
/// The four values never fall; they are in the unit of the quantity.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Response {
    /// The last value that lets nothing through.
    pub start: f32,
    /// The first value that lets everything through.
    pub full_from: f32,
    /// The last value that lets everything through.
    pub full_to: f32,
    /// The first value above that lets nothing through.
    pub end: f32,
    /// Swaps all and nothing.
    pub inverted: bool,
}
