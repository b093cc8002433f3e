//! Heights from files: PNG, TIFF and GeoTIFF, OpenEXR and ESRI ASCII grids.

mod ascii;
mod exr_grid;
mod fill;
mod png16;
mod tiff_grid;

pub use ascii::encode_ascii;

use glam::Vec2;
use rookery_core::ground::{Terrain, TerrainError, terrain::MAX_SAMPLES};
use rookery_core::scene::{HeightmapFormat, HeightmapGround};
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Why a file cannot be read as heights. The file itself is untouched.
#[derive(Debug, Error)]
pub enum HeightmapError {
    /// The file is of no known kind.
    #[error(
        "this is none of the kinds that heights are read from: PNG, TIFF, GeoTIFF, OpenEXR, ESRI ASCII grid"
    )]
    Unknown,
    /// More heights than a terrain may have; said before any memory is spent.
    #[error("{nx} x {nz} heights are more than the limit of 4096 x 4096; scale the file down first")]
    TooLarge {
        /// Columns.
        nx: u64,
        /// Rows.
        nz: u64,
    },
    /// The picture cannot be decoded.
    #[error("the PNG picture is damaged: {0}")]
    BadPng(String),
    /// The picture has colours.
    #[error("{0}")]
    NotGrey(String),
    /// The TIFF cannot be decoded.
    #[error("the TIFF picture cannot be read: {0}")]
    BadTiff(String),
    /// The EXR cannot be decoded.
    #[error("the EXR picture cannot be read: {0}")]
    BadExr(String),
    /// A line of the grid is wrong.
    #[error("line {line}: {problem}")]
    BadLine {
        /// Counted from 1.
        line: usize,
        /// What is wrong with it.
        problem: String,
    },
    /// A line of the head is missing.
    #[error("the grid's head lacks {0}")]
    MissingHead(&'static str),
    /// More or fewer heights than the head states.
    #[error("the head states {nx} x {nz} = {} heights, the file has {got}", nx * nz)]
    WrongCount {
        /// Columns.
        nx: usize,
        /// Rows.
        nz: usize,
        /// Heights found; counting stops one past the stated number.
        got: usize,
    },
    /// Not one height is there.
    #[error("all {count} heights are missing")]
    AllMissing {
        /// How many there should be.
        count: usize,
    },
    /// The heights do not make a terrain.
    #[error(transparent)]
    Terrain(#[from] TerrainError),
}

/// What the numbers of a file stand for.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Meaning {
    /// Heights in metres.
    Metres,
    /// Grey from black, 0, to white.
    Grey { white: f32 },
}

/// Heights as the file has them, before they are given a size.
#[derive(Clone, Debug, PartialEq)]
struct Grid {
    nx: usize,
    nz: usize,
    /// Width and depth of a cell, metres, where the file says so.
    cell_m: Option<Vec2>,
    /// Where the middle lies on the file's own map, east and north, metres, where the file says so.
    middle_m: Option<[f64; 2]>,
    /// Not a number where the file has none.
    heights_zx: Vec<f32>,
    meaning: Meaning,
}

/// What a file holds, so that an artist can decide before anything is changed.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Inspection {
    /// The file's kind.
    pub format: HeightmapFormat,
    /// Columns, west to east.
    pub nx: usize,
    /// Rows, north to south.
    pub nz: usize,
    /// Lowest value that is there: metres, or grey in a picture.
    pub low: f32,
    /// Highest value that is there.
    pub high: f32,
    /// In a grey picture, the value of white; none when the values are metres.
    pub white: Option<f32>,
    /// Heights that are missing. They are filled from those around them.
    pub missing: usize,
    /// Width from west to east, metres, where the file says so.
    pub width_m: Option<f32>,
    /// Depth from north to south, metres, where the file says so.
    pub depth_m: Option<f32>,
    /// Where the middle lies on the file's own map, east and north, metres, where the file says so.
    pub middle_m: Option<[f64; 2]>,
}

