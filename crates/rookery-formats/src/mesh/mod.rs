//! Triangle meshes from files: OBJ, PLY (ascii and binary) and GLB.
//!
//! Readers keep the file's parts (groups, objects, primitives) apart, and check counts before memory is spent.

mod check;
mod glb;
mod obj;
mod ply;

pub use check::{MeshFinding, MeshInspection, PartInspection, inspect_mesh};

use glam::Vec3;
use rookery_core::scene::{MeshPlacing, UpAxis};
use thiserror::Error;

/// Triangles of one file, at most.
pub const MOST_TRIANGLES: usize = 6_000_000;
/// Vertices of one file, at most.
pub const MOST_VERTICES: usize = 12_000_000;
/// Corners of one face, at most.
const MOST_CORNERS: usize = 4096;
/// Parts of one file, at most.
const MOST_PARTS: usize = 4096;

/// Why a file cannot be read as a mesh. The file itself is untouched.
#[derive(Debug, Error)]
pub enum MeshError {
    /// The file is of no known kind.
    #[error("this is none of the kinds that meshes are read from: OBJ, PLY, GLB")]
    Unknown,
    /// A line is wrong.
    #[error("line {line}: {problem}")]
    BadLine {
        /// Counted from 1.
        line: usize,
        /// What is wrong with it.
        problem: String,
    },
    /// A byte of a binary part is wrong or missing.
    #[error("byte {offset}: {problem}")]
    BadByte {
        /// Counted from 0.
        offset: usize,
        /// What is wrong.
        problem: String,
    },
    /// The GLB cannot be read.
    #[error("the GLB cannot be read: {0}")]
    BadGlb(String),
    /// More than can be held.
    #[error("it has more than {limit} {what}; simplify it first")]
    TooMuch {
        /// Kind of thing.
        what: &'static str,
        /// Allowed.
        limit: usize,
    },
    /// There is no face in the file.
    #[error("the file has no faces")]
    Empty,
}

/// A part of a mesh with its own name, for instance a group of an OBJ.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct MeshPart {
    /// What the file calls it; empty when it does not.
    pub name: String,
    /// The material its faces name; empty when they name none.
    pub material: String,
    /// Three a triangle, into the vertices of the whole mesh.
    pub indices: Vec<u32>,
}

/// A mesh as the file has it, in the file's own unit and axes.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct MeshFile {
    /// Places of all vertices.
    pub positions: Vec<Vec3>,
    /// At least one, none of them empty.
    pub parts: Vec<MeshPart>,
}

impl MeshFile {
    /// Triangles of all parts.
    pub fn triangles(&self) -> usize {
        self.parts.iter().map(|p| p.indices.len() / 3).sum()
    }
}

/// Reads a mesh, telling its kind from its first bytes.
///
/// # Errors
/// [`MeshError`].
pub fn read_mesh(bytes: &[u8]) -> Result<MeshFile, MeshError> {
    let mut mesh = if bytes.starts_with(b"glTF") {
        glb::read(bytes)?
    } else if bytes.starts_with(b"ply\n") || bytes.starts_with(b"ply\r\n") {
        ply::read(bytes)?
    } else if obj::looks_like(bytes) {
        obj::read(bytes)?
    } else {
        return Err(MeshError::Unknown);
    };
    mesh.parts.retain(|p| !p.indices.is_empty());
    if mesh.parts.is_empty() {
        return Err(MeshError::Empty);
    }
    Ok(mesh)
}

/// The mesh in metres with Y up, as its placing says, its base on the origin when it is to be brought there, broken
/// faces left out and flat normals at the corners of each face.
pub fn placed_mesh(file: &MeshFile, placing: &MeshPlacing) -> rookery_core::nursery::Mesh {
    let turned = |p: Vec3| match placing.up {
        UpAxis::Y => p * placing.unit_m,
        // East stays, north (+Y) becomes -Z.
        UpAxis::Z => Vec3::new(p.x, p.z, -p.y) * placing.unit_m,
    };
    let mut positions: Vec<Vec3> = file.positions.iter().map(|p| turned(*p)).collect();
    if placing.recentre {
        let (mut low, mut high) = (Vec3::INFINITY, Vec3::NEG_INFINITY);
        for i in file.parts.iter().flat_map(|p| &p.indices) {
            let p = positions[*i as usize];
            (low, high) = (low.min(p), high.max(p));
        }
        let base = Vec3::new((low.x + high.x) * 0.5, low.y, (low.z + high.z) * 0.5);
        positions.iter_mut().for_each(|p| *p -= base);
    }
    let turn_over = placing.turn_over ^ check::inside_out(file);
    let mut mesh = rookery_core::nursery::Mesh::default();
    for (number, part) in file.parts.iter().enumerate() {
        // Parts differ a little in tone, so that they can be told apart.
        let tone = 1.0 + 0.12 * ((number * 5 % 7) as f32 / 3.0 - 1.0);
        let colour = Vec3::new(0.20, 0.19, 0.175) * tone;
        for t in part.indices.chunks_exact(3) {
            let mut corners = [0, 1, 2].map(|i| positions[t[i] as usize]);
            if turn_over {
                corners.swap(1, 2);
            }
            let normal = (corners[1] - corners[0]).cross(corners[2] - corners[0]);
            if normal.length_squared() <= 0.0 || !normal.is_finite() {
                continue;
            }
            let normal = normal.normalize_or(Vec3::Y);
            let first = mesh.positions.len() as u32;
            mesh.positions.extend(corners);
            mesh.normals.extend([normal; 3]);
            mesh.colours.extend([colour; 3]);
            mesh.indices.extend([first, first + 1, first + 2]);
        }
    }
    mesh
}

/// Grows a mesh face by face, keeping to the limits.
#[derive(Default)]
struct Builder {
    mesh: MeshFile,
    triangles: usize,
}

impl Builder {
    fn vertex(&mut self, p: Vec3) -> Result<(), MeshError> {
        if self.mesh.positions.len() >= MOST_VERTICES {
            return Err(MeshError::TooMuch { what: "vertices", limit: MOST_VERTICES });
        }
        self.mesh.positions.push(p);
        Ok(())
    }

    fn part(&mut self, name: &str, material: &str) -> Result<(), MeshError> {
        let short = |text: &str| text.chars().filter(|c| !c.is_control()).take(80).collect::<String>();
        let (name, material) = (short(name), short(material));
        // The same group again goes on where it was.
        if let Some(known) = self.mesh.parts.iter().position(|p| p.name == name && p.material == material) {
            let last = self.mesh.parts.len() - 1;
            self.mesh.parts.swap(known, last);
            return Ok(());
        }
        if self.mesh.parts.len() >= MOST_PARTS {
            return Err(MeshError::TooMuch { what: "parts", limit: MOST_PARTS });
        }
        self.mesh.parts.push(MeshPart { name, material, indices: Vec::new() });
        Ok(())
    }

    /// A face as a fan of triangles, into the last part.
    fn face(&mut self, corners: &[u32]) -> Result<(), MeshError> {
        self.triangles += corners.len().saturating_sub(2);
        if self.triangles > MOST_TRIANGLES {
            return Err(MeshError::TooMuch { what: "triangles", limit: MOST_TRIANGLES });
        }
        if self.mesh.parts.is_empty() {
            self.part("", "")?;
        }
        let part = self.mesh.parts.last_mut().expect("one was just made");
        for i in 2..corners.len() {
            part.indices.extend([corners[0], corners[i - 1], corners[i]]);
        }
        Ok(())
    }
}
