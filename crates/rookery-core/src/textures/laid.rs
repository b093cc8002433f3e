//! How textures lie on what is drawn. The view has the same in `glsl.rs`.

use super::sheets::lighter;
use super::{Sheets, Texel, Texture};
use glam::{Vec2, Vec3, vec2};

/// Where two earths meet, what stands higher shows over the other: how sharply.
pub(super) const SOFTNESS: f32 = 5.0;
/// Grains of their own show nearer than this, metres.
pub(super) const GRIT_WITHIN_M: f32 = 9.0;
/// So many times the size of a picture away, none of its relief is left.
pub(super) const RELIEF_FADES: f32 = 90.0;
/// Rock shows its beds rather than what is walked on: its normal is taken for so much less upright.
pub(super) const FACE_SHOWS: f32 = 0.62;
/// Shares of axes are smaller by this, those of earths by the second: what hardly shows is not looked at.
pub(super) const LEAST_WAY: f32 = 0.05;
pub(super) const LEAST_EARTH: f32 = 0.08;
/// Pictures on the two sides are aside by so much, so that no edge is a mirror, metres.
pub(super) const ASIDE_M: [f32; 2] = [0.37, 0.71];
/// On what is built so much of the grains shows.
pub(super) const BUILT_GRIT: f32 = 0.6;

/// What textures do to a surface at a point.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LaidOn {
    /// What its colour is multiplied with.
    pub tone: Vec3,
    /// Added to its unit normal, which is made one again.
    pub tilt: Vec3,
    /// How glossy it is, 0 to 1.
    pub shine: f32,
}

impl LaidOn {
    const NOTHING: Self = Self { tone: Vec3::ONE, tilt: Vec3::ZERO, shine: 0.0 };
}

/// Ground at a point, before textures.
#[derive(Clone, Copy, Debug)]
pub struct Bare<'a> {
    /// Its reflectance, linear RGB.
    pub colour: Vec3,
    /// How much of each earth lies there, in the order of their numbers.
    pub earths: [f32; 5],
    /// Their usual mean colours.
    pub means: &'a [Vec3; 5],
}

/// On ground: `p` and the unit normal `n` in the frame of the ground at rest; seen from so far `away_m`.
pub fn on_ground(sheets: &Sheets, p: Vec3, n: Vec3, bare: &Bare<'_>, away_m: f32) -> LaidOn {
    let shares = the_most(bare.earths, LEAST_EARTH);
    let shown = || shares.into_iter().enumerate().filter(|(_, share)| *share > 0.0);
    let usual =
        shown().map(|(k, share)| bare.means[k] * share).sum::<Vec3>() / shown().map(|s| s.1).sum::<f32>();
    let (hue, light) = (bare.colour / usual, lighter(bare.colour, usual));
    let (mut colour, mut tilt) = (Vec3::ZERO, Vec3::ZERO);
    let (mut all, mut shine) = (0.0, 0.0);
    for (k, share) in shown() {
        let top = Texture::ALL[k];
        let (side, facing) = match top {
            Texture::Rock => (Texture::Face, n * Vec3::new(1.0, FACE_SHOWS, 1.0)),
            _ => (top, n),
        };
        let (texel, leans) = two_ways(sheets, p, facing, top, side, away_m);
        let shows = share * libm::exp2f(SOFTNESS * (texel.height - 0.5));
        let patch = if sheets.wears(k) { Vec3::splat(light) } else { hue };
        colour += sheets.mean(k, bare.means[k]) * patch * texel.tone * shows;
        shine += texel.shine * shows;
        tilt += leans * shows;
        all += shows;
    }
    if all <= 0.0 {
        return LaidOn::NOTHING;
    }
    let tone = colour / all / bare.colour.max(Vec3::splat(1e-6));
    gritted(sheets, LaidOn { tone, tilt: tilt / all, shine: shine / all }, p, n, away_m)
}

/// On a stone, in its own frame: metres, and the unit normal.
pub fn on_stone(sheets: &Sheets, p: Vec3, n: Vec3, away_m: f32) -> LaidOn {
    let (texel, tilt) = two_ways(sheets, p, n, Texture::Rock, Texture::Rock, away_m);
    gritted(sheets, LaidOn { tone: texel.tone, tilt, shine: texel.shine }, p, n, away_m)
}

