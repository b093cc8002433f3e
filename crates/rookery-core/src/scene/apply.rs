//! Applying a command, and finding the one that takes it back.

use super::change::{change_one, with_sharers};
use super::check::{self, Refusal};
use super::command::{Command, GroundEdit, LayerEdit, ShotEdit};
use super::document::*;
use super::exchange::exchange;
use super::keyed::EPOCH;
use super::share::take_over;
use crate::nursery::EDITION;
use std::mem::replace;

/// A changed document and the command that takes the change back.
#[derive(Clone, Debug, PartialEq)]
pub struct Applied {
    /// The document after the change.
    pub document: Document,
    /// Applied to `document`, gives the one from before, exactly.
    pub inverse: Command,
}

/// Applies a command to a copy of the document.
///
/// # Errors
/// When the command names something that is not there, touches a locked layer, or would leave a setting outside
/// its range. Nothing is changed then.
pub fn apply(document: &Document, command: &Command) -> Result<Applied, Refusal> {
    let mut document = document.clone();
    let inverse = change(&mut document, command)?;
    Ok(Applied { document, inverse })
}

fn change(document: &mut Document, command: &Command) -> Result<Command, Refusal> {
    match command {
        Command::RenameScene { name } => {
            check::name("the scene's name", name)?;
            Ok(Command::RenameScene { name: replace(&mut document.name, name.clone()) })
        }
        Command::CapScene { value } => {
            let before = replace(&mut document.cap, *value);
            check::scene_cap(document)?;
            Ok(Command::CapScene { value: before })
        }
        Command::UseEdition { value } => {
            check::within("the edition of the ready species", *value as f32, 1.0, EDITION as f32, "")?;
            let before = replace(&mut document.edition, *value);
            check::check_document(document)?;
            Ok(Command::UseEdition { value: before })
        }
        Command::KnowChanges { value } => {
            check::within("the number of changes", *value as f32, 0.0, EPOCH as f32, "")?;
            Ok(Command::KnowChanges { value: replace(&mut document.epoch, *value) })
        }
        Command::EditGround { edit } => {
            let edit = change_ground(&mut document.ground, edit.clone())?;
            check::ground(&document.ground)?;
            Ok(Command::EditGround { edit })
        }
        Command::AddLayer { layer, place } => {
            check::layer(document, layer)?;
            if document.layer(layer.id).is_some() {
                return Err(Refusal::Taken { what: "layer", id: layer.id.0 });
            }
            insert(&mut document.layers, layer.clone(), *place);
            check::check_document(document)?;
            Ok(Command::RemoveLayer { id: layer.id })
        }
        Command::RemoveLayer { id } => {
            let place = place_of(document, *id)?;
            unlocked(&document.layers[place])?;
            let layer = document.layers.remove(place);
            Ok(Command::AddLayer { layer, place: place as u32 })
        }
        Command::MoveLayer { id, place } => {
            let from = place_of(document, *id)?;
            unlocked(&document.layers[from])?;
            let layer = document.layers.remove(from);
            insert(&mut document.layers, layer, *place);
            Ok(Command::MoveLayer { id: *id, place: from as u32 })
        }
        Command::DuplicateLayer { id, copy } => {
            let place = place_of(document, *id)?;
            let mut layer = document.layers[place].clone();
            layer.id = *copy;
            layer.name = copied_name(document, &layer.name);
            layer.locked = false;
            change(document, &Command::AddLayer { layer, place: place as u32 + 1 })
        }
        Command::EditLayer { id, edit } => {
            let others = SharedSettings::set_by(edit).map(|s| document.sharing(*id, s)).unwrap_or_default();
            if others.is_empty() {
                return edit_one(document, *id, edit);
            }
            // All or none: a locked one among them refuses for all. Taken back one by one, in the order they were changed.
            let all = std::iter::once(*id).chain(others);
            let inverses = all.map(|id| edit_one(document, id, edit)).collect::<Result<Vec<_>, _>>()?;
            Ok(Command::EachAlone { commands: inverses })
        }
        Command::Change { what, fields } => {
            let all = with_sharers(document, what, fields);
            let mut inverses = Vec::with_capacity(all.len());
            for (what, fields) in all {
                let fields = change_one(document, &what, &fields)?;
                inverses.push(Command::Change { what, fields });
            }
            if inverses.len() > 1 {
                return Ok(Command::EachAlone { commands: inverses });
            }
            Ok(inverses.remove(0))
        }
        Command::PutYield { value } => {
            place_of(document, value.layer)?;
            place_of(document, value.to)?;
            let place = document.yields.iter().position(|y| y.is_of(value.layer, value.to));
            let old = match place {
                Some(place) => Some(replace(&mut document.yields[place], *value)),
                None => {
                    document.yields.push(*value);
                    None
                }
            };
            check::yields(document)?;
            let Yield { layer, to, .. } = *value;
            Ok(old.map_or(Command::RemoveYield { layer, to }, |value| Command::PutYield { value }))
        }
        Command::RemoveYield { layer, to } => {
            let place = document.yields.iter().position(|y| y.is_of(*layer, *to));
            let place = place.ok_or_else(|| Refusal::Missing {
                what: "exception for the layers",
                id: format!("{} and {}", layer.0, to.0),
            })?;
            Ok(Command::PutYield { value: document.yields.remove(place) })
        }
        Command::EachAlone { commands } => {
            let mut inverses = Vec::with_capacity(commands.len());
            for command in commands.iter().rev() {
                inverses.push(match command {
                    Command::EditLayer { id, edit } => edit_one(document, *id, edit)?,
                    Command::Change { what, fields } => {
                        Command::Change { what: what.clone(), fields: change_one(document, what, fields)? }
                    }
                    other => change(document, other)?,
                });
            }
            Ok(Command::EachAlone { commands: inverses })
        }
        Command::ReplaceLayer { layer } => {
            let place = place_of(document, layer.id)?;
            unlocked(&document.layers[place])?;
            let now = &document.layers[place];
            let name = now.name.clone();
            let layer = Layer { name, locked: now.locked, visible: now.visible, ..layer.clone() };
            let before = document.layers[place].clone();
            document.layers[place] = layer;
            check::layer(document, &document.layers[place])?;
            let id = before.id;
            let mut inverses = vec![Command::RestoreLayer { layer: before }];
            // Those that share settings with it take them over.
            for settings in SharedSettings::ALL {
                for other in document.sharing(id, settings) {
                    inverses.push(taken_over(document, id, other, settings)?);
                }
            }
            Ok(Command::EachAlone { commands: inverses })
        }
        Command::PutShare { value, place } => {
            check::share(document, value)?;
            let id = value.id;
            let mut inverses = Vec::new();
            for other in value.layers.iter().skip(1) {
                inverses.push(taken_over(document, value.layers[0], *other, value.settings)?);
            }
            let old = put(&mut document.shares, value, *place, |s| s.id == id);
            check::room("shares", &document.shares)?;
            inverses.push(match old {
                Some(old) => Command::PutShare { value: old, place: *place },
                None => Command::RemoveShare { id },
            });
            Ok(Command::EachAlone { commands: inverses })
        }
        Command::RemoveShare { id } => {
            let (value, place) = take(&mut document.shares, "share", id.0, |s| s.id == *id)?;
            Ok(Command::PutShare { value, place: Some(place) })
        }
        Command::RestoreLayer { layer } => {
            let place = place_of(document, layer.id)?;
            unlocked(&document.layers[place])?;
            let before = replace(&mut document.layers[place], layer.clone());
            check::layer(document, &document.layers[place])?;
            Ok(Command::RestoreLayer { layer: before })
        }
        Command::PutGround { value, place } => {
            check::placed(value)?;
            let id = value.id;
            let old = put(&mut document.grounds, value, *place, |o| o.id == id);
            check::room("grounds", &document.grounds)?;
            Ok(match old {
                Some(old) => Command::PutGround { value: old, place: *place },
                None => Command::RemoveGround { id },
            })
        }
        Command::RemoveGround { id } => {
            let (value, place) = take(&mut document.grounds, "ground", id.0, |o| o.id == *id)?;
            Ok(Command::PutGround { value, place: Some(place) })
        }
        Command::PutSpecies { value, place } => {
            let id = value.id.clone();
            let old = put(&mut document.species, value, *place, |s| s.id == id);
            check::own_species(document)?;
            Ok(match old {
                Some(old) => Command::PutSpecies { value: Box::new(old), place: *place },
                None => Command::RemoveSpecies { id },
            })
        }
        Command::RemoveSpecies { id } => {
            let place = document.species.iter().position(|s| s.id == *id);
            let place =
                place.ok_or_else(|| Refusal::Missing { what: "species of its own", id: id.0.clone() })?;
            let value = Box::new(document.species.remove(place));
            check::still_there(document, id)?;
            Ok(Command::PutSpecies { value, place: Some(place as u32) })
        }
        Command::SetSeason { value } => {
            check::season(*value)?;
            Ok(Command::SetSeason { value: replace(&mut document.season, *value) })
        }
        Command::PutPaint { value, place } => {
            check::paint(value)?;
            let id = value.id;
            let old = put(&mut document.paints, value, *place, |o| o.id == id);
            check::room("paintings", &document.paints)?;
            Ok(match old {
                Some(old) => Command::PutPaint { value: old, place: *place },
                None => Command::RemovePaint { id },
            })
        }
        Command::RemovePaint { id } => {
            let (value, place) = take(&mut document.paints, "painting", id.0, |o| o.id == *id)?;
            Ok(Command::PutPaint { value, place: Some(place) })
        }
        Command::PutPaintStroke { paint, value, place } => {
            check::paint_stroke(value)?;
            let own = painting(document, *paint)?;
            let id = value.id;
            let old = put(&mut own.strokes, value, *place, |o| o.id == id);
            check::paint_strokes(own)?;
            Ok(match old {
                Some(old) => Command::PutPaintStroke { paint: *paint, value: old, place: *place },
                None => Command::RemovePaintStroke { paint: *paint, id },
            })
        }
        Command::RemovePaintStroke { paint, id } => {
            let own = painting(document, *paint)?;
            let (value, place) = take(&mut own.strokes, "stroke", id.0, |o| o.id == *id)?;
            Ok(Command::PutPaintStroke { paint: *paint, value, place: Some(place) })
        }
        Command::PutPicture { value, place } => {
            check::picture(value)?;
            let id = value.id;
            let old = put(&mut document.pictures, value, *place, |o| o.id == id);
            check::room("pictures", &document.pictures)?;
            Ok(match old {
                Some(old) => Command::PutPicture { value: old, place: *place },
                None => Command::RemovePicture { id },
            })
        }
        Command::RemovePicture { id } => {
            let (value, place) = take(&mut document.pictures, "picture", id.0, |o| o.id == *id)?;
            Ok(Command::PutPicture { value, place: Some(place) })
        }
        Command::PutWater { value, place } => {
            check::water(value)?;
            let id = value.id;
            let old = put(&mut document.waters, value, *place, |o| o.id == id);
            check::room("sheets of water", &document.waters)?;
            Ok(match old {
                Some(old) => Command::PutWater { value: old, place: *place },
                None => Command::RemoveWater { id },
            })
        }
        Command::RemoveWater { id } => {
            let (value, place) = take(&mut document.waters, "sheet of water", id.0, |o| o.id == *id)?;
            Ok(Command::PutWater { value, place: Some(place) })
        }
        Command::PutZone { value, place } => {
            check::zone(value)?;
            let id = value.id;
            let old = put(&mut document.zones, value, *place, |o| o.id == id);
            check::room("zones", &document.zones)?;
            Ok(match old {
                Some(old) => Command::PutZone { value: old, place: *place },
                None => Command::RemoveZone { id },
            })
        }
        Command::RemoveZone { id } => {
            let (value, place) = take(&mut document.zones, "zone", id.0, |o| o.id == *id)?;
            Ok(Command::PutZone { value, place: Some(place) })
        }
        Command::PutOutline { value, place } => {
            check::outline(value)?;
            let id = value.id;
            let old = put(&mut document.outlines, value, *place, |o| o.id == id);
            check::room("outlines", &document.outlines)?;
            Ok(match old {
                Some(old) => Command::PutOutline { value: old, place: *place },
                None => Command::RemoveOutline { id },
            })
        }
        Command::RemoveOutline { id } => {
            let (value, place) = take(&mut document.outlines, "outline", id.0, |o| o.id == *id)?;
            Ok(Command::PutOutline { value, place: Some(place) })
        }
        Command::PutObstacle { value, place } => {
            check::obstacle(value)?;
            let id = value.id;
            let old = put(&mut document.obstacles, value, *place, |o| o.id == id);
            check::room("obstacles", &document.obstacles)?;
            Ok(match old {
                Some(old) => Command::PutObstacle { value: old, place: *place },
                None => Command::RemoveObstacle { id },
            })
        }
        Command::RemoveObstacle { id } => {
            let (value, place) = take(&mut document.obstacles, "obstacle", id.0, |o| o.id == *id)?;
            Ok(Command::PutObstacle { value, place: Some(place) })
        }
        Command::AddShot { shot, place } => {
            check::shot(shot)?;
            if document.shot(shot.id).is_some() {
                return Err(Refusal::Taken { what: "shot", id: shot.id.0 });
            }
            insert(&mut document.shots, shot.clone(), *place);
            check::check_document(document)?;
            Ok(Command::RemoveShot { id: shot.id })
        }
        Command::RemoveShot { id } => {
            let place = shot_place(document, *id)?;
            let shot = document.shots.remove(place);
            Ok(Command::AddShot { shot, place: place as u32 })
        }
        Command::EditShot { id, edit } => {
            let place = shot_place(document, *id)?;
            let shot = &mut document.shots[place];
            let edit = change_shot(shot, edit.clone());
            check::shot(shot)?;
            Ok(Command::EditShot { id: *id, edit })
        }
        Command::All { commands } => {
            let mut inverses = Vec::with_capacity(commands.len());
            for c in commands {
                inverses.push(change(document, c)?);
            }
            inverses.reverse();
            Ok(Command::All { commands: inverses })
        }
    }
}

