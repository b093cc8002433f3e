//! How alike two pictures of one view are: their colour, their structure, their edges and where they are dark.

use std::io::{BufReader, Cursor};

/// A picture of 8 bits a channel.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Picture {
    /// Pixels across.
    pub width: usize,
    /// Pixels down.
    pub height: usize,
    /// Red, green, blue as they are shown (sRGB), row by row.
    pub rgb: Vec<[u8; 3]>,
}

/// Grey values, row by row.
#[derive(Clone, Debug, PartialEq)]
pub struct Grey {
    /// Values across.
    pub width: usize,
    /// As shown, 0 to 255.
    pub values: Vec<f64>,
}

/// What two pictures of one view have in common.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Likeness {
    /// The largest difference of the mean of a channel, in linear light, as a share of the first picture's.
    pub colour: f64,
    /// Structural similarity of luminance at a quarter of the size, up to 1.
    pub structure: f64,
    /// Edge energy of the second as a share of the first's, at half the size.
    pub edges: f64,
    /// Of the places that are among the darkest quarter of either, at an eighth of the size, the share that is so in both.
    pub dark: f64,
}

impl Picture {
    /// Reads a PNG of 8 bits a channel.
    ///
    /// # Errors
    /// When it is no such picture.
    pub fn from_png(bytes: &[u8]) -> crate::Done<Self> {
        let mut reader = png::Decoder::new(BufReader::new(Cursor::new(bytes))).read_info()?;
        let mut all = vec![0; reader.output_buffer_size().ok_or("a picture without end")?];
        let info = reader.next_frame(&mut all)?;
        let step = info.color_type.samples();
        if info.bit_depth != png::BitDepth::Eight || step < 3 {
            return Err("a picture of another kind".into());
        }
        let rgb = all[..info.buffer_size()].chunks_exact(step).map(|c| [c[0], c[1], c[2]]).collect();
        Ok(Self { width: info.width as usize, height: info.height as usize, rgb })
    }

    /// Writes it as a PNG.
    ///
    /// # Errors
    /// When its sides do not fit its pixels.
    pub fn to_png(&self) -> crate::Done<Vec<u8>> {
        let mut out = Vec::new();
        let mut encoder =
            png::Encoder::new(&mut out, u32::try_from(self.width)?, u32::try_from(self.height)?);
        encoder.set_color(png::ColorType::Rgb);
        encoder.write_header()?.write_image_data(self.rgb.as_flattened())?;
        Ok(out)
    }

    /// This one and another of the same height to its right, with a white gap between.
    pub fn beside(&self, right: &Self) -> Self {
        const GAP: usize = 8;
        let rows = self.rgb.chunks(self.width).zip(right.rgb.chunks(right.width));
        let rgb = rows
            .flat_map(|(l, r)| l.iter().copied().chain([[255; 3]; GAP]).chain(r.iter().copied()))
            .collect();
        Self { width: self.width + GAP + right.width, height: self.height, rgb }
    }

    /// The mean of each channel in linear light.
    pub fn mean(&self) -> [f64; 3] {
        let mut sum = [0.0; 3];
        for p in &self.rgb {
            for (s, c) in sum.iter_mut().zip(p) {
                *s += linear(f64::from(*c) / 255.0);
            }
        }
        sum.map(|s| s / self.rgb.len() as f64)
    }

    /// Its luminance as shown, averaged over squares of so many pixels.
    pub fn grey(&self, square: usize) -> Grey {
        let (width, height) = (self.width / square, self.height / square);
        let mut values = vec![0.0; width * height];
        for (n, v) in values.iter_mut().enumerate() {
            let (x, y) = (n % width * square, n / width * square);
            for row in y..y + square {
                for [r, g, b] in &self.rgb[row * self.width + x..][..square] {
                    // ITU-R BT.709 luma.
                    *v += 0.2126 * f64::from(*r) + 0.7152 * f64::from(*g) + 0.0722 * f64::from(*b);
                }
            }
            *v /= (square * square) as f64;
        }
        Grey { width, values }
    }
}

