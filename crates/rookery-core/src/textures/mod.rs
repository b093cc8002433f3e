//! What grounds and built things are made of, up close: a picture of each that may be laid side by side without a seam, with its colour and its relief.
//!
//! View and still read the same pictures in the same way, so that a pebble of one lies where it lies in the other.

mod courses;
mod draw;
mod earths;
mod glsl;
mod laid;
mod made;
mod sheets;
mod tiling;
mod worn;

pub use glsl::glsl;
pub use laid::{Bare, LaidOn, level_along, on_built, on_ground, on_stone, place_on};
pub use sheets::Sheets;
pub use worn::{Raster, Worn};

use glam::{Vec2, Vec3};
use rayon::prelude::*;
use std::sync::{Arc, LazyLock};

/// Samples along a side of a picture.
pub const SIDE: usize = 256;
/// Colours are kept as shares of their mean, in so many parts; nothing is lighter than twice the mean.
const PARTS: f32 = 127.5;
/// The steepest slope that is kept, metres to a metre.
const STEEPEST: f32 = 2.0;

/// Pictures are shifted by one of so many shifts, which change so many times on a metre; where two meet, from the first on over the second of the way between them.
const SHIFT_KINDS: f32 = 8.0;
const SHIFT_CELLS: f32 = 0.31;
const SHIFT_BLENDS: [f32; 2] = [0.3, 0.4];
const SALTS: [i32; 2] = [7919, 104_729];

/// What something is made of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[repr(u8)]
pub enum Texture {
    /// Flattened blades, straw and moss: what lies between the tufts of a turf.
    Turf,
    /// Crumbs, fibres and twigs.
    Peat,
    /// Ripples, grains and bits of shell.
    Sand,
    /// Pebbles of three sizes.
    Shingle,
    /// Rock that is walked on: joints, pits and lichen.
    Rock,
    /// Rock where it breaks: beds and upright joints.
    Face,
    /// Grains of anything, seen from very near.
    Grit,
    /// A wall of coursed rubble in mortar.
    Rubble,
    /// Limewashed plaster.
    Lime,
    /// Slates side by side.
    Slate,
}

impl Texture {
    /// All, in the order of their numbers.
    pub const ALL: [Self; 10] = [
        Self::Turf,
        Self::Peat,
        Self::Sand,
        Self::Shingle,
        Self::Rock,
        Self::Face,
        Self::Grit,
        Self::Rubble,
        Self::Lime,
        Self::Slate,
    ];

    /// Its number, 0 to 9.
    pub fn number(self) -> u8 {
        self as u8
    }

    /// The picture of it that is drawn here.
    pub fn sheet(self) -> &'static Sheet {
        &SHEETS[usize::from(self.number())]
    }
}

/// A picture that goes on beyond each of its edges at the opposite one.
#[derive(Clone, Debug, PartialEq)]
pub struct Sheet {
    /// How much ground it covers, metres along a side.
    pub size_m: f32,
    /// Along which of its sides it may be shifted to hide where it repeats, each 0 or 1: beds and courses stay at their height.
    pub shifts: [f32; 2],
    /// Of each of `SIDE` x `SIDE` samples its colour, as a share of the mean, 255 being twice that; then its height from the lowest to the highest.
    pub texels: Vec<[u8; 4]>,
    /// Of each how it rises along either side: 128 level, 255 and 1 the steepest; then its gloss, 0 to 255, and nothing.
    pub slopes: Vec<[u8; 4]>,
    /// Its mean gloss, 0 to 1.
    pub shine: f32,
}

static SHEETS: LazyLock<Vec<Arc<Sheet>>> =
    LazyLock::new(|| Texture::ALL.par_iter().map(|texture| Arc::new(draw::sheet(*texture))).collect());

/// A point of a picture.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Texel {
    /// Against the mean colour; its mean is 1.
    pub tone: Vec3,
    /// From the lowest, 0, to the highest, 1.
    pub height: f32,
    /// How it rises along either side, metres to a metre.
    pub slope: Vec2,
    /// How glossy, 0 to 1.
    pub shine: f32,
}