fn edit_one(document: &mut Document, id: LayerId, edit: &LayerEdit) -> Result<Command, Refusal> {
    let place = place_of(document, id)?;
    let layer = &mut document.layers[place];
    if !matches!(edit, LayerEdit::Locked { .. } | LayerEdit::Visible { .. }) {
        unlocked(layer)?;
    }
    let edit = change_layer(layer, edit.clone())?;
    check::layer(document, &document.layers[place])?;
    Ok(Command::EditLayer { id, edit })
}

/// Gives a layer the settings of another; the way back is the whole layer as it was.
fn taken_over(
    document: &mut Document,
    from: LayerId,
    to: LayerId,
    settings: SharedSettings,
) -> Result<Command, Refusal> {
    let place = place_of(document, to)?;
    unlocked(&document.layers[place])?;
    let before = document.layers[place].clone();
    take_over(document, from, to, settings);
    check::layer(document, &document.layers[place])?;
    Ok(Command::RestoreLayer { layer: before })
}

fn painting(document: &mut Document, id: PaintId) -> Result<&mut Paint, Refusal> {
    let found = document.paints.iter_mut().find(|p| p.id == id);
    found.ok_or_else(|| Refusal::Missing { what: "painting", id: id.0.to_string() })
}

fn change_ground(ground: &mut Ground, edit: GroundEdit) -> Result<GroundEdit, Refusal> {
    Ok(match edit {
        GroundEdit::Source { value } => GroundEdit::Source { value: replace(&mut ground.source, value) },
        GroundEdit::Absent { value } => GroundEdit::Absent { value: replace(&mut ground.absent, value) },
        GroundEdit::Water { value } => GroundEdit::Water { value: replace(&mut ground.water_m, value) },
        GroundEdit::Earths { value } => GroundEdit::Earths { value: replace(&mut ground.earths, value) },
        GroundEdit::PutStroke { value, place } => {
            let id = value.id;
            match put(&mut ground.strokes, &value, place, |s| s.id == id) {
                Some(old) => GroundEdit::PutStroke { value: old, place },
                None => GroundEdit::RemoveStroke { id },
            }
        }
        GroundEdit::RemoveStroke { id } => {
            let (value, place) = take(&mut ground.strokes, "stroke", id.0, |s| s.id == id)?;
            GroundEdit::PutStroke { value, place: Some(place) }
        }
    })
}

