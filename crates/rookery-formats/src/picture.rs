//! Pictures out.

use png::{BitDepth, ColorType, Encoder, EncodingError, SrgbRenderingIntent};

/// Encodes sRGB pixels, three bytes each, row by row from the top, as a PNG.
///
/// # Errors
/// When the pixels do not match the size.
pub fn png_srgb8(width: u32, height: u32, pixels: &[u8]) -> Result<Vec<u8>, EncodingError> {
    png(width, height, ColorType::Rgb, pixels)
}

/// Encodes sRGB pixels with cover, four bytes each, row by row from the top, as a PNG.
///
/// # Errors
/// When the pixels do not match the size.
pub fn png_rgba8(width: u32, height: u32, pixels: &[u8]) -> Result<Vec<u8>, EncodingError> {
    png(width, height, ColorType::Rgba, pixels)
}

fn png(width: u32, height: u32, colour: ColorType, pixels: &[u8]) -> Result<Vec<u8>, EncodingError> {
    let mut out = Vec::new();
    let mut encoder = Encoder::new(&mut out, width, height);
    encoder.set_color(colour);
    encoder.set_depth(BitDepth::Eight);
    encoder.set_source_srgb(SrgbRenderingIntent::Perceptual);
    encoder.write_header()?.write_image_data(pixels)?;
    Ok(out)
}
