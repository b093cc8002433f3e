//! What a mesh holds and what is odd about it, before it is used.

use super::MeshFile;
use glam::{DVec3, Vec3};
use rayon::prelude::*;
use rookery_core::ground::mesh::weld;
use serde::{Deserialize, Serialize};

/// A part of a mesh file.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct PartInspection {
    /// What it is called to people; no two parts have the same.
    pub label: String,
    /// What the file calls it; empty when it does not.
    pub name: String,
    /// The material its faces name.
    pub material: String,
    /// Its triangles.
    pub triangles: usize,
}

/// Something odd about a mesh.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(tag = "finding", rename_all = "snake_case")]
pub enum MeshFinding {
    /// Faces without an area; they are left out.
    Degenerate {
        /// How many.
        count: usize,
    },
    /// Faces that are there twice.
    Duplicate {
        /// How many too many.
        count: usize,
    },
    /// Neighbouring faces that look to opposite sides.
    Flipped {
        /// Edges at which they meet.
        edges: usize,
    },
    /// A closed solid that looks inwards; it is turned over.
    InsideOut,
    /// An open surface whose faces look down, away from what is to grow on it: turned over it looks up.
    LooksDown,
    /// Edges with a face on one side only: not a closed solid.
    Open {
        /// How many.
        edges: usize,
    },
    /// So large that its unit is more likely millimetres or centimetres than metres.
    TooLarge,
    /// So small that its unit is more likely kilometres, or inches of a model.
    TooSmall,
    /// It lies far from its own origin, many times its size.
    FarOff,
    /// It is wider from south to north than it is high and flat to the north: Z may be its upright.
    MaybeZUp,
}

/// What a mesh file holds.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct MeshInspection {
    /// Vertices.
    pub vertices: usize,
    /// Triangles.
    pub triangles: usize,
    /// Lowest corner, in the file's own unit and axes.
    pub low: [f32; 3],
    /// Highest corner.
    pub high: [f32; 3],
    /// Its parts.
    pub parts: Vec<PartInspection>,
    /// What is odd about it.
    pub findings: Vec<MeshFinding>,
}

/// Looks a mesh over.
pub fn inspect_mesh(mesh: &MeshFile) -> MeshInspection {
    let corners = || mesh.parts.iter().flat_map(|p| &p.indices).map(|i| mesh.positions[*i as usize]);
    let (low, high) = corners().fold((Vec3::INFINITY, Vec3::NEG_INFINITY), |(l, h), p| (l.min(p), h.max(p)));
    let parts = mesh
        .parts
        .iter()
        .zip(mesh.labels())
        .map(|(p, label)| PartInspection {
            label,
            name: p.name.clone(),
            material: p.material.clone(),
            triangles: p.indices.len() / 3,
        })
        .collect();
    MeshInspection {
        vertices: mesh.positions.len(),
        triangles: mesh.triangles(),
        low: low.to_array(),
        high: high.to_array(),
        parts,
        findings: findings(mesh, low, high),
    }
}

fn findings(mesh: &MeshFile, low: Vec3, high: Vec3) -> Vec<MeshFinding> {
    let mut out = Vec::new();
    let faces = Faces::new(mesh);
    if faces.degenerate > 0 {
        out.push(MeshFinding::Degenerate { count: faces.degenerate });
    }
    if faces.duplicate > 0 {
        out.push(MeshFinding::Duplicate { count: faces.duplicate });
    }
    if faces.flipped > 0 {
        out.push(MeshFinding::Flipped { edges: faces.flipped });
    }
    if faces.open > 0 {
        out.push(MeshFinding::Open { edges: faces.open });
    } else if faces.flipped == 0 && volume(mesh) < 0.0 {
        out.push(MeshFinding::InsideOut);
    }
    let size = (high - low).max_element();
    if size > 2000.0 {
        out.push(MeshFinding::TooLarge);
    } else if size < 0.02 {
        out.push(MeshFinding::TooSmall);
    }
    let extent = high - low;
    let z_up = low.z.abs() < extent.z * 0.02 && low.y.abs() > extent.y * 0.2 && extent.z > 0.0;
    if faces.open > 0 && faces.flipped == 0 && faces_up(mesh, if z_up { Vec3::Z } else { Vec3::Y }) < DOWN {
        out.push(MeshFinding::LooksDown);
    }
    if ((low + high) * 0.5).length() > size * 20.0 {
        out.push(MeshFinding::FarOff);
    }
    if z_up {
        out.push(MeshFinding::MaybeZUp);
    }
    out
}