fn change_layer(layer: &mut Layer, edit: LayerEdit) -> Result<LayerEdit, Refusal> {
    use LayerEdit as E;
    Ok(match edit {
        E::Name { value } => E::Name { value: replace(&mut layer.name, value) },
        E::Species { value } => E::Mix { value: replace(&mut layer.mix, all_of(value)) },
        E::Mix { value } => E::Mix { value: replace(&mut layer.mix, value) },
        E::Tint { value } => E::Tint { value: replace(&mut layer.tint, value) },
        E::Rows { value } => E::Rows { value: replace(&mut layer.rows, value) },
        E::Grounds { value } => E::Grounds { value: replace(&mut layer.grounds, value) },
        E::OnPlants { value } => E::OnPlants { value: replace(&mut layer.on_plants, value) },
        E::ShowAs { value } => E::ShowAs { value: replace(&mut layer.show_as, value) },
        E::Visible { value } => E::Visible { value: replace(&mut layer.visible, value) },
        E::Locked { value } => E::Locked { value: replace(&mut layer.locked, value) },
        E::KeptSeeds { value } => E::KeptSeeds { value: replace(&mut layer.kept_seeds, value) },
        E::Seed { value } => E::Seed { value: replace(&mut layer.seed, value) },
        E::Pattern { value } => E::Pattern { value: replace(&mut layer.pattern, value) },
        E::Clumps { value } => E::Clumps { value: replace(&mut layer.clumps, value) },
        E::Amount { value } => E::Amount { value: replace(&mut layer.amount, value) },
        E::Tend { put, let_go } => {
            let (put, let_go) = exchange("tended plant", &mut layer.tended, put, let_go)?;
            E::Tend { put, let_go }
        }
        E::Drifts { put, take_out } => {
            let (put, take_out) = exchange("drift", &mut layer.drifts, put, take_out)?;
            E::Drifts { put, take_out }
        }
        E::Clearance { value } => E::Clearance { value: replace(&mut layer.clearance, value) },
        E::Cap { value } => E::Cap { value: replace(&mut layer.cap, value) },
        E::Masks { value } => E::Masks { value: replace(&mut layer.masks, value) },
        E::PutMask { value, place } => match put(&mut layer.masks, &value, place, |m| m.id == value.id) {
            Some(old) => E::PutMask { value: old, place },
            None => E::RemoveMask { id: value.id },
        },
        E::RemoveMask { id } => {
            let (value, place) = take(&mut layer.masks, "mask", id.0, |m| m.id == id)?;
            E::PutMask { value, place: Some(place) }
        }
        E::MoveMask { id, place } => {
            let (mask, from) = take(&mut layer.masks, "mask", id.0, |m| m.id == id)?;
            insert(&mut layer.masks, mask, place);
            E::MoveMask { id, place: from }
        }
        E::Mask { value } => {
            let mask = layer
                .masks
                .iter_mut()
                .find(|m| m.id == value.id)
                .ok_or_else(|| Refusal::Missing { what: "mask", id: value.id.0.to_string() })?;
            E::Mask { value: replace(mask, value) }
        }
        E::Size { value } => E::Size { value: replace(&mut layer.stance.size, value) },
        E::Turn { value } => E::Turn { value: replace(&mut layer.stance.turn_deg, value) },
        E::Tilt { value } => E::Tilt { value: replace(&mut layer.stance.tilt_deg, value) },
        E::Upright { value } => E::Upright { value: replace(&mut layer.stance.upright, value) },
        E::Sink { value } => E::Sink { value: replace(&mut layer.stance.sink_m, value) },
        E::Sizes { value } => E::Sizes { value: replace(&mut layer.stance.sizes, value) },
        E::Tall { value } => E::Tall { value: replace(&mut layer.stance.tall, value) },
        E::Deep { value } => E::Deep { value: replace(&mut layer.stance.deep, value) },
        E::Tumble { value } => E::Tumble { value: replace(&mut layer.stance.tumble, value) },
        E::Lean { deg, value } => E::Lean {
            deg: replace(&mut layer.stance.lean_deg, deg),
            value: replace(&mut layer.stance.lean, value),
        },
        E::Lift { value } => E::Lift { value: replace(&mut layer.stance.lift_m, value) },
        E::Shift { value } => E::Shift { value: replace(&mut layer.stance.shift_m, value) },
        E::Beyond { value } => E::Beyond { value: replace(&mut layer.stance.beyond, value) },
    })
}

