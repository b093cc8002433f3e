//! Taking a still of a scene file.

use super::failure::{Failure, write};
use super::progress::ProgressLine;
use super::scene_file::{document, grounds, obstacles, whole, with_species};
use rookery_core::cancel::CancelToken;
use rookery_core::scene::{Document, Shot, check_shot};
use rookery_formats::picture::png_srgb8;
use rookery_render::light::Light;
use rookery_render::{Developing, RenderScene, StillSettings, Water, take_shot};
use std::path::Path;
use std::time::Instant;

pub(super) fn render(
    path: &Path,
    shot: Option<&str>,
    size: Option<&str>,
    samples: Option<u32>,
    out: &Path,
) -> Result<(), Failure> {
    let scene = with_species(path, document(path)?)?;
    let mut shot = find(&scene, shot)?.clone();
    if let Some(size) = size {
        let parsed = size.split_once('x').and_then(|(w, h)| Some((w.parse().ok()?, h.parse().ok()?)));
        (shot.width_px, shot.height_px) = parsed.ok_or_else(|| {
            Failure::bad(format!("\u{201c}{size}\u{201d} is not a size; write WIDTHxHEIGHT"))
        })?;
    }
    shot.samples = samples.unwrap_or(shot.samples);
    check_shot(&shot).map_err(Failure::bad)?;
    let start = Instant::now();
    let grounds = grounds(path, &scene)?;
    let obstacles = obstacles(path, &scene, &grounds)?.into_iter().map(|(_, m)| m).collect();
    let grown = whole(path, &scene, &grounds, |l| l.visible)?;
    let layers: Vec<_> = grown.iter().map(|(l, g, fits)| (l, g.plants.as_slice(), fits.as_ref())).collect();
    let line = ProgressLine::new("rendering");
    let lying = grounds.meshes(&scene).into_iter().map(|(_, m)| m).collect();
    let traced =
        RenderScene::new(lying, Water::all_in(&scene), obstacles, &scene, &layers, Light::new(&shot));
    let never = CancelToken::default();
    let progress = |share| line.set(share);
    let film = take_shot(&traced, &shot, StillSettings::new(&shot), &never, &Developing::default(), progress)
        .map_err(Failure::other)?;
    write(out, &png_srgb8(film.width_px, film.height_px, &film.to_srgb8()).map_err(Failure::other)?)?;
    eprintln!("{} written in {:.1} s", out.display(), start.elapsed().as_secs_f32());
    Ok(())
}

fn find<'a>(scene: &'a Document, name: Option<&str>) -> Result<&'a Shot, Failure> {
    let names = || scene.shots.iter().map(|s| s.name.as_str()).collect::<Vec<_>>().join(", ");
    match name {
        None => {
            scene.shots.first().ok_or_else(|| Failure::bad("this scene has no shot to take a still through"))
        }
        Some(name) => scene.shots.iter().find(|s| s.name == name).ok_or_else(|| {
            Failure::bad(format!("there is no shot \u{201c}{name}\u{201d}; this scene has: {}", names()))
        }),
    }
}
