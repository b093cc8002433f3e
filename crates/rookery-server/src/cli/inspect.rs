//! Asking the ground, and looking at heightmaps.

use super::failure::{Failure, print_json, read};
use super::scene_file::{document, ground};
use rookery_core::planting::probe as ask;
use rookery_core::scene::blob_id;
use rookery_formats::heightmap::inspect;
use serde_json::json;
use std::path::Path;

pub(super) fn probe(path: &Path, at: &str) -> Result<(), Failure> {
    let point = at.split_once(',').and_then(|(x, z)| Some((x.trim().parse().ok()?, z.trim().parse().ok()?)));
    let (x, z): (f32, f32) = point
        .ok_or_else(|| Failure::bad(format!("\u{201c}{at}\u{201d} is not a point; write X,Z in metres")))?;
    let scene = document(path)?;
    let ground = ground(path, &scene)?;
    let verdicts: Option<Vec<_>> = scene
        .layers
        .iter()
        .map(|l| Some(json!({"id": l.id, "name": l.name, "verdict": ask(&ground, l, x, z)?})))
        .collect();
    print_json(&verdicts.ok_or_else(|| Failure::bad(format!("the point {x}, {z} is not on the ground")))?)
}

pub(super) fn heightmap(path: &Path) -> Result<(), Failure> {
    let bytes = read(path)?;
    let inspection = inspect(&bytes).map_err(|e| Failure::bad(format!("{}: {e}", path.display())))?;
    print_json(&json!({"blob": blob_id(&bytes), "inspection": inspection}))
}
