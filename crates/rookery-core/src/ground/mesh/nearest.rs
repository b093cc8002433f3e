//! The point of a mesh nearest to a point, by looking at every triangle.

use super::{MeshModel, MeshSpot};
use glam::Vec3;
use rayon::prelude::*;

pub(super) fn nearest(model: &MeshModel, point: Vec3) -> (MeshSpot, f32) {
    let faces = model.mesh.indices.len() as u32 / 3;
    let found = (0..faces).into_par_iter().map(|face| {
        let [a, b, c] = model.corners(face).map(|i| model.mesh.positions[i]);
        let (v, w) = closest(point, a, b, c);
        let away_2 = (a * (1.0 - v - w) + b * v + c * w).distance_squared(point);
        (away_2, face, v, w)
    });
    let best = found.min_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
    let (away_2, face, v, w) = best.expect("a mesh ground has at least one face");
    (model.spot_on(face, v, w), away_2.sqrt())
}

/// Shares of the second and third corner at the point of a triangle nearest to `p`.
///
/// Source: Ericson, Real-Time Collision Detection, 2005, section 5.1.5.
fn closest(p: Vec3, a: Vec3, b: Vec3, c: Vec3) -> (f32, f32) {
    let (ab, ac, ap) = (b - a, c - a, p - a);
    let (d1, d2) = (ab.dot(ap), ac.dot(ap));
    if d1 <= 0.0 && d2 <= 0.0 {
        return (0.0, 0.0);
    }
    let bp = p - b;
    let (d3, d4) = (ab.dot(bp), ac.dot(bp));
    if d3 >= 0.0 && d4 <= d3 {
        return (1.0, 0.0);
    }
    let vc = d1 * d4 - d3 * d2;
    if vc <= 0.0 && d1 >= 0.0 && d3 <= 0.0 {
        return (d1 / (d1 - d3), 0.0);
    }
    let cp = p - c;
    let (d5, d6) = (ab.dot(cp), ac.dot(cp));
    if d6 >= 0.0 && d5 <= d6 {
        return (0.0, 1.0);
    }
    let vb = d5 * d2 - d1 * d6;
    if vb <= 0.0 && d2 >= 0.0 && d6 <= 0.0 {
        return (0.0, d2 / (d2 - d6));
    }
    let va = d3 * d6 - d5 * d4;
    let (e, f) = (d4 - d3, d5 - d6);
    if va <= 0.0 && e >= 0.0 && f >= 0.0 {
        let w = e / (e + f);
        return (1.0 - w, w);
    }
    let sum = 1.0 / (va + vb + vc);
    (vb * sum, vc * sum)
}
