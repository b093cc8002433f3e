//! Painted masks: strokes on the ground, kept as strokes.

use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Names a painting within the scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct PaintId(pub u32);

/// Names a stroke within its painting.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct PaintStrokeId(pub u32);

/// What a stroke of a brush does.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum PaintTool {
    /// Draws towards all.
    Add,
    /// Draws towards nothing.
    Erase,
    /// Draws towards the mean of what is around.
    Soften,
}

/// One stroke. It acts once wherever it passes, however often it crosses itself.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PaintStroke {
    /// Lasting name within the painting.
    pub id: PaintStrokeId,
    /// What it does.
    pub tool: PaintTool,
    /// How far to either side it reaches, metres, 0.02 to 1000.
    pub radius_m: f32,
    /// How far it goes towards its aim, 0 to 1.
    pub strength: f32,
    /// How much of the radius fades out, 0 to 1.
    pub falloff: f32,
    /// How ragged its edge is, 0 to 1.
    #[serde(default)]
    pub ragged: f32,
    /// Where it went in the scene: x, y, z in metres, 1 to 2000 points. On terrains the height plays no part.
    #[cfg_attr(feature = "openapi", schema(value_type = Vec<Vec<f32>>))]
    pub points: Vec<[f32; 3]>,
    /// How firmly a pen was pressed at each point, 0 to 1: its share of the strength, in between in proportion. Empty for a brush that
    /// knows no pressure.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub pressures: Vec<f32>,
}

/// A painting: masks of any layers may look at it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Paint {
    /// Lasting name within the scene.
    pub id: PaintId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// Its value where no stroke passed, 0 to 1.
    #[serde(default)]
    pub bare: f32,
    /// What was painted, in order; each works on what the ones before it left.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub strokes: Vec<PaintStroke>,
}