impl Texel {
    fn lerp(self, to: Self, t: f32) -> Self {
        Self {
            tone: self.tone.lerp(to.tone, t),
            height: self.height + (to.height - self.height) * t,
            slope: self.slope.lerp(to.slope, t),
            shine: self.shine + (to.shine - self.shine) * t,
        }
    }
}

impl Sheet {
    /// Its lightest tone, against the mean.
    pub fn lightest(&self) -> f32 {
        let most = self.texels.iter().flat_map(|[r, g, b, _]| [*r, *g, *b]).max().unwrap_or(0);
        f32::from(most) / PARTS
    }

    /// How a sample rises along both sides, metres to a metre.
    pub fn slope(kept: [u8; 2]) -> [f32; 2] {
        kept.map(|s| (f32::from(s) - 128.0) / 127.0 * STEEPEST)
    }

    /// What lies at a place of a surface, metres along both sides, shifted here and there so that no eye finds where it repeats.
    pub fn at(&self, place_m: Vec2) -> Texel {
        let uv = place_m / self.size_m;
        if self.shifts == [0.0; 2] {
            return self.sample(uv);
        }
        let (one, other, share) = shifts(place_m);
        let shift = Vec2::from(self.shifts);
        self.sample(uv + one * shift).lerp(self.sample(uv + other * shift), share)
    }

    /// Between the four samples about a place of the picture, its sides being 1.
    fn sample(&self, uv: Vec2) -> Texel {
        let at = uv * SIDE as f32 - 0.5;
        let (cell, t) = (at.floor(), at - at.floor());
        let texel = |dx: i32, dy: i32| {
            let wrap = |v: f32, d: i32| (v as i32).wrapping_add(d).rem_euclid(SIDE as i32) as usize;
            let i = wrap(cell.y, dy) * SIDE + wrap(cell.x, dx);
            let [r, g, b, h] = self.texels[i].map(f32::from);
            let [u, v, shine, _] = self.slopes[i];
            let (slope, shine) = (Self::slope([u, v]).into(), f32::from(shine) / 255.0);
            Texel { tone: Vec3::new(r, g, b) / PARTS, height: h / 255.0, slope, shine }
        };
        let [above, below] = [0, 1].map(|dy| texel(0, dy).lerp(texel(1, dy), t.x));
        above.lerp(below, t.y)
    }
}

/// How pictures are shifted about a place of a surface, metres: by one of two shifts, and how much of the second shows. Neighbouring places share theirs.
///
/// The view has the same: numbers are hashed in whole numbers, so that both agree.
fn shifts(place_m: Vec2) -> (Vec2, Vec2, f32) {
    let at = place_m * SHIFT_CELLS;
    let (cell, t) = (at.floor(), at - at.floor());
    let t = t * t * (Vec2::splat(3.0) - 2.0 * t);
    let value = |dx: i32, dy: i32| hashed((cell.x as i32).wrapping_add(dx), (cell.y as i32).wrapping_add(dy));
    let north = value(0, 0) + (value(1, 0) - value(0, 0)) * t.x;
    let south = value(0, 1) + (value(1, 1) - value(0, 1)) * t.x;
    let which = (north + (south - north) * t.y) * SHIFT_KINDS;
    let shift = |n: f32| Vec2::from(SALTS.map(|salt| hashed(n as i32, salt)));
    let (n, share) = (which.floor(), which - which.floor());
    let share = ((share - SHIFT_BLENDS[0]) / SHIFT_BLENDS[1]).clamp(0.0, 1.0);
    (shift(n), shift(n + 1.0), share * share * (3.0 - 2.0 * share))
}

/// A number from two whole ones, 0 to 1.
fn hashed(x: i32, y: i32) -> f32 {
    let h = (x as u32).wrapping_mul(374_761_393) ^ (y as u32).wrapping_mul(668_265_263);
    let h = (h ^ (h >> 13)).wrapping_mul(1_274_126_177);
    ((h ^ (h >> 16)) >> 8) as f32 / 16_777_216.0
}

#[cfg(test)]
mod tests;
