//! Mending a mesh: faces that are there twice are left out, and neighbours made to look to the same side.

use super::MeshFile;
use glam::DVec3;
use rookery_core::ground::mesh::weld;
use std::collections::BTreeSet;

/// A face by its part, its place there and its welded corners.
struct Face {
    part: usize,
    at: usize,
    corners: [u32; 3],
}

/// Leaves out degenerate faces and repeats, then turns faces so that each piece looks to one side: outwards where it is
/// closed, as most of its area did where it is open. Faces about an edge that more than two share are left as they are.
pub(super) fn mend(mesh: &mut MeshFile) {
    let welded = weld(&mesh.positions);
    let mut seen = BTreeSet::new();
    for part in &mut mesh.parts {
        let mut kept = Vec::with_capacity(part.indices.len());
        for t in part.indices.chunks_exact(3) {
            let mut corners = [0, 1, 2].map(|i| welded[t[i] as usize]);
            corners.sort_unstable();
            if corners[0] != corners[1] && corners[1] != corners[2] && seen.insert(corners) {
                kept.extend_from_slice(t);
            }
        }
        part.indices = kept;
    }
    let mut faces: Vec<Face> = Vec::new();
    for (number, part) in mesh.parts.iter().enumerate() {
        for (at, t) in part.indices.chunks_exact(3).enumerate() {
            faces.push(Face { part: number, at, corners: [0, 1, 2].map(|i| welded[t[i] as usize]) });
        }
    }
    let turn = turns(&faces, &mesh.positions);
    for (face, turn) in faces.iter().zip(turn) {
        if turn {
            mesh.parts[face.part].indices[face.at * 3..face.at * 3 + 3].swap(1, 2);
        }
    }
    mesh.parts.retain(|p| !p.indices.is_empty());
}

/// Which faces must be turned over.
fn turns(faces: &[Face], positions: &[glam::Vec3]) -> Vec<bool> {
    // Low end, high end, face, and whether the face walks it downwards.
    let mut edges: Vec<(u32, u32, u32, bool)> = Vec::with_capacity(faces.len() * 3);
    for (f, face) in faces.iter().enumerate() {
        let [a, b, c] = face.corners;
        edges.extend([(a, b), (b, c), (c, a)].map(|(x, y)| (x.min(y), x.max(y), f as u32, x > y)));
    }
    edges.sort_unstable();
    let mut neighbours: Vec<Vec<(u32, bool)>> = vec![Vec::new(); faces.len()];
    let mut open = vec![false; faces.len()];
    for edge in edges.chunk_by(|a, b| (a.0, a.1) == (b.0, b.1)) {
        if let [x, y] = edge {
            // Walked the same way by both: one of them must be turned.
            let differ = x.3 == y.3;
            neighbours[x.2 as usize].push((y.2, differ));
            neighbours[y.2 as usize].push((x.2, differ));
        } else {
            edge.iter().for_each(|e| open[e.2 as usize] = true);
        }
    }
    let mut turn = vec![None; faces.len()];
    for first in 0..faces.len() {
        if turn[first].is_some() {
            continue;
        }
        turn[first] = Some(false);
        let mut piece = vec![first];
        let mut next = 0;
        while next < piece.len() {
            let face = piece[next];
            next += 1;
            for &(other, differ) in &neighbours[face] {
                let other = other as usize;
                if turn[other].is_none() {
                    turn[other] = turn[face].map(|t| t ^ differ);
                    piece.push(other);
                }
            }
        }
        let turned = |f: usize| turn[f] == Some(true);
        let over = if piece.iter().any(|f| open[*f]) {
            let area = |f: &usize| cross(&faces[*f], positions, DVec3::ZERO).0.length();
            let whole: f64 = piece.iter().map(area).sum();
            piece.iter().filter(|f| turned(**f)).map(area).sum::<f64>() > whole * 0.5
        } else {
            let middle = positions[faces[first].corners[0] as usize].as_dvec3();
            let volume =
                |f: &usize| cross(&faces[*f], positions, middle).1 * if turned(*f) { -1.0 } else { 1.0 };
            piece.iter().map(volume).sum::<f64>() < 0.0
        };
        if over {
            piece.iter().for_each(|f| turn[*f] = turn[*f].map(|t| !t));
        }
    }
    turn.into_iter().map(|t| t == Some(true)).collect()
}

/// Twice the area of a face along its normal, and six times the volume between it and a point.
fn cross(face: &Face, positions: &[glam::Vec3], from: DVec3) -> (DVec3, f64) {
    let [a, b, c] = face.corners.map(|i| positions[i as usize].as_dvec3() - from);
    ((b - a).cross(c - a), a.dot(b.cross(c)))
}
