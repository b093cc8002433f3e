//! The process that reads one file: from its standard input to its standard output, and nothing else.

use super::{Kind, MOST_BYTES, PATIENCE, Told};
use crate::error::ApiError;
use rookery_core::scene::to_json;
use rookery_formats::heightmap::inspect;
use rookery_formats::mesh::{inspect_mesh, read_mesh, read_mesh_and_looks};
use rookery_formats::outlines::read_outlines;
use rookery_formats::picture::{flat_colours, read_pixels};
use rustix::process::{Resource, Rlimit, setrlimit};
use serde_json::{Value, json};
use std::io::{Read, Write};

/// Takes everything away from this process that reading does not need: it can open no file and no connection, write no file, and takes
/// no more memory and time than a file may.
fn shut_in() -> std::io::Result<()> {
    let most = |value: u64| Rlimit { current: Some(value), maximum: Some(value) };
    setrlimit(Resource::As, most(MOST_BYTES))?;
    setrlimit(Resource::Cpu, most(2 * PATIENCE.as_secs()))?;
    setrlimit(Resource::Fsize, most(0))?;
    setrlimit(Resource::Core, most(0))?;
    // Standard input, output and errors are open already.
    setrlimit(Resource::Nofile, most(3))?;
    Ok(())
}

/// Reads the file and writes what it holds.
///
/// # Errors
/// When this process cannot be shut in, or the other side has gone.
pub(crate) fn run(kind: Kind) -> std::io::Result<()> {
    shut_in()?;
    let mut bytes = Vec::new();
    std::io::stdin().lock().read_to_end(&mut bytes)?;
    let told = match read(kind, &bytes) {
        Ok(value) => Told::Holds(value),
        Err(e) => {
            let (status, body) = e.told();
            Told::Refused { status: status.as_u16(), code: body.code, message: body.message }
        }
    };
    let mut out = std::io::stdout().lock();
    serde_json::to_writer(&mut out, &told)?;
    out.flush()
}

fn read(kind: Kind, bytes: &[u8]) -> Result<Value, ApiError> {
    Ok(match kind {
        Kind::Heights => to_json(&inspect(bytes)?),
        Kind::Picture => {
            let bad = |why| ApiError::BadPicture { name: "the file".to_owned(), why };
            let pixels = read_pixels(bytes).map_err(bad)?;
            let colours = to_json(&flat_colours(&pixels));
            json!({"width_px": pixels.width, "height_px": pixels.height, "colours": colours})
        }
        Kind::Mesh => to_json(&inspect_mesh(&read_mesh(bytes)?)),
        Kind::Looks => read_mesh_and_looks(bytes).map(|_| Value::Null)?,
        Kind::Outlines(map_middle_m) => to_json(&read_outlines(bytes, map_middle_m)?),
    })
}
