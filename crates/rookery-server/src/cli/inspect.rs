//! Asking the ground, reading it, and looking at heightmaps.

use super::failure::{Failure, print_json, read, write};
use super::scene_file::{document, grounds, grown, obstacles, rules};
use crate::routes::{CutLine, ask, in_scene};
use glam::Vec3;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundRef, Reading};
use rookery_core::measure::{Cut, CutLand, CutSolid, section as measure_section};
use rookery_core::scene::{GroundId, blob_id};
use rookery_formats::heightmap::{HeightmapError, encode_ascii, inspect};
use rookery_formats::mesh::{MeshError, inspect_mesh, read_mesh};
use serde_json::json;
use std::path::Path;

pub(super) fn probe(path: &Path, at: &str, ground: u32) -> Result<(), Failure> {
    let point = match at.split(',').count() {
        3 => space(at)?,
        _ => point(at).map(|(x, z)| Vec3::new(x, 0.0, z))?,
    };
    let scene = document(path)?;
    let id = GroundId(ground);
    let grounds = grounds(path, &scene)?;
    let model =
        grounds.get(&scene, id).ok_or_else(|| Failure::bad(format!("the scene has no ground {ground}")))?;
    let mut verdicts = Some(Vec::new());
    for l in &scene.layers {
        let rules = rules(path, &scene, &grounds, l, id)?;
        let verdict = ask(&scene, l, id, &rules, model, point);
        let told = verdict.map(|verdict| json!({"id": l.id, "name": l.name, "verdict": verdict}));
        verdicts = verdicts.zip(told).map(|(mut all, one)| {
            all.push(one);
            all
        });
    }
    let off = || Failure::bad(format!("the point {}, {} is not on the ground", point.x, point.z));
    print_json(&verdicts.ok_or_else(off)?)
}

fn space(text: &str) -> Result<Vec3, Failure> {
    let parts: Option<Vec<f32>> = text.split(',').map(|v| v.trim().parse().ok()).collect();
    let parts = parts.and_then(|p| <[f32; 3]>::try_from(p).ok());
    let bad = || Failure::bad(format!("\u{201c}{text}\u{201d} is not a point; write X,Y,Z in metres"));
    parts.map(Vec3::from).ok_or_else(bad)
}

pub(super) fn point(text: &str) -> Result<(f32, f32), Failure> {
    let parts =
        text.split_once(',').and_then(|(x, z)| Some((x.trim().parse().ok()?, z.trim().parse().ok()?)));
    parts.ok_or_else(|| Failure::bad(format!("\u{201c}{text}\u{201d} is not a point; write X,Z in metres")))
}

pub(super) fn section(
    path: &Path,
    (from, to): (&str, &str),
    width_m: f32,
    quantity: Option<&str>,
) -> Result<(), Failure> {
    let ((from_x, from_z), (to_x, to_z)) = (point(from)?, point(to)?);
    let reading = quantity.map(reading_named).transpose()?;
    let line = CutLine { from_x, from_z, to_x, to_z, width_m, reading };
    let cut = Cut::try_from(line).map_err(Failure::bad)?;
    let scene = document(path)?;
    let grounds = grounds(path, &scene)?;
    let grown = grown(path, &scene, &grounds, |l| l.visible)?;
    let layers: Vec<_> = grown.iter().map(|(l, g)| (l, g.plants.as_slice())).collect();
    let read = |ground: &GroundRef<'_>| {
        let values = reading.map(|r| ground.reading(r, &CancelToken::default()));
        values.transpose().map_err(Failure::other)
    };
    let standing = obstacles(path, &scene, &grounds)?;
    let mut solids: Vec<_> = standing.into_iter().map(|(_, mesh)| (mesh, None)).collect();
    let mut land_read = None;
    for id in scene.ground_ids().into_iter().filter(|id| scene.placed(*id).is_none_or(|g| !g.hidden)) {
        let Some(ground) = grounds.get(&scene, id) else { continue };
        let values = read(&ground)?;
        if id == GroundId::LAND {
            land_read = values;
        } else {
            let frame = scene.frame(id);
            let values = values.map(|values| in_scene(reading, &frame, &values));
            solids.push((ground.mesh(&frame), values));
        }
    }
    let solids: Vec<_> =
        solids.iter().map(|(mesh, values)| CutSolid { mesh, values: values.as_deref() }).collect();
    let land =
        (!scene.ground.absent).then_some(CutLand { ground: &grounds.land, values: land_read.as_deref() });
    print_json(&measure_section(land, &solids, &scene, &layers, &cut, reading))
}

fn reading_named(quantity: &str) -> Result<Reading, Failure> {
    Reading::from_id(quantity).ok_or_else(|| {
        let known = Reading::ALL.map(Reading::id).join(", ");
        Failure::bad(format!("\u{201c}{quantity}\u{201d} cannot be read off a ground; choose one of {known}"))
    })
}

pub(super) fn reading(
    path: &Path,
    quantity: &str,
    ground: Option<u32>,
    out: Option<&Path>,
) -> Result<(), Failure> {
    let reading = reading_named(quantity)?;
    let scene = document(path)?;
    let grounds = grounds(path, &scene)?;
    let id = ground.map_or(GroundId::LAND, GroundId);
    let ground = grounds
        .get(&scene, id)
        .ok_or_else(|| Failure::bad(format!("the scene has no ground with the number {}", id.0)))?;
    let values = ground.reading(reading, &CancelToken::default()).map_err(Failure::other)?;
    let (counted, points) = match &ground {
        GroundRef::Terrain(t) => {
            if let Some(out) = out {
                // One beside the land lies in its own frame, for it may be turned.
                let middle_m = if id == GroundId::LAND { scene.map_middle_m() } else { [0.0; 2] };
                write(out, encode_ascii(&t.terrain, middle_m, &values).as_bytes())?;
            }
            ("heights", json!([t.terrain.nx(), t.terrain.nz()]))
        }
        GroundRef::Mesh(_) if out.is_some() => {
            return Err(Failure::bad("a mesh has no grid of heights; its values are spread only".to_owned()));
        }
        GroundRef::Mesh(_) => ("vertices", json!(values.len())),
    };
    let h = ground.reading_histogram(reading, &values);
    print_json(&json!({
        "quantity": reading, "unit": reading.unit(), counted: points,
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
