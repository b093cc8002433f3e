//! A mesh file as it stands in a scene: its unit, upright and origin, mended where that was asked for.

use super::{MeshFile, check, mend};
use glam::Vec3;
use rookery_core::ground::{MeshGroundError, MeshSurface};
use rookery_core::nursery::Mesh;
use rookery_core::scene::{MeshPlacing, UpAxis};
use std::borrow::Cow;

/// The mesh of an obstacle in metres with Y up, as its placing says, its base on the origin when it is to be brought there,
/// broken faces left out and flat normals at the corners of each face.
pub fn placed_mesh(file: &MeshFile, placing: &MeshPlacing) -> Mesh {
    let (file, positions) = put(file, placing);
    let mut mesh = Mesh::default();
    for (number, part) in file.parts.iter().enumerate() {
        // Parts differ a little in tone, so that they can be told apart.
        let tone = 1.0 + 0.12 * ((number * 5 % 7) as f32 / 3.0 - 1.0);
        let colour = Vec3::new(0.20, 0.19, 0.175) * tone;
        for t in part.indices.chunks_exact(3) {
            let corners = [0, 1, 2].map(|i| positions[t[i] as usize]);
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

/// A mesh to grow on, in metres with Y up, as its placing says. Its parts become face groups; of several only those named
/// in `parts` are taken, all when none is named.
///
/// # Errors
/// When none of the named parts is there.
pub fn placed_surface(
    file: &MeshFile,
    placing: &MeshPlacing,
    parts: &[String],
) -> Result<MeshSurface, MeshGroundError> {
    let mut file = Cow::Borrowed(file);
    let mut labels = file.labels();
    if !parts.is_empty() {
        let kept: Vec<bool> = labels.iter().map(|l| parts.contains(l)).collect();
        let whole = file.to_mut();
        let mut each = kept.iter();
        whole.parts.retain(|_| *each.next().expect("one for each part"));
        let mut each = kept.iter();
        labels.retain(|_| *each.next().expect("one for each part"));
    }
    if file.parts.is_empty() {
        return Err(MeshGroundError::NoSuchPart(parts.join(", ")));
    }
    let (file, positions) = put(&file, placing);
    let mut surface = MeshSurface { positions, groups: labels, ..MeshSurface::default() };
    for (number, part) in file.parts.iter().enumerate() {
        surface.indices.extend(&part.indices);
        if !file.uvs.is_empty() {
            let uv = |i: &u32| file.uvs.get(*i as usize).copied().unwrap_or_default();
            surface.uvs.extend(part.indices.chunks_exact(3).map(|t| [uv(&t[0]), uv(&t[1]), uv(&t[2])]));
        }
        if file.parts.len() > 1 {
            surface.group_of.extend(std::iter::repeat_n(number as u16, part.indices.len() / 3));
        }
    }
    Ok(surface)
}

/// The faces looking outwards as far as was asked for, and the vertices where they belong.
pub(super) fn put<'a>(file: &'a MeshFile, placing: &MeshPlacing) -> (Cow<'a, MeshFile>, Vec<Vec3>) {
    let mut file = Cow::Borrowed(file);
    if placing.mend {
        mend::mend(file.to_mut());
    }
    if placing.turn_over ^ check::inside_out(&file) {
        file.to_mut().parts.iter_mut().for_each(|p| p.indices.chunks_exact_mut(3).for_each(|t| t.swap(1, 2)));
    }
    let turned = |p: &Vec3| match placing.up {
        UpAxis::Y => *p * placing.unit_m,
        // East stays, north (+Y) becomes -Z.
        UpAxis::Z => Vec3::new(p.x, p.z, -p.y) * placing.unit_m,
    };
    let mut positions: Vec<Vec3> = file.positions.iter().map(turned).collect();
    if placing.recentre {
        let (mut low, mut high) = (Vec3::INFINITY, Vec3::NEG_INFINITY);
        for i in file.parts.iter().flat_map(|p| &p.indices) {
            let p = positions[*i as usize];
            (low, high) = (low.min(p), high.max(p));
        }
        let base = Vec3::new((low.x + high.x) * 0.5, low.y, (low.z + high.z) * 0.5);
        positions.iter_mut().for_each(|p| *p -= base);
    }
    (file, positions)
}
