//! Outlines from and to files: GeoJSON, and the paths of SVG drawings.
//!
//! In GeoJSON, coordinates are metres (not degrees), east and north on the map of the land's file, or from the middle of the
//! land where there is no map. In SVG, one user unit is a
//! metre; the middle of the drawing lies on the middle of the ground, its top is north.

mod geojson;
mod svg;

pub use geojson::write_geojson;

use rookery_core::scene::{Outline, OutlineId, OutlineKind, Refusal, check_outline};
use thiserror::Error;

/// Outlines read from one file, at most.
const MOST_OUTLINES: usize = 500;
/// Nodes of one outline, at most; finer lines are thinned to this.
const MOST_NODES: usize = 1000;

/// Why a file cannot be read as outlines. No scene was changed.
#[derive(Debug, Error)]
pub enum OutlineFileError {
    /// The file is of no known kind.
    #[error("this is neither a GeoJSON file nor an SVG drawing")]
    Unknown,
    /// The JSON is broken.
    #[error("the GeoJSON cannot be read: {0}")]
    BadJson(String),
    /// A part of the GeoJSON is not as it should be.
    #[error("feature {feature}: {problem}")]
    BadFeature {
        /// Counted from 1.
        feature: usize,
        /// What is wrong with it.
        problem: String,
    },
    /// The drawing is broken.
    #[error("the SVG drawing cannot be read: {0}")]
    BadSvg(String),
    /// There is no line in the file.
    #[error("the file holds no line that an outline could be made of")]
    Empty,
    /// Too many lines.
    #[error("the file holds more than {MOST_OUTLINES} lines; split it")]
    TooMany,
    /// A line breaks a rule of the scene.
    #[error("line {line}: {why}")]
    Refused {
        /// Counted from 1.
        line: usize,
        /// The rule.
        why: Refusal,
    },
}

/// Reads a file's lines as outlines, numbered from 1. `map_middle_m` is where the middle of the land lies on its map.
///
/// # Errors
/// [`OutlineFileError`].
pub fn read_outlines(bytes: &[u8], map_middle_m: [f64; 2]) -> Result<Vec<Outline>, OutlineFileError> {
    let start: Vec<u8> = bytes.iter().copied().skip_while(u8::is_ascii_whitespace).take(1).collect();
    let mut outlines = match start.first() {
        Some(b'{') => geojson::read(bytes, map_middle_m)?,
        Some(b'<' | 0xEF) => svg::read(bytes)?,
        _ => return Err(OutlineFileError::Unknown),
    };
    if outlines.is_empty() {
        return Err(OutlineFileError::Empty);
    }
    if outlines.len() > MOST_OUTLINES {
        return Err(OutlineFileError::TooMany);
    }
    for (i, outline) in outlines.iter_mut().enumerate() {
        outline.id = OutlineId(i as u32 + 1);
        thin(&mut outline.nodes);
        check_outline(outline).map_err(|why| OutlineFileError::Refused { line: i + 1, why })?;
    }
    Ok(outlines)
}

/// An outline with usual settings.
fn outline(name: String, kind: OutlineKind, nodes: Vec<[f32; 2]>) -> Outline {
    Outline { id: OutlineId(0), name, kind, nodes, smooth: false, soft_m: 1.0, width_m: 1.2, earth: None }
}

/// Leaves out every so many nodes of a line that has too many.
fn thin(nodes: &mut Vec<[f32; 2]>) {
    let every = nodes.len().div_ceil(MOST_NODES);
    if every > 1 {
        let last = nodes.len() - 1;
        *nodes =
            nodes.iter().enumerate().filter(|(i, _)| i % every == 0 || *i == last).map(|(_, n)| *n).collect();
        nodes.truncate(MOST_NODES);
    }
}
