//! GLB: the triangles of the default scene, through the `gltf` crate, with the transforms of their nodes.

use super::pictures::{Dress, Pictures};
use super::{Builder, MOST_TRIANGLES, MOST_VERTICES, MeshError, MeshFile, PartLook};
use glam::Mat4;
use gltf::accessor::DataType::{F32, U8, U16, U32};
use gltf::accessor::Dimensions::{Scalar, Vec2, Vec3, Vec4};
use gltf::mesh::Mode;
use gltf::{Gltf, Node, Semantic};

/// Nodes below one another, at most.
const MOST_DEPTH: usize = 64;
/// Primitives looked at, at most: a mesh may be shown by many nodes.
const MOST_PRIMITIVES: usize = 200_000;

pub(super) fn read(bytes: &[u8], mut builder: Builder) -> Result<MeshFile, MeshError> {
    let bad = |e: &dyn std::fmt::Display| MeshError::BadGlb(e.to_string());
    // The crate takes the stated length for one that holds a head.
    let stated = bytes.get(8..12).map_or(0, |b| u32::from_le_bytes([b[0], b[1], b[2], b[3]]) as usize);
    if !(20..=bytes.len()).contains(&stated) {
        return Err(bad(&format!("it states a length of {stated} bytes and has {}", bytes.len())));
    }
    check_positions(&Gltf::from_slice_without_validation(bytes).map_err(|e| bad(&e))?)?;
    let file = Gltf::from_slice(bytes).map_err(|e| bad(&e))?;
    let blob = file.blob.as_deref().unwrap_or_default();
    for buffer in file.buffers() {
        if !matches!(buffer.source(), gltf::buffer::Source::Bin) {
            return Err(bad(&"its numbers lie in other files; save it with everything inside"));
        }
        if buffer.length() > blob.len() {
            return Err(bad(&format!(
                "it states {} bytes of numbers and has {}",
                buffer.length(),
                blob.len()
            )));
        }
    }
    check_accessors(&file, blob.len())?;
    check_kinds(&file)?;
    check_pictures(&file)?;
    let scene =
        file.default_scene().or_else(|| file.scenes().next()).ok_or_else(|| bad(&"it has no scene"))?;
    let mut pictures = Pictures::default();
    let mut seen = Seen { nodes: vec![false; file.nodes().len()], primitives: 0 };
    for node in scene.nodes() {
        walk(&node, Mat4::IDENTITY, 0, blob, &mut builder, &mut pictures, &mut seen)?;
    }
    Ok(builder.mesh)
}

/// Numbers of the kinds that the format allows for what they are (glTF 2.0, 3.7.2.1): the crate counts on that.
fn check_kinds(file: &Gltf) -> Result<(), MeshError> {
    let primitives = file.meshes().flat_map(|mesh| mesh.primitives());
    for primitive in primitives {
        let corners = primitive.indices().map(|a| ("corners", a, &[Scalar][..], &[U8, U16, U32][..]));
        let attributes = primitive.attributes().filter_map(|(semantic, a)| match semantic {
            Semantic::Positions => Some(("places", a, &[Vec3][..], &[F32][..])),
            Semantic::Normals => Some(("normals", a, &[Vec3], &[F32])),
            Semantic::Tangents => Some(("tangents", a, &[Vec4], &[F32])),
            Semantic::Colors(_) => Some(("colours", a, &[Vec3, Vec4], &[F32, U8, U16])),
            Semantic::TexCoords(_) => Some(("places in pictures", a, &[Vec2], &[F32, U8, U16])),
            // What moves bodies, and what others have of their own, is not read.
            Semantic::Joints(_) | Semantic::Weights(_) | Semantic::Extras(_) => None,
        });
        for (what, accessor, shapes, kinds) in corners.into_iter().chain(attributes) {
            if !shapes.contains(&accessor.dimensions()) || !kinds.contains(&accessor.data_type()) {
                return Err(MeshError::BadGlb(format!(
                    "accessor {} has numbers of a kind that {what} cannot have",
                    accessor.index()
                )));
            }
        }
    }
    Ok(())
}

/// Pictures say where they lie and of what kind they are (glTF 2.0, 5.18): the crate counts on that.
fn check_pictures(file: &Gltf) -> Result<(), MeshError> {
    let unclear = |image: &gltf::json::Image| match image.buffer_view {
        Some(_) => image.mime_type.is_none(),
        None => image.uri.is_none(),
    };
    match file.as_json().images.iter().position(unclear) {
        Some(number) => Err(MeshError::BadGlb(format!(
            "picture {number} does not say where it lies and of what kind it is"
        ))),
        None => Ok(()),
    }
}

