use super::*;
use crate::textures::tests::bare;
use crate::textures::{Bare, PARTS, Sheets, on_ground};
use glam::{Vec2, vec2};

/// A picture from what each pixel is, places from 0 to 1.
fn picture(width: usize, height: usize, of: impl Fn(Vec2) -> [f32; 3]) -> Vec<[u16; 4]> {
    let place = |i: usize| {
        vec2((i % width) as f32 + 0.5, (i / width) as f32 + 0.5) / vec2(width as f32, height as f32)
    };
    let byte = |v: f32| (v.clamp(0.0, 1.0) * 65535.0).round() as u16;
    (0..width * height).map(|i| of(place(i)).map(byte)).map(|[r, g, b]| [r, g, b, 65535]).collect()
}

fn raster(pixels: &[[u16; 4]], width: usize) -> Raster<'_> {
    Raster { width, height: pixels.len() / width, rgba: pixels }
}

fn worn<'a>(colour: Raster<'a>, height: Option<Raster<'a>>, roughness: Option<Raster<'a>>) -> Worn<'a> {
    Worn { colour, height, roughness, size_m: 2.0, relief_m: 0.1 }
}

/// The largest step between neighbours, across the edge and within, of red.
fn steps(sheet: &Sheet) -> (f32, f32) {
    let red = |x: usize, y: usize| f32::from(sheet.texels[y % SIDE * SIDE + x % SIDE][0]);
    let step = |x: usize| (0..SIDE).map(|y| (red(x, y) - red(x + 1, y)).abs()).fold(0.0, f32::max);
    (step(SIDE - 1), (0..SIDE - 1).map(step).fold(0.0, f32::max))
}

#[test]
fn a_picture_with_a_seam_loses_it_and_one_without_stays_as_it_is() {
    // From dark to light, with waves.
    let wave = |p: Vec2| 0.12 * (p.x * 50.0).sin() * (p.y * 40.0).cos();
    let pixels = picture(300, 300, |p| [0.3 + 0.4 * p.x + wave(p); 3]);
    let (sheet, _) = worn(raster(&pixels, 300), None, None).sheet();
    let (edge, within) = steps(&sheet);
    assert!(edge <= within, "across the edge {edge}, within {within}");
    // Waves that go on beyond the edges: sample for sample what lies in the file.
    let tau = std::f32::consts::TAU;
    let seamless = |p: Vec2| 0.5 + 0.2 * (p.x * tau * 3.0).sin() * (p.y * tau * 2.0).cos();
    let pixels = picture(SIDE, SIDE, |p| [seamless(p); 3]);
    let (sheet, mean) = worn(raster(&pixels, SIDE), None, None).sheet();
    for (kept, pixel) in sheet.texels.iter().zip(&pixels) {
        let light = linear(f32::from(pixel[0]) / 65535.0);
        assert!((f32::from(kept[0]) / PARTS * mean.x - light).abs() < 0.004, "{kept:?} {light}");
    }
}

/// IEC 61966-2-1 gives an encoded 0.5 for a light of 0.2140 (from memory; the formula gives the same).
#[test]
fn colours_are_read_as_srgb_and_the_mean_is_that_of_light() {
    assert!((linear(0.5) - 0.2140).abs() < 1e-4 && linear(0.0) == 0.0 && (linear(1.0) - 1.0).abs() < 1e-6);
    // Half black, half white, in stripes: the mean of the light is a half, that of the bytes would be read as 0.214.
    let pixels =
        picture(SIDE, SIDE, |p| [if ((p.x * 64.0) as u32).is_multiple_of(2) { 0.0 } else { 1.0 }; 3]);
    let (_, mean) = worn(raster(&pixels, SIDE), None, None).sheet();
    assert!((mean - 0.5).abs().max_element() < 0.01, "{mean}");
}

#[test]
fn of_a_picture_that_is_not_square_the_middle_is_taken() {
    // Red at both ends, green in the middle third.
    let pixels =
        picture(300, 100, |p| if (p.x - 0.5).abs() < 1.0 / 6.0 { [0.0, 0.6, 0.0] } else { [0.6, 0.0, 0.0] });
    let (_, mean) = worn(raster(&pixels, 300), None, None).sheet();
    assert!(mean.y > 0.25 && mean.x < 0.002, "{mean}");
}

