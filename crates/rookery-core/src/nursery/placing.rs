//! How a mesh file is set up straight.

use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// The upright axis of a mesh file.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum UpAxis {
    /// As here.
    Y,
    /// As in drawings made on the plan: Y is north.
    Z,
}

/// How a mesh file is read.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MeshPlacing {
    /// Metres in one unit of the file, 0.000001 to 10000.
    pub unit_m: f32,
    /// The file's upright.
    pub up: UpAxis,
    /// Brings the middle of its base to where it stands.
    pub recentre: bool,
    /// Turns all faces over. A closed solid that looks inwards is turned over by itself.
    pub turn_over: bool,
    /// Leaves out faces that are there twice and turns single faces to the side their neighbours look to.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub mend: bool,
}
