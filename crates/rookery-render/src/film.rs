//! From light to pixels.

use glam::{Vec3, Vec3A};

/// What a picture's light is multiplied by before it is shown: a sunlit grey card of 18 % comes out a little above
/// its own brightness.
pub const EXPOSURE: f32 = 1.45;

/// A picture of linear light, row by row from the top.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Film {
    /// Width, pixels.
    pub width_px: u32,
    /// Height, pixels.
    pub height_px: u32,
    /// Mean radiance of each pixel, linear RGB.
    pub pixels: Vec<Vec3>,
}

impl Film {
    /// The picture at most so many pixels wide, made smaller by whole steps.
    #[must_use]
    pub fn at_most(&self, wide_px: u32) -> Self {
        let step = self.width_px.div_ceil(wide_px).max(1) as usize;
        let (width, height) = (self.width_px as usize / step, self.height_px as usize / step);
        let mean = |x: usize, y: usize| {
            let rows = self.pixels.chunks_exact(self.width_px as usize).skip(y * step).take(step);
            rows.flat_map(|row| &row[x * step..(x + 1) * step]).sum::<Vec3>() / (step * step) as f32
        };
        let pixels =
            (0..height).flat_map(|y| (0..width).map(move |x| (x, y))).map(|(x, y)| mean(x, y)).collect();
        Self { width_px: width as u32, height_px: height as u32, pixels }
    }

    /// The picture as sRGB bytes, three a pixel, tone mapped.
    pub fn to_srgb8(&self) -> Vec<u8> {
        self.pixels
            .iter()
            .flat_map(|p| {
                tone(Vec3A::from(*p) * EXPOSURE)
                    .to_array()
                    .map(|c| (srgb_from_linear(c) * 255.0).round() as u8)
            })
            .collect()
    }
}

/// Keeps colours as they are up to 0.76 and rolls brighter ones off towards white.
///
/// Source: Khronos PBR Neutral tone mapper, specification text. The view uses the same curve.
pub fn tone(light: Vec3A) -> Vec3A {
    const START: f32 = 0.8 - 0.04;
    const DESATURATION: f32 = 0.15;
    let low = light.min_element().max(0.0);
    let offset = if low < 0.08 { low - 6.25 * low * low } else { 0.04 };
    let c = light.max(Vec3A::ZERO) - offset;
    let peak = c.max_element();
    if peak < START {
        return c.max(Vec3A::ZERO);
    }
    let d = 1.0 - START;
    let new_peak = 1.0 - d * d / (peak + d - START);
    let g = 1.0 - 1.0 / (DESATURATION * (peak - new_peak) + 1.0);
    (c * (new_peak / peak)).lerp(Vec3A::splat(new_peak), g)
}

/// The transfer curve of sRGB; 0 to 1 in and out.
///
/// Source: IEC 61966-2-1.
pub fn srgb_from_linear(c: f32) -> f32 {
    let c = c.clamp(0.0, 1.0);
    if c <= 0.003_130_8 { 12.92 * c } else { 1.055 * libm::powf(c, 1.0 / 2.4) - 0.055 }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_smaller_picture_holds_the_means() {
        let pixels = (0..7 * 5).map(|i| Vec3::splat(i as f32)).collect();
        let film = Film { width_px: 7, height_px: 5, pixels };
        let small = film.at_most(3);
        assert_eq!((small.width_px, small.height_px), (2, 1));
        // Of the first three rows of seven the first three, and the next three.
        assert_eq!(small.pixels, [Vec3::splat(8.0), Vec3::splat(11.0)]);
        assert_eq!(film.at_most(7), film);
    }

    #[test]
    fn the_transfer_curve_has_its_published_values() {
        // IEC 61966-2-1: 18 % grey is 118 of 255; the two pieces meet at 0.0031308.
        assert_eq!((srgb_from_linear(0.18) * 255.0).round(), 118.0);
        assert!((srgb_from_linear(0.003_130_8) - 12.92 * 0.003_130_8).abs() < 1e-6);
        assert!(srgb_from_linear(0.0) == 0.0 && (srgb_from_linear(1.0) - 1.0).abs() < 1e-6);
    }

    #[test]
    fn the_tone_curve_rises_and_stays_below_white() {
        let mut last = -1.0;
        for i in 0..2000 {
            let t = tone(Vec3A::splat(i as f32 * 0.01)).y;
            assert!(t > last && t <= 1.0, "at {i}: {t} after {last}");
            last = t;
        }
    }
}
