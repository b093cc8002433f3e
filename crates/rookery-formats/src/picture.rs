//! Pictures in and out.

use image::{DynamicImage, ImageReader, Limits};
use png::{BitDepth, ColorType, Encoder, EncodingError, SrgbRenderingIntent};
use rookery_core::scene::Pixels;
use std::collections::BTreeMap;
use std::io::Cursor;

/// Side of a picture, pixels, at most.
const MOST_SIDE_PX: u32 = 8192;
/// Of a picture for an earth about so many pixels are held, along its shorter side: four times as many as it shows.
pub const EARTH_PX: usize = 1024;
/// Memory for reading one picture, bytes.
const MOST_BYTES: u64 = 512 << 20;

/// Reads a PNG or JPEG for masks, with 8 or 16 bits a channel.
///
/// # Errors
/// In words, when the bytes are no picture, or a larger one than 8192 x 8192 pixels.
pub fn read_pixels(bytes: &[u8]) -> Result<Pixels, String> {
    let image = decode(bytes)?.into_rgba16();
    let (width, height) = (image.width() as usize, image.height() as usize);
    // Half a gigabyte for the largest: it is not copied where that can be helped.
    let rgba = match bytemuck::allocation::try_cast_vec(image.into_raw()) {
        Ok(rgba) => rgba,
        Err((_, numbers)) => bytemuck::cast_slice(&numbers).to_vec(),
    };
    Ok(Pixels { width, height, rgba })
}

/// The same with about `most` pixels along its shorter side, where it has more than twice as many: each the mean of what lies in it. `light` says that its
/// numbers are colours (sRGB), whose means are those of their light.
///
/// # Errors
/// As [`read_pixels`].
pub fn read_pixels_within(bytes: &[u8], most: usize, light: bool) -> Result<Pixels, String> {
    let read = read_pixels(bytes)?;
    let step = read.width.min(read.height) / most.max(1);
    if step < 2 {
        return Ok(read);
    }
    // Source: IEC 61966-2-1 (sRGB).
    let decode = |v: f32| if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) };
    let encode = |v: f32| if v <= 0.003_130_8 { v * 12.92 } else { 1.055 * v.powf(1.0 / 2.4) - 0.055 };
    let table: Vec<f32> =
        (0..=u16::MAX).map(|v| f32::from(v) / 65535.0).map(|v| if light { decode(v) } else { v }).collect();
    let (width, height) = (read.width / step, read.height / step);
    let mean = |i: usize| {
        let (x, y) = (i % width * step, i / width * step);
        let rows = (y..y + step).map(|row| &read.rgba[row * read.width + x..][..step]);
        let mut sum = [0.0_f32; 4];
        rows.flatten().for_each(|pixel| {
            for c in 0..3 {
                sum[c] += table[usize::from(pixel[c])];
            }
            sum[3] += f32::from(pixel[3]) / 65535.0;
        });
        let [r, g, b, cover] = sum.map(|v| v / (step * step) as f32);
        let shown = [r, g, b].map(|v| if light { encode(v) } else { v });
        [shown[0], shown[1], shown[2], cover].map(|v| (v.clamp(0.0, 1.0) * 65535.0).round() as u16)
    };
    Ok(Pixels { width, height, rgba: (0..width * height).map(mean).collect() })
}

/// Decodes a PNG or JPEG of at least one pixel within the limits.
pub(crate) fn decode(bytes: &[u8]) -> Result<DynamicImage, String> {
    let mut reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format().map_err(|e| e.to_string())?;
    let mut limits = Limits::default();
    limits.max_image_width = Some(MOST_SIDE_PX);
    limits.max_image_height = Some(MOST_SIDE_PX);
    limits.max_alloc = Some(MOST_BYTES);
    reader.limits(limits);
    let image = reader.decode().map_err(|e| e.to_string())?;
    if image.width() == 0 || image.height() == 0 {
        return Err("it has no pixels".to_owned());
    }
    Ok(image)
}

/// Colours that are told from one another, at most.
const MOST_COLOURS: usize = 24;
/// A flat colour fills at least this share of the picture.
const LEAST_SHARE: f64 = 0.002;

/// The most frequent colours of a picture of flat colours, sRGB, each 0 to 1. None when they fill less than half of it: then it
/// is a photograph or a painting.
pub fn flat_colours(pixels: &Pixels) -> Vec<[f32; 3]> {
    let mut counts = BTreeMap::<[u8; 3], usize>::new();
    let seen = pixels.rgba.iter().filter(|p| p[3] >= 0x8000);
    seen.for_each(|p| *counts.entry([0, 1, 2].map(|i| (p[i] >> 8) as u8)).or_default() += 1);
    let all: usize = counts.values().sum();
    let least = (all as f64 * LEAST_SHARE).ceil() as usize;
    let mut list: Vec<_> = counts.into_iter().filter(|(_, n)| *n >= least.max(1)).collect();
    list.sort_by(|a, b| b.1.cmp(&a.1).then(a.0.cmp(&b.0)));
    list.truncate(MOST_COLOURS);
    if list.iter().map(|(_, n)| n).sum::<usize>() * 2 < all {
        return Vec::new();
    }
    list.into_iter().map(|(c, _)| c.map(|v| f32::from(v) / 255.0)).collect()
}

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
