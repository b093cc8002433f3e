//! Finished meshes with fewer triangles.
//!
//! Edges are collapsed by quadric error (Garland & Heckbert, "Surface Simplification Using Quadric Error Metrics", SIGGRAPH
//! 1997), as the library `meshopt` does it, with normals, colours and places in pictures counted in. Foliage does not yield to
//! that: a leaf of two triangles cannot be collapsed without losing it. What then is still too much leaves whole pieces out
//! and makes the rest larger, so that the covered area stays (Cook, Halstead, Planck & Ryu, "Stochastic Simplification of
//! Aggregate Detail", SIGGRAPH 2007).

use crate::ground::mesh::weld;
use crate::math::hash::{pcg4d, unit};
use crate::nursery::{Mesh, Skin};
use glam::Vec3;
use meshopt::{SimplifyOptions, VertexDataAdapter, simplify_with_attributes_and_locks};

/// A simplified mesh.
#[derive(Clone, Debug, PartialEq)]
pub struct Simplified {
    /// The mesh itself.
    pub mesh: Mesh,
    /// How far its surface is off, metres, about; pieces that were left out are not counted in.
    pub error_m: f32,
    /// Share of the pieces that were kept, 0 to 1.
    pub kept: f32,
}

/// Normals, then colours, then the place in the picture; weights against the size of the mesh, by eye.
const WEIGHTS: [f32; 8] = [0.25, 0.25, 0.25, 0.15, 0.15, 0.15, 0.5, 0.5];
/// Collapsing may lose no more of the area than this leaves: leaves that are too small for it vanish.
const LEAST_AREA: f32 = 0.85;
/// Pieces are made larger by this, at most.
const MOST_GROWTH: f32 = 3.0;

/// A mesh with about as many triangles as asked for, or fewer where it has fewer. The same mesh gives the same result.
pub fn simplified(mesh: &Mesh, triangles: usize) -> Simplified {
    let triangles = triangles.max(1);
    if mesh.triangles() <= triangles {
        return Simplified { mesh: mesh.clone(), error_m: 0.0, kept: 1.0 };
    }
    let (indices, mut error_m) = collapsed(mesh, triangles);
    let mut kept = 1.0;
    let mut out = Mesh { indices, ..mesh.clone() };
    // A tenth more than asked for is near enough.
    let enough = |count: usize| count * 10 <= triangles * 11;
    if !enough(out.triangles()) || area(&out) < LEAST_AREA * area(mesh) {
        out = mesh.clone();
        kept = thin(&mut out, triangles as f32 / mesh.triangles() as f32);
        error_m = 0.0;
        if !enough(out.triangles()) {
            (out.indices, error_m) = collapsed(&out, triangles);
        }
    }
    if out.indices.is_empty() {
        return Simplified { mesh: mesh.clone(), error_m: 0.0, kept: 1.0 };
    }
    Simplified { mesh: compacted(&out), error_m, kept }
}

fn area(mesh: &Mesh) -> f32 {
    let corner = |i: u32| mesh.positions[i as usize];
    let face = |t: &[u32]| (corner(t[1]) - corner(t[0])).cross(corner(t[2]) - corner(t[0])).length() * 0.5;
    mesh.indices.chunks_exact(3).map(face).sum()
}

fn collapsed(mesh: &Mesh, triangles: usize) -> (Vec<u32>, f32) {
    let mut attributes = Vec::with_capacity(mesh.positions.len() * WEIGHTS.len());
    for (i, (n, c)) in mesh.normals.iter().zip(&mesh.colours).enumerate() {
        let uv = mesh.skin.as_ref().map_or([0.0; 2], |s| s.uv[i].to_array());
        attributes.extend(n.to_array().into_iter().chain(c.to_array()).chain(uv));
    }
    let positions: Vec<[f32; 3]> = mesh.positions.iter().map(Vec3::to_array).collect();
    let places = VertexDataAdapter::new(bytemuck::cast_slice(&positions), size_of::<[f32; 3]>(), 0)
        .expect("whole vertices, from the first byte");
    let locks = vec![false; mesh.positions.len()];
    let mut error_m = 0.0;
    let indices = simplify_with_attributes_and_locks(
        &mesh.indices,
        &places,
        &attributes,
        &WEIGHTS,
        WEIGHTS.len() * size_of::<f32>(),
        &locks,
        triangles * 3,
        f32::MAX,
        SimplifyOptions::ErrorAbsolute,
        Some(&mut error_m),
    );
    (indices, error_m)
}

