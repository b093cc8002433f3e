//! Reading documents and logged commands of this and of earlier layouts.
//!
//! Files of each layout lie in `tests/data/layout-N`; they must be readable for ever.

use super::commands::Command;
use crate::document::{Document, SCHEMA};
use serde_json::Value;
use thiserror::Error;

/// Why something that was written down cannot be read.
#[derive(Debug, Error)]
pub enum Unreadable {
    /// It does not fit its layout.
    #[error("{0}")]
    Layout(#[from] serde_json::Error),
    /// It was written by a later program.
    #[error(
        "it was written by a later version of Rookery (layout {found}; this one reads layouts up to {SCHEMA})"
    )]
    Later {
        /// Its layout.
        found: u64,
    },
    /// It does not say which layout it has.
    #[error("it says nothing of its layout: it is no scene")]
    NoScene,
}

/// A step from one layout to the next.
type Step = fn(Value) -> Value;

/// The step from layout `i + 1` to layout `i + 2` of documents, and of commands.
const STEPS: [(Step, Step); SCHEMA as usize - 1] = [];

/// Reads a document of any layout up to today's. It is not checked.
///
/// # Errors
/// [`Unreadable`].
pub fn read_document(mut value: Value) -> Result<Document, Unreadable> {
    let found = value.get("schema").and_then(Value::as_u64).ok_or(Unreadable::NoScene)?;
    for (document, _) in steps_from(found)? {
        value = document(value);
    }
    if let Value::Object(fields) = &mut value {
        fields.insert("schema".to_owned(), SCHEMA.into());
    }
    Ok(serde_json::from_value(value)?)
}

/// Reads a command that was logged with a document of layout `found`.
///
/// # Errors
/// [`Unreadable`].
pub fn read_command(found: u32, mut value: Value) -> Result<Command, Unreadable> {
    for (_, command) in steps_from(u64::from(found))? {
        value = command(value);
    }
    Ok(serde_json::from_value(value)?)
}

fn steps_from(found: u64) -> Result<impl Iterator<Item = &'static (Step, Step)>, Unreadable> {
    if found == 0 || found > u64::from(SCHEMA) {
        return Err(Unreadable::Later { found });
    }
    Ok(STEPS.iter().skip(found as usize - 1))
}