/// Reads a whole file and says what it holds.
///
/// # Errors
/// [`HeightmapError`].
pub fn inspect(bytes: &[u8]) -> Result<Inspection, HeightmapError> {
    let format = detect(bytes)?;
    let grid = decode(bytes, format)?;
    let missing = grid.heights_zx.iter().filter(|h| h.is_nan()).count();
    let (low, high) = range(&grid.heights_zx);
    let side = |n: usize, cell: f32| (n - 1) as f32 * cell;
    Ok(Inspection {
        format,
        nx: grid.nx,
        nz: grid.nz,
        low,
        high,
        white: match grid.meaning {
            Meaning::Metres => None,
            Meaning::Grey { white } => Some(white),
        },
        missing,
        width_m: grid.cell_m.map(|c| side(grid.nx, c.x)),
        depth_m: grid.cell_m.map(|c| side(grid.nz, c.y)),
        middle_m: grid.middle_m,
    })
}

/// Builds the terrain that the settings describe from the file they name.
///
/// In a grey picture, black stands for `low_m` and white for `high_m`. Where a file has metres, its own lowest and
/// highest height are laid onto `low_m` and `high_m`; when those are as read, nothing changes. Missing heights are
/// filled from those around them.
///
/// # Errors
/// [`HeightmapError`].
pub fn terrain(settings: &HeightmapGround, bytes: &[u8]) -> Result<Terrain, HeightmapError> {
    let grid = decode(bytes, settings.format)?;
    let (from_low, from_high) = match grid.meaning {
        Meaning::Grey { white } => (0.0, white),
        Meaning::Metres => range(&grid.heights_zx),
    };
    let mut heights = grid.heights_zx;
    fill::fill_around(grid.nx, grid.nz, &mut heights);
    if (from_low, from_high) != (settings.low_m, settings.high_m) {
        let scale = if from_high > from_low {
            (settings.high_m - settings.low_m) / (from_high - from_low)
        } else {
            0.0
        };
        for h in &mut heights {
            *h = settings.low_m + (*h - from_low) * scale;
        }
    }
    let sides = Vec2::new((grid.nx - 1) as f32, (grid.nz - 1) as f32);
    Ok(Terrain::new(grid.nx, grid.nz, Vec2::new(settings.width_m, settings.depth_m) / sides, heights)?)
}

/// Tells the kind of a file from its first bytes.
///
/// # Errors
/// [`HeightmapError::Unknown`].
pub fn detect(bytes: &[u8]) -> Result<HeightmapFormat, HeightmapError> {
    if bytes.starts_with(b"\x89PNG\r\n\x1a\n") {
        return Ok(HeightmapFormat::Png);
    }
    if [b"II*\0", b"MM\0*", b"II+\0", b"MM\0+"].iter().any(|m| bytes.starts_with(*m)) {
        return Ok(HeightmapFormat::Tiff);
    }
    if bytes.starts_with(&[0x76, 0x2F, 0x31, 0x01]) {
        return Ok(HeightmapFormat::Exr);
    }
    let head: Vec<u8> = bytes.iter().take(64).skip_while(|b| b.is_ascii_whitespace()).copied().collect();
    if head.len() >= 5 && head[..5].eq_ignore_ascii_case(b"ncols") {
        return Ok(HeightmapFormat::AsciiGrid);
    }
    Err(HeightmapError::Unknown)
}

/// At least one height of the grid is there.
fn decode(bytes: &[u8], format: HeightmapFormat) -> Result<Grid, HeightmapError> {
    let grid = match format {
        HeightmapFormat::Png => png16::decode(bytes)?,
        HeightmapFormat::Tiff => tiff_grid::decode(bytes)?,
        HeightmapFormat::Exr => exr_grid::decode(bytes)?,
        HeightmapFormat::AsciiGrid => ascii::decode(bytes)?,
    };
    if grid.heights_zx.iter().all(|h| h.is_nan()) {
        return Err(HeightmapError::AllMissing { count: grid.heights_zx.len() });
    }
    Ok(grid)
}

fn check_size(nx: u64, nz: u64) -> Result<(), HeightmapError> {
    if nx.saturating_mul(nz) > MAX_SAMPLES as u64 {
        return Err(HeightmapError::TooLarge { nx, nz });
    }
    if nx < 2 || nz < 2 {
        return Err(TerrainError::TooSmall { nx: nx as usize, nz: nz as usize }.into());
    }
    Ok(())
}

fn range(heights: &[f32]) -> (f32, f32) {
    heights.iter().fold((f32::INFINITY, f32::NEG_INFINITY), |(low, high), &h| (low.min(h), high.max(h)))
}
