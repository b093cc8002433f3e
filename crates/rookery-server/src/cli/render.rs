//! Taking stills and runs of frames of a scene file.

use super::failure::{Failure, write};
use super::progress::ProgressLine;
use super::scene_file::{
    document, flow, grounds, moving, obstacles, whole, with_earth_pictures, with_species,
};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::beyond;
use rookery_core::motion::{MotionFacts, Standing};
use rookery_core::nap::about;
use rookery_core::scene::{Document, Frames, GroundId, Shot, check_frames, check_shot, check_time};
use rookery_core::soils::{Soils, laid};
use rookery_core::water::Sea;
use rookery_formats::frames::{FramesZip, MovingPng};
use rookery_formats::picture::png_srgb8;
use rookery_render::light::Light;
use rookery_render::{BentFacts, Developing, Moment, RenderScene, StillSettings, Water, take_shot};
use std::fs::File;
use std::io::BufWriter;
use std::path::Path;
use std::time::Instant;

/// What is to be taken, and how.
pub(super) struct How {
    pub shot: Option<String>,
    pub size: Option<String>,
    pub samples: Option<u32>,
    pub time_s: Option<f64>,
    pub frames: Option<String>,
    pub rate: Option<f32>,
}

pub(super) fn render(path: &Path, how: &How, out: &Path) -> Result<(), Failure> {
    let scene = with_earth_pictures(path, with_species(path, document(path)?)?)?;
    let mut shot = find(&scene, how.shot.as_deref())?.clone();
    if let Some(size) = &how.size {
        let parsed = size.split_once('x').and_then(|(w, h)| Some((w.parse().ok()?, h.parse().ok()?)));
        (shot.width_px, shot.height_px) = parsed.ok_or_else(|| {
            Failure::bad(format!("\u{201c}{size}\u{201d} is not a size; write WIDTHxHEIGHT"))
        })?;
    }
    shot.samples = how.samples.unwrap_or(shot.samples);
    check_shot(&shot).map_err(Failure::bad)?;
    how.time_s.map_or(Ok(()), check_time).map_err(Failure::bad)?;
    let frames = frames(&scene, how, out)?;
    let start = Instant::now();
    let grounds = grounds(path, &scene)?;
    let obstacles = obstacles(path, &scene, &grounds)?;
    let flow = flow(&scene, &grounds, &obstacles)?;
    let moving = moving(path, &scene, &grounds, &obstacles)?;
    let obstacles = obstacles.into_iter().map(|(_, m)| m).collect();
    let grown = whole(path, &scene, &grounds, |l| l.visible)?;
    let layers: Vec<_> = grown.iter().map(|(l, g, fits)| (l, g.plants.as_slice(), fits.as_ref())).collect();
    let mut lying = grounds.meshes(&scene);
    if !scene.ground.absent && !scene.ground.ends {
        lying.push((GroundId::LAND, beyond(&grounds.land, &scene.ground.source)));
    }
    let mut traced =
        RenderScene::new(lying, Water::all_in(&scene), obstacles, &scene, &layers, Light::new(&shot));
    let standing: Vec<Standing> =
        grown.iter().map(|(l, g, _)| (l, g.plants.as_slice(), g.tally.covered())).collect();
    let land = (!scene.ground.absent).then_some(&grounds.land);
    traced.sea = Sea::of(&scene, land).at(0.0);
    traced.put_in(&moving);
    if !scene.ground.absent {
        let laid = laid(&scene.outlines);
        traced.soils = Soils::of(&scene.outlines, &grounds.land);
        let nap = about(&grounds.land, &laid, &scene.ground.bare, traced.sheets(), shot.eye_m.into());
        traced.lay(&nap);
    }
    let facts = MotionFacts { flow, moving, ..MotionFacts::of(&scene, &standing) };
    let mut bent = (BentFacts::default(), 0.0);
    let mut picture = |time_s: Option<f64>, progress: &(dyn Fn(f32) + Sync)| -> Result<Vec<u8>, Failure> {
        if let Some(time_s) = time_s {
            let start = Instant::now();
            traced.bend(&scene, &layers, &Moment::new(&scene, &facts, time_s, &shot));
            bent = (traced.bent, start.elapsed().as_secs_f32());
        }
        let (never, developing) = (CancelToken::default(), Developing::default());
        let film = take_shot(&traced, &shot, StillSettings::new(&shot), &never, &developing, progress)
            .map_err(Failure::other)?;
        png_srgb8(film.width_px, film.height_px, &film.to_srgb8()).map_err(Failure::other)
    };
    let line = ProgressLine::new("rendering");
    match frames {
        None => write(out, &picture(how.time_s, &|share| line.set(share))?)?,
        Some(frames) => {
            let count = (frames.last - frames.first) as f32;
            let each = (frames.first..frames.last).map(|nth| {
                let before = (nth - frames.first) as f32;
                let time_s = Frames::time_s(nth, frames.rate);
                Ok((nth, picture(Some(time_s), &|share| line.set((before + share) / count))?))
            });
            write_run(out, &shot, &frames, each)?;
        }
    }
    let (BentFacts { plants, shapes, own, within_px, .. }, seconds) = bent;
    if plants > 0 {
        let near =
            if within_px.is_finite() { format!(", to about {within_px} pixels") } else { String::new() };
        eprintln!("{plants} plants bent in {seconds:.2} s: {shapes} shapes, {own} of one plant alone{near}");
    }
    eprintln!("{} written in {:.1} s", out.display(), start.elapsed().as_secs_f32());
    Ok(())
}

