//! The nap of the ground: the fine cover that every earth brings by itself near the eye. A sward of short grass, litter, pebbles and shells: a function of place alone,
//! never a layer to manage. It is only seen; nothing stands on it and nothing gives way to it.

mod forms;
mod places;
mod shade;

pub use forms::{COLOUR_SCALE, FORMS, form};
pub use places::{Tuft, about, tile};
pub use shade::{above, glsl, leaf_area, passes};

use crate::document::Earth;
use glam::Vec3;

/// What it consists of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Nap {
    /// Short grass with dead blades among it.
    Sward,
    /// Straw, twigs and moss.
    Litter,
    /// Shells, pebbles and straw.
    Strand,
    /// Pebbles of all sizes.
    Pebbles,
    /// Crumbs of stone, and moss in places.
    Crumbs,
}

impl Nap {
    /// All, in the order of their numbers.
    pub const ALL: [Self; 5] = [Self::Sward, Self::Litter, Self::Strand, Self::Pebbles, Self::Crumbs];

    /// What an earth brings.
    pub fn of(earth: Earth) -> Self {
        match earth {
            Earth::Turf => Self::Sward,
            Earth::Peat => Self::Litter,
            Earth::Sand => Self::Strand,
            Earth::Shingle => Self::Pebbles,
            Earth::Rock => Self::Crumbs,
        }
    }

    /// Its number, 0 to 4.
    pub fn number(self) -> u8 {
        self as u8
    }

    /// Share of the places that bear any.
    fn share(self) -> f32 {
        match self {
            Self::Sward => 1.0,
            Self::Litter => 0.85,
            Self::Strand => 0.16,
            Self::Pebbles => 0.7,
            Self::Crumbs => 0.14,
        }
    }
}

/// Side of a square of the plan that is asked for at once, metres.
pub const TILE_M: f32 = 16.0;
/// So near the eye it is as dense as it gets, metres.
pub const WHOLE_M: f32 = 13.0;
/// From here on there is none: its colour is the ground's own, metres.
pub const REACH_M: f32 = 40.0;
/// Nearer than this it is drawn with all its blades, and nearer than this lightly, metres; with a handful beyond.
pub const DETAIL_M: [f32; 2] = [4.0, 12.0];

/// Share of it that is there at a distance from the eye: all of it near by, none from `REACH_M` on.
pub fn share_at(away_m: f32) -> f32 {
    let t = ((REACH_M - away_m) / (REACH_M - WHOLE_M)).clamp(0.0, 1.0);
    t * t
}

/// Size of a tuft of a rank, 0 to 1, at a distance from the eye against its own size; 0 where it is left out. They grow out of the ground, so that nobody sees one come.
pub fn size_at(rank: f32, away_m: f32) -> f32 {
    ((share_at(away_m) - rank) * 8.0).clamp(0.0, 1.0)
}

/// Tiles that lie within reach of an eye, west to east, then north to south.
pub fn tiles_about(eye: Vec3) -> Vec<[i32; 2]> {
    let index = |v: f32| (v / TILE_M).floor() as i32;
    let rows = index(eye.z - REACH_M)..=index(eye.z + REACH_M);
    rows.flat_map(|z| (index(eye.x - REACH_M)..=index(eye.x + REACH_M)).map(move |x| [x, z]))
        .filter(|[x, z]| {
            let (low_x, low_z) = (*x as f32 * TILE_M, *z as f32 * TILE_M);
            let dx = eye.x - eye.x.clamp(low_x, low_x + TILE_M);
            let dz = eye.z - eye.z.clamp(low_z, low_z + TILE_M);
            dx * dx + dz * dz < REACH_M * REACH_M
        })
        .collect()
}