/// Linear light of a value as shown (IEC 61966-2-1).
fn linear(c: f64) -> f64 {
    if c <= 0.04045 { c / 12.92 } else { ((c + 0.055) / 1.055).powf(2.4) }
}

/// Compares a view with the still of the same.
///
/// # Panics
/// When they are not of one size.
pub fn likeness(still: &Picture, view: &Picture) -> Likeness {
    assert_eq!((still.width, still.height), (view.width, view.height), "pictures of two sizes");
    let (a, b) = (still.mean(), view.mean());
    Likeness {
        colour: (0..3).map(|c| ((b[c] - a[c]) / a[c].max(1e-6)).abs()).fold(0.0, f64::max),
        structure: similarity(&still.grey(4), &view.grey(4)),
        edges: edge_energy(&view.grey(2)) / edge_energy(&still.grey(2)).max(1e-9),
        dark: dark_in_both(&still.grey(8), &view.grey(8)),
    }
}

/// Mean structural similarity (Wang, Bovik, Sheikh & Simoncelli 2004): Gaussian windows of 11 x 11 with a deviation of 1.5, C1 and C2 from 0.01
/// and 0.03 of 255, over all windows that lie within.
pub fn similarity(a: &Grey, b: &Grey) -> f64 {
    const REACH: usize = 5;
    const C1: f64 = 0.01 * 255.0 * 0.01 * 255.0;
    const C2: f64 = 0.03 * 255.0 * 0.03 * 255.0;
    let line: Vec<f64> =
        (0..=2 * REACH).map(|i| (-((i as f64 - REACH as f64) / 1.5).powi(2) / 2.0).exp()).collect();
    let whole: f64 = line.iter().sum();
    let (width, height) = (a.width, a.values.len() / a.width);
    let (mut sum, mut windows) = (0.0, 0.0);
    for y in REACH..height.saturating_sub(REACH) {
        for x in REACH..width.saturating_sub(REACH) {
            let [mut ma, mut mb, mut aa, mut bb, mut ab] = [0.0; 5];
            for (j, wy) in line.iter().enumerate() {
                for (i, wx) in line.iter().enumerate() {
                    let at = (y + j - REACH) * width + x + i - REACH;
                    let (w, p, q) = (wx * wy / (whole * whole), a.values[at], b.values[at]);
                    ma += w * p;
                    mb += w * q;
                    aa += w * p * p;
                    bb += w * q * q;
                    ab += w * p * q;
                }
            }
            let (va, vb, cov) = (aa - ma * ma, bb - mb * mb, ab - ma * mb);
            sum += (2.0 * ma * mb + C1) * (2.0 * cov + C2) / ((ma * ma + mb * mb + C1) * (va + vb + C2));
            windows += 1.0;
        }
    }
    sum / windows
}

/// The mean strength of Sobel's gradient.
pub fn edge_energy(grey: &Grey) -> f64 {
    let (w, height) = (grey.width, grey.values.len() / grey.width);
    let v = &grey.values;
    let mut sum = 0.0;
    for y in 1..height - 1 {
        for x in 1..w - 1 {
            let at = |dx: usize, dy: usize| v[(y + dy - 1) * w + x + dx - 1];
            let across = at(2, 0) + 2.0 * at(2, 1) + at(2, 2) - at(0, 0) - 2.0 * at(0, 1) - at(0, 2);
            let down = at(0, 2) + 2.0 * at(1, 2) + at(2, 2) - at(0, 0) - 2.0 * at(1, 0) - at(2, 0);
            sum += across.hypot(down);
        }
    }
    sum / ((w - 2) * (height - 2)) as f64
}

