//! Triangle meshes from files: OBJ, PLY (ascii and binary) and GLB.
//!
//! Readers keep the file's parts (groups, objects, primitives) apart, and check counts before memory is spent.

mod check;
mod cut;
mod glb;
mod mend;
mod obj;
mod pictures;
mod ply;
mod put;
mod species;

pub use check::{MeshFinding, MeshInspection, PartInspection, inspect_mesh};
pub use put::{placed_mesh, placed_surface};
pub use species::{Measured, PictureSize, SpeciesFileError, hold, measure};

use cut::cut;
use glam::{Vec2, Vec3};
use rookery_core::nursery::Picture;
use std::collections::BTreeMap;
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
    /// A picture in it cannot be read.
    #[error("its picture {number} cannot be read: {why}")]
    BadPicture {
        /// Counted from 1.
        number: usize,
        /// The reason.
        why: String,
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
    /// What its material looks like, where looks were read.
    pub look: PartLook,
}

/// What the material of a part looks like.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct PartLook {
    /// Reflectance, linear; none when the file does not say.
    pub colour: Option<Vec3>,
    /// The picture that lies on it, by its place in [`MeshFile::pictures`].
    pub picture: Option<usize>,
    /// Whether it is seen from both sides.
    pub double_sided: bool,
}

/// A mesh as the file has it, in the file's own unit and axes.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct MeshFile {
    /// Places of all vertices.
    pub positions: Vec<Vec3>,
    /// At least one, none of them empty.
    pub parts: Vec<MeshPart>,
    /// Normals at the vertices as the file has them; empty when it has none or looks were not read.
    pub normals: Vec<Vec3>,
    /// Reflectance at the vertices, linear; empty as `normals` are.
    pub colours: Vec<Vec3>,
    /// Places in the pictures, from the upper left corner; empty as `normals` are.
    pub uvs: Vec<Vec2>,
    /// Pictures of its materials.
    pub pictures: Vec<Picture>,
    /// What the file has and is not read, for people; nothing when looks were not read.
    pub left_out: Vec<String>,
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

/// Reads the faces of a mesh, telling its kind from its first bytes. Looks are passed over.
///
/// # Errors
/// [`MeshError`].
pub fn read_mesh(bytes: &[u8]) -> Result<MeshFile, MeshError> {
    read(bytes, Builder::default())
}

/// Reads a mesh with its places in pictures, but none of the pictures.
///
/// # Errors
/// [`MeshError`].
pub fn read_mesh_and_uvs(bytes: &[u8]) -> Result<MeshFile, MeshError> {
    read(bytes, Builder { looks: true, ..Builder::default() })
}

/// Reads a mesh with normals, colours and pictures.
///
/// # Errors
/// [`MeshError`], also when a picture cannot be read.
pub fn read_mesh_and_looks(bytes: &[u8]) -> Result<MeshFile, MeshError> {
    let mut mesh = read(bytes, Builder { looks: true, pictures: true, ..Builder::default() })?;
    let count = mesh.positions.len();
    // Vertices that the file says nothing about lie at the end.
    let fill = |list: &mut Vec<Vec3>, with| {
        if !list.is_empty() {
            list.resize(count, with);
        }
    };
    fill(&mut mesh.normals, Vec3::ZERO);
    fill(&mut mesh.colours, Vec3::ONE);
    if !mesh.uvs.is_empty() {
        mesh.uvs.resize(count, Vec2::ZERO);
    }
    Ok(mesh)
}

fn read(bytes: &[u8], builder: Builder) -> Result<MeshFile, MeshError> {
    let mut mesh = if bytes.starts_with(b"glTF") {
        glb::read(bytes, builder)?
    } else if bytes.starts_with(b"ply\n") || bytes.starts_with(b"ply\r\n") {
        ply::read(bytes, builder)?
    } else if obj::looks_like(bytes) {
        obj::read(bytes, builder)?
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
    /// Parts by name and material.
    known: BTreeMap<(String, String), usize>,
    /// The part that faces go into.
    current: usize,
    triangles: usize,
    /// Whether normals, colours and places in pictures are wanted.
    looks: bool,
    /// Whether the pictures themselves are.
    pictures: bool,
}

impl Builder {
    fn vertex(&mut self, p: Vec3) -> Result<(), MeshError> {
        if self.mesh.positions.len() >= MOST_VERTICES {
            return Err(MeshError::TooMuch { what: "vertices", limit: MOST_VERTICES });
        }
        self.mesh.positions.push(p);
        Ok(())
    }

    /// Sets what the last vertex looks like; those before it that were not told keep what `fill` of the reader says.
    fn dress(&mut self, normal: Option<Vec3>, colour: Option<Vec3>, uv: Option<Vec2>) {
        let count = self.mesh.positions.len();
        let put = |list: &mut Vec<Vec3>, value: Option<Vec3>, with: Vec3| {
            if let Some(value) = value {
                list.resize(count.saturating_sub(1), with);
                list.push(value);
            }
        };
        put(&mut self.mesh.normals, normal, Vec3::ZERO);
        put(&mut self.mesh.colours, colour, Vec3::ONE);
        if let Some(uv) = uv {
            self.mesh.uvs.resize(count.saturating_sub(1), Vec2::ZERO);
            self.mesh.uvs.push(uv);
        }
    }

    fn left_out(&mut self, what: &str) {
        if self.looks && !self.mesh.left_out.iter().any(|w| w == what) {
            self.mesh.left_out.push(what.to_owned());
        }
    }

    fn part(&mut self, name: &str, material: &str) -> Result<(), MeshError> {
        let short = |text: &str| text.chars().filter(|c| !c.is_control()).take(80).collect::<String>();
        let key = (short(name), short(material));
        // The same group again goes on where it was.
        if let Some(known) = self.known.get(&key) {
            self.current = *known;
            return Ok(());
        }
        if self.mesh.parts.len() >= MOST_PARTS {
            return Err(MeshError::TooMuch { what: "parts", limit: MOST_PARTS });
        }
        self.current = self.mesh.parts.len();
        let (name, material) = key.clone();
        self.known.insert(key, self.current);
        self.mesh.parts.push(MeshPart { name, material, ..MeshPart::default() });
        Ok(())
    }

    /// The part that faces go into.
    fn current(&mut self) -> &mut MeshPart {
        &mut self.mesh.parts[self.current]
    }

    /// A face as triangles, into the current part.
    fn face(&mut self, corners: &[u32]) -> Result<(), MeshError> {
        self.triangles += corners.len().saturating_sub(2);
        if self.triangles > MOST_TRIANGLES {
            return Err(MeshError::TooMuch { what: "triangles", limit: MOST_TRIANGLES });
        }
        if self.mesh.parts.is_empty() {
            self.part("", "")?;
        }
        let triangles = cut(corners, &self.mesh.positions);
        self.current().indices.extend(triangles.into_iter().flatten());
        Ok(())
    }
}
