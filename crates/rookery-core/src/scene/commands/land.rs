//! Changes of the land.

use super::Command;
use super::lists::{put_in, take_out};
use crate::document::*;
use crate::scene::check::{self, Refusal};
use serde::{Deserialize, Serialize};
use std::mem::replace;

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// A change of the ground.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum GroundEdit {
    /// Another source of heights.
    Source {
        /// The new source.
        value: GroundSource,
    },
    /// Adds a sculpting stroke, or replaces the one with its id.
    PutStroke {
        /// The whole stroke.
        value: Stroke,
        /// Its place among the strokes when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a sculpting stroke back.
    RemoveStroke {
        /// Which.
        id: StrokeId,
    },
    /// Another look of bare ground.
    Earths {
        /// All of it.
        value: Earths,
    },
    /// Whether the scene does without the land.
    Absent {
        /// Whether it does.
        value: bool,
    },
    /// Earths that bring no fine cover of their own near the eye.
    Bare {
        /// Which.
        value: Vec<Earth>,
    },
    /// Whether the land ends at its edges, or is seen to go on to the horizon.
    Ends {
        /// Whether it ends.
        value: bool,
    },
    /// Another height of the water, or none.
    Water {
        /// Metres.
        value: Option<f32>,
    },
}

pub(super) fn edit(document: &mut Document, edit: &GroundEdit) -> Result<Command, Refusal> {
    let edit = changed(&mut document.ground, edit.clone())?;
    check::ground(&document.ground)?;
    Ok(Command::EditGround { edit })
}

/// What an edit sets, below the ground.
pub(super) fn field(edit: &GroundEdit) -> String {
    match edit {
        GroundEdit::Source { .. } => "source".to_owned(),
        GroundEdit::Earths { .. } => "earths".to_owned(),
        GroundEdit::Absent { .. } => "absent".to_owned(),
        GroundEdit::Bare { .. } => "bare".to_owned(),
        GroundEdit::Ends { .. } => "ends".to_owned(),
        GroundEdit::Water { .. } => "water_m".to_owned(),
        GroundEdit::PutStroke { value, .. } => format!("strokes/{}", value.id.0),
        GroundEdit::RemoveStroke { id } => format!("strokes/{}", id.0),
    }
}

fn changed(ground: &mut Ground, edit: GroundEdit) -> Result<GroundEdit, Refusal> {
    Ok(match edit {
        GroundEdit::Source { value } => GroundEdit::Source { value: replace(&mut ground.source, value) },
        GroundEdit::Absent { value } => GroundEdit::Absent { value: replace(&mut ground.absent, value) },
        GroundEdit::Bare { value } => GroundEdit::Bare { value: replace(&mut ground.bare, value) },
        GroundEdit::Ends { value } => GroundEdit::Ends { value: replace(&mut ground.ends, value) },
        GroundEdit::Water { value } => GroundEdit::Water { value: replace(&mut ground.water_m, value) },
        GroundEdit::Earths { value } => GroundEdit::Earths { value: replace(&mut ground.earths, value) },
        GroundEdit::PutStroke { value, place } => {
            let id = value.id;
            match put_in(&mut ground.strokes, &value, place, |s| s.id == id) {
                Some(old) => GroundEdit::PutStroke { value: old, place },
                None => GroundEdit::RemoveStroke { id },
            }
        }
        GroundEdit::RemoveStroke { id } => {
            let (value, place) =
                take_out(&mut ground.strokes, "stroke", || id.0.to_string(), |s| s.id == id)?;
            GroundEdit::PutStroke { value, place: Some(place) }
        }
    })
}
