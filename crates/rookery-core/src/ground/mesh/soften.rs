//! Welding a mesh and finding its normals: soft across soft edges, apart across creases.

use super::MeshSurface;
use crate::nursery::Mesh;
use glam::{Vec2, Vec3};
use rayon::prelude::*;

/// Faces that meet at more than this are a crease: cosine of 50 degrees, by eye between a faceted ball and a box.
const CREASE: f32 = 0.642_787_6;

/// A surface made ready.
pub(super) struct Softened {
    /// Its colours are left black.
    pub mesh: Mesh,
    /// The group of each face that is left.
    pub group_of: Vec<u16>,
    /// The places in pictures of the corners of each face that is left.
    pub uvs: Vec<[Vec2; 3]>,
    /// The body of each face that is left.
    pub body_of: Vec<u32>,
}

/// The mesh with one vertex for each place and side of a crease, without faces that have no area, and each face once.
pub(super) fn soften(surface: &MeshSurface) -> Softened {
    let welded = weld(&surface.positions);
    let mut faces: Vec<[u32; 3]> = Vec::with_capacity(surface.indices.len() / 3);
    let mut normals: Vec<Vec3> = Vec::with_capacity(faces.capacity());
    let (mut group_of, mut uvs, mut body_of) = (Vec::new(), Vec::new(), Vec::new());
    let again = again(surface, &welded);
    for (i, t) in surface.indices.chunks_exact(3).enumerate() {
        if again.get(i) == Some(&true) {
            continue;
        }
        let corners = [0, 1, 2].map(|k| welded[t[k] as usize]);
        let [a, b, c] = corners.map(|k| surface.positions[k as usize]);
        // Twice the area in its length, so that large faces count for more.
        let normal = (b - a).cross(c - a);
        if normal.is_finite() && normal.length_squared() > 0.0 && normal.try_normalize().is_some() {
            faces.push(corners);
            normals.push(normal);
            group_of.extend(surface.group_of.get(i));
            uvs.extend(surface.uvs.get(i));
            body_of.extend(surface.body_of.get(i));
        }
    }
    let around = Around::new(surface.positions.len(), &faces);
    let units: Vec<Vec3> = normals.iter().map(|n| n.normalize()).collect();
    let corner_normals: Vec<[Vec3; 3]> = faces
        .par_iter()
        .enumerate()
        .map(|(f, corners)| {
            corners.map(|vertex| {
                let soft =
                    around.beside(vertex).iter().filter(|g| units[f].dot(units[**g as usize]) > CREASE);
                let sum: Vec3 = soft.map(|g| normals[*g as usize]).sum();
                sum.try_normalize().unwrap_or(units[f])
            })
        })
        .collect();
    Softened { mesh: shared(&surface.positions, &faces, &corner_normals), group_of, uvs, body_of }
}

/// Whether each face was there before, looking the same way: its ground would count twice. The two sides of a sheet are two faces. Plants
/// that others grow on are made without such faces.
fn again(surface: &MeshSurface, welded: &[u32]) -> Vec<bool> {
    if !surface.bodies.is_empty() {
        return Vec::new();
    }
    let mut faces: Vec<([u32; 3], u32)> = surface
        .indices
        .par_chunks_exact(3)
        .enumerate()
        .map(|(i, t)| {
            let mut corners = [0, 1, 2].map(|k| welded[t[k] as usize]);
            let least = (0..3).min_by_key(|k| corners[*k]).unwrap_or(0);
            corners.rotate_left(least);
            (corners, i as u32)
        })
        .collect();
    faces.par_sort_unstable();
    let mut again = vec![false; faces.len()];
    for same in faces.chunk_by(|a, b| a.0 == b.0) {
        same[1..].iter().for_each(|(_, i)| again[*i as usize] = true);
    }
    again
}

/// One vertex for every place and normal.
fn shared(positions: &[Vec3], faces: &[[u32; 3]], normals: &[[Vec3; 3]]) -> Mesh {
    let mut mesh = Mesh::default();
    // Of each place the vertices made so far, as a chain.
    let mut first = vec![u32::MAX; positions.len()];
    let mut next: Vec<u32> = Vec::new();
    for (corners, own) in faces.iter().zip(normals) {
        for (place, normal) in corners.iter().zip(own) {
            let mut vertex = first[*place as usize];
            while vertex != u32::MAX && mesh.normals[vertex as usize].distance_squared(*normal) > 1e-6 {
                vertex = next[vertex as usize];
            }
            if vertex == u32::MAX {
                vertex = mesh.vertex(positions[*place as usize], *normal, Vec3::ZERO);
                next.push(first[*place as usize]);
                first[*place as usize] = vertex;
            }
            mesh.indices.push(vertex);
        }
    }
    mesh
}

/// The faces around each vertex.
struct Around {
    starts: Vec<u32>,
    faces: Vec<u32>,
}

impl Around {
    fn new(vertices: usize, faces: &[[u32; 3]]) -> Self {
        let mut starts = vec![0_u32; vertices + 1];
        faces.iter().flatten().for_each(|v| starts[*v as usize + 1] += 1);
        for i in 0..vertices {
            starts[i + 1] += starts[i];
        }
        let mut ends = starts.clone();
        let mut list = vec![0; faces.len() * 3];
        for (f, corners) in faces.iter().enumerate() {
            for v in corners {
                list[ends[*v as usize] as usize] = f as u32;
                ends[*v as usize] += 1;
            }
        }
        Self { starts, faces: list }
    }

    fn beside(&self, vertex: u32) -> &[u32] {
        &self.faces[self.starts[vertex as usize] as usize..self.starts[vertex as usize + 1] as usize]
    }
}

/// For each vertex the first one at the same place: files often repeat them along seams.
pub fn weld(positions: &[Vec3]) -> Vec<u32> {
    // Adding zero makes one of the two zeros.
    let bits = |i: u32| (positions[i as usize] + Vec3::ZERO).to_array().map(f32::to_bits);
    let mut order: Vec<([u32; 3], u32)> =
        (0..positions.len() as u32).into_par_iter().map(|i| (bits(i), i)).collect();
    order.par_sort_unstable();
    let mut welded = vec![0; positions.len()];
    for same in order.chunk_by(|a, b| a.0 == b.0) {
        same.iter().for_each(|(_, i)| welded[*i as usize] = same[0].1);
    }
    welded
}
