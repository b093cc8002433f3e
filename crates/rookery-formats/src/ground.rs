//! A scene's ground and obstacles from their settings and the files they name.

use crate::heightmap::{self, HeightmapError};
use crate::mesh::{MeshError, placed_mesh, read_mesh};
use rookery_core::ground::sculpt::apply_stroke;
use rookery_core::ground::{GroundModel, Terrain, TerrainError, noise_terrain, obstacle};
use rookery_core::nursery::Mesh;
use rookery_core::scene::{BlobId, Ground, GroundSource, HeightmapGround, Obstacle, Shape};
use thiserror::Error;

/// Why a ground or an obstacle cannot be made.
#[derive(Debug, Error)]
pub enum GroundError {
    /// The noise settings ask for an unusable grid.
    #[error(transparent)]
    Terrain(#[from] TerrainError),
    /// The file it names is not to be had.
    #[error("the scene needs the file \u{201c}{name}\u{201d} ({}\u{2026}), which is missing", id.0.chars().take(12).collect::<String>())]
    MissingFile {
        /// What it was called.
        name: String,
        /// Its hash.
        id: BlobId,
    },
    /// The file cannot be read as a mesh.
    #[error("\u{201c}{name}\u{201d} cannot be read: {why}")]
    BadMesh {
        /// What it was called.
        name: String,
        /// The reason.
        why: MeshError,
    },
    /// The file cannot be read as heights.
    #[error("\u{201c}{name}\u{201d} cannot be read: {why}")]
    Unreadable {
        /// What it was called.
        name: String,
        /// The reason.
        why: HeightmapError,
    },
}

/// Makes the ground. `file` gives the bytes of a file by its hash, or none when it is not there.
///
/// # Errors
/// [`GroundError`].
pub fn ground_model(
    ground: &Ground,
    file: impl FnOnce(&BlobId) -> Option<Vec<u8>>,
) -> Result<GroundModel, GroundError> {
    let (mut terrain, seed) = match &ground.source {
        GroundSource::Noise(noise) => (noise_terrain::build(noise)?, noise.seed),
        GroundSource::Heightmap(h) => {
            let HeightmapGround { blob, name, .. } = h;
            let bytes = file(blob)
                .ok_or_else(|| GroundError::MissingFile { name: name.clone(), id: blob.clone() })?;
            let unreadable = |why| GroundError::Unreadable { name: name.clone(), why };
            (heightmap::terrain(h, &bytes).map_err(unreadable)?, 0)
        }
    };
    for stroke in &ground.strokes {
        apply_stroke(&mut terrain, stroke);
    }
    Ok(GroundModel::with_earths(terrain, ground.water_m, ground.earths.clone(), seed))
}

/// Makes an obstacle where it stands. `file` gives the bytes of a file by its hash, or none when it is not there.
///
/// # Errors
/// When its file is missing or unreadable.
pub fn obstacle_mesh(
    obstacle: &Obstacle,
    terrain: &Terrain,
    file: impl FnOnce(&BlobId) -> Option<Vec<u8>>,
) -> Result<Mesh, GroundError> {
    let Shape::Mesh { blob, name, placing } = &obstacle.shape else {
        return Ok(obstacle::mesh(obstacle, terrain, None));
    };
    let missing = || GroundError::MissingFile { name: name.clone(), id: blob.clone() };
    let bytes = file(blob).ok_or_else(missing)?;
    let read = read_mesh(&bytes).map_err(|why| GroundError::BadMesh { name: name.clone(), why })?;
    Ok(obstacle::mesh(obstacle, terrain, Some(&placed_mesh(&read, placing))))
}
