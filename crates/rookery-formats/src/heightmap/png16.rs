//! Grey PNG pictures with 8 or 16 bits.

use super::{Grid, HeightmapError, Meaning, check_size};
use png::{BitDepth, ColorType, Decoder, Limits, Transformations};
use std::io::Cursor;

/// Values are 0 to 65535; 8-bit pictures are spread over the same range.
pub(super) fn decode(bytes: &[u8]) -> Result<Grid, HeightmapError> {
    let bad = |e: png::DecodingError| HeightmapError::BadPng(e.to_string());
    let mut decoder = Decoder::new_with_limits(Cursor::new(bytes), Limits { bytes: 96 << 20 });
    decoder.set_transformations(Transformations::IDENTITY);
    let head = decoder.read_header_info().map_err(bad)?;
    let (width, height) = (head.width, head.height);
    check_size(width.into(), height.into())?;
    let wide = match (head.color_type, head.bit_depth) {
        (ColorType::Grayscale, BitDepth::Sixteen) => true,
        (ColorType::Grayscale, BitDepth::Eight) => false,
        (colour, depth) => {
            return Err(HeightmapError::NotGrey(format!(
                "the PNG picture is {colour:?} with {} bits; heights need a grey picture with 8 or 16 bits",
                depth as u8
            )));
        }
    };
    let mut reader = decoder.read_info().map_err(bad)?;
    let size =
        reader.output_buffer_size().ok_or_else(|| HeightmapError::BadPng("its size overflows".to_owned()))?;
    let mut pixels = vec![0; size];
    reader.next_frame(&mut pixels).map_err(bad)?;
    let heights_zx = if wide {
        pixels.chunks_exact(2).map(|b| f32::from(u16::from_be_bytes([b[0], b[1]]))).collect()
    } else {
        pixels.iter().map(|&b| f32::from(b) * 257.0).collect()
    };
    Ok(Grid {
        nx: width as usize,
        nz: height as usize,
        cell_m: None,
        middle_m: None,
        heights_zx,
        meaning: Meaning::Grey { white: 65_535.0 },
    })
}
