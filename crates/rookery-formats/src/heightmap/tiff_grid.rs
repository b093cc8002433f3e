//! TIFF and GeoTIFF: one grey channel of whole numbers or floats, with its scale where the file states one.
//!
//! Source: TIFF 6.0; OGC 19-008r4, GeoTIFF 1.1 (tags 33550, 33922, 34735); GDAL's tag 42113 for missing values.

use super::{Grid, HeightmapError, Meaning, check_size};
use glam::Vec2;
use std::io::Cursor;
use tiff::decoder::{Decoder, DecodingResult, Limits};
use tiff::tags::Tag;
use tiff::{ColorType, TiffError};

/// The two-dimensional raster may be in degrees; a degree of latitude is so many metres (mean of the WGS 84
/// ellipsoid, from memory).
const METRES_PER_DEGREE: f64 = 111_195.0;
const MODEL_TYPE_KEY: u16 = 1024;
const GEOGRAPHIC: u16 = 2;
const RASTER_TYPE_KEY: u16 = 1025;
const POINTS: u16 = 2;

/// Whole unsigned numbers without a scale are grey values; everything else is metres.
pub(super) fn decode(bytes: &[u8]) -> Result<Grid, HeightmapError> {
    let mut limits = Limits::default();
    limits.decoding_buffer_size = 160 << 20;
    limits.intermediate_buffer_size = 64 << 20;
    let mut decoder = Decoder::new(Cursor::new(bytes)).map_err(bad)?.with_limits(limits);
    let (width, height) = decoder.dimensions().map_err(bad)?;
    check_size(width.into(), height.into())?;
    let colour = decoder.colortype().map_err(bad)?;
    if !matches!(colour, ColorType::Gray(_)) {
        return Err(HeightmapError::NotGrey(format!(
            "the TIFF picture is {colour:?}; heights need one grey channel"
        )));
    }
    let (cell_m, middle_m) = placed(&mut decoder)?;
    let marker = match decoder.find_tag(Tag::GdalNodata).map_err(bad)? {
        Some(value) => value.into_string().ok().and_then(|t| t.trim_matches(['\0', ' ']).parse::<f64>().ok()),
        None => None,
    };
    let decoded = decoder.read_image().map_err(bad)?;
    let metres = || Meaning::Metres;
    let grey = |white: f32| if cell_m.is_some() { Meaning::Metres } else { Meaning::Grey { white } };
    let (values, meaning): (Vec<f64>, Meaning) = match decoded {
        DecodingResult::U8(v) => (v.into_iter().map(f64::from).collect(), grey(255.0)),
        DecodingResult::U16(v) => (v.into_iter().map(f64::from).collect(), grey(65_535.0)),
        DecodingResult::U32(v) => (v.into_iter().map(f64::from).collect(), metres()),
        DecodingResult::I8(v) => (v.into_iter().map(f64::from).collect(), metres()),
        DecodingResult::I16(v) => (v.into_iter().map(f64::from).collect(), metres()),
        DecodingResult::I32(v) => (v.into_iter().map(f64::from).collect(), metres()),
        DecodingResult::F32(v) => (v.into_iter().map(f64::from).collect(), metres()),
        DecodingResult::F64(v) => (v, metres()),
        _ => {
            return Err(HeightmapError::BadTiff(
                "its numbers are of a kind that heights do not come in".to_owned(),
            ));
        }
    };
    let count = width as usize * height as usize;
    if values.len() != count {
        return Err(HeightmapError::BadTiff(format!(
            "it has {} values for {width} x {height}",
            values.len()
        )));
    }
    let missing = |v: f64| {
        !v.is_finite() || v.abs() > 1e6 || marker.is_some_and(|m| (v - m).abs() < 1e-6 * m.abs().max(1.0))
    };
    let heights_zx = values.into_iter().map(|v| if missing(v) { f32::NAN } else { v as f32 }).collect();
    Ok(Grid { nx: width as usize, nz: height as usize, cell_m, middle_m, heights_zx, meaning })
}

/// Width and depth of a cell, metres, and where the middle lies on the file's map.
type Placed = (Option<Vec2>, Option<[f64; 2]>);

/// From the scale and tie point tags, or from the matrix of an unturned model.
fn placed(decoder: &mut Decoder<Cursor<&[u8]>>) -> Result<Placed, HeightmapError> {
    let mut list = |tag: Tag| match decoder.find_tag(tag).map_err(bad)? {
        Some(tag) => tag.into_f64_vec().map_err(bad),
        None => Ok(Vec::new()),
    };
    let (mut sides, mut tie) = (list(Tag::ModelPixelScaleTag)?, list(Tag::ModelTiepointTag)?);
    let matrix = list(Tag::ModelTransformationTag)?;
    if sides.is_empty() && matrix.len() == 16 {
        if matrix[1] != 0.0 || matrix[4] != 0.0 {
            return Err(HeightmapError::BadTiff(
                "its model is turned against its map; save it with north up".to_owned(),
            ));
        }
        sides = vec![matrix[0], -matrix[5], 0.0];
        tie = vec![0.0, 0.0, 0.0, matrix[3], matrix[7], 0.0];
    }
    let (Some(x), Some(y)) = (sides.first().copied(), sides.get(1).copied()) else { return Ok((None, None)) };
    if !(x > 0.0 && y > 0.0 && x < 1e6 && y < 1e6) {
        return Err(HeightmapError::BadTiff(format!("its cells measure {x} by {y}")));
    }
    let keys = match decoder.find_tag(Tag::GeoKeyDirectoryTag).map_err(bad)? {
        Some(tag) => tag.into_u16_vec().map_err(bad)?,
        None => Vec::new(),
    };
    // Four numbers each: key, where its value is, how many, the value.
    let degrees = keys.chunks_exact(4).any(|k| k[0] == MODEL_TYPE_KEY && k[3] == GEOGRAPHIC);
    let (columns, rows) = decoder.dimensions().map_err(bad)?;
    if !degrees {
        // Heights lie in the middle of cells; a file of points counts from the first of them, others from its corner.
        let points = keys.chunks_exact(4).any(|k| k[0] == RASTER_TYPE_KEY && k[3] == POINTS);
        let middle = |n: u32| (f64::from(n) - if points { 1.0 } else { 0.0 }) * 0.5;
        let at =
            |tie: &[f64]| [tie[3] + (middle(columns) - tie[0]) * x, tie[4] - (middle(rows) - tie[1]) * y];
        let middle_m = tie.get(..6).map(at).filter(|m| m.iter().all(|v| v.is_finite() && v.abs() < 1e8));
        return Ok((Some(Vec2::new(x as f32, y as f32)), middle_m));
    }
    let north = tie.get(4).copied().unwrap_or(0.0);
    let middle = (north - y * f64::from(rows) * 0.5).clamp(-89.0, 89.0);
    let metres = Vec2::new(
        (x * METRES_PER_DEGREE * libm::cos(middle.to_radians())) as f32,
        (y * METRES_PER_DEGREE) as f32,
    );
    Ok((Some(metres), None))
}

fn bad(e: TiffError) -> HeightmapError {
    let said = e.to_string();
    // The decoder stumbles over some LZW tiles that reach past the picture's edge.
    let advice =
        if said.contains("lzw") { "; save it with another compression, for instance deflate" } else { "" };
    HeightmapError::BadTiff(format!("{said}{advice}"))
}
