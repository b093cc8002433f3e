//! What holds between layers: settings they share, and which of two yields to the other.

use super::layers::{edit_one, place_of, taken_over};
use super::lists::{put_in, take_out};
use super::{Command, change};
use crate::document::*;
use crate::scene::change::{Fields, Thing, change_one, with_sharers};
use crate::scene::check::{self, Refusal};
use std::mem::replace;

pub(super) fn change_fields(
    document: &mut Document,
    what: &Thing,
    fields: &Fields,
) -> Result<Command, Refusal> {
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

pub(super) fn put(document: &mut Document, value: &Share, place: Option<u32>) -> Result<Command, Refusal> {
    check::share(document, value)?;
    let id = value.id;
    let mut inverses = Vec::new();
    for other in value.layers.iter().skip(1) {
        inverses.push(taken_over(document, value.layers[0], *other, value.settings)?);
    }
    let old = put_in(&mut document.shares, value, place, |s| s.id == id);
    check::room("shares", &document.shares)?;
    inverses.push(match old {
        Some(old) => Command::PutShare { value: old, place },
        None => Command::RemoveShare { id },
    });
    Ok(Command::EachAlone { commands: inverses })
}

pub(super) fn remove(document: &mut Document, id: ShareId) -> Result<Command, Refusal> {
    let (value, place) = take_out(&mut document.shares, "share", || id.0.to_string(), |s| s.id == id)?;
    Ok(Command::PutShare { value, place: Some(place) })
}

pub(super) fn put_yield(document: &mut Document, value: Yield) -> Result<Command, Refusal> {
    place_of(document, value.layer)?;
    place_of(document, value.to)?;
    let place = document.yields.iter().position(|y| y.is_of(value.layer, value.to));
    let old = match place {
        Some(place) => Some(replace(&mut document.yields[place], value)),
        None => {
            document.yields.push(value);
            None
        }
    };
    check::yields(document)?;
    let Yield { layer, to, .. } = value;
    Ok(old.map_or(Command::RemoveYield { layer, to }, |value| Command::PutYield { value }))
}

pub(super) fn remove_yield(document: &mut Document, layer: LayerId, to: LayerId) -> Result<Command, Refusal> {
    let place = document.yields.iter().position(|y| y.is_of(layer, to));
    let place = place.ok_or_else(|| Refusal::Missing {
        what: "exception for the layers",
        id: format!("{} and {}", layer.0, to.0),
    })?;
    Ok(Command::PutYield { value: document.yields.remove(place) })
}

/// Taken back from the last to the first, each for its own layer alone.
pub(super) fn each_alone(document: &mut Document, commands: &[Command]) -> Result<Command, Refusal> {
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