fn change_shot(shot: &mut Shot, edit: ShotEdit) -> ShotEdit {
    use ShotEdit as E;
    match edit {
        E::Name { value } => E::Name { value: replace(&mut shot.name, value) },
        E::Camera { eye_m, target_m } => E::Camera {
            eye_m: replace(&mut shot.eye_m, eye_m),
            target_m: replace(&mut shot.target_m, target_m),
        },
        E::View { value } => E::View { value: replace(&mut shot.view_deg, value) },
        E::Sun { azimuth_deg, elevation_deg } => E::Sun {
            azimuth_deg: replace(&mut shot.sun_azimuth_deg, azimuth_deg),
            elevation_deg: replace(&mut shot.sun_elevation_deg, elevation_deg),
        },
        E::Overcast { value } => E::Overcast { value: replace(&mut shot.overcast, value) },
        E::Picture { width_px, height_px } => E::Picture {
            width_px: replace(&mut shot.width_px, width_px),
            height_px: replace(&mut shot.height_px, height_px),
        },
        E::Samples { value } => E::Samples { value: replace(&mut shot.samples, value) },
    }
}

/// Replaces the item that fits and gives the old one, or adds a new one and gives none.
fn put<T: Clone>(list: &mut Vec<T>, item: &T, place: Option<u32>, fits: impl Fn(&T) -> bool) -> Option<T> {
    if let Some(known) = list.iter_mut().find(|i| fits(i)) {
        return Some(replace(known, item.clone()));
    }
    insert(list, item.clone(), place.unwrap_or(u32::MAX));
    None
}