/// Of the places among the darkest quarter of either, the share that is so in both: 1 for the same, a seventh by chance.
pub fn dark_in_both(a: &Grey, b: &Grey) -> f64 {
    let darkest = |g: &Grey| {
        let mut order: Vec<usize> = (0..g.values.len()).collect();
        order.sort_by(|&p, &q| g.values[p].total_cmp(&g.values[q]));
        let mut dark = vec![false; g.values.len()];
        for &p in &order[..g.values.len() / 4] {
            dark[p] = true;
        }
        dark
    };
    let (p, q) = (darkest(a), darkest(b));
    let both = p.iter().zip(&q).filter(|(p, q)| **p && **q).count();
    let either = p.iter().zip(&q).filter(|(p, q)| **p || **q).count();
    both as f64 / (either as f64).max(1.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn picture(width: usize, height: usize, of: impl Fn(usize, usize) -> [u8; 3]) -> Picture {
        Picture { width, height, rgb: (0..width * height).map(|n| of(n % width, n / width)).collect() }
    }

    /// A pattern that any program can write again: two sums of whole numbers.
    fn pattern(seed: usize) -> Grey {
        let value = |n: usize| ((n % 48) * 3 + (n / 48) * 5 + (n * n * 7 + seed * n) % 61) as f64 % 256.0;
        Grey { width: 48, values: (0..48 * 40).map(value).collect() }
    }

    #[test]
    fn a_picture_is_wholly_like_itself() {
        let p = picture(64, 64, |x, y| [(x * 4) as u8, (y * 4) as u8, ((x ^ y) * 3) as u8]);
        let l = likeness(&p, &p);
        assert!(
            l.colour < 1e-12
                && (l.structure - 1.0).abs() < 1e-12
                && (l.edges - 1.0).abs() < 1e-12
                && (l.dark - 1.0).abs() < 1e-12,
            "{l:?}"
        );
    }

    #[test]
    fn two_flat_greys_are_as_alike_as_the_formula_says() {
        // By hand from equation 13 of the paper, where all variances are zero: (2ab + C1) / (a2 + b2 + C1).
        let flat = |v: f64| Grey { width: 16, values: vec![v; 256] };
        let expected = (2.0 * 100.0 * 140.0 + 6.5025) / (100.0 * 100.0 + 140.0 * 140.0 + 6.5025);
        assert!((similarity(&flat(100.0), &flat(140.0)) - expected).abs() < 1e-9);
    }

    #[test]
    fn structure_is_that_of_another_program() {
        // scikit-image 0.26.0 from PyPI on the same numbers: structural_similarity with gaussian_weights, sigma 1.5, data_range 255, without sample
        // covariance, its mean over [5:-5, 5:-5].
        const SCIKIT_IMAGE: f64 = 0.342_249_295_768_976;
        assert!(
            (similarity(&pattern(1), &pattern(9)) - SCIKIT_IMAGE).abs() < 1e-6,
            "{}",
            similarity(&pattern(1), &pattern(9))
        );
    }

    #[test]
    fn a_step_has_the_edge_that_sobel_gives_it() {
        // One column of 8 x 8 values: two columns of the inner six see a difference of ten, weighed four times.
        let step = Grey { width: 8, values: (0..64).map(|n| if n % 8 < 4 { 0.0 } else { 10.0 }).collect() };
        assert!((edge_energy(&step) - 2.0 * 40.0 / 6.0).abs() < 1e-12);
    }

    #[test]
    fn colours_are_compared_in_linear_light() {
        let (dark, light) = (picture(16, 16, |_, _| [128; 3]), picture(16, 16, |_, _| [188; 3]));
        // 128 and 188 as shown are 0.2159 and 0.5029 of the light (IEC 61966-2-1).
        assert!((likeness(&dark, &light).colour - (0.5029 / 0.2159 - 1.0)).abs() < 2e-3);
    }

    #[test]
    fn shadows_elsewhere_are_told() {
        let shaded =
            |left: bool| picture(64, 64, move |x, _| if (x < 16) == left { [20; 3] } else { [200; 3] });
        let right = picture(64, 64, |x, _| if x >= 48 { [20; 3] } else { [200; 3] });
        assert!((likeness(&shaded(true), &shaded(true)).dark - 1.0).abs() < 1e-12);
        assert!(likeness(&shaded(true), &right).dark < 1e-12);
    }

    #[test]
    fn a_picture_comes_back_from_its_file() {
        let p = picture(9, 5, |x, y| [x as u8, y as u8, 7]);
        assert_eq!(Picture::from_png(&p.to_png().expect("it is written")).expect("it is read"), p);
        assert_eq!(p.beside(&p).width, 26);
    }
}