/// Leaves pieces out so that about a share of the triangles is left; returns the share of pieces kept.
fn thin(mesh: &mut Mesh, share: f32) -> f32 {
    let piece_of = pieces(mesh);
    let count = piece_of.iter().map(|p| *p as usize + 1).max().unwrap_or(0);
    let mut areas = vec![0.0_f32; count];
    let mut middles = vec![Vec3::ZERO; count];
    let mut faces = vec![0_u32; count];
    for (t, piece) in mesh.indices.chunks_exact(3).zip(&piece_of) {
        let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[t[i] as usize]);
        let area = (b - a).cross(c - a).length();
        areas[*piece as usize] += area;
        middles[*piece as usize] += (a + b + c) / 3.0 * area;
        faces[*piece as usize] += 1;
    }
    // A stem stays however light the mesh gets.
    let whole: f32 = areas.iter().sum();
    let large = |piece: usize| areas[piece] > whole * 0.05;
    let fixed: u32 = (0..count).filter(|p| large(*p)).map(|p| faces[p]).sum();
    let (all, loose) = (mesh.triangles() as f32, mesh.triangles() as f32 - fixed as f32);
    let share = ((all * share - fixed as f32) / loose.max(1.0)).clamp(0.02, 1.0);
    let chosen: Vec<bool> =
        (0..count).map(|p| large(p) || unit(pcg4d([p as u32, 0x7468_696e, 0, 0])[0]) < share).collect();
    let growth = (1.0 / share.sqrt()).min(MOST_GROWTH);
    let mut moved = vec![false; mesh.positions.len()];
    let mut indices = Vec::new();
    for (t, piece) in mesh.indices.chunks_exact(3).zip(&piece_of) {
        let piece = *piece as usize;
        if !chosen[piece] {
            continue;
        }
        indices.extend_from_slice(t);
        for i in t.iter().map(|i| *i as usize) {
            if !large(piece) && !std::mem::replace(&mut moved[i], true) {
                let middle = middles[piece] / areas[piece].max(1e-12);
                mesh.positions[i] = middle + (mesh.positions[i] - middle) * growth;
            }
        }
    }
    mesh.indices = indices;
    chosen.iter().filter(|c| **c).count() as f32 / count.max(1) as f32
}

/// Numbers the pieces that hang together, triangle by triangle.
fn pieces(mesh: &Mesh) -> Vec<u32> {
    let welded = weld(&mesh.positions);
    let mut root: Vec<u32> = (0..mesh.positions.len() as u32).collect();
    fn find(root: &mut [u32], mut i: u32) -> u32 {
        while root[i as usize] != i {
            root[i as usize] = root[root[i as usize] as usize];
            i = root[i as usize];
        }
        i
    }
    for t in mesh.indices.chunks_exact(3) {
        let first = find(&mut root, welded[t[0] as usize]);
        for i in &t[1..] {
            let other = find(&mut root, welded[*i as usize]);
            root[other as usize] = first;
        }
    }
    let mut numbers = vec![u32::MAX; mesh.positions.len()];
    let mut next = 0;
    mesh.indices
        .chunks_exact(3)
        .map(|t| {
            let number = &mut numbers[find(&mut root, welded[t[0] as usize]) as usize];
            if *number == u32::MAX {
                *number = next;
                next += 1;
            }
            *number
        })
        .collect()
}

