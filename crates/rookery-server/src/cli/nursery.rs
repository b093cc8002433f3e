//! The nursery without a screen: what there is, all about one, its portrait.

use super::failure::{Failure, print_json, write};
use super::scene_file::{document, with_species};
use clap::Subcommand;
use rookery_core::cancel::CancelToken;
use rookery_core::community::ready_communities;
use rookery_core::nursery::{Detail, Species};
use rookery_core::scene::{Document, SpeciesId, bare, to_json};
use rookery_formats::picture::png_srgb8;
use rookery_render::{PortraitSettings, portrait};
use serde_json::json;
use std::path::{Path, PathBuf};

#[derive(Debug, Subcommand)]
pub(super) enum NurseryTask {
    /// List all species with their sizes and triangles (JSON).
    List {
        /// A scene file, for its own species and its season.
        #[arg(long)]
        scene: Option<PathBuf>,
    },
    /// List all ready communities with their layers (JSON).
    Communities,
    /// Print one species with everything that can be set on it (JSON).
    Show {
        /// Its id, for example `thrift`.
        species: String,
        /// A scene file, for its own species and its season.
        #[arg(long)]
        scene: Option<PathBuf>,
    },
    /// Take a picture of a species.
    Portrait {
        /// Its id, for example `thrift`.
        species: String,
        /// Where the picture goes (PNG).
        #[arg(long)]
        out: PathBuf,
        /// A scene file, for its own species and its season.
        #[arg(long)]
        scene: Option<PathBuf>,
        /// Side of the picture, pixels.
        #[arg(long, default_value_t = 480)]
        pixels: u32,
        /// Light paths per pixel.
        #[arg(long, default_value_t = 32)]
        samples: u32,
        /// Forms side by side, from the first on.
        #[arg(long, default_value_t = 1)]
        forms: u16,
        /// Set a figure of 1.75 m beside it.
        #[arg(long)]
        figure: bool,
    },
}

pub(super) fn run(task: NurseryTask) -> Result<(), Failure> {
    match task {
        NurseryTask::List { scene } => {
            let scene = opened(scene.as_deref())?;
            let row = |s: &&Species| {
                let triangles = Detail::ALL.map(|d| s.build(0, d, scene.season).triangles());
                json!({"id": s.id, "name": s.name, "kind": s.kind, "tags": s.tags, "forms": s.forms,
                    "height_m": to_json(&s.height_m()), "radius_m": to_json(&s.radius_m()), "triangles": triangles})
            };
            print_json(&scene.nursery().iter().map(row).collect::<Vec<_>>())
        }
        NurseryTask::Communities => print_json(&ready_communities()),
        NurseryTask::Show { species, scene } => {
            let scene = opened(scene.as_deref())?;
            let found = find(&scene, &species)?;
            print_json(&json!({"species": to_json(found), "settings": to_json(&found.plan.settings()),
                "bending": to_json(&found.bending_of_forms(scene.season))}))
        }
        NurseryTask::Portrait { species, out, scene, pixels, samples, forms, figure } => {
            let scene = opened(scene.as_deref())?;
            let found = find(&scene, &species)?;
            if !(16..=4096).contains(&pixels)
                || !(1..=1024).contains(&samples)
                || !(1..=found.forms).contains(&forms)
            {
                return Err(Failure::bad(format!(
                    "a portrait has 16 to 4096 pixels, 1 to 1024 samples and, of this species, 1 to {} forms",
                    found.forms
                )));
            }
            let meshes: Vec<_> = (0..forms).map(|f| found.build(f, Detail::Full, scene.season)).collect();
            let settings = PortraitSettings {
                width_px: pixels,
                height_px: pixels,
                samples,
                figure,
                ..PortraitSettings::default()
            };
            let film = portrait(&meshes, &settings, &CancelToken::default()).map_err(Failure::other)?;
            write(&out, &png_srgb8(pixels, pixels, &film.to_srgb8()).map_err(Failure::other)?)
        }
    }
}

fn opened(scene: Option<&Path>) -> Result<Document, Failure> {
    scene.map_or_else(|| Ok(bare()), |path| with_species(path, document(path)?))
}

fn find<'a>(scene: &'a Document, id: &str) -> Result<&'a Species, Failure> {
    scene.species(&SpeciesId(id.to_owned())).ok_or_else(|| {
        let ids: Vec<_> = scene.nursery().iter().map(|s| s.id.0.clone()).collect();
        Failure::bad(format!("the nursery has no species \u{201c}{id}\u{201d}; it has: {}", ids.join(", ")))
    })
}
