//! Handing a scene file off.

use super::failure::{Failure, write};
use super::scene_file::{document, grounds, moving, obstacles, whole, with_earth_pictures, with_species};
use crate::routes::handoff::{GrownWhole, Standing};
use crate::routes::{HandoffKind, handoff};
use rookery_core::scene::Document;
use std::path::Path;
use std::sync::Arc;

pub(super) fn bytes(
    kind: HandoffKind,
    scene: &Document,
    standing: Standing,
    grown: &[GrownWhole],
    ground_px: u32,
) -> Result<Vec<u8>, Failure> {
    handoff::write(kind, scene, standing, grown, ground_px).map_err(Failure::bad)
}

pub(super) fn export(path: &Path, to: &Path, ground_px: u32) -> Result<(), Failure> {
    let kind = match to.extension().and_then(|e| e.to_str()) {
        Some("glb") => HandoffKind::Glb,
        Some("csv") => HandoffKind::Csv,
        Some("geojson") => HandoffKind::Geojson,
        _ => return Err(Failure::bad(format!("{} must end in .glb, .csv or .geojson", to.display()))),
    };
    let scene = with_species(path, document(path)?)?;
    let scene = match kind {
        HandoffKind::Glb => with_earth_pictures(path, scene)?,
        _ => scene,
    };
    let grounds = grounds(path, &scene)?;
    let grown = whole(path, &scene, &grounds, |l| l.visible && kind != HandoffKind::Geojson)?;
    let standing = match kind {
        HandoffKind::Glb => {
            let mut stand = obstacles(path, &scene, &grounds)?;
            stand.extend(moving(path, &scene, &grounds, &stand)?.at_rest(&scene));
            let lying = grounds.meshes(&scene).into_iter();
            Standing {
                grounds: lying.map(|(id, mesh)| (scene.ground_name(id), mesh)).collect(),
                obstacles: stand,
                land: (!scene.ground.absent).then(|| Arc::new(grounds.land.clone())),
            }
        }
        _ => Standing::default(),
    };
    write(to, &bytes(kind, &scene, standing, &grown, ground_px)?)?;
    eprintln!("written to {}", to.display());
    Ok(())
}
