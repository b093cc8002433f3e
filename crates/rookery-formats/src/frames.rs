//! Runs of frames as files: numbered pictures in a zip, and a picture that moves.

use crate::picture::decode;
use png::{BitDepth, ColorType, Encoder, SrgbRenderingIntent, Writer};
use std::io::{Seek, Write};
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

/// Numbered PNGs in a zip, for programs that read a run of pictures.
pub struct FramesZip<W: Write + Seek> {
    stem: String,
    inner: ZipWriter<W>,
}

impl<W: Write + Seek> FramesZip<W> {
    /// Begins a file whose pictures are called `stem.00012.png`.
    pub fn new(out: W, stem: &str) -> Self {
        Self { stem: stem.to_owned(), inner: ZipWriter::new(out) }
    }

    /// Adds a frame, a PNG.
    ///
    /// # Errors
    /// When it cannot be written.
    pub fn add(&mut self, nth: u32, png: &[u8]) -> std::io::Result<()> {
        // A PNG is packed already.
        let options = SimpleFileOptions::default().compression_method(CompressionMethod::Stored);
        self.inner.start_file(format!("{}.{nth:05}.png", self.stem), options)?;
        self.inner.write_all(png)
    }

    /// Ends the file.
    ///
    /// # Errors
    /// When it cannot be written.
    pub fn finish(self) -> std::io::Result<W> {
        Ok(self.inner.finish()?)
    }
}

/// An animated PNG that begins again at its end. Source: "Portable Network Graphics (PNG) Specification", third edition, W3C 2025,
/// 11.3.4 animation.
pub struct MovingPng<W: Write> {
    inner: Writer<W>,
}

impl<W: Write> MovingPng<W> {
    /// Begins a picture of so many frames, so many a second.
    ///
    /// # Errors
    /// When it cannot be written.
    pub fn new(out: W, (width, height): (u32, u32), frames: u32, rate: f32) -> std::io::Result<Self> {
        let mut encoder = Encoder::new(out, width, height);
        encoder.set_color(ColorType::Rgb);
        encoder.set_depth(BitDepth::Eight);
        encoder.set_source_srgb(SrgbRenderingIntent::Perceptual);
        encoder.set_animated(frames, 0)?;
        // Seconds a frame as a fraction of two small numbers: 120 a second is 500 of 60000.
        encoder.set_frame_delay(500, (rate * 500.0).round() as u16)?;
        Ok(Self { inner: encoder.write_header()? })
    }

    /// Adds a frame, a PNG of the same size.
    ///
    /// # Errors
    /// When it is no such picture, or it cannot be written.
    pub fn add(&mut self, png: &[u8]) -> std::io::Result<()> {
        let pixels = decode(png).map_err(std::io::Error::other)?.into_rgb8();
        Ok(self.inner.write_image_data(pixels.as_raw())?)
    }

    /// Ends the picture.
    ///
    /// # Errors
    /// When frames are missing, or it cannot be written.
    pub fn finish(self) -> std::io::Result<()> {
        Ok(self.inner.finish()?)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::picture::png_srgb8;
    use std::io::{Cursor, Read};

    fn plain(shade: u8) -> Vec<u8> {
        png_srgb8(3, 2, &[shade; 18]).unwrap()
    }

    #[test]
    fn a_zip_holds_the_numbered_pictures() {
        let mut zip = FramesZip::new(Cursor::new(Vec::new()), "brow");
        zip.add(7, &plain(10)).unwrap();
        zip.add(120, &plain(20)).unwrap();
        let bytes = zip.finish().unwrap().into_inner();
        let mut read = zip::ZipArchive::new(Cursor::new(bytes)).unwrap();
        let names: Vec<String> =
            (0..read.len()).map(|i| read.by_index(i).unwrap().name().unwrap().to_string()).collect();
        assert_eq!(names, ["brow.00007.png", "brow.00120.png"]);
        let mut out = Vec::new();
        read.by_name("brow.00120.png").unwrap().read_to_end(&mut out).unwrap();
        assert_eq!(out, plain(20));
    }

    #[test]
    fn a_moving_picture_has_all_frames_at_their_pace() {
        let mut out = Vec::new();
        let mut moving = MovingPng::new(&mut out, (3, 2), 3, 24.0).unwrap();
        for shade in [10, 20, 30] {
            moving.add(&plain(shade)).unwrap();
        }
        moving.finish().unwrap();
        let mut read = png::Decoder::new(Cursor::new(&out)).read_info().unwrap();
        let control = read.info().animation_control().unwrap();
        assert_eq!((control.num_frames, control.num_plays), (3, 0));
        for shade in [10, 20, 30] {
            let mut pixels = vec![0; 18];
            read.next_frame(&mut pixels).unwrap();
            assert_eq!(pixels, [shade; 18]);
            let delay = read.info().frame_control().unwrap();
            assert_eq!(f32::from(delay.delay_den) / f32::from(delay.delay_num), 24.0);
        }
        // One that does not fit is not taken for one that does.
        let mut out = Vec::new();
        let mut moving = MovingPng::new(&mut out, (4, 4), 1, 24.0).unwrap();
        assert!(moving.add(&plain(1)).is_err());
    }
}
