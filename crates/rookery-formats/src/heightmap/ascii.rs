//! ESRI ASCII grids: a head of `key value` lines, then heights row by row from the north edge.

use super::{Grid, HeightmapError, Meaning, check_size};
use glam::Vec2;
use rookery_core::ground::Terrain;
use std::fmt::Write;

/// Heights are metres as read. A ground is centred on the origin; the corner says where that lies on the file's map.
pub(super) fn decode(bytes: &[u8]) -> Result<Grid, HeightmapError> {
    let text = std::str::from_utf8(bytes).map_err(|e| HeightmapError::BadLine {
        line: 1 + bytes[..e.valid_up_to()].iter().filter(|&&b| b == b'\n').count(),
        problem: "it is not plain text".to_owned(),
    })?;
    let mut head = Head::default();
    let mut lines = text.lines().enumerate().peekable();
    while let Some((i, line)) = lines.peek() {
        if line.trim().is_empty() || head.take(i + 1, line)? {
            lines.next();
        } else {
            break;
        }
    }
    let nx = head.columns.ok_or(HeightmapError::MissingHead("ncols"))?;
    let nz = head.rows.ok_or(HeightmapError::MissingHead("nrows"))?;
    let cell_m = head.cell_m.ok_or(HeightmapError::MissingHead("cellsize"))?;
    check_size(nx as u64, nz as u64)?;
    // Memory grows with the file, not with what its head claims.
    let mut heights = Vec::with_capacity((nx * nz).min(bytes.len()));
    for (i, line) in lines {
        for word in line.split_ascii_whitespace() {
            let height = number(i + 1, "a height", word)?;
            if heights.len() == nx * nz {
                return Err(HeightmapError::WrongCount { nx, nz, got: heights.len() + 1 });
            }
            heights.push(if head.marker == Some(height) { f32::NAN } else { height });
        }
    }
    if heights.len() < nx * nz {
        return Err(HeightmapError::WrongCount { nx, nz, got: heights.len() });
    }
    let middle_m = head.middle_m(nx, nz, cell_m);
    Ok(Grid { nx, nz, cell_m: Some(cell_m), middle_m, heights_zx: heights, meaning: Meaning::Metres })
}

/// Stands for what is unknown.
const NODATA: f32 = -9999.0;

/// Writes one value for each sample of a terrain as an ESRI ASCII grid, on the map on which the terrain's middle lies at `middle_m`, east
/// and north. Cells that are not
/// square are stated as `dx` and `dy`.
pub fn encode_ascii(terrain: &Terrain, middle_m: [f64; 2], values_zx: &[f32]) -> String {
    let (cell, corner) = (terrain.cell_m(), terrain.min_xz());
    let mut out = format!("ncols {}\nnrows {}\n", terrain.nx(), terrain.nz());
    // Northwards is -Z, and the south edge lies as far from the middle as the north one.
    let west_m = middle_m[0] + f64::from(corner.x);
    let south_m = middle_m[1] + f64::from(corner.y);
    let _ = write!(out, "xllcenter {west_m}\nyllcenter {south_m}\n");
    let _ = match cell.x == cell.y {
        true => writeln!(out, "cellsize {}", cell.x),
        false => writeln!(out, "dx {}\ndy {}", cell.x, cell.y),
    };
    let _ = writeln!(out, "NODATA_value {NODATA}");
    for row in values_zx.chunks(terrain.nx()) {
        for (i, value) in row.iter().enumerate() {
            let value = if value.is_nan() { NODATA } else { *value };
            let _ = write!(out, "{}{value}", if i == 0 { "" } else { " " });
        }
        out.push('\n');
    }
    out
}

#[derive(Default)]
struct Head {
    columns: Option<usize>,
    rows: Option<usize>,
    cell_m: Option<Vec2>,
    marker: Option<f32>,
    /// West and south end, and whether it is the outer corner of a cell and not its middle.
    west: Option<(f64, bool)>,
    south: Option<(f64, bool)>,
}

impl Head {
    /// Whether the line belongs to the head.
    fn take(&mut self, line: usize, text: &str) -> Result<bool, HeightmapError> {
        let mut words = text.split_ascii_whitespace();
        let Some(key) = words.next() else { return Ok(false) };
        if !key.starts_with(|c: char| c.is_ascii_alphabetic()) || key.eq_ignore_ascii_case("nan") {
            return Ok(false);
        }
        let bad = |problem: String| HeightmapError::BadLine { line, problem };
        let (Some(value), None) = (words.next(), words.next()) else {
            return Err(bad(format!("\u{201c}{}\u{201d} needs one value after it", short(key))));
        };
        match key.to_ascii_lowercase().as_str() {
            "ncols" => self.columns = Some(whole(line, key, value)?),
            "nrows" => self.rows = Some(whole(line, key, value)?),
            "cellsize" => self.cell_m = Some(Vec2::splat(side(line, key, value)?)),
            "dx" => self.cell_m = Some(Vec2::new(side(line, key, value)?, self.cell_m.map_or(1.0, |c| c.y))),
            "dy" => self.cell_m = Some(Vec2::new(self.cell_m.map_or(1.0, |c| c.x), side(line, key, value)?)),
            "nodata_value" => self.marker = Some(number(line, key, value)?),
            "xllcorner" => self.west = Some((place(line, key, value)?, true)),
            "xllcenter" => self.west = Some((place(line, key, value)?, false)),
            "yllcorner" => self.south = Some((place(line, key, value)?, true)),
            "yllcenter" => self.south = Some((place(line, key, value)?, false)),
            _ => {
                return Err(bad(format!(
                    "\u{201c}{}\u{201d} is not part of an ASCII grid's head",
                    short(key)
                )));
            }
        }
        Ok(true)
    }

    /// Where the middle lies on the file's map.
    fn middle_m(&self, nx: usize, nz: usize, cell_m: Vec2) -> Option<[f64; 2]> {
        let middle = |(end, corner): (f64, bool), n: usize, cell: f32| {
            end + f64::from(cell) * 0.5 * (n as f64 - if corner { 0.0 } else { 1.0 })
        };
        Some([middle(self.west?, nx, cell_m.x), middle(self.south?, nz, cell_m.y)])
    }
}

fn place(line: usize, what: &str, word: &str) -> Result<f64, HeightmapError> {
    number(line, what, word)?;
    Ok(word.parse().expect("what is a number for one precision is one for the other"))
}

fn whole(line: usize, key: &str, word: &str) -> Result<usize, HeightmapError> {
    word.parse::<u32>().map(|n| n as usize).map_err(|_| HeightmapError::BadLine {
        line,
        problem: format!("{key} is \u{201c}{}\u{201d}, not a whole number", short(word)),
    })
}

fn side(line: usize, key: &str, word: &str) -> Result<f32, HeightmapError> {
    let value = number(line, key, word)?;
    if value > 0.0 {
        return Ok(value);
    }
    Err(HeightmapError::BadLine { line, problem: format!("{key} is {value}; it must be above zero") })
}

fn number(line: usize, what: &str, word: &str) -> Result<f32, HeightmapError> {
    word.parse::<f32>().ok().filter(|v| v.is_finite()).ok_or_else(|| HeightmapError::BadLine {
        line,
        problem: format!("{what} is \u{201c}{}\u{201d}, not a number", short(word)),
    })
}

fn short(word: &str) -> String {
    word.chars().take(24).collect()
}
