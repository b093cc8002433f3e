//! Settings of the scene as a whole.

use super::Command;
use crate::document::Document;
use crate::document::EPOCH;
use crate::nursery::{EDITION, Season};
use crate::scene::check::{self, Refusal};
use std::mem::replace;

pub(super) fn rename(document: &mut Document, name: &str) -> Result<Command, Refusal> {
    check::name("the scene's name", name)?;
    Ok(Command::RenameScene { name: replace(&mut document.name, name.to_owned()) })
}

pub(super) fn cap(document: &mut Document, value: Option<u32>) -> Result<Command, Refusal> {
    let before = replace(&mut document.cap, value);
    check::scene_cap(document)?;
    Ok(Command::CapScene { value: before })
}

pub(super) fn use_edition(document: &mut Document, value: u32) -> Result<Command, Refusal> {
    check::within("the edition of the ready species", value as f32, 1.0, EDITION as f32, "")?;
    let before = replace(&mut document.edition, value);
    check::check_document(document)?;
    Ok(Command::UseEdition { value: before })
}

pub(super) fn know_changes(document: &mut Document, value: u32) -> Result<Command, Refusal> {
    check::within("the number of changes", value as f32, 0.0, EPOCH as f32, "")?;
    Ok(Command::KnowChanges { value: replace(&mut document.epoch, value) })
}

pub(super) fn set_season(document: &mut Document, value: Season) -> Result<Command, Refusal> {
    check::season(value)?;
    Ok(Command::SetSeason { value: replace(&mut document.season, value) })
}
