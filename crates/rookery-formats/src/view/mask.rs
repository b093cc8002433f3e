//! `RKMK`: the quantity of one mask over a ground, for its curve and for laying it over the ground.

use super::ground::thinned;
use super::{Steps, head};
use rookery_core::ground::GroundRef;
use rookery_core::habitat::{spread, values_at};
use rookery_core::planting::Rules;
use serde::Serialize;

#[derive(Serialize)]
struct Head {
    count: usize,
    histogram: Steps,
    unknown_m2: f64,
}

/// Head: `{count, histogram, unknown_m2}`. One array of `count` f32: the quantity of the mask at the place `i` of the list at
/// the samples that the ground's own buffer has (`RKGR`), or at the vertices of a mesh (`RKMG`); not a number where it is
/// unknown. The histogram counts the whole ground.
pub fn encode_mask(ground: &GroundRef<'_>, rules: &Rules, i: usize) -> Vec<u8> {
    let (values, found) = match ground {
        GroundRef::Terrain(t) => {
            let spots: Vec<_> = thinned(&t.terrain)
                .samples()
                .map(|s| {
                    let p = t.terrain.vertex(s % t.terrain.nx(), s / t.terrain.nx());
                    t.spot_at(p.x, p.z)
                })
                .collect();
            (values_at(*t, rules, i, &spots), spread(*t, rules, i))
        }
        GroundRef::Mesh(m) => (values_at(*m, rules, i, &m.vertex_spots()), spread(*m, rules, i)),
    };
    let info =
        Head { count: values.len(), histogram: (&found.histogram).into(), unknown_m2: found.unknown_m2 };
    let mut out = head(b"RKMK", &info, values.len() * 4);
    out.extend_from_slice(bytemuck::cast_slice(&values));
    out
}
