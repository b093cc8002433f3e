//! Scene files: the demo, and commands applied to them.

use super::failure::{Failure, print_json, read};
use super::scene_file::{document, grounds};
use rookery_core::scene::{Command, apply, bare, kittiwake_head, needle_arch, tarn_moraine};
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