/// On what is built, at a place of one of its faces, metres along the level and up it; `n` is its unit normal.
pub fn on_built(sheets: &Sheets, place_m: Vec2, texture: Texture, n: Vec3, away_m: f32) -> LaidOn {
    let sheet = sheets.of(texture);
    let texel = sheet.at(place_m);
    let along = level_along(n);
    let up = n.cross(along);
    let relief = relief(sheet.size_m, away_m);
    let tilt = -(along * texel.slope.x + up * texel.slope.y) * relief;
    let mut laid = LaidOn { tone: texel.tone, tilt, shine: sheet.shine };
    let much = grit(away_m);
    if much > 0.0 {
        let grain = sheets.of(Texture::Grit).at(place_m);
        laid.tone *= Vec3::ONE + (grain.tone - 1.0) * (BUILT_GRIT * much);
        laid.tilt -= (along * grain.slope.x + up * grain.slope.y) * (BUILT_GRIT * much);
    }
    laid
}

/// The level direction along a face, eastwards on one that lies flat.
pub fn level_along(n: Vec3) -> Vec3 {
    if n.y.abs() > 0.99 { Vec3::X } else { Vec3::Y.cross(n).normalize() }
}

/// A place of a flat face: metres along the level and up it.
pub fn place_on(p: Vec3, n: Vec3) -> Vec2 {
    let along = level_along(n);
    vec2(p.dot(along), p.dot(n.cross(along)))
}

/// Pictures laid along the two axes that a surface faces most; and how they tilt its normal.
fn two_ways(
    sheets: &Sheets,
    p: Vec3,
    facing: Vec3,
    top: Texture,
    side: Texture,
    away_m: f32,
) -> (Texel, Vec3) {
    let weights = facing * facing;
    let weights = weights * weights;
    let weights = Vec3::from(the_most((weights / weights.element_sum()).to_array(), LEAST_WAY));
    let weights = weights / weights.element_sum();
    let mut found = Texel { tone: Vec3::ZERO, height: 0.0, slope: Vec2::ZERO, shine: 0.0 };
    let mut tilt = Vec3::ZERO;
    let ways = [
        (weights.y, top, vec2(p.x, p.z)),
        (weights.x, side, vec2(p.z + ASIDE_M[0], p.y)),
        (weights.z, side, vec2(p.x + ASIDE_M[1], p.y)),
    ];
    for (axis, (weight, texture, place)) in ways.into_iter().enumerate() {
        if weight <= 0.0 {
            continue;
        }
        let sheet = sheets.of(texture);
        let texel = sheet.at(place);
        found.tone += texel.tone * weight;
        found.height += texel.height * weight;
        let left = relief(sheet.size_m, away_m);
        // From afar it is as glossy all over as it is on the whole.
        found.shine += (sheet.shine + (texel.shine - sheet.shine) * left) * weight;
        let slope = texel.slope * (weight * left);
        tilt -= match axis {
            0 => Vec3::new(slope.x, 0.0, slope.y),
            1 => Vec3::new(0.0, slope.y, slope.x),
            _ => Vec3::new(slope.x, slope.y, 0.0),
        };
    }
    (found, tilt)
}

/// Shares of the two that there is most of: smaller by that of the third, so that none comes or goes at a stroke, and by `least` at least.
fn the_most<const N: usize>(shares: [f32; N], least: f32) -> [f32; N] {
    let mut sorted = shares;
    sorted.sort_by(|a, b| b.total_cmp(a));
    let least = least.max(sorted[2]);
    let mut left = shares.map(|share| (share - least).max(0.0));
    if let Some(most) = shares.iter().position(|share| *share == sorted[0]) {
        left[most] += 1e-4;
    }
    left
}

/// Grains over what is laid, seen from near by.
fn gritted(sheets: &Sheets, laid: LaidOn, p: Vec3, n: Vec3, away_m: f32) -> LaidOn {
    let much = grit(away_m);
    if much <= 0.0 {
        return laid;
    }
    // From the side it faces most: nobody sees where that changes.
    let w = n.abs();
    let (place, [u, v]) = if w.y > w.x.max(w.z) {
        (vec2(p.x, p.z), [Vec3::X, Vec3::Z])
    } else if w.x > w.z {
        (vec2(p.z, p.y), [Vec3::Z, Vec3::Y])
    } else {
        (vec2(p.x, p.y), [Vec3::X, Vec3::Y])
    };
    let grain = sheets.of(Texture::Grit).at(place);
    LaidOn {
        tone: laid.tone * (Vec3::ONE + (grain.tone - 1.0) * much),
        tilt: laid.tilt - (u * grain.slope.x + v * grain.slope.y) * much,
        shine: laid.shine,
    }
}

fn grit(away_m: f32) -> f32 {
    (1.0 - away_m / GRIT_WITHIN_M).max(0.0)
}

/// How much of a picture's relief is left at a distance.
fn relief(size_m: f32, away_m: f32) -> f32 {
    let left = (1.0 - away_m / (RELIEF_FADES * size_m)).max(0.0);
    left * left
}
