//! Scene files: the demo, and commands applied to them.

use super::failure::{Failure, print_json, read, write};
use super::scene_file::{beside, document, grounds};
use base64::prelude::{BASE64_STANDARD, Engine};
use rookery_core::community::{Community, of_layers, ready_communities};
use rookery_core::scene::{
    Command, GroundId, LayerId, apply, bare, blob_id, kittiwake_head, needle_arch, tarn_moraine,
};
use rookery_formats::GroundError;
use rookery_formats::outlines::read_outlines;
use std::path::Path;

pub(super) fn demo(name: &str) -> Result<(), Failure> {
    match name {
        "kittiwake-head" => print_json(&kittiwake_head()),
        "tarn-moraine" => print_json(&tarn_moraine()),
        "needle-arch" => print_json(&needle_arch()),
        "bare" => print_json(&bare()),
        other => Err(Failure::bad(format!(
            "there is no demo scene \u{201c}{other}\u{201d}; there are kittiwake-head, tarn-moraine, needle-arch and bare"
        ))),
    }
}

pub(super) fn changes(path: &Path) -> Result<(), Failure> {
    print_json(&document(path)?.news())
}

pub(super) fn edit(path: &Path, command: &str) -> Result<(), Failure> {
    let command: Command =
        serde_json::from_str(command).map_err(|e| Failure::bad(format!("the command: {e}")))?;
    let applied = apply(&document(path)?, &command).map_err(Failure::bad)?;
    // The changed scene is printed only when its grounds can be made.
    grounds(path, &applied.document)?;
    print_json(&applied.document)
}

pub(super) fn outlines(path: &Path, lines: &Path) -> Result<(), Failure> {
    let mut scene = document(path)?;
    let read = read_outlines(&read(lines)?, scene.map_middle_m())
        .map_err(|e| Failure::bad(format!("{}: {e}", lines.display())))?;
    let first = scene.outlines.iter().map(|o| o.id.0).max().unwrap_or(0);
    for mut value in read {
        value.id.0 += first;
        scene = apply(&scene, &Command::PutOutline { value, place: None }).map_err(Failure::bad)?.document;
    }
    print_json(&scene)
}

pub(super) fn plant(path: &Path, name: &str, ground: Option<u32>) -> Result<(), Failure> {
    let scene = document(path)?;
    let ready = ready_communities().iter().find(|c| c.name.eq_ignore_ascii_case(name)).cloned();
    let community = match ready {
        Some(community) => community,
        None if Path::new(name).exists() => {
            let found: Community = serde_json::from_slice(&read(Path::new(name))?)
                .map_err(|e| Failure::bad(format!("{name}: {e}")))?;
            found.check().map_err(|e| Failure::bad(format!("{name}: {e}")))?;
            unpack(path, &found)?;
            found
        }
        None => {
            let names: Vec<_> = ready_communities().iter().map(|c| c.name.as_str()).collect();
            return Err(Failure::bad(format!(
                "there is no file and no ready community \u{201c}{name}\u{201d}; there are: {}",
                names.join(", ")
            )));
        }
    };
    let ground = ground.map(GroundId);
    if let Some(id) = ground.filter(|g| !scene.has_ground(*g)) {
        return Err(Failure::bad(format!("this scene has no ground {}", id.0)));
    }
    let applied = apply(&scene, &community.dropped(&scene, ground)).map_err(Failure::bad)?;
    print_json(&applied.document)
}

pub(super) fn community(path: &Path, name: &str, layers: &[u32]) -> Result<(), Failure> {
    let scene = document(path)?;
    let known: Vec<LayerId> = scene.layers.iter().map(|l| l.id).collect();
    let wanted =
        if layers.is_empty() { known.clone() } else { layers.iter().map(|id| LayerId(*id)).collect() };
    if let Some(missing) = wanted.iter().find(|id| !known.contains(id)) {
        return Err(Failure::bad(format!("this scene has no layer {}", missing.0)));
    }
    let mut community = of_layers(&scene, &wanted, name, "");
    let needed: Vec<_> = community.needs().into_iter().map(|(b, n)| (b.clone(), n.to_owned())).collect();
    for (blob, name) in needed {
        let missing = || GroundError::MissingFile { name: name.clone(), id: blob.clone() };
        let bytes = beside(path, &name, &blob).ok_or_else(missing).map_err(Failure::bad)?;
        community.files.insert(blob.0, BASE64_STANDARD.encode(bytes));
    }
    community.check().map_err(Failure::bad)?;
    print_json(&community)
}

/// Puts the files that a community brings beside a scene file, under their hash; one that is there stays.
fn unpack(path: &Path, community: &Community) -> Result<(), Failure> {
    for (blob, name) in community.needs() {
        if beside(path, name, blob).is_some() {
            continue;
        }
        let Some(text) = community.files.get(&blob.0) else { continue };
        let bytes = BASE64_STANDARD.decode(text).ok().filter(|b| blob_id(b) == *blob);
        let bytes =
            bytes.ok_or_else(|| Failure::bad(format!("the file \u{201c}{name}\u{201d} in it is damaged")))?;
        let place = path.parent().unwrap_or(Path::new(".")).join(&blob.0);
        write(&place, &bytes)?;
        eprintln!("{name} was put beside the scene as {}", place.display());
    }
    Ok(())
}
