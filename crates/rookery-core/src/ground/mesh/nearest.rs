//! The point of a mesh nearest to a point, by looking at every triangle.

use super::{MeshModel, MeshSpot};
use crate::math::mesh_distance::closest_on_triangle;
use glam::Vec3;
use rayon::prelude::*;

pub(super) fn nearest(model: &MeshModel, point: Vec3) -> (MeshSpot, f32) {
    let faces = model.mesh.indices.len() as u32 / 3;
    let found = (0..faces).into_par_iter().map(|face| {
        let [a, b, c] = model.corners(face).map(|i| model.mesh.positions[i]);
        let (v, w) = closest_on_triangle(point, a, b, c);
        let away_2 = (a * (1.0 - v - w) + b * v + c * w).distance_squared(point);
        (away_2, face, v, w)
    });
    let best = found.min_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
    let (away_2, face, v, w) = best.expect("a mesh ground has at least one face");
    (model.spot_on(face, v, w), away_2.sqrt())
}
