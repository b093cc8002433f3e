//! A scene's ground and obstacles from their settings and the files they name.

use crate::heightmap::{self, HeightmapError};
use crate::mesh::{MeshError, placed_mesh, placed_surface, read_mesh, read_mesh_and_uvs};
use rookery_core::ground::made::{arch, planet, water_surface};
use rookery_core::ground::sculpt::apply_stroke;
use rookery_core::ground::{
    AnyGround, GroundModel, MeshGroundError, MeshModel, MeshStanding, Terrain, TerrainError, noise_terrain,
    obstacle,
};
use rookery_core::motion::fitted;
use rookery_core::nursery::Mesh;
use rookery_core::scene::{
    BlobId, Body, BodyForm, Document, GroundSource, HeightmapGround, Obstacle, PlacedGround, PlacedSource,
    Shape,
};
use thiserror::Error;

/// Why a ground or an obstacle cannot be made.
#[derive(Debug, Error)]
pub enum GroundError {
    /// The noise settings ask for an unusable grid.
    #[error(transparent)]
    Terrain(#[from] TerrainError),
    /// A mesh has no surface to grow on.
    #[error(transparent)]
    Mesh(#[from] MeshGroundError),
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
    /// The scene says that the file has another number of heights than it has.
    #[error(
        "\u{201c}{name}\u{201d} has {} x {} heights, and the scene says {} x {}; bring the file again", found[0], found[1], said[0], said[1]
    )]
    OtherCount {
        /// What it was called.
        name: String,
        /// By the scene.
        said: [u32; 2],
        /// In the file.
        found: [u32; 2],
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

/// Makes the land with its water's shores. `file` gives the bytes of a file by its hash, or none when it is not there.
///
/// # Errors
/// [`GroundError`].
pub fn ground_model(
    document: &Document,
    file: impl FnOnce(&BlobId) -> Option<Vec<u8>>,
) -> Result<GroundModel, GroundError> {
    let ground = &document.ground;
    let (mut terrain, seed) = match &ground.source {
        GroundSource::Noise(noise) => (noise_terrain::build(noise)?, noise.seed),
        GroundSource::Heightmap(h) => (heightmap_terrain(h, file)?, 0),
    };
    for stroke in &ground.strokes {
        apply_stroke(&mut terrain, stroke);
    }
    let model = GroundModel::with_earths(terrain, ground.water_m, ground.earths.clone(), seed);
    Ok(model.with_waters(&document.waters))
}

/// Makes a ground beside the land, in its own frame. `water_m` is the height of the water that is everywhere.
///
/// # Errors
/// [`GroundError`].
pub fn placed_model(
    ground: &PlacedGround,
    water_m: Option<f32>,
    file: impl FnOnce(&BlobId) -> Option<Vec<u8>>,
) -> Result<AnyGround, GroundError> {
    let seed = ground.id.0;
    let mut surface = match &ground.source {
        PlacedSource::Noise(noise) => return on_terrain(ground, noise_terrain::build(noise)?, water_m),
        PlacedSource::Heightmap(h) => return on_terrain(ground, heightmap_terrain(h, file)?, water_m),
        PlacedSource::Arch(settings) => arch(settings),
        PlacedSource::Planet(settings) => planet(settings),
        PlacedSource::Water(settings) => water_surface(settings),
        PlacedSource::Mesh(m) => {
            let missing = || GroundError::MissingFile { name: m.name.clone(), id: m.blob.clone() };
            let bytes = file(&m.blob).ok_or_else(missing)?;
            let read = read_mesh_and_uvs(&bytes)
                .map_err(|why| GroundError::BadMesh { name: m.name.clone(), why })?;
            placed_surface(&read, &m.placing, &m.parts)?
        }
    };
    surface.positions.iter_mut().for_each(|p| *p *= ground.scale);
    let standing = MeshStanding {
        base_m: ground.y_m,
        upright: ground.upright,
        earths: ground.earths.clone(),
        water_m,
        seed,
    };
    Ok(AnyGround::Mesh(MeshModel::new(&surface, &standing)?))
}

fn on_terrain(
    ground: &PlacedGround,
    terrain: Terrain,
    water_m: Option<f32>,
) -> Result<AnyGround, GroundError> {
    let heights = terrain.heights_zx().iter().map(|h| h * ground.scale).collect();
    let mut terrain = Terrain::new(terrain.nx(), terrain.nz(), terrain.cell_m() * ground.scale, heights)?;
    for stroke in &ground.strokes {
        apply_stroke(&mut terrain, &stroke.scaled(ground.scale));
    }
    let water_m = water_m.map(|w| w - ground.y_m);
    let model = GroundModel::with_earths(terrain, water_m, ground.earths.clone(), ground.id.0);
    Ok(AnyGround::Terrain(model.standing(ground.y_m, ground.upright)))
}

fn heightmap_terrain(
    h: &HeightmapGround,
    file: impl FnOnce(&BlobId) -> Option<Vec<u8>>,
) -> Result<Terrain, GroundError> {
    let HeightmapGround { blob, name, .. } = h;
    let bytes =
        file(blob).ok_or_else(|| GroundError::MissingFile { name: name.clone(), id: blob.clone() })?;
    let terrain =
        heightmap::terrain(h, &bytes).map_err(|why| GroundError::Unreadable { name: name.clone(), why })?;
    let found = [terrain.nx() as u32, terrain.nz() as u32];
    // Other things are named by it: see `samples`.
    match h.samples {
        Some(said) if said != found => Err(GroundError::OtherCount { name: name.clone(), said, found }),
        _ => Ok(terrain),
    }
}

/// Makes an obstacle where it stands: on the land, or at its own height in a scene without land. `file` gives the bytes of a
/// file by its hash, or none when it is not there.
///
/// # Errors
/// When its file is missing or unreadable.
pub fn obstacle_mesh(
    document: &Document,
    obstacle: &Obstacle,
    land: &Terrain,
    file: impl FnOnce(&BlobId) -> Option<Vec<u8>>,
) -> Result<Mesh, GroundError> {
    let obstacle = Obstacle { on_ground: obstacle.on_ground && !document.ground.absent, ..obstacle.clone() };
    let Shape::Mesh { blob, name, placing } = &obstacle.shape else {
        return Ok(obstacle::mesh(&obstacle, land, None));
    };
    let missing = || GroundError::MissingFile { name: name.clone(), id: blob.clone() };
    let bytes = file(blob).ok_or_else(missing)?;
    let read = read_mesh(&bytes).map_err(|why| GroundError::BadMesh { name: name.clone(), why })?;
    Ok(obstacle::mesh(&obstacle, land, Some(&placed_mesh(&read, placing))))
}

/// The mesh of a body that comes from a file, about its own middle and as large as it is; none for other bodies. `file` gives the bytes of
/// a file by its hash, or none when it is not there.
///
/// # Errors
/// When its file is missing or unreadable, or has no extent.
pub fn body_from_file(
    body: &Body,
    file: impl FnOnce(&BlobId) -> Option<Vec<u8>>,
) -> Result<Option<Mesh>, GroundError> {
    let BodyForm::Mesh { blob, name, placing, size_m } = &body.form else { return Ok(None) };
    let missing = || GroundError::MissingFile { name: name.clone(), id: blob.clone() };
    let bytes = file(blob).ok_or_else(missing)?;
    let bad = |why| GroundError::BadMesh { name: name.clone(), why };
    let read = read_mesh(&bytes).map_err(bad)?;
    let fitted = fitted(&placed_mesh(&read, placing), *size_m);
    fitted.map(Some).ok_or_else(|| bad(MeshError::Empty))
}
