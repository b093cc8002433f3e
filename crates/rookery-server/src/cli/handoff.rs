//! Handing a scene file off.

use super::failure::{Failure, write};
use super::scene_file::{document, ground, grown, obstacles};
use crate::routes::{HandoffKind, handoff};
use rookery_core::ground::GroundModel;
use rookery_core::nursery::Mesh;
use rookery_core::planting::Growth;
use rookery_core::scene::{Document, Layer};
use std::path::Path;
use std::sync::Arc;

pub(super) fn bytes(
    kind: HandoffKind,
    scene: &Document,
    ground: &GroundModel,
    obstacles: Vec<(String, Mesh)>,
    grown: &[(Layer, Arc<Growth>)],
) -> Result<Vec<u8>, Failure> {
    handoff::write(kind, scene, ground, obstacles, grown).map_err(Failure::bad)
}

pub(super) fn export(path: &Path, to: &Path) -> Result<(), Failure> {
    let kind = match to.extension().and_then(|e| e.to_str()) {
        Some("glb") => HandoffKind::Glb,
        Some("csv") => HandoffKind::Csv,
        Some("geojson") => HandoffKind::Geojson,
        _ => return Err(Failure::bad(format!("{} must end in .glb, .csv or .geojson", to.display()))),
    };
    let scene = document(path)?;
    let ground = ground(path, &scene)?;
    let grown = grown(&scene, &ground, |l| l.visible && kind != HandoffKind::Geojson)?;
    let obstacles = if kind == HandoffKind::Glb { obstacles(path, &scene, &ground)? } else { Vec::new() };
    write(to, &bytes(kind, &scene, &ground, obstacles, &grown)?)?;
    eprintln!("written to {}", to.display());
    Ok(())
}
