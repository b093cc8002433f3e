//! Changing single settings of what moves.

use super::Command;
use crate::document::Document;
use crate::scene::check::{self, Refusal};
use serde::{Deserialize, Serialize};
use std::mem::replace;

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// A change of one setting of what moves.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum MotionEdit {
    /// Mean speed of the wind 10 m above open ground.
    Speed {
        /// m/s, 0 to 40.
        value: f32,
    },
    /// Where the wind comes from.
    From {
        /// Degrees clockwise from north, 0 to 360.
        value: f32,
    },
    /// How strong gusts are.
    Strength {
        /// Standard deviation against the mean speed, 0 to 0.6.
        value: f32,
    },
    /// How large gusts are.
    Size {
        /// Metres, 2 to 100.
        value: f32,
    },
    /// How quickly gusts become others.
    Change {
        /// 0 to 2.
        value: f32,
    },
    /// Other gusts.
    Seed {
        /// Any number.
        value: u32,
    },
    /// The length of time that is played.
    Length {
        /// Seconds, 0.1 to 3600.
        value: f32,
    },
    /// Pictures a second.
    FrameRate {
        /// 1 to 120.
        value: f32,
    },
}

pub(super) fn edit(document: &mut Document, edit: MotionEdit) -> Result<Command, Refusal> {
    let edit = changed(document, edit);
    check::motion(&document.motion)?;
    Ok(Command::EditMotion { edit })
}

/// The field an edit sets.
pub(super) fn field(edit: &MotionEdit) -> &'static str {
    match edit {
        MotionEdit::Speed { .. } => "wind/speed_m_per_s",
        MotionEdit::From { .. } => "wind/from_deg",
        MotionEdit::Strength { .. } => "wind/gusts/strength",
        MotionEdit::Size { .. } => "wind/gusts/size_m",
        MotionEdit::Change { .. } => "wind/gusts/change",
        MotionEdit::Seed { .. } => "wind/gusts/seed",
        MotionEdit::Length { .. } => "clock/length_s",
        MotionEdit::FrameRate { .. } => "clock/frame_rate",
    }
}

fn changed(document: &mut Document, edit: MotionEdit) -> MotionEdit {
    use MotionEdit as E;
    let (wind, clock) = (&mut document.motion.wind, &mut document.motion.clock);
    match edit {
        E::Speed { value } => E::Speed { value: replace(&mut wind.speed_m_per_s, value) },
        E::From { value } => E::From { value: replace(&mut wind.from_deg, value) },
        E::Strength { value } => E::Strength { value: replace(&mut wind.gusts.strength, value) },
        E::Size { value } => E::Size { value: replace(&mut wind.gusts.size_m, value) },
        E::Change { value } => E::Change { value: replace(&mut wind.gusts.change, value) },
        E::Seed { value } => E::Seed { value: replace(&mut wind.gusts.seed, value) },
        E::Length { value } => E::Length { value: replace(&mut clock.length_s, value) },
        E::FrameRate { value } => E::FrameRate { value: replace(&mut clock.frame_rate, value) },
    }
}
