//! Whole layers: adding, moving and copying them, and edits of one with those that share it.

use super::layer_edit::{LayerEdit, change_layer};
use super::lists::insert;
use super::{Command, change};
use crate::document::*;
use crate::scene::check::{self, Refusal};
use std::mem::replace;

pub(super) fn add(document: &mut Document, layer: &Layer, place: u32) -> Result<Command, Refusal> {
    check::layer(document, layer)?;
    if document.layer(layer.id).is_some() {
        return Err(Refusal::Taken { what: "layer", id: layer.id.0 });
    }
    insert(&mut document.layers, layer.clone(), place);
    check::check_document(document)?;
    Ok(Command::RemoveLayer { id: layer.id })
}

pub(super) fn remove(document: &mut Document, id: LayerId) -> Result<Command, Refusal> {
    let place = place_of(document, id)?;
    unlocked(&document.layers[place])?;
    let layer = document.layers.remove(place);
    Ok(Command::AddLayer { layer, place: place as u32 })
}

pub(super) fn shift(document: &mut Document, id: LayerId, place: u32) -> Result<Command, Refusal> {
    let from = place_of(document, id)?;
    unlocked(&document.layers[from])?;
    let layer = document.layers.remove(from);
    insert(&mut document.layers, layer, place);
    Ok(Command::MoveLayer { id, place: from as u32 })
}

pub(super) fn duplicate(
    document: &mut Document,
    id: LayerId,
    copy: LayerId,
    seed: Option<u32>,
) -> Result<Command, Refusal> {
    let place = place_of(document, id)?;
    let mut layer = document.layers[place].clone();
    layer.id = copy;
    layer.name = copied_name(document, &layer.name);
    layer.locked = false;
    layer.seed = seed.unwrap_or(layer.seed);
    change(document, &Command::AddLayer { layer, place: place as u32 + 1 })
}

pub(super) fn edit(document: &mut Document, id: LayerId, edit: &LayerEdit) -> Result<Command, Refusal> {
    let others = SharedSettings::set_by(edit).map(|s| document.sharing(id, s)).unwrap_or_default();
    if others.is_empty() {
        return edit_one(document, id, edit);
    }
    // All or none: a locked one among them refuses for all. Taken back one by one, in the order they were changed.
    let all = std::iter::once(id).chain(others);
    let inverses = all.map(|id| edit_one(document, id, edit)).collect::<Result<Vec<_>, _>>()?;
    Ok(Command::EachAlone { commands: inverses })
}

pub(super) fn replace_with(document: &mut Document, layer: &Layer) -> Result<Command, Refusal> {
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

pub(super) fn restore(document: &mut Document, layer: &Layer) -> Result<Command, Refusal> {
    let place = place_of(document, layer.id)?;
    unlocked(&document.layers[place])?;
    let before = replace(&mut document.layers[place], layer.clone());
    check::layer(document, &document.layers[place])?;
    Ok(Command::RestoreLayer { layer: before })
}

/// One layer alone, without those that share settings with it.
pub(super) fn edit_one(document: &mut Document, id: LayerId, edit: &LayerEdit) -> Result<Command, Refusal> {
    let place = place_of(document, id)?;
    let layer = &mut document.layers[place];
    if !matches!(edit, LayerEdit::Locked { .. } | LayerEdit::Visible { .. } | LayerEdit::Group { .. }) {
        unlocked(layer)?;
    }
    let edit = change_layer(layer, edit.clone())?;
    check::layer(document, &document.layers[place])?;
    Ok(Command::EditLayer { id, edit })
}

/// Gives a layer the settings of another; the way back is the whole layer as it was.
pub(super) fn taken_over(
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

pub(super) fn place_of(document: &Document, id: LayerId) -> Result<usize, Refusal> {
    let place = document.layers.iter().position(|l| l.id == id);
    place.ok_or_else(|| Refusal::Missing { what: "layer", id: id.0.to_string() })
}

pub(in crate::scene) fn unlocked(layer: &Layer) -> Result<(), Refusal> {
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

/// Gives a layer the settings of another.
fn take_over(document: &mut Document, from: LayerId, to: LayerId, settings: SharedSettings) {
    let Some(source) = document.layer(from).cloned() else { return };
    let Some(layer) = document.layers.iter_mut().find(|l| l.id == to) else { return };
    match settings {
        SharedSettings::Mix => (layer.mix, layer.tint) = (source.mix, source.tint),
        SharedSettings::Amount => {
            (layer.amount, layer.pattern) = (source.amount, source.pattern);
            (layer.clumps, layer.rows) = (source.clumps, source.rows);
        }
        SharedSettings::Masks => layer.masks = source.masks,
        SharedSettings::Stance => layer.stance = source.stance,
        SharedSettings::Clearance => layer.clearance = source.clearance,
    }
}
