//! Asking the ground, reading it, and looking at heightmaps.

use super::failure::{Failure, print_json, read, write};
use super::scene_file::{document, ground, grown};
use crate::routes::CutLine;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::Reading;
use rookery_core::measure::{Cut, section as measure_section};
use rookery_core::planting::probe as ask;
use rookery_core::scene::blob_id;
use rookery_formats::heightmap::{HeightmapError, encode_ascii, inspect};
use rookery_formats::mesh::{MeshError, inspect_mesh, read_mesh};
use serde_json::json;
use std::path::Path;

pub(super) fn probe(path: &Path, at: &str) -> Result<(), Failure> {
    let (x, z) = point(at)?;
    let scene = document(path)?;
    let ground = ground(path, &scene)?;
    let verdicts: Option<Vec<_>> = scene
        .layers
        .iter()
        .map(|l| Some(json!({"id": l.id, "name": l.name, "verdict": ask(&ground, l, x, z)?})))
        .collect();
    print_json(&verdicts.ok_or_else(|| Failure::bad(format!("the point {x}, {z} is not on the ground")))?)
}

fn point(text: &str) -> Result<(f32, f32), Failure> {
    let parts =
        text.split_once(',').and_then(|(x, z)| Some((x.trim().parse().ok()?, z.trim().parse().ok()?)));
    parts.ok_or_else(|| Failure::bad(format!("\u{201c}{text}\u{201d} is not a point; write X,Z in metres")))
}

pub(super) fn section(path: &Path, from: &str, to: &str, width_m: f32) -> Result<(), Failure> {
    let ((from_x, from_z), (to_x, to_z)) = (point(from)?, point(to)?);
    let cut = Cut::try_from(CutLine { from_x, from_z, to_x, to_z, width_m }).map_err(Failure::bad)?;
    let scene = document(path)?;
    let ground = ground(path, &scene)?;
    let grown = grown(&scene, &ground, |l| l.visible)?;
    let layers: Vec<_> = grown.iter().map(|(l, g)| (l, g.plants.as_slice())).collect();
    print_json(&measure_section(&ground.terrain, ground.water_m, &layers, &cut))
}

pub(super) fn reading(path: &Path, quantity: &str, out: Option<&Path>) -> Result<(), Failure> {
    let reading = Reading::from_id(quantity).ok_or_else(|| {
        let known = Reading::ALL.map(Reading::id).join(", ");
        Failure::bad(format!("\u{201c}{quantity}\u{201d} cannot be read off a ground; choose one of {known}"))
    })?;
    let scene = document(path)?;
    let ground = ground(path, &scene)?;
    let values = reading.of(&ground.terrain, &CancelToken::default()).map_err(Failure::other)?;
    if let Some(out) = out {
        write(out, encode_ascii(&ground.terrain, &values).as_bytes())?;
    }
    let h = reading.histogram(&ground.terrain, &values);
    print_json(&json!({
        "quantity": reading, "unit": reading.unit(), "heights": [ground.terrain.nx(), ground.terrain.nz()],
        "histogram": {"low": h.low, "high": h.high, "areas_m2": h.areas_m2},
    }))
}

pub(super) fn file(path: &Path) -> Result<(), Failure> {
    let bytes = read(path)?;
    match inspect(&bytes) {
        Ok(inspection) => print_json(&json!({"blob": blob_id(&bytes), "inspection": inspection})),
        Err(HeightmapError::Unknown) => {
            let mesh = read_mesh(&bytes).map_err(|e| match e {
                MeshError::Unknown => {
                    Failure::bad(format!("{} is neither a heightmap nor a mesh", path.display()))
                }
                e => Failure::bad(format!("{}: {e}", path.display())),
            })?;
            print_json(&json!({"blob": blob_id(&bytes), "mesh": inspect_mesh(&mesh)}))
        }
        Err(e) => Err(Failure::bad(format!("{}: {e}", path.display()))),
    }
}
