//! `RKRD`: a quantity of the ground, for laying it over the ground in the view.

use super::ground::thinned;
use super::{Steps, head};
use rookery_core::ground::{GroundRef, Reading, Scale};
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
/// ground's own buffer (`RKGR`) has, or at the vertices of a mesh (`RKMG`), all in one row, f32. The histogram counts all samples of
/// a terrain, the true area of a mesh.
pub fn encode_reading(ground: &GroundRef<'_>, reading: Reading, values: &[f32]) -> Vec<u8> {
    let thin = match ground {
        GroundRef::Terrain(t) => Some(thinned(&t.terrain)),
        GroundRef::Mesh(_) => None,
    };
    let (nx, nz) = thin.as_ref().map_or((values.len(), 1), |t| (t.nx, t.nz));
    let info = Head {
        nx,
        nz,
        reading,
        unit: reading.unit(),
        scale: reading.scale(),
        histogram: (&ground.reading_histogram(reading, values)).into(),
    };
    let mut out = head(b"RKRD", &info, nx * nz * 4);
    match thin {
        Some(thin) => out.extend(thin.samples().flat_map(|i| values[i].to_le_bytes())),
        None => out.extend_from_slice(bytemuck::cast_slice(values)),
    }
    out
}
