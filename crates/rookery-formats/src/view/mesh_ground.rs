//! `RKMG`: a mesh ground as the view draws it, in its own frame.

use super::{Steps, head};
use rookery_core::ground::MeshModel;
use rookery_core::nursery::Dress;
use serde::Serialize;

#[derive(Serialize)]
struct Head<'a> {
    vertices: usize,
    triangles: usize,
    /// Lowest and highest corner, metres.
    low_m: [f32; 3],
    high_m: [f32; 3],
    area_m2: f64,
    groups: &'a [String],
    slope: Steps,
    altitude: Steps,
}

/// Head: `{vertices, triangles, low_m, high_m, area_m2, groups, slope, altitude}`, the last two being histograms
/// `{low, high, areas_m2}` of true area. Arrays:
///
/// | array | type | meaning |
/// |---|---|---|
/// | position | vertices x 3 x f32 | metres, in the ground's own frame |
/// | normal | vertices x 3 x f32 | unit |
/// | colour | vertices x 4 x u8 | reflectance, square-root coded; the fourth is 255 |
/// | earths | vertices x 4 x u8 | how much peat, sand, shingle and rock lies there, in 255ths; the rest is turf |
/// | slope | vertices x f32 | degrees, 0 to 180 |
/// | altitude | vertices x f32 | metres |
/// | index | triangles x 3 x u32 | counter-clockwise seen from outside |
pub fn encode_mesh_ground(model: &MeshModel) -> Vec<u8> {
    let mesh = &model.mesh;
    let (low, high) = mesh.bounds();
    let info = Head {
        vertices: mesh.positions.len(),
        triangles: mesh.triangles(),
        low_m: low.to_array(),
        high_m: high.to_array(),
        area_m2: model.true_area_m2(),
        groups: &model.groups,
        slope: (&model.slope_histogram).into(),
        altitude: (&model.altitude_histogram).into(),
    };
    let mut out = head(b"RKMG", &info, info.vertices * 40 + info.triangles * 12);
    for list in [&mesh.positions, &mesh.normals] {
        for v in list {
            out.extend_from_slice(bytemuck::bytes_of(&v.to_array()));
        }
    }
    out.extend(mesh.colours.iter().flat_map(|colour| {
        let [r, g, b] = colour.to_array().map(|c| (c.clamp(0.0, 1.0).sqrt() * 255.0).round() as u8);
        [r, g, b, 255]
    }));
    match &*mesh.dress {
        Dress::Ground(earths) => out.extend_from_slice(bytemuck::cast_slice(earths)),
        _ => out.resize(out.len() + info.vertices * 4, 0),
    }
    out.extend_from_slice(bytemuck::cast_slice(&model.slopes_deg()));
    out.extend_from_slice(bytemuck::cast_slice(&model.altitudes_m()));
    out.extend_from_slice(bytemuck::cast_slice(&mesh.indices));
    out
}
