//! Names: of species, files and plants, which outlive edits, and of what is derived, by what it depends on.

mod content;

pub(crate) use content::Namer;
pub use content::{ContentKey, blob_id, content_key, to_json};

use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Names a species of the nursery, for example `marram`.
#[derive(Clone, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct SpeciesId(pub String);

/// The SHA-256 of an uploaded file, 64 hexadecimal digits.
#[derive(Clone, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct BlobId(pub String);

/// Names a plant within its layer: the level, block and index of the candidate it grew from.
///
/// Packed as 8 bits of level, 20 of block east, 20 of block south and 16 of index. It depends on the seed only, so
/// it survives every change of amount, masks and stance.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, PartialOrd, Ord, bytemuck::Zeroable)]
pub struct PlantId(pub u64);

impl PlantId {
    /// Blocks are counted from the origin; this many lie on either side.
    pub const BLOCKS: i32 = 1 << 19;

    /// Packs a name. Blocks must lie within [`Self::BLOCKS`] of the origin.
    #[inline]
    pub fn pack(level: u8, block_x: i32, block_z: i32, index: u16) -> Self {
        debug_assert!(block_x.abs() < Self::BLOCKS && block_z.abs() < Self::BLOCKS);
        let x = (block_x + Self::BLOCKS) as u64 & 0xF_FFFF;
        let z = (block_z + Self::BLOCKS) as u64 & 0xF_FFFF;
        Self(u64::from(level) << 56 | x << 36 | z << 16 | u64::from(index))
    }
}
