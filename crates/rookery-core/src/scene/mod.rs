//! The document an artist works on, and the commands that change it.

mod change;
mod changes;
mod check;
mod commands;
mod demo;
mod diff;
mod history;
mod keyed;
mod merge;
mod migrate;
pub mod patch;

pub use crate::document::*;
pub use crate::names::{ContentKey, blob_id, content_key, to_json};
pub use change::{Fields, Thing};
pub use changes::{CHANGES, Change, News};
pub use check::{
    Refusal, check_document, check_frames, check_outline, check_species, check_time, ground as check_ground,
    shot as check_shot,
};
pub use commands::{
    Applied, Command, GroundEdit, LayerEdit, MotionEdit, ShotEdit, apply, overlap, setting_at, touches,
    value_at, value_in_words,
};
pub use demo::{kittiwake_head, needle_arch, tarn_moraine};
pub use diff::{Difference, differences};
pub use history::{Entry, EntryKind, History, Turn};
pub use keyed::Keyed;
pub use merge::{merge, merge_between};
pub use migrate::{Unreadable, read_command, read_document};
