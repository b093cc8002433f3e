//! Mesh files as species.

use super::failure::{Failure, print_json, read};
use super::scene_file::document;
use clap::Args;
use rookery_core::nursery::{Imported, Kind, Species};
use rookery_core::scene::{Command, MeshPlacing, SpeciesId, UpAxis, apply, blob_id};
use rookery_formats::mesh::{inspect_mesh, measure, read_mesh};
use std::path::Path;

#[derive(Debug, Args)]
pub(super) struct ImportArgs {
    /// What it is called; the file's name when left out.
    #[arg(long)]
    name: Option<String>,
    /// `grass`, `herb`, `fern`, `cushion`, `shrub`, `broadleaf`, `conifer`, `rock` or `debris`.
    #[arg(long, default_value = "rock")]
    kind: String,
    /// Metres in one unit of the file.
    #[arg(long, default_value_t = 1.0)]
    unit: f32,
    /// The file's upright, `y` or `z`.
    #[arg(long, default_value = "y")]
    up: String,
    /// Its real height, metres; as the file has it when left out.
    #[arg(long)]
    height: Option<f32>,
    /// Take each part of the file as a form of its own.
    #[arg(long)]
    each: bool,
    /// Its faces are leaves: seen from both sides, with light going through. As the file says when left out.
    #[arg(long)]
    thin: Option<bool>,
    /// Simplify it to this many triangles.
    #[arg(long)]
    most_triangles: Option<u32>,
    /// Leave its base point where the file has it.
    #[arg(long)]
    keep_base: bool,
    /// Leave out faces that are there twice and turn single ones to the side of their neighbours.
    #[arg(long)]
    mend: bool,
}

pub(super) fn import(path: &Path, file: &Path, how: &ImportArgs) -> Result<(), Failure> {
    let scene = document(path)?;
    let bytes = read(file)?;
    let named = |e: &dyn std::fmt::Display| Failure::bad(format!("{}: {e}", file.display()));
    let file_name = file.file_name().map(|n| n.to_string_lossy().into_owned()).unwrap_or_default();
    let up = match how.up.as_str() {
        "y" => UpAxis::Y,
        "z" => UpAxis::Z,
        other => return Err(Failure::bad(format!("the upright is y or z, not \u{201c}{other}\u{201d}"))),
    };
    let kind: Kind = serde_json::from_value(how.kind.clone().into())
        .map_err(|_| Failure::bad(format!("there is no kind \u{201c}{}\u{201d}", how.kind)))?;
    for finding in inspect_mesh(&read_mesh(&bytes).map_err(|e| named(&e))?).findings {
        eprintln!("found: {}", serde_json::to_string(&finding).map_err(Failure::other)?);
    }
    let mut plan = Imported {
        blob: blob_id(&bytes),
        name: file_name.chars().take(80).collect(),
        placing: MeshPlacing {
            unit_m: how.unit,
            up,
            recentre: !how.keep_base,
            turn_over: false,
            mend: how.mend,
        },
        each: how.each,
        most_triangles: how.most_triangles.map_or(Imported::MOST_TRIANGLES, |n| n as f32),
        ..Imported::default()
    };
    let first = measure(&plan, &bytes).map_err(|e| named(&e))?;
    plan.thin = how.thin.unwrap_or(first.looks_thin);
    (plan.tall_m, plan.wide_m) = (first.tall_m, first.wide_m);
    plan.scale = how.height.map_or(1.0, |h| h / first.tall_m);
    for left in &first.left_out {
        eprintln!("left out: {left}");
    }
    let name = how.name.clone().unwrap_or_else(|| {
        file.file_stem().map(|n| n.to_string_lossy().into_owned()).unwrap_or_else(|| "Imported".into())
    });
    let species = Species::imported(plan, kind, &name, first.forms as u16, |id: &SpeciesId| {
        scene.species(id).is_some()
    });
    let applied = apply(&scene, &Command::PutSpecies { value: Box::new(species), place: None })
        .map_err(Failure::bad)?;
    if file.parent() != path.parent() {
        eprintln!("note: keep {file_name} beside the scene file");
    }
    print_json(&applied.document)
}
