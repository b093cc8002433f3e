//! The document an artist works on, and the commands that change it.

mod apply;
mod change;
mod changes;
mod check;
mod claims;
mod clearance;
mod command;
mod demo;
mod diff;
mod document;
mod drift;
mod exchange;
mod history;
mod keyed;
mod layer;
mod mask;
mod merge;
mod migrate;
mod paint;
pub mod patch;
mod picture;
mod placed;
mod share;
mod site;
mod sun_day;
mod tended;
mod touch;
mod usual;

pub use apply::{Applied, apply};
pub use change::{Fields, Thing};
pub use changes::{CHANGES, Change, News};
pub use check::{
    Refusal, check_document, check_outline, check_species, ground as check_ground, looks_at,
    shot as check_shot,
};
pub use claims::{BANDS_M, Claims};
pub use command::{Command, GroundEdit, LayerEdit, ShotEdit};
pub use demo::{bare, kittiwake_head, needle_arch, tarn_moraine};
pub use diff::{Difference, differences};
pub use document::*;
pub use history::{Entry, EntryKind, History, Turn};
pub use keyed::{ContentKey, EPOCH, Keyed, blob_id, content_key, to_json};
pub use merge::{merge, merge_between};
pub use migrate::{Unreadable, read_command, read_document};
pub use placed::*;
pub use site::*;
pub use touch::{overlap, setting_at, touches, value_at, value_in_words};