/// The run that was asked for.
fn frames(scene: &Document, how: &How, out: &Path) -> Result<Option<Frames>, Failure> {
    let Some(text) = &how.frames else { return Ok(None) };
    let parsed = text.split_once("..").and_then(|(a, b)| Some((a.parse().ok()?, b.parse().ok()?)));
    let (first, last) = parsed.ok_or_else(|| {
        Failure::bad(format!(
            "\u{201c}{text}\u{201d} is no run of frames; write FIRST..LAST, for instance 0..120"
        ))
    })?;
    let frames = Frames { first, last, rate: how.rate.unwrap_or(scene.motion.clock.frame_rate) };
    check_frames(&frames).map_err(Failure::bad)?;
    if !matches!(ending(out).as_str(), "zip" | "png") {
        return Err(Failure::bad("a run of frames is written to a file that ends in .zip or .png"));
    }
    Ok(Some(frames))
}

/// Writes frames as they come, to a file whose ending says how.
fn write_run(
    out: &Path,
    shot: &Shot,
    frames: &Frames,
    each: impl Iterator<Item = Result<(u32, Vec<u8>), Failure>>,
) -> Result<(), Failure> {
    // What is not whole yet does not take the name of what is.
    let mut beside = out.as_os_str().to_owned();
    beside.push(".part");
    let file = File::create(&beside)
        .map_err(|e| Failure::other(format!("{} cannot be written: {e}", out.display())))?;
    let target = BufWriter::new(file);
    if is_zip(out) {
        let stem = out.file_stem().and_then(|s| s.to_str()).unwrap_or("frame");
        let mut zip = FramesZip::new(target, stem);
        for frame in each {
            let (nth, png) = frame?;
            zip.add(nth, &png).map_err(Failure::other)?;
        }
        zip.finish().and_then(|w| w.into_inner().map_err(|e| e.into_error())).map_err(Failure::other)?;
    } else {
        let size = (shot.width_px, shot.height_px);
        let mut moving =
            MovingPng::new(target, size, frames.last - frames.first, frames.rate).map_err(Failure::other)?;
        for frame in each {
            moving.add(&frame?.1).map_err(Failure::other)?;
        }
        moving.finish().map_err(Failure::other)?;
    }
    std::fs::rename(&beside, out).map_err(Failure::other)
}

fn ending(out: &Path) -> String {
    out.extension().and_then(|e| e.to_str()).unwrap_or_default().to_ascii_lowercase()
}

fn is_zip(out: &Path) -> bool {
    ending(out) == "zip"
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
