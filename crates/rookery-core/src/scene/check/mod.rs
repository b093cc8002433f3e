//! What a scene may hold. Everything that passes here can be computed without further checks.

mod clearance;
mod drift;
mod motion;
mod moving;
mod order;
mod paint;
mod placed;
mod site;
mod species;
mod tended;

use crate::document::*;
use crate::habitat::{Asks, Span, source};
use crate::planting::MOST_SPECIES;
use std::collections::BTreeSet;

/// Sides of a ground, metres, at most.
const MOST_SIDE_M: f32 = 60_000.0;
/// How far from the middle anything lies, metres, at most.
const FARTHEST_M: f32 = MOST_SIDE_M / 2.0;
const MAX_LAYERS: usize = 256;
const MAX_MASKS: usize = 32;
const MAX_KEPT_SEEDS: usize = 24;
const MAX_SHOTS: usize = 256;
const MAX_STROKES: usize = 4000;
const MAX_ON_GROUND: usize = 1000;

pub use crate::document::Refusal;
pub(super) use clearance::yields;
pub(super) use motion::motion;
pub use motion::{check_frames, check_time};
pub(super) use moving::{blower, blowers, bodies, body, grounds};
pub(super) use paint::{paint, paint_stroke, paint_strokes};
pub(super) use placed::placed;
pub use site::outline as check_outline;
pub(super) use site::{obstacle, outline, stroke, water, zone};
pub use species::species as check_species;
pub(super) use species::{own_species, season, still_there};

/// Checks a whole document, for instance one read from a file.
///
/// # Errors
/// The first thing found wrong.
pub fn check_document(document: &Document) -> Result<(), Refusal> {
    if document.schema > SCHEMA || document.schema == 0 {
        return Err(Refusal::LaterSchema { found: document.schema, known: SCHEMA });
    }
    name("the scene's name", &document.name)?;
    scene_cap(document)?;
    ground(&document.ground)?;
    grounds(&document.grounds)?;
    each(&document.grounds, "ground", |g| g.id.0, placed)?;
    room("sheets of water", &document.waters)?;
    each(&document.waters, "sheet of water", |w| w.id.0, water)?;
    room("zones", &document.zones)?;
    each(&document.zones, "zone", |z| z.id.0, zone)?;
    room("paintings", &document.paints)?;
    each(&document.paints, "painting", |p| p.id.0, paint)?;
    room("pictures", &document.pictures)?;
    each(&document.pictures, "picture", |p| p.id.0, picture)?;
    each(&document.earth_pictures, "set of earth pictures", |p| p.id as u32, earth_pictures)?;
    room("outlines", &document.outlines)?;
    each(&document.outlines, "outline", |o| o.id.0, outline)?;
    room("obstacles", &document.obstacles)?;
    each(&document.obstacles, "obstacle", |o| o.id.0, obstacle)?;
    count("layers", document.layers.len(), MAX_LAYERS)?;
    count("shots", document.shots.len(), MAX_SHOTS)?;
    own_species(document)?;
    each(&document.layers, "layer", |l| l.id.0, |l| layer(document, l))?;
    each(&document.shots, "shot", |s| s.id.0, shot)?;
    motion(&document.motion)?;
    blowers(&document.blowers)?;
    each(&document.blowers, "blower", |b| b.id.0, blower)?;
    bodies(&document.bodies)?;
    each(&document.bodies, "body", |b| b.id.0, body)?;
    clearance::yields(document)?;
    room("shares", &document.shares)?;
    each(&document.shares, "share", |s| s.id.0, |s| share(document, s))
}

/// Checks which layers have settings in common.
pub(super) fn share(document: &Document, share: &Share) -> Result<(), Refusal> {
    within("the layers of a share", share.layers.len() as f32, 2.0, MAX_LAYERS as f32, "")?;
    for (i, id) in share.layers.iter().enumerate() {
        let others = document.shares.iter().filter(|s| s.id != share.id && s.settings == share.settings);
        if share.layers[..i].contains(id) || others.flat_map(|s| &s.layers).any(|l| l == id) {
            return Err(Refusal::SharedTwice { id: id.0 });
        }
    }
    Ok(())
}

