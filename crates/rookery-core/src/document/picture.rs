//! Pictures laid over the plan, for masks.

use super::BlobId;
use serde::{Deserialize, Serialize};
use std::sync::Arc;

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Names a picture within the scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct PictureId(pub u32);

/// A picture laid over the plan of the scene; masks of any layer may look at it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct GroundPicture {
    /// Lasting name within the scene.
    pub id: PictureId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// The file itself: PNG or JPEG.
    pub blob: BlobId,
    /// What the file was called.
    pub file: String,
    /// Its middle, east, metres.
    pub x_m: f32,
    /// Its middle, south, metres.
    pub z_m: f32,
    /// From its left to its right edge, metres, 0.01 to 100,000.
    pub width_m: f32,
    /// From its upper to its lower edge, metres, 0.01 to 100,000.
    pub depth_m: f32,
    /// Its turn, degrees clockwise seen from above, -360 to 360; at 0 its upper edge lies to the north.
    pub turn_deg: f32,
    /// Whether it begins again beyond its edges. If not, it is black and clear there.
    pub repeats: bool,
    /// Its pixels, where they were read. Not part of the document.
    #[serde(skip)]
    #[cfg_attr(feature = "openapi", schema(ignore))]
    pub held: HeldPixels,
}

/// The pixels of a picture beside a document.
#[derive(Clone, Default)]
pub struct HeldPixels(pub Option<Arc<Pixels>>);

/// Two documents that say the same are equal, whatever was read beside them.
impl PartialEq for HeldPixels {
    fn eq(&self, _: &Self) -> bool {
        true
    }
}

impl std::fmt::Debug for HeldPixels {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(if self.0.is_some() { "held" } else { "not held" })
    }
}

/// A picture read from its file.
pub struct Pixels {
    /// Pixels from left to right, at least 1.
    pub width: usize,
    /// Pixels from top to bottom, at least 1.
    pub height: usize,
    /// Red, green, blue and cover as they lie in the file, each 0 to 65535, row by row from the top.
    pub rgba: Vec<[u16; 4]>,
}

/// What of a picture a mask looks at.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum PictureChannel {
    /// The luma of red, green and blue (ITU-R BT.709 weights).
    #[default]
    Grey,
    /// Red.
    Red,
    /// Green.
    Green,
    /// Blue.
    Blue,
    /// Cover.
    Cover,
}

/// How a mask lays a picture on the ground.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum PictureLaid {
    /// From above, where the picture lies on the plan.
    #[default]
    Plan,
    /// By the ground's own places in pictures (UV): those of its file on a mesh, longitude and latitude on a small planet made here, the
    /// whole plan from edge to edge on a terrain. Where a ground has none the picture is unknown.
    Uv,
}

impl PictureLaid {
    fn is_plan(&self) -> bool {
        *self == Self::Plan
    }
}

/// A picture as one mask looks at it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PictureLook {
    /// Which picture.
    pub id: PictureId,
    /// Which channel, where the mask looks at grey values.
    #[serde(default)]
    pub channel: PictureChannel,
    /// Which colour, where it looks for one: sRGB, each 0 to 1.
    #[serde(default)]
    pub colour: [f32; 3],
    /// How it is laid on the ground.
    #[serde(default, skip_serializing_if = "PictureLaid::is_plan")]
    pub laid: PictureLaid,
}
