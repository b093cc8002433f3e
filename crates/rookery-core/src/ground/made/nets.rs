//! A closed mesh from a field that is below zero inside a solid.
//!
//! Source: surface nets, Gibson, "Constrained Elastic Surface Nets", MICCAI 1998: one vertex in each cell that the surface
//! passes through, at the mean of where it crosses the cell's edges; four of them about each crossed edge are a face.

use crate::ground::MeshSurface;
use glam::{IVec3, Vec3};
use rayon::prelude::*;

/// The surface of a field within a box. The field must be above zero on the box's sides, so that the solid is closed.
pub(super) fn surface(low: Vec3, high: Vec3, cell_m: f32, field: impl Fn(Vec3) -> f32 + Sync) -> MeshSurface {
    let cells: IVec3 = ((high - low) / cell_m).ceil().as_ivec3().max(IVec3::ONE);
    let points = cells + 1;
    let at = |p: IVec3| low + p.as_vec3() * cell_m;
    let values: Vec<Vec<f32>> = (0..points.z)
        .into_par_iter()
        .map(|z| {
            let row = (0..points.y).flat_map(move |y| (0..points.x).map(move |x| IVec3::new(x, y, z)));
            row.map(|p| field(at(p))).collect()
        })
        .collect();
    let value = |p: IVec3| values[p.z as usize][(p.y * points.x + p.x) as usize];
    let number = |p: IVec3| ((p.z * cells.y + p.y) * cells.x + p.x) as usize;
    let mut vertex_of = vec![u32::MAX; (cells.x * cells.y * cells.z) as usize];
    let mut mesh = MeshSurface::default();
    for z in 0..cells.z {
        for y in 0..cells.y {
            for x in 0..cells.x {
                let cell = IVec3::new(x, y, z);
                if let Some(place) = crossing(cell, &value) {
                    vertex_of[number(cell)] = mesh.positions.len() as u32;
                    mesh.positions.push(low + place * cell_m);
                }
            }
        }
    }
    for z in 0..cells.z {
        for y in 0..cells.y {
            for x in 0..cells.x {
                let p = IVec3::new(x, y, z);
                for axis in 0..3 {
                    face(p, axis, &value, |q| vertex_of[number(q)], &mut mesh.indices);
                }
            }
        }
    }
    mesh
}

const CORNERS: [IVec3; 8] = [
    IVec3::new(0, 0, 0),
    IVec3::new(1, 0, 0),
    IVec3::new(0, 1, 0),
    IVec3::new(1, 1, 0),
    IVec3::new(0, 0, 1),
    IVec3::new(1, 0, 1),
    IVec3::new(0, 1, 1),
    IVec3::new(1, 1, 1),
];

/// The mean of where the surface crosses the edges of a cell, in cells; none when it does not.
fn crossing(cell: IVec3, value: &impl Fn(IVec3) -> f32) -> Option<Vec3> {
    let values = CORNERS.map(|c| value(cell + c));
    let inside = values.iter().filter(|v| **v < 0.0).count();
    if inside == 0 || inside == 8 {
        return None;
    }
    let (mut sum, mut count) = (Vec3::ZERO, 0.0);
    for (a, corner) in CORNERS.iter().enumerate() {
        for axis in 0..3 {
            let b = a | 1 << axis;
            let (va, vb) = (values[a], values[b]);
            if b != a && (va < 0.0) != (vb < 0.0) {
                sum += corner.as_vec3().lerp(CORNERS[b].as_vec3(), va / (va - vb));
                count += 1.0;
            }
        }
    }
    Some(cell.as_vec3() + sum / count)
}

/// The two triangles about the edge from `p` along an axis, when the surface crosses it.
fn face(
    p: IVec3,
    axis: usize,
    value: &impl Fn(IVec3) -> f32,
    vertex: impl Fn(IVec3) -> u32,
    indices: &mut Vec<u32>,
) {
    let along = IVec3::AXES[axis];
    let (u, v) = (IVec3::AXES[(axis + 1) % 3], IVec3::AXES[(axis + 2) % 3]);
    // Cells on both sides of the edge are needed; the field is above zero on the outermost.
    if p.dot(u) == 0 || p.dot(v) == 0 {
        return;
    }
    let (here, there) = (value(p) < 0.0, value(p + along) < 0.0);
    if here == there {
        return;
    }
    let mut corners = [vertex(p - u - v), vertex(p - v), vertex(p), vertex(p - u)];
    if there {
        corners.reverse();
    }
    indices.extend([corners[0], corners[1], corners[2], corners[0], corners[2], corners[3]]);
}

#[cfg(test)]
pub(super) mod tests {
    use super::*;
    use std::collections::BTreeMap;

    /// Volume by the divergence theorem; above zero when faces look outwards.
    pub fn volume(mesh: &MeshSurface) -> f32 {
        let at = |i: u32| mesh.positions[i as usize];
        mesh.indices.chunks_exact(3).map(|t| at(t[0]).dot(at(t[1]).cross(at(t[2])))).sum::<f32>() / 6.0
    }

    /// Every edge is walked once each way.
    pub fn is_closed(mesh: &MeshSurface) -> bool {
        let mut edges = BTreeMap::<(u32, u32), i32>::new();
        for t in mesh.indices.chunks_exact(3) {
            for (a, b) in [(t[0], t[1]), (t[1], t[2]), (t[2], t[0])] {
                *edges.entry((a.min(b), a.max(b))).or_default() += if a < b { 1 } else { -1 };
            }
        }
        edges.values().all(|v| *v == 0)
    }

    #[test]
    fn a_ball_is_closed_looks_outwards_and_has_its_volume() {
        let mesh = surface(Vec3::splat(-3.0), Vec3::splat(3.0), 0.1, |p| p.length() - 2.0);
        assert!(is_closed(&mesh));
        let exact = 4.0 / 3.0 * std::f32::consts::PI * 8.0;
        assert!((volume(&mesh) / exact - 1.0).abs() < 0.01, "{} against {exact}", volume(&mesh));
        assert!(mesh.positions.iter().all(|p| (p.length() - 2.0).abs() < 0.02));
    }
}
