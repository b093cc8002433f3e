//! What goes wrong on the command line.

use serde::Serialize;
use std::path::Path;
use std::process::ExitCode;
use thiserror::Error;

/// Why a command was not done.
#[derive(Debug, Error)]
pub enum Failure {
    /// What was given is wrong; exit code 2.
    #[error("{0}")]
    BadInput(String),
    /// Something else went wrong; exit code 1.
    #[error("{0}")]
    Other(String),
}

impl Failure {
    /// 2 for bad input, 1 for all else.
    pub fn exit_code(&self) -> ExitCode {
        match self {
            Self::BadInput(_) => ExitCode::from(2),
            Self::Other(_) => ExitCode::from(1),
        }
    }

    pub(super) fn bad(why: impl ToString) -> Self {
        Self::BadInput(why.to_string())
    }

    pub(super) fn other(why: impl ToString) -> Self {
        Self::Other(why.to_string())
    }
}

pub(super) fn read(path: &Path) -> Result<Vec<u8>, Failure> {
    std::fs::read(path).map_err(|e| Failure::bad(format!("{} cannot be read: {e}", path.display())))
}

/// Writes a whole file or none: first beside it, then in its place.
pub(super) fn write(path: &Path, bytes: &[u8]) -> Result<(), Failure> {
    let failed = |e: std::io::Error| Failure::other(format!("{} cannot be written: {e}", path.display()));
    let mut beside = path.as_os_str().to_owned();
    beside.push(".part");
    std::fs::write(&beside, bytes).map_err(failed)?;
    std::fs::rename(&beside, path).map_err(failed)
}

pub(super) fn print_json(data: &impl Serialize) -> Result<(), Failure> {
    use std::io::Write;
    let text = serde_json::to_string_pretty(data).map_err(Failure::other)?;
    match writeln!(std::io::stdout().lock(), "{text}") {
        // A reader such as `head` that has seen enough is no fault.
        Err(e) if e.kind() != std::io::ErrorKind::BrokenPipe => Err(Failure::other(e)),
        _ => Ok(()),
    }
}
