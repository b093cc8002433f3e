//! A hull and a box about a mesh, in its mean colour.

use crate::nursery::Mesh;
use crate::nursery::make::ball;
use glam::{Vec3, vec3};

/// Mean reflectance over the area of the triangles.
fn mean_colour(mesh: &Mesh) -> Vec3 {
    let (mut sum, mut whole) = (Vec3::ZERO, 0.0);
    for (i, t) in mesh.indices.chunks_exact(3).enumerate() {
        let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[t[i] as usize]);
        let area = (b - a).cross(c - a).length();
        // A picture is looked at in the middle and towards the corners.
        for weights in [[1.0 / 3.0; 3], [0.6, 0.2, 0.2], [0.2, 0.6, 0.2], [0.2, 0.2, 0.6]] {
            let (colour, cover) = mesh.colour_at(i, weights);
            sum += colour * area * cover;
            whole += area * cover;
        }
    }
    if whole > 0.0 { sum / whole } else { Vec3::splat(0.3) }
}

/// A closed hull from inside: its corners are the outermost vertices of the mesh in 162 directions spread over the ball. It
/// never reaches beyond the convex hull, and touches it in every one of those directions.
pub fn hull_of(mesh: &Mesh) -> Mesh {
    let (directions, indices) = ball(2);
    let colour = mean_colour(mesh);
    let mut hull = Mesh::default();
    for d in &directions {
        let (mut outermost, mut farthest) = (Vec3::ZERO, f32::NEG_INFINITY);
        for p in &mesh.positions {
            let out = p.dot(*d);
            if out > farthest {
                (outermost, farthest) = (*p, out);
            }
        }
        hull.vertex(outermost, *d, colour);
    }
    // Directions that share a corner leave triangles without an area.
    hull.indices = indices
        .chunks_exact(3)
        .filter(|t| {
            let [a, b, c] = [0, 1, 2].map(|i| hull.positions[t[i] as usize]);
            (b - a).cross(c - a).length_squared() > 0.0
        })
        .flatten()
        .copied()
        .collect();
    hull
}

/// The box about a mesh, along its own axes.
pub fn box_of(mesh: &Mesh) -> Mesh {
    let (low, high) = mesh.bounds();
    let colour = mean_colour(mesh);
    let mut out = Mesh::default();
    for axis in 0..3 {
        for side in [-1.0_f32, 1.0] {
            let mut normal = Vec3::ZERO;
            normal[axis] = side;
            let corner = |u: f32, v: f32| {
                let mut at = vec3(0.5, 0.5, 0.5);
                at[axis] = 0.5 + 0.5 * side;
                at[(axis + 1) % 3] = u;
                at[(axis + 2) % 3] = v;
                low + (high - low) * at
            };
            let [a, b, c, d] = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)]
                .map(|(u, v)| out.vertex(corner(u, v), normal, colour));
            if side > 0.0 {
                out.indices.extend([a, b, c, a, c, d]);
            } else {
                out.indices.extend([a, c, b, a, d, c]);
            }
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::nursery::{Detail, Season, ready};

    fn volume(mesh: &Mesh) -> f32 {
        let corner = |t: &[u32], i: usize| mesh.positions[t[i] as usize];
        mesh.indices.chunks_exact(3).map(|t| corner(t, 0).dot(corner(t, 1).cross(corner(t, 2))) / 6.0).sum()
    }

    #[test]
    fn a_box_has_the_volume_of_its_sides_and_holds_the_mesh() {
        for s in ready() {
            let mesh = s.build(0, Detail::Full, Season::SUMMER);
            let (low, high) = mesh.bounds();
            let size = high - low;
            let expected = size.x * size.y * size.z;
            assert!((volume(&box_of(&mesh)) / expected - 1.0).abs() < 1e-3, "{}", s.id.0);
        }
    }

    #[test]
    fn a_hull_lies_within_the_box_and_its_corners_are_vertices_of_the_mesh() {
        for s in ready() {
            let mesh = s.build(0, Detail::Full, Season::SUMMER);
            let hull = hull_of(&mesh);
            assert!(hull.triangles() > 8 && hull.triangles() <= 320, "{}", s.id.0);
            assert!(hull.positions.iter().all(|p| mesh.positions.contains(p)), "{}", s.id.0);
            let held = volume(&hull);
            assert!(held > 0.0 && held < volume(&box_of(&mesh)) * 1.0001, "{}: {held}", s.id.0);
        }
    }

    /// Brute force: in the direction of every hull vertex nothing of the mesh lies farther out.
    #[test]
    fn nothing_lies_outside_the_hull_in_its_own_directions() {
        let mesh = ready()[0].build(0, Detail::Full, Season::SUMMER);
        let hull = hull_of(&mesh);
        for (p, d) in hull.positions.iter().zip(&hull.normals) {
            assert!(mesh.positions.iter().all(|q| q.dot(*d) <= p.dot(*d) + 1e-5));
        }
    }
}
