//! Handing a scene file off.

use super::failure::{Failure, write};
use super::scene_file::{document, grounds, moving, obstacles, whole, with_species};
use crate::routes::handoff::GrownWhole;
use crate::routes::{HandoffKind, handoff};
use rookery_core::nursery::Mesh;
use rookery_core::scene::Document;
use std::path::Path;

pub(super) fn bytes(
    kind: HandoffKind,
    scene: &Document,
    grounds: Vec<(String, Mesh)>,
    obstacles: Vec<(String, Mesh)>,
    grown: &[GrownWhole],
) -> Result<Vec<u8>, Failure> {
    handoff::write(kind, scene, grounds, obstacles, grown).map_err(Failure::bad)
}

pub(super) fn export(path: &Path, to: &Path) -> Result<(), Failure> {
    let kind = match to.extension().and_then(|e| e.to_str()) {
        Some("glb") => HandoffKind::Glb,
        Some("csv") => HandoffKind::Csv,
        Some("geojson") => HandoffKind::Geojson,
        _ => return Err(Failure::bad(format!("{} must end in .glb, .csv or .geojson", to.display()))),
    };
    let scene = with_species(path, document(path)?)?;
    let grounds = grounds(path, &scene)?;
    let grown = whole(path, &scene, &grounds, |l| l.visible && kind != HandoffKind::Geojson)?;
    let (meshes, obstacles) = match kind {
        HandoffKind::Glb => {
            let mut stand = obstacles(path, &scene, &grounds)?;
            stand.extend(moving(path, &scene, &grounds, &stand)?.at_rest(&scene));
            let lying = grounds.meshes(&scene).into_iter();
            (lying.map(|(id, mesh)| (scene.ground_name(id), mesh)).collect(), stand)
        }
        _ => (Vec::new(), Vec::new()),
    };
    write(to, &bytes(kind, &scene, meshes, obstacles, &grown)?)?;
    eprintln!("written to {}", to.display());
    Ok(())
}
