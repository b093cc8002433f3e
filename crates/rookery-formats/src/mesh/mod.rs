//! Triangle meshes from files: OBJ, PLY (ascii and binary) and GLB.
//!
//! Readers keep the file's parts (groups, objects, primitives) apart, and check counts before memory is spent.

mod check;
mod glb;
mod mend;
mod obj;
mod ply;
mod put;

pub use check::{MeshFinding, MeshInspection, PartInspection, inspect_mesh};
pub use put::{placed_mesh, placed_surface};

use glam::Vec3;
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
    /// What each part is called to people: by its name, its material, both where others have the same, or its number.
    pub fn labels(&self) -> Vec<String> {
        let plain = |p: &MeshPart| if p.name.is_empty() { p.material.clone() } else { p.name.clone() };
        let mut taken = std::collections::BTreeSet::new();
        let mut label = |(i, p): (usize, &MeshPart)| {
            let both = format!("{}, {}", p.name, p.material);
            let numbered =
                |n: usize| format!("{} {n}", if plain(p).is_empty() { "Part".into() } else { plain(p) });
            let mut choices = [plain(p), both].into_iter().filter(|l| !l.is_empty() && l != ", ");
            let free = choices.find(|l| !taken.contains(l));
            let label = free.unwrap_or_else(|| {
                (i + 1..).map(numbered).find(|l| !taken.contains(l)).expect("numbers do not end")
            });
            let label: String = label.chars().take(80).collect();
            taken.insert(label.clone());
            label
        };
        self.parts.iter().enumerate().map(&mut label).collect()
    }

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