/// Without the vertices that no triangle names.
fn compacted(mesh: &Mesh) -> Mesh {
    let mut place = vec![u32::MAX; mesh.positions.len()];
    let mut out = Mesh { sheen: mesh.sheen, glow: mesh.glow, ..Mesh::default() };
    let mut skin = mesh.skin.as_ref().map(|s| Skin {
        uv: Vec::new(),
        picture: Vec::new(),
        pictures: s.pictures.clone(),
        repeats: s.repeats,
    });
    for i in &mesh.indices {
        let at = *i as usize;
        if place[at] == u32::MAX {
            place[at] = out.vertex(mesh.positions[at], mesh.normals[at], mesh.colours[at]);
            if !mesh.through.is_empty() {
                out.through.push(mesh.through[at]);
            }
            if let (Some(skin), Some(own)) = (&mut skin, &mesh.skin) {
                skin.uv.push(own.uv[at]);
                skin.picture.push(own.picture[at]);
            }
        }
        out.indices.push(place[at]);
    }
    out.skin = skin;
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::nursery::make::ball;
    use crate::nursery::{Detail, Season, ready};
    use glam::vec3;

    fn round() -> Mesh {
        let (directions, indices) = ball(5);
        let mut mesh = Mesh { indices, ..Mesh::default() };
        for d in directions {
            mesh.vertex(d * 2.0, d, Vec3::splat(0.5));
        }
        mesh
    }

    #[test]
    fn a_ball_keeps_its_shape_and_the_stated_error_is_about_that_of_its_surface() {
        let mesh = round();
        let light = simplified(&mesh, 800);
        assert!(light.mesh.triangles() <= 880 && light.mesh.triangles() > 600, "{}", light.mesh.triangles());
        assert_eq!(light.kept, 1.0);
        assert!((area(&light.mesh) / area(&mesh) - 1.0).abs() < 0.02);
        // How far the middles of faces lie under the ball, against what is stated.
        let off = light.mesh.indices.chunks_exact(3).map(|t| {
            let middle = t.iter().map(|i| light.mesh.positions[*i as usize]).sum::<Vec3>() / 3.0;
            2.0 - middle.length()
        });
        let worst = off.fold(0.0, f32::max);
        assert!(
            worst < light.error_m * 3.0 + 0.002 && light.error_m < 0.1,
            "{worst} against {}",
            light.error_m
        );
    }

    #[test]
    fn foliage_that_cannot_be_collapsed_is_thinned_and_covers_as_much() {
        let mut mesh = Mesh::default();
        for i in 0..4000_u32 {
            let [x, y, z, _] = pcg4d([i, 1, 2, 3]).map(unit);
            let at = vec3(x * 4.0, y * 4.0, z * 4.0);
            let first = mesh.positions.len() as u32;
            for (dx, dy) in [(0.0, 0.0), (0.05, 0.0), (0.05, 0.08), (0.0, 0.08)] {
                mesh.vertex(at + vec3(dx, dy, 0.0), Vec3::Z, Vec3::splat(0.2));
            }
            mesh.indices.extend([0, 1, 2, 0, 2, 3].map(|k| first + k));
        }
        let light = simplified(&mesh, 1000);
        let count = light.mesh.triangles();
        assert!((700..=1300).contains(&count), "{count}");
        assert!(light.kept < 0.2 && (area(&light.mesh) / area(&mesh) - 1.0).abs() < 0.15, "{}", light.kept);
    }

    #[test]
    fn what_is_light_enough_stays_as_it_is_and_all_ready_species_can_be_simplified() {
        for s in ready().iter().step_by(4) {
            let mesh = s.build(0, Detail::Full, Season::SUMMER);
            assert_eq!(simplified(&mesh, mesh.triangles()).mesh, mesh);
            let light = simplified(&mesh, mesh.triangles() / 5);
            assert!(
                light.mesh.triangles() < mesh.triangles() / 2 && light.mesh.triangles() > 0,
                "{}",
                s.id.0
            );
            assert_eq!(light, simplified(&mesh, mesh.triangles() / 5));
            assert_eq!(light.mesh.through.is_empty(), mesh.through.is_empty());
        }
    }
}