/// A surface of which so much looks down was turned over by a program on its way: three quarters of it, seen from above. Common practice.
const DOWN: f64 = -0.5;

/// How far a surface looks up as it is seen from above: 1 where all faces do, -1 where none does.
fn faces_up(mesh: &MeshFile, up: Vec3) -> f64 {
    let (mut sum, mut whole) = (0.0, 0.0);
    for t in mesh.parts.iter().flat_map(|p| p.indices.chunks_exact(3)) {
        let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[t[i] as usize]);
        let seen = f64::from((b - a).cross(c - a).dot(up));
        sum += seen;
        whole += seen.abs();
    }
    if whole > 0.0 { sum / whole } else { 0.0 }
}

/// Whether a mesh is a closed solid that looks inwards.
pub(super) fn inside_out(mesh: &MeshFile) -> bool {
    let faces = Faces::new(mesh);
    faces.open == 0 && faces.flipped == 0 && volume(mesh) < 0.0
}

#[derive(Default)]
struct Faces {
    degenerate: usize,
    duplicate: usize,
    flipped: usize,
    open: usize,
}

impl Faces {
    fn new(mesh: &MeshFile) -> Self {
        let welded = weld(&mesh.positions);
        let all = mesh.parts.iter().flat_map(|p| p.indices.chunks_exact(3));
        let mut out = Self::default();
        // Sorted corners first, so that the same face is beside itself; then the corners in order.
        let mut faces: Vec<([u32; 3], [u32; 3])> = Vec::with_capacity(mesh.triangles());
        for t in all {
            let t = [0, 1, 2].map(|i| welded[t[i] as usize]);
            let [a, b, c] = t.map(|i| mesh.positions[i as usize]);
            if t[0] == t[1] || t[1] == t[2] || t[2] == t[0] || (b - a).cross(c - a).length_squared() <= 0.0 {
                out.degenerate += 1;
                continue;
            }
            let mut sorted = t;
            sorted.sort_unstable();
            faces.push((sorted, t));
        }
        faces.par_sort_unstable();
        let whole = faces.len();
        faces.dedup_by_key(|(sorted, _)| *sorted);
        out.duplicate = whole - faces.len();
        // Low end, high end, and whether it is walked downwards.
        let mut edges: Vec<(u32, u32, bool)> = faces
            .par_iter()
            .flat_map_iter(|(_, t)| [(t[0], t[1]), (t[1], t[2]), (t[2], t[0])])
            .map(|(from, to)| (from.min(to), from.max(to), from > to))
            .collect();
        edges.par_sort_unstable();
        for edge in edges.chunk_by(|a, b| (a.0, a.1) == (b.0, b.1)) {
            match (edge.len(), edge.iter().filter(|e| e.2).count()) {
                (1, _) => out.open += 1,
                (2, 0 | 2) => out.flipped += 1,
                _ => {}
            }
        }
        out
    }
}

/// The volume inside, from the divergence theorem; below zero when faces look inwards.
fn volume(mesh: &MeshFile) -> f64 {
    let middle = mesh.positions.first().map_or(DVec3::ZERO, |p| p.as_dvec3());
    let at = |i: u32| mesh.positions[i as usize].as_dvec3() - middle;
    let faces = mesh.parts.iter().flat_map(|p| p.indices.chunks_exact(3));
    faces.map(|t| at(t[0]).dot(at(t[1]).cross(at(t[2])))).sum::<f64>() / 6.0
}
