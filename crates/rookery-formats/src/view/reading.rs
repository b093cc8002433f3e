//! `RKRD`: a quantity of the ground, for laying it over the ground in the view.

use super::ground::thinned;
use super::{Steps, head};
use rookery_core::ground::{Reading, Scale, Terrain};
use serde::Serialize;

#[derive(Serialize)]
struct Head {
    nx: usize,
    nz: usize,
    reading: Reading,
    unit: &'static str,
    scale: Scale,
    histogram: Steps,
}

/// Head: `{nx, nz, reading, unit, scale, histogram}`. One array, `nx * nz` long: the value at the samples that the
/// ground's own buffer (`RKGR`) has, f32. The histogram counts all samples of the ground.
pub fn encode_reading(terrain: &Terrain, reading: Reading, values: &[f32]) -> Vec<u8> {
    let thin = thinned(terrain);
    let info = Head {
        nx: thin.nx,
        nz: thin.nz,
        reading,
        unit: reading.unit(),
        scale: reading.scale(),
        histogram: (&reading.histogram(terrain, values)).into(),
    };
    let mut out = head(b"RKRD", &info, thin.nx * thin.nz * 4);
    out.extend(thin.samples().flat_map(|i| values[i].to_le_bytes()));
    out
}