fn blob(id: &BlobId) -> Result<(), Refusal> {
    if id.0.len() == 64 && id.0.bytes().all(|b| b.is_ascii_hexdigit()) {
        return Ok(());
    }
    Err(Refusal::BadBlob { id: id.0.chars().take(80).collect() })
}

/// Checks every item, and that no two have the same id.
fn each<T>(
    items: &[T],
    what: &'static str,
    id: impl Fn(&T) -> u32,
    check: impl Fn(&T) -> Result<(), Refusal>,
) -> Result<(), Refusal> {
    let mut ids = BTreeSet::new();
    for item in items {
        check(item)?;
        if !ids.insert(id(item)) {
            return Err(Refusal::Taken { what, id: id(item) });
        }
    }
    Ok(())
}

/// Whether there is room for one more outline or obstacle.
pub(super) fn room<T>(what: &'static str, items: &[T]) -> Result<(), Refusal> {
    count(what, items.len(), MAX_ON_GROUND)
}

/// Whether a ground has no more sculpting strokes than it may.
pub(super) fn strokes(strokes: &[Stroke]) -> Result<(), Refusal> {
    count("strokes", strokes.len(), MAX_STROKES)
}

fn every_stroke(all: &[Stroke]) -> Result<(), Refusal> {
    strokes(all)?;
    each(all, "stroke", |s| s.id.0, site::stroke)
}

/// Checks a ground.
///
/// # Errors
/// The first thing found wrong.
pub fn ground(ground: &Ground) -> Result<(), Refusal> {
    if let Some(water) = ground.water_m {
        within("the water level", water, -1000.0, 10_000.0, " m")?;
    }
    site::earths(&ground.earths)?;
    site::bare(&ground.bare)?;
    every_stroke(&ground.strokes)?;
    match &ground.source {
        GroundSource::Noise(n) => noise(n),
        GroundSource::Heightmap(h) => heightmap(h),
    }
}

fn noise(n: &NoiseGround) -> Result<(), Refusal> {
    within("the size of the ground", n.size_m, 10.0, 4000.0, " m")?;
    within("relief", n.relief_m, 0.0, 1000.0, " m")?;
    within("the width of hills", n.feature_m, 1.0, 4000.0, " m")?;
    within("ruggedness", n.ruggedness, 0.0, 1.0, "")?;
    within("ridges", n.ridges, 0.0, 1.0, "")?;
    within("valleys", n.valleys, 0.0, 1.0, "")?;
    within("terraces", n.terraces, 0.0, 1.0, "")?;
    within("the height of a terrace", n.terrace_m, 0.1, 200.0, " m")?;
    within("coast", n.coast, 0.0, 1.0, "")?;
    within("the number of heights along a side", n.samples as f32, 33.0, 4096.0, "")
}

fn heightmap(h: &HeightmapGround) -> Result<(), Refusal> {
    blob(&h.blob)?;
    name("the file's name", &h.name)?;
    within("the width of the ground", h.width_m, 1.0, MOST_SIDE_M, " m")?;
    within("the depth of the ground", h.depth_m, 1.0, MOST_SIDE_M, " m")?;
    within("the lowest height", h.low_m, -12_000.0, 12_000.0, " m")?;
    within("the highest height", h.high_m, -12_000.0, 12_000.0, " m")?;
    for v in h.middle_m.iter().flatten() {
        within("the middle of the ground on its map", *v as f32, -1e8, 1e8, " m")?;
    }
    for n in h.samples.iter().flatten() {
        within("the number of heights along a side", *n as f32, 2.0, 60_000.0, "")?;
    }
    ordered("height", h.low_m, h.high_m)
}