/// Takes out the item that fits, with its place.
fn take<T>(
    list: &mut Vec<T>,
    what: &'static str,
    id: u32,
    fits: impl Fn(&T) -> bool,
) -> Result<(T, u32), Refusal> {
    let place = list.iter().position(fits).ok_or_else(|| Refusal::Missing { what, id: id.to_string() })?;
    Ok((list.remove(place), place as u32))
}

fn insert<T>(list: &mut Vec<T>, item: T, place: u32) {
    let place = (place as usize).min(list.len());
    list.insert(place, item);
}

fn place_of(document: &Document, id: LayerId) -> Result<usize, Refusal> {
    let place = document.layers.iter().position(|l| l.id == id);
    place.ok_or_else(|| Refusal::Missing { what: "layer", id: id.0.to_string() })
}

fn shot_place(document: &Document, id: ShotId) -> Result<usize, Refusal> {
    let place = document.shots.iter().position(|s| s.id == id);
    place.ok_or_else(|| Refusal::Missing { what: "shot", id: id.0.to_string() })
}

pub(super) fn unlocked(layer: &Layer) -> Result<(), Refusal> {
    if layer.locked { Err(Refusal::Locked { name: layer.name.clone() }) } else { Ok(()) }
}

/// "Marram" becomes "Marram 2", "Marram 2" becomes "Marram 3", and never a name in use.
fn copied_name(document: &Document, name: &str) -> String {
    let stem = name.trim_end_matches(|c: char| c.is_ascii_digit()).trim_end();
    let stem: String = if stem.is_empty() { name } else { stem }.chars().take(70).collect();
    (2..)
        .map(|n| format!("{stem} {n}"))
        .find(|candidate| document.layers.iter().all(|l| l.name != *candidate))
        .expect("a scene has fewer layers than there are numbers")
}