/// Places are looked up while a file is validated, before their number is (gltf-json 1.4.1 panics over one that is not there).
fn check_positions(file: &Gltf) -> Result<(), MeshError> {
    let root = file.as_json();
    let places = root.meshes.iter().flat_map(|m| &m.primitives).flat_map(|p| p.attributes.values());
    match places.map(|accessor| accessor.value()).find(|number| *number >= root.accessors.len()) {
        Some(number) => {
            Err(MeshError::BadGlb(format!("it names accessor {number} and has {}", root.accessors.len())))
        }
        None => Ok(()),
    }
}

/// Every accessor lies within its view and every view within the numbers, so that none of them can be read beyond.
fn check_accessors(file: &Gltf, length: usize) -> Result<(), MeshError> {
    for view in file.views() {
        if view.offset().saturating_add(view.length()) > length {
            return Err(MeshError::BadGlb(format!("view {} reaches beyond the end", view.index())));
        }
    }
    for accessor in file.accessors() {
        let number = accessor.index();
        if accessor.sparse().is_some() {
            return Err(MeshError::BadGlb(format!("accessor {number} is sparse; save it without")));
        }
        let Some(view) = accessor.view() else {
            return Err(MeshError::BadGlb(format!("accessor {number} has no numbers")));
        };
        let stride = view.stride().unwrap_or(accessor.size()).max(1);
        let last = accessor.count().saturating_sub(1).saturating_mul(stride);
        let end = accessor.offset().saturating_add(last).saturating_add(accessor.size());
        if accessor.count() > 0 && end > view.length() {
            return Err(MeshError::BadGlb(format!("accessor {number} reaches beyond its view")));
        }
    }
    Ok(())
}

/// What was looked at, so that a small file cannot make much of itself by naming the same again and again.
struct Seen {
    nodes: Vec<bool>,
    primitives: usize,
}

impl Seen {
    /// Source: glTF 2.0, section 3.5.2: the nodes of a file are trees that have no node in common.
    fn node(&mut self, node: &Node<'_>) -> Result<(), MeshError> {
        if std::mem::replace(&mut self.nodes[node.index()], true) {
            let number = node.index();
            return Err(MeshError::BadGlb(format!("node {number} hangs below more than one other")));
        }
        Ok(())
    }

    fn primitive(&mut self) -> Result<(), MeshError> {
        self.primitives += 1;
        let limit = MOST_PRIMITIVES;
        if self.primitives > limit { Err(MeshError::TooMuch { what: "primitives", limit }) } else { Ok(()) }
    }
}

fn walk(
    node: &Node<'_>,
    above: Mat4,
    depth: usize,
    blob: &[u8],
    builder: &mut Builder,
    pictures: &mut Pictures,
    seen: &mut Seen,
) -> Result<(), MeshError> {
    seen.node(node)?;
    if depth > MOST_DEPTH {
        return Err(MeshError::BadGlb(format!("its nodes are nested more than {MOST_DEPTH} deep")));
    }
    let place = above * Mat4::from_cols_array_2d(&node.transform().matrix());
    if let Some(mesh) = node.mesh() {
        for primitive in mesh.primitives() {
            seen.primitive()?;
            if primitive.mode() != Mode::Triangles {
                continue;
            }
            let reader = primitive.reader(|_| Some(blob));
            let Some(positions) = reader.read_positions() else { continue };
            let first = builder.mesh.positions.len();
            let count = primitive.get(&gltf::Semantic::Positions).map_or(0, |a| a.count());
            if first + count > MOST_VERTICES {
                return Err(MeshError::TooMuch { what: "vertices", limit: MOST_VERTICES });
            }
            let look = if builder.pictures {
                pictures.look(&primitive, blob, builder)?
            } else {
                PartLook::default()
            };
            let mut dress = Dress::new(&primitive, place, blob, builder.looks);
            for p in positions {
                let p = place.transform_point3(glam::Vec3::from(p));
                if !p.is_finite() {
                    return Err(MeshError::BadGlb("a vertex is not a finite number".to_owned()));
                }
                builder.vertex(p)?;
                dress.next(builder);
            }
            let count = builder.mesh.positions.len() - first;
            let name = node.name().or(mesh.name()).unwrap_or_default();
            builder.part(name, primitive.material().name().unwrap_or_default())?;
            builder.current().look = look;
            let corners: Vec<u32> = match reader.read_indices() {
                Some(list) => list.into_u32().take(MOST_TRIANGLES * 3 + 3).collect(),
                None => (0..count as u32).collect(),
            };
            // A mirrored node turns its faces over.
            let mirrored = place.determinant() < 0.0;
            for t in corners.chunks_exact(3) {
                if t.iter().any(|i| *i as usize >= count) {
                    return Err(MeshError::BadGlb(format!(
                        "a triangle names vertex {} of {count}",
                        t.iter().max().unwrap_or(&0)
                    )));
                }
                let t = [t[0], t[1], t[2]].map(|i| i + first as u32);
                builder.face(&if mirrored { [t[0], t[2], t[1]] } else { t })?;
            }
        }
    }
    for child in node.children() {
        walk(&child, place, depth + 1, blob, builder, pictures, seen)?;
    }
    Ok(())
}
