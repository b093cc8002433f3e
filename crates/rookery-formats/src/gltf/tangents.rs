//! Which way the pictures of normals run over a mesh.

use glam::{Vec2, Vec3};
use rookery_core::nursery::Mesh;

/// Of each vertex the direction to the right of the picture that lies on it, square to its normal, and 1 where up the picture is to the left of that, seen from outside; -1 where it is to the right.
///
/// Source: Lengyel, "Computing Tangent Space Basis Vectors for an Arbitrary Mesh", 2001, from memory; signs by glTF 2.0, 3.7.2.1 and 3.9.3: up is where the second coordinate falls.
pub(super) fn tangents(mesh: &Mesh, uv: &[[f32; 2]]) -> Vec<[f32; 4]> {
    let mut sums = vec![(Vec3::ZERO, Vec3::ZERO); mesh.positions.len()];
    for corners in mesh.indices.as_chunks::<3>().0 {
        let [a, b, c] = corners.map(|i| i as usize);
        let place = |i: usize| Vec2::from(uv[i]);
        let (e, f) = (mesh.positions[b] - mesh.positions[a], mesh.positions[c] - mesh.positions[a]);
        let (p, q) = (place(b) - place(a), place(c) - place(a));
        let turned = p.perp_dot(q);
        if turned == 0.0 || !turned.is_finite() {
            continue;
        }
        // Larger triangles count for more.
        let weight = e.cross(f).length() / turned;
        let (right, up) = ((e * q.y - f * p.y) * weight, (e * q.x - f * p.x) * weight);
        for i in [a, b, c] {
            sums[i].0 += right;
            sums[i].1 += up;
        }
    }
    let along = |(sum, n): (&(Vec3, Vec3), &Vec3)| {
        let flat = sum.0 - *n * sum.0.dot(*n);
        let right = flat.try_normalize().unwrap_or_else(|| n.any_orthonormal_vector());
        let side = if n.cross(right).dot(sum.1) < 0.0 { -1.0 } else { 1.0 };
        right.extend(side).to_array()
    };
    sums.iter().zip(&mesh.normals).map(along).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::vec3;

    fn square(uv: [[f32; 2]; 4]) -> [f32; 4] {
        let positions = vec![Vec3::ZERO, Vec3::X, vec3(1.0, 0.0, 1.0), Vec3::Z];
        let mesh =
            Mesh { positions, normals: vec![Vec3::Y; 4], indices: vec![0, 2, 1, 0, 3, 2], ..Mesh::default() };
        let all = tangents(&mesh, &uv);
        assert!(all.iter().all(|t| *t == all[0]), "{all:?}");
        all[0]
    }

    #[test]
    fn they_run_to_the_right_of_the_picture_and_up_is_where_the_second_coordinate_falls() {
        // A map seen from above: east is right, south is down.
        assert_eq!(square([[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]]), [1.0, 0.0, 0.0, 1.0]);
        // Turned upside down, and mirrored.
        assert_eq!(square([[1.0, 1.0], [0.0, 1.0], [0.0, 0.0], [1.0, 0.0]]), [-1.0, 0.0, 0.0, 1.0]);
        assert_eq!(square([[0.0, 1.0], [1.0, 1.0], [1.0, 0.0], [0.0, 0.0]]), [1.0, 0.0, 0.0, -1.0]);
        // One point of the picture all over: any way that is square to the normal.
        let [x, y, z, w] = square([[0.5, 0.5]; 4]);
        assert!(y == 0.0 && ((x * x + z * z) - 1.0).abs() < 1e-6 && w.abs() == 1.0);
    }
}