pub(super) fn layer(document: &Document, layer: &Layer) -> Result<(), Refusal> {
    name("the layer's name", &layer.name)?;
    mix(document, &layer.mix)?;
    rows(&layer.rows)?;
    tint(&layer.tint)?;
    match layer.amount {
        Amount::PerM2 { value } => within("the amount", value, 0.0, 1000.0, " per m2")?,
        Amount::Total { value } => within("the amount", value as f32, 0.0, 10_000_000.0, " plants")?,
        Amount::Cover { value } => within("the cover", value, 0.0, 0.98, "")?,
        Amount::Spacing { value_m } => within("the mean spacing", value_m, 0.03, 1000.0, " m")?,
    }
    within("the radius of a clump", layer.clumps.radius_m, 0.02, 200.0, " m")?;
    within("the plants of a clump", layer.clumps.plants, 2.0, 500.0, "")?;
    within("the cap", layer.cap as f32, 1.0, 10_000_000.0, " plants")?;
    layer.group.as_ref().map_or(Ok(()), |group| name("the group's name", group))?;
    count("kept arrangements", layer.kept_seeds.len(), MAX_KEPT_SEEDS)?;
    for (i, seed) in layer.kept_seeds.iter().enumerate() {
        if layer.kept_seeds[..i].contains(seed) {
            return Err(Refusal::KeptAlready { seed: *seed });
        }
    }
    count("grounds", layer.grounds.len(), MAX_ON_GROUND)?;
    count("masks", layer.masks.len(), MAX_MASKS)?;
    each(&layer.masks, "mask", |m| m.id.0, mask)?;
    clearance::clearance(&layer.clearance)?;
    within("the share of the wind", layer.wind_share, 0.0, 1.0, "")?;
    tended::tended(&layer.tended)?;
    drift::drifts(&layer.drifts)?;
    order::no_cycle(document)?;
    stance(&layer.stance)
}

fn mix(document: &Document, mix: &[MixPart]) -> Result<(), Refusal> {
    count("species of one layer", mix.len(), MOST_SPECIES)?;
    for (i, part) in mix.iter().enumerate() {
        let id = || part.species.0.chars().take(80).collect();
        if document.species(&part.species).is_none() {
            return Err(Refusal::NoSpecies { id: id() });
        }
        if mix[..i].iter().any(|m| m.species == part.species) {
            return Err(Refusal::TwiceInMix { id: id() });
        }
        within("the share of a species", part.share, 0.0, 1.0, "")?;
    }
    if mix.iter().all(|m| m.share <= 0.0) { Err(Refusal::EmptyMix) } else { Ok(()) }
}

fn rows(r: &Rows) -> Result<(), Refusal> {
    within("the spacing between rows", r.between_m, 0.05, 500.0, " m")?;
    within("the spacing along a row", r.along_m, 0.05, 500.0, " m")?;
    within("how far plants stray from their row", r.jitter, 0.0, 1.0, "")?;
    within("the direction of rows", r.turn_deg, -360.0, 360.0, " degrees")?;
    within("the rows beside a line", r.count as f32, 1.0, 50.0, "")?;
    within("the distance of rows from their line", r.offset_m, 0.0, 500.0, " m")
}

fn tint(t: &Tint) -> Result<(), Refusal> {
    colour(t.colour)?;
    within("the strength of a tint", t.strength, 0.0, 1.0, "")?;
    within("the spread of lightness", t.spread, 0.0, 1.0, "")
}

fn colour(colour: [f32; 3]) -> Result<(), Refusal> {
    colour.into_iter().try_for_each(|c| within("the colour of a tint", c, 0.0, 1.0, ""))
}

