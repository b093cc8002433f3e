//! `RKGR`: a ground as the view draws it.

use super::{Steps, head};
use rayon::prelude::*;
use rookery_core::ground::{GroundModel, Terrain};
use serde::Serialize;

/// Most samples sent along a side. Finer grounds are thinned for the view; plants and stills use all of them.
pub const VIEW_SAMPLES: usize = 257;

#[derive(Serialize)]
struct Head {
    nx: usize,
    nz: usize,
    /// Width and depth of the whole ground, metres.
    size_m: [f32; 2],
    /// Every how many samples one is sent.
    step: usize,
    low_m: f32,
    high_m: f32,
    water_m: Option<f32>,
    slope: Steps,
    altitude: Steps,
}

/// Head: `{nx, nz, size_m, step, low_m, high_m, water_m, slope, altitude}`, the last two being histograms
/// `{low, high, areas_m2}`. Arrays, `nx * nz` long each, row by row from the north-west corner:
///
/// | array | type | meaning |
/// |---|---|---|
/// | height | f32 | metres |
/// | slope | f32 | degrees, by Horn on the full ground |
/// | colour | 4 x u8 | reflectance, square-root coded so that dark earths keep their steps; the fourth is 255 |
/// | earths | 4 x u8 | how much peat, sand, shingle and rock lies there, in 255ths; the rest is turf |
///
/// The last row and column are those of the full ground, whatever the step.
pub fn encode_ground(ground: &GroundModel) -> Vec<u8> {
    let t = &ground.terrain;
    let thin = thinned(t);
    let (nx, nz, step) = (thin.nx, thin.nz, thin.step);
    let (slopes, altitudes) = ground.histograms();
    let (low_m, high_m) = (altitudes.low - ground.base_m, altitudes.high - ground.base_m);
    let info = Head {
        nx,
        nz,
        size_m: t.size_m().to_array(),
        step,
        low_m,
        high_m,
        water_m: ground.water_m,
        slope: slopes.into(),
        altitude: altitudes.into(),
    };
    let mut out = head(b"RKGR", &info, nx * nz * 16);
    out.extend(thin.samples().flat_map(|i| t.heights_zx()[i].to_le_bytes()));
    out.extend(thin.samples().flat_map(|i| ground.slope_deg[i].to_le_bytes()));
    let samples: Vec<usize> = thin.samples().collect();
    let colours: Vec<[f32; 3]> = samples.par_iter().map(|i| ground.colour_of(*i)).collect();
    out.extend(colours.into_iter().flat_map(|colour| {
        let [r, g, b] = colour.map(|c| (c.clamp(0.0, 1.0).sqrt() * 255.0).round() as u8);
        [r, g, b, 255]
    }));
    let earths: Vec<[u8; 4]> = samples.par_iter().map(|i| ground.earths_of(*i)).collect();
    out.extend(earths.into_iter().flatten());
    out
}

/// The samples of a ground that go to the view.
pub(super) struct Thinned {
    pub nx: usize,
    pub nz: usize,
    pub step: usize,
    full: (usize, usize),
}

/// Evenly laid over the full width, so that the ground keeps its true size.
pub(super) fn thinned(t: &Terrain) -> Thinned {
    let step = (t.nx().max(t.nz()) - 1).div_ceil(VIEW_SAMPLES - 1).max(1);
    let count = |n: usize| ((n - 1) / step).max(1) + 1;
    Thinned { nx: count(t.nx()), nz: count(t.nz()), step, full: (t.nx(), t.nz()) }
}

impl Thinned {
    /// Their numbers in the full ground, row by row.
    pub fn samples(&self) -> impl Iterator<Item = usize> + use<> {
        let (nx, nz, full) = (self.nx, self.nz, self.full);
        let place = |i: usize, n: usize, of: usize| (i * (of - 1) + (n - 1) / 2) / (n - 1);
        (0..nz).flat_map(move |row| {
            (0..nx).map(move |column| place(row, nz, full.1) * full.0 + place(column, nx, full.0))
        })
    }
}
