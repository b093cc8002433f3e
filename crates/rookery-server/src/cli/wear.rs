//! Pictures for an earth, brought into a scene file.

use super::failure::{Failure, print_json, read};
use super::scene_file::document;
use clap::Args;
use rookery_core::scene::{Command, Earth, EarthPictures, PictureFile, apply, blob_id};
use rookery_formats::picture::read_pixels;
use std::path::{Path, PathBuf};

#[derive(Debug, Args)]
pub(super) struct WearArgs {
    /// A picture of its height, black the lowest (PNG or JPEG).
    #[arg(long)]
    height: Option<PathBuf>,
    /// A picture of its roughness, black as smooth as wet stone (PNG or JPEG).
    #[arg(long)]
    roughness: Option<PathBuf>,
    /// How much ground they cover, metres along a side, 0.05 to 100.
    #[arg(long, default_value_t = 2.0)]
    size: f32,
    /// From black to white of the height, metres, 0 to 10.
    #[arg(long, default_value_t = 0.05)]
    relief: f32,
}

/// Prints the scene with an earth in pictures.
pub(super) fn wear(scene: &Path, earth: &str, colour: &Path, how: &WearArgs) -> Result<(), Failure> {
    let all = [Earth::Turf, Earth::Peat, Earth::Sand, Earth::Shingle, Earth::Rock];
    let id = all.into_iter().find(|e| e.name() == earth).ok_or_else(|| {
        Failure::bad(format!(
            "there is no earth \u{201c}{earth}\u{201d}; there are {}",
            all.map(Earth::name).join(", ")
        ))
    })?;
    let name = colour.file_stem().map(|s| s.to_string_lossy().into_owned()).unwrap_or_default();
    let value = EarthPictures {
        id,
        name,
        colour: file(colour)?,
        height: how.height.as_deref().map(file).transpose()?,
        roughness: how.roughness.as_deref().map(file).transpose()?,
        size_m: how.size,
        relief_m: how.relief,
    };
    let command = Command::PutEarthPictures { value, place: None };
    print_json(&apply(&document(scene)?, &command).map_err(Failure::bad)?.document)
}

fn file(path: &Path) -> Result<PictureFile, Failure> {
    let bytes = read(path)?;
    read_pixels(&bytes).map_err(|e| Failure::bad(format!("{}: {e}", path.display())))?;
    let file = path.file_name().map(|n| n.to_string_lossy().into_owned()).unwrap_or_default();
    Ok(PictureFile { blob: blob_id(&bytes), file, held: Default::default() })
}