pub(super) fn mask(mask: &Mask) -> Result<(), Refusal> {
    match mask.drives {
        Drives::Amount | Drives::Mix => {}
        Drives::Size { low, high } => {
            within("the size where a mask is 0", low, 0.05, 20.0, " times")?;
            within("the size where a mask is 1", high, 0.05, 20.0, " times")?;
        }
        Drives::Tint { colour: towards } => colour(towards)?,
    }
    within("the strength of a mask", mask.strength, 0.0, 1.0, "")?;
    let source = source(mask.quantity);
    let asks = source.asks();
    for (own, there, refusal) in [
        (Asks::Noise, mask.noise.is_some(), Refusal::NoiseMissing),
        (Asks::Near, mask.near.is_some(), Refusal::NearMissing),
        (Asks::Paint, mask.paint.is_some(), Refusal::PaintMissing),
        (Asks::Shot, mask.shot.is_some(), Refusal::ShotMissing),
        (Asks::Picture, mask.picture.is_some(), Refusal::PictureMissing),
        (Asks::Sun, mask.sun.is_some(), Refusal::SunMissing),
        (Asks::Wind, mask.wind.is_some(), Refusal::WindMissing),
        (Asks::Zone, mask.zone.is_some(), Refusal::ZoneMissing),
    ] {
        if (asks == own) != there {
            return Err(refusal);
        }
    }
    source.check(mask)?;
    if let Some(sun) = mask.sun {
        within("the latitude of the sun's day", sun.latitude_deg, -90.0, 90.0, " degrees")?;
        if sun.day_of_year().is_none() {
            return Err(Refusal::NoSuchDay { month: sun.month, day: sun.day });
        }
    }
    if let Some(wind) = mask.wind {
        within("where the wind mostly comes from", wind.from_deg, 0.0, 360.0, " degrees")?;
    }
    if let Some(look) = mask.picture {
        look.colour.into_iter().try_for_each(|c| within("a picked colour", c, 0.0, 1.0, ""))?;
    }
    mask.near.map_or(Ok(()), near)?;
    if let Some(n) = mask.noise {
        within("the size of a noise", n.size_m, 0.05, 2000.0, " m")?;
        within("the roughness of a noise", n.rough, 0.0, 1.0, "")?;
        within("the contrast of a noise", n.contrast, 0.0, 1.0, "")?;
        within("the floor of a noise", n.floor, 0.0, 0.95, "")?;
    }
    let Span { field, low, high, unit } = source.span();
    let r = mask.response;
    for value in [r.start, r.full_from, r.full_to, r.end] {
        within(field, value, low, high, unit)?;
    }
    ordered(field, r.start, r.full_from)?;
    ordered(field, r.full_from, r.full_to)?;
    ordered(field, r.full_to, r.end)
}

/// Checks the most plants of all layers together.
pub(super) fn scene_cap(document: &Document) -> Result<(), Refusal> {
    let cap = document.cap.map(|cap| cap as f32);
    cap.map_or(Ok(()), |cap| within("the cap of the scene", cap, 1.0, 100_000_000.0, " plants"))
}

fn near(near: Near) -> Result<(), Refusal> {
    let place = |v: f32| within("the place a distance is measured from", v, -100_000.0, 100_000.0, " m");
    let size = |v: f32| within("the size of a volume", v, 0.0, 20_000.0, " m");
    match near {
        Near::Straight { x_m, z_m, bearing_deg } => {
            place(x_m)?;
            place(z_m)?;
            within("the direction of a gradient", bearing_deg, -360.0, 360.0, " degrees")
        }
        Near::Ball { at_m, radius_m } => {
            at_m.into_iter().try_for_each(place)?;
            size(radius_m)
        }
        Near::Cylinder { x_m, z_m, radius_m } => {
            place(x_m)?;
            place(z_m)?;
            size(radius_m)
        }
        Near::Box { at_m, size_m, turn_deg } => {
            at_m.into_iter().try_for_each(place)?;
            size_m.into_iter().try_for_each(size)?;
            within("the turn of a box", turn_deg, -360.0, 360.0, " degrees")
        }
        Near::Outline { .. }
        | Near::Tracks
        | Near::Water
        | Near::Obstacle { .. }
        | Near::Obstacles
        | Near::Layer { .. }
        | Near::Camera { .. } => Ok(()),
    }
}

/// Checks a picture over the plan.
pub(super) fn picture(p: &GroundPicture) -> Result<(), Refusal> {
    name("the picture's name", &p.name)?;
    name("the file's name", &p.file)?;
    blob(&p.blob)?;
    within("the place of a picture", p.x_m, -100_000.0, 100_000.0, " m")?;
    within("the place of a picture", p.z_m, -100_000.0, 100_000.0, " m")?;
    within("the width of a picture", p.width_m, 0.01, 100_000.0, " m")?;
    within("the depth of a picture", p.depth_m, 0.01, 100_000.0, " m")?;
    within("the turn of a picture", p.turn_deg, -360.0, 360.0, " degrees")
}

