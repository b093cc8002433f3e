//! Shots: adding them, taking them out, and changing single settings of one.

use super::Command;
use super::lists::insert;
use crate::document::*;
use crate::scene::check::{self, Refusal};
use serde::{Deserialize, Serialize};
use std::mem::replace;

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// A change of one setting of a shot.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum ShotEdit {
    /// Its name.
    Name {
        /// 1 to 80 characters.
        value: String,
    },
    /// Where the camera stands and looks.
    Camera {
        /// Metres.
        eye_m: [f32; 3],
        /// Metres.
        target_m: [f32; 3],
    },
    /// Vertical angle of view.
    View {
        /// Degrees.
        value: f32,
    },
    /// Where the sun stands.
    Sun {
        /// Degrees clockwise from north.
        azimuth_deg: f32,
        /// Degrees over the horizon.
        elevation_deg: f32,
    },
    /// How veiled the sky is.
    Overcast {
        /// 0 to 1.
        value: f32,
    },
    /// How much of the sky soft clouds cover.
    Clouds {
        /// 0 to 1.
        value: f32,
    },
    /// Picture size.
    Picture {
        /// Pixels.
        width_px: u32,
        /// Pixels.
        height_px: u32,
    },
    /// Light paths per pixel.
    Samples {
        /// 1 to 4096.
        value: u32,
    },
}

pub(super) fn add(document: &mut Document, shot: &Shot, place: u32) -> Result<Command, Refusal> {
    check::shot(shot)?;
    if document.shot(shot.id).is_some() {
        return Err(Refusal::Taken { what: "shot", id: shot.id.0 });
    }
    insert(&mut document.shots, shot.clone(), place);
    check::check_document(document)?;
    Ok(Command::RemoveShot { id: shot.id })
}

pub(super) fn remove(document: &mut Document, id: ShotId) -> Result<Command, Refusal> {
    let place = shot_place(document, id)?;
    let shot = document.shots.remove(place);
    Ok(Command::AddShot { shot, place: place as u32 })
}

pub(super) fn edit(document: &mut Document, id: ShotId, edit: &ShotEdit) -> Result<Command, Refusal> {
    let place = shot_place(document, id)?;
    let shot = &mut document.shots[place];
    let edit = changed(shot, edit.clone());
    check::shot(shot)?;
    Ok(Command::EditShot { id, edit })
}

/// The fields an edit sets.
pub(super) fn fields(edit: &ShotEdit) -> &'static [&'static str] {
    match edit {
        ShotEdit::Name { .. } => &["name"],
        ShotEdit::Camera { .. } => &["eye_m", "target_m"],
        ShotEdit::View { .. } => &["view_deg"],
        ShotEdit::Sun { .. } => &["sun_azimuth_deg", "sun_elevation_deg"],
        ShotEdit::Overcast { .. } => &["overcast"],
        ShotEdit::Clouds { .. } => &["clouds"],
        ShotEdit::Picture { .. } => &["width_px", "height_px"],
        ShotEdit::Samples { .. } => &["samples"],
    }
}

fn changed(shot: &mut Shot, edit: ShotEdit) -> ShotEdit {
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
        E::Clouds { value } => E::Clouds { value: replace(&mut shot.clouds, value) },
        E::Picture { width_px, height_px } => E::Picture {
            width_px: replace(&mut shot.width_px, width_px),
            height_px: replace(&mut shot.height_px, height_px),
        },
        E::Samples { value } => E::Samples { value: replace(&mut shot.samples, value) },
    }
}

fn shot_place(document: &Document, id: ShotId) -> Result<usize, Refusal> {
    let place = document.shots.iter().position(|s| s.id == id);
    place.ok_or_else(|| Refusal::Missing { what: "shot", id: id.0.to_string() })
}