#[test]
fn heights_rise_as_steeply_as_they_are_told_and_roughness_is_the_lack_of_gloss() {
    let grey = picture(SIDE, SIDE, |_| [0.5; 3]);
    // A roof: up to the middle and down again, 0.1 m on one metre.
    let roof = picture(SIDE, SIDE, |p| [1.0 - (p.x * 2.0 - 1.0).abs(); 3]);
    let smooth = picture(SIDE, SIDE, |p| [if p.y < 0.5 { 0.0 } else { 1.0 }; 3]);
    let (sheet, _) =
        worn(raster(&grey, SIDE), Some(raster(&roof, SIDE)), Some(raster(&smooth, SIDE))).sheet();
    for (x, rise) in [(0.5, 0.1), (1.5, -0.1)] {
        let texel = sheet.sample(vec2(x, 0.6) / 2.0);
        assert!((texel.slope.x - rise).abs() < 0.02 && texel.slope.y.abs() < 0.02, "{texel:?}");
        assert!((texel.height - 0.5).abs() < 0.02, "{texel:?}");
    }
    let gloss = [0.5, 1.5].map(|y| sheet.sample(vec2(0.4, y) / 2.0).shine);
    assert!(gloss[0] > 0.95 && gloss[1] < 0.05, "{gloss:?}");
    assert!((sheet.shine - 0.5).abs() < 0.02);
    let (level, _) = worn(raster(&grey, SIDE), None, None).sheet();
    assert_eq!(
        (level.shine, level.sample(Vec2::splat(0.3)).slope, level.sample(Vec2::splat(0.3)).height),
        (0.0, Vec2::ZERO, 128.0 / 255.0)
    );
}

/// From afar ground shows in the mean colour of what it wears, whatever its own would be.
#[test]
fn ground_shows_in_the_colour_that_its_earth_wears_and_others_in_their_own() {
    let tau = std::f32::consts::TAU;
    let pixels =
        picture(128, 128, |p| [0.6, 0.2 + 0.1 * (p.x * tau * 5.0).sin() * (p.y * tau * 4.0).sin(), 0.1]);
    let mut sheets = Sheets::usual();
    sheets.wear(2, &worn(raster(&pixels, 128), None, None));
    let means = [0.1, 0.05, 0.3, 0.2, 0.15].map(Vec3::splat);
    let mean_on = |earths: [f32; 5], usual: Vec3| {
        let at = |i: usize| Vec3::new((i % 64) as f32 * 0.37, 3.0, (i / 64) as f32 * 0.41);
        (0..4096)
            .map(|i| on_ground(&sheets, at(i), Vec3::Y, &bare(earths, &means), 50.0).tone * usual)
            .sum::<Vec3>()
            / 4096.0
    };
    let sand = mean_on([0.0, 0.0, 1.0, 0.0, 0.0], means[2]);
    let brought = sheets.mean(2, means[2]);
    assert!(((sand - brought) / brought).abs().max_element() < 0.04, "{sand} {brought}");
    let turf = mean_on([1.0, 0.0, 0.0, 0.0, 0.0], means[0]);
    assert!(((turf - means[0]) / means[0]).abs().max_element() < 0.06, "{turf}");
    // Patches stay lighter and darker, but not in the hues of another earth.
    let patch =
        Bare { colour: means[2] * Vec3::new(1.4, 1.0, 0.6), ..bare([0.0, 0.0, 1.0, 0.0, 0.0], &means) };
    let at = |i: usize| Vec3::new((i % 64) as f32 * 0.37, 3.0, (i / 64) as f32 * 0.41);
    let shown = (0..4096).map(|i| on_ground(&sheets, at(i), Vec3::Y, &patch, 50.0).tone * patch.colour);
    let shown = shown.sum::<Vec3>() / 4096.0;
    let light = 1.4 * 0.2126 + 0.7152 + 0.6 * 0.0722;
    assert!((shown / (brought * light) - 1.0).abs().max_element() < 0.04, "{shown} {brought}");
    // The same is said of what is drawn without pictures.
    let recoloured = sheets.recoloured(patch.colour, patch.earths, &means);
    assert!((recoloured / (brought * light) - 1.0).abs().max_element() < 1e-3);
    assert_eq!(Sheets::usual().recoloured(patch.colour, patch.earths, &means), patch.colour);
}

#[test]
fn the_smallest_and_the_blackest_pictures_are_taken() {
    for level in [0.0, 1.0] {
        for side in [1, 2, 257] {
            let pixels = picture(side, side, |_| [level; 3]);
            let all = || Some(raster(&pixels, side));
            let mut sheets = Sheets::usual();
            sheets.wear(4, &worn(raster(&pixels, side), all(), all()));
            let (n, means) = (Vec3::new(0.6, 0.8, 0.0), [Vec3::splat(0.2); 5]);
            let laid = on_ground(&sheets, Vec3::ONE, n, &bare([0.0, 0.0, 0.0, 0.0, 1.0], &means), 1.0);
            assert!(
                laid.tone.is_finite() && laid.tilt.is_finite() && laid.tone.min_element() >= 0.0,
                "{laid:?}"
            );
        }
    }
}
