//! Pictures that an artist brings for an earth.

use super::{BlobId, Earth, HeldPixels, Pixels};
use crate::textures::{Raster, Sheets, Worn};
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// A set of pictures that an earth wears instead of what it is drawn with: its colour, and how high and how rough it is. Wherever that earth lies it shows
/// in these, also on stones where it is rock; nothing grows otherwise by them.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct EarthPictures {
    /// Which earth wears them.
    pub id: Earth,
    /// What the artist calls them, 1 to 80 characters.
    pub name: String,
    /// Its colour, sRGB. Of a picture that is not square the middle is taken.
    pub colour: PictureFile,
    /// Its height, black the lowest and white the highest; without one it is level.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub height: Option<PictureFile>,
    /// How rough it is, black as smooth as wet stone and white without any gloss; without one it has none.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub roughness: Option<PictureFile>,
    /// How much ground they cover, metres along a side, 0.05 to 100.
    pub size_m: f32,
    /// From black to white of its height, metres, 0 to 10.
    pub relief_m: f32,
}

/// A picture file of a set.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PictureFile {
    /// The file itself: PNG or JPEG.
    pub blob: BlobId,
    /// What the file was called.
    pub file: String,
    /// Its pixels, where they were read. Not part of the document.
    #[serde(skip)]
    #[cfg_attr(feature = "openapi", schema(ignore))]
    pub held: HeldPixels,
}

impl EarthPictures {
    /// Its files.
    pub fn files(&self) -> impl Iterator<Item = &PictureFile> {
        std::iter::once(&self.colour).chain(&self.height).chain(&self.roughness)
    }

    /// Its files, to be read.
    pub fn files_mut(&mut self) -> impl Iterator<Item = &mut PictureFile> {
        std::iter::once(&mut self.colour).chain(&mut self.height).chain(&mut self.roughness)
    }
}

fn raster(file: &PictureFile) -> Option<Raster<'_>> {
    file.held.0.as_deref().map(Raster::from)
}

/// What the earths of a scene show in. Sets whose pixels were not read are left out.
pub fn sheets_of(sets: &[EarthPictures]) -> Sheets {
    let mut sheets = Sheets::usual();
    for set in sets {
        let Some(colour) = raster(&set.colour) else { continue };
        let worn = Worn {
            colour,
            height: set.height.as_ref().and_then(raster),
            roughness: set.roughness.as_ref().and_then(raster),
            size_m: set.size_m,
            relief_m: set.relief_m,
        };
        sheets.wear(set.id as usize, &worn);
    }
    sheets
}

impl<'a> From<&'a Pixels> for Raster<'a> {
    fn from(pixels: &'a Pixels) -> Self {
        Self { width: pixels.width, height: pixels.height, rgba: &pixels.rgba }
    }
}
