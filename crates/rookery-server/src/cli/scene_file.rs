//! Reading a scene file: the document, with the files it names beside it.

use super::Failure;
use super::failure::read;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::GroundModel;
use rookery_core::planting::{Growth, grow};
use rookery_core::scene::{BlobId, Document, GroundSource, Layer, blob_id, check_document};
use rookery_formats::ground_model;
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

/// Makes the ground. The file it names is looked for beside the scene file, under its own name and under its hash.
pub(super) fn ground(path: &Path, document: &Document) -> Result<GroundModel, Failure> {
    let folder = path.parent().unwrap_or(Path::new("."));
    let name = match &document.ground.source {
        GroundSource::Heightmap(h) => h.name.clone(),
        GroundSource::Noise(_) => String::new(),
    };
    let file = |id: &BlobId| {
        // Only the last part of a name counts: a scene file does not reach into other folders.
        let named = Path::new(&name).file_name().map(|n| folder.join(n));
        let places = [named, Some(folder.join(&id.0))];
        places.into_iter().flatten().filter_map(|p| std::fs::read(p).ok()).find(|bytes| blob_id(bytes) == *id)
    };
    ground_model(&document.ground, file).map_err(Failure::bad)
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