/// Checks the pictures of an earth.
pub(super) fn earth_pictures(p: &EarthPictures) -> Result<(), Refusal> {
    name("the name of the earth's pictures", &p.name)?;
    for file in p.files() {
        name("the file's name", &file.file)?;
        blob(&file.blob)?;
    }
    within("the size of the earth's pictures", p.size_m, 0.05, 100.0, " m")?;
    within("the relief of the earth's pictures", p.relief_m, 0.0, 10.0, " m")
}

fn stance(s: &Stance) -> Result<(), Refusal> {
    range("size", s.size, 0.01, 100.0, " times")?;
    range("turn", s.turn_deg, -360.0, 360.0, " degrees")?;
    within("tilt", s.tilt_deg, 0.0, 180.0, " degrees")?;
    within("upright", s.upright, 0.0, 1.0, "")?;
    range("height against size", s.tall, 0.25, 4.0, " times")?;
    range("depth against size", s.deep, 0.25, 4.0, " times")?;
    within("tumble", s.tumble, 0.0, 1.0, "")?;
    within("lean", s.lean_deg, -90.0, 90.0, " degrees")?;
    if let LeanTo::Bearing { deg } = s.lean {
        within("the direction of the lean", deg, -360.0, 360.0, " degrees")?;
    }
    range("lift", s.lift_m, 0.0, 100.0, " m")?;
    within("shift", s.shift_m, 0.0, 10.0, " m")?;
    within("sink", s.sink_m, -10.0, 10.0, " m")
}

/// Checks a shot.
///
/// # Errors
/// The first thing found wrong.
pub fn shot(s: &Shot) -> Result<(), Refusal> {
    name("the shot's name", &s.name)?;
    for value in s.eye_m.iter().chain(&s.target_m) {
        within("the camera's place", *value, -100_000.0, 100_000.0, " m")?;
    }
    if s.eye_m == s.target_m {
        return Err(Refusal::NoDirection);
    }
    within("the angle of view", s.view_deg, 5.0, 120.0, " degrees")?;
    within("the sun's direction", s.sun_azimuth_deg, 0.0, 360.0, " degrees")?;
    within("the sun's height", s.sun_elevation_deg, 0.0, 90.0, " degrees")?;
    within("overcast", s.overcast, 0.0, 1.0, "")?;
    within("clouds", s.clouds, 0.0, 1.0, "")?;
    within("the picture's width", s.width_px as f32, 16.0, 8192.0, " pixels")?;
    within("the picture's height", s.height_px as f32, 16.0, 8192.0, " pixels")?;
    within("samples", s.samples as f32, 1.0, 4096.0, "")
}

pub(super) fn name(field: &'static str, name: &str) -> Result<(), Refusal> {
    let length = name.trim().chars().count();
    if !(1..=80).contains(&name.chars().count()) || length == 0 || name.chars().any(char::is_control) {
        return Err(Refusal::BadName { field, length });
    }
    Ok(())
}

fn count(what: &'static str, count: usize, limit: usize) -> Result<(), Refusal> {
    if count > limit { Err(Refusal::TooMany { what, count, limit }) } else { Ok(()) }
}

fn range(field: &'static str, r: Range, low: f32, high: f32, unit: &'static str) -> Result<(), Refusal> {
    within(field, r.min, low, high, unit)?;
    within(field, r.max, low, high, unit)?;
    ordered(field, r.min, r.max)
}

fn ordered(field: &'static str, min: f32, max: f32) -> Result<(), Refusal> {
    if min > max { Err(Refusal::Reversed { field, min, max }) } else { Ok(()) }
}

pub(super) fn within(
    field: &'static str,
    value: f32,
    low: f32,
    high: f32,
    unit: &'static str,
) -> Result<(), Refusal> {
    if value.is_finite() && (low..=high).contains(&value) {
        Ok(())
    } else {
        Err(Refusal::OutOfRange { field, value, low, high, unit })
    }
}
