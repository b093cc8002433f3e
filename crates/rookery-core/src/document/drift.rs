//! Strokes of the hand that strew plants.

use super::Range;
use super::placed::GroundId;
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Names a drift within its layer.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct DriftId(pub u32);

/// A stroke that strews plants of the layer's mix beside its line, whatever masks say; they keep clear as all plants of the layer
/// do, and others of the layer keep clear of them. Several strokes over one place strew more.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Drift {
    /// Lasting name within the layer, up to 16,777,215.
    pub id: DriftId,
    /// The ground it lies on.
    #[serde(default, skip_serializing_if = "is_land")]
    pub ground: GroundId,
    /// The line in that ground's own frame, metres, 1 to 500 points; a single one strews about itself. On a terrain heights follow
    /// the ground.
    pub points: Vec<[f32; 3]>,
    /// Plants for each square metre of a band as wide as the spread to both sides, 0.01 to 1000.
    pub per_m2: f32,
    /// How far from the line plants are strewn, metres, 0.02 to 50. They are dense at the line and few at the rim.
    pub spread_m: f32,
    /// Sizes, against full size, 0.01 to 100.
    pub size: Range,
    /// Turns about the stem, degrees clockwise from north, -360 to 360.
    pub turn_deg: Range,
    /// Another number, another arrangement.
    pub seed: u32,
}

impl Drift {
    /// Length of the line, metres.
    pub fn length_m(&self) -> f32 {
        let way = |p: &[[f32; 3]]| glam::Vec3::from(p[0]).distance(p[1].into());
        self.points.windows(2).map(way).sum()
    }

    /// About how many plants it strews where all have room.
    pub fn expected(&self) -> f32 {
        self.per_m2 * 2.0 * self.spread_m * (self.length_m() + self.spread_m)
    }
}

fn is_land(ground: &GroundId) -> bool {
    *ground == GroundId::LAND
}
