//! Reading a scene file: the document, with the files it names beside it.

use super::Failure;
use super::failure::read;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::GroundModel;
use rookery_core::nursery::Mesh;
use rookery_core::planting::{Growth, grow};
use rookery_core::scene::{BlobId, Document, GroundSource, Layer, Obstacle, Shape, blob_id, check_document};
use rookery_formats::{ground_model, obstacle_mesh};
use std::path::Path;
use std::sync::Arc;

/// Reads and checks a scene file.
pub(super) fn document(path: &Path) -> Result<Document, Failure> {
    let bytes = read(path)?;
    let document: Document =
        serde_json::from_slice(&bytes).map_err(|e| Failure::bad(format!("{}: {e}", path.display())))?;
    check_document(&document).map_err(|e| Failure::bad(format!("{}: {e}", path.display())))?;
    Ok(document)
}

/// Makes the ground from its settings and its file.
pub(super) fn ground(path: &Path, document: &Document) -> Result<GroundModel, Failure> {
    let name = match &document.ground.source {
        GroundSource::Heightmap(h) => h.name.as_str(),
        GroundSource::Noise(_) => "",
    };
    ground_model(&document.ground, |id| beside(path, name, id)).map_err(Failure::bad)
}

/// Makes the obstacles that are not hidden, by name, where they stand.
pub(super) fn obstacles(
    path: &Path,
    document: &Document,
    ground: &GroundModel,
) -> Result<Vec<(String, Mesh)>, Failure> {
    let make = |o: &Obstacle| {
        let name = match &o.shape {
            Shape::Mesh { name, .. } => name.as_str(),
            _ => "",
        };
        let mesh = obstacle_mesh(o, &ground.terrain, |id| beside(path, name, id));
        Ok((o.name.clone(), mesh.map_err(|e| Failure::bad(format!("{}: {e}", o.name)))?))
    };
    document.obstacles.iter().filter(|o| !o.hidden).map(make).collect()
}

/// A file looked for beside the scene file, under its own name and under its hash.
fn beside(path: &Path, name: &str, id: &BlobId) -> Option<Vec<u8>> {
    let folder = path.parent().unwrap_or(Path::new("."));
    // Only the last part of a name counts: a scene file does not reach into other folders.
    let named = Path::new(name).file_name().map(|n| folder.join(n));
    let places = [named, Some(folder.join(&id.0))];
    places.into_iter().flatten().filter_map(|p| std::fs::read(p).ok()).find(|bytes| blob_id(bytes) == *id)
}

/// Grows the layers that pass the filter.
pub(super) fn grown(
    document: &Document,
    ground: &GroundModel,
    filter: impl Fn(&Layer) -> bool,
) -> Result<Vec<(Layer, Arc<Growth>)>, Failure> {
    let never = CancelToken::default();
    document
        .layers
        .iter()
        .filter(|l| filter(l))
        .map(|l| {
            let growth = grow(ground, l, &never).map_err(|e| Failure::bad(format!("{}: {e}", l.name)))?;
            Ok((l.clone(), Arc::new(growth)))
        })
        .collect()
}
