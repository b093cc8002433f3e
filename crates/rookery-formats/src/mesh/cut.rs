//! Faces of many corners as triangles.

use earcut::Earcut;
use glam::{DVec2, DVec3, Vec3};

/// Cuts a face into triangles that turn the way it does: a fan where it bulges everywhere, ears cut off where it does not.
/// A face that lies in no plane at all, or whose corners are not known yet, is a fan.
pub(super) fn cut(corners: &[u32], positions: &[Vec3]) -> Vec<[u32; 3]> {
    let fan = || (2..corners.len()).map(|i| [corners[0], corners[i - 1], corners[i]]).collect();
    if corners.len() < 4 {
        return fan();
    }
    let Some(flat) = on_its_plane(corners, positions) else { return fan() };
    let count = flat.len();
    let turns = |i: usize| {
        let [a, b, c] = [flat[i], flat[(i + 1) % count], flat[(i + 2) % count]].map(DVec2::from);
        (b - a).perp_dot(c - b)
    };
    if (0..count).all(|i| turns(i) >= 0.0) {
        return fan();
    }
    let mut ears: Vec<u32> = Vec::new();
    Earcut::new().earcut(flat.iter().copied(), &[], &mut ears);
    if ears.is_empty() {
        return fan();
    }
    let triangle = |t: &[u32]| {
        let [a, b, c] = [t[0], t[1], t[2]].map(|i| DVec2::from(flat[i as usize]));
        let t = [t[0], t[1], t[2]].map(|i| corners[i as usize]);
        if (b - a).perp_dot(c - b) < 0.0 { [t[0], t[2], t[1]] } else { t }
    };
    ears.chunks_exact(3).map(triangle).collect()
}

/// The corners on the plane of the face, turning to the left as seen from its outer side. Its normal is the sum of those of all its
/// corners (M. E. Newell's formula, from memory).
fn on_its_plane(corners: &[u32], positions: &[Vec3]) -> Option<Vec<[f64; 2]>> {
    let points: Option<Vec<DVec3>> =
        corners.iter().map(|i| positions.get(*i as usize).map(|p| p.as_dvec3())).collect();
    let points = points?;
    let next = points.iter().cycle().skip(1);
    let normal: DVec3 = points.iter().zip(next).map(|(a, b)| (*a - points[0]).cross(*b - points[0])).sum();
    let normal = normal.try_normalize()?;
    let (across, up) = normal.any_orthonormal_pair();
    Some(points.iter().map(|p| *p - points[0]).map(|p| [p.dot(across), p.dot(up)]).collect())
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn area(triangles: &[[u32; 3]], positions: &[Vec3]) -> (f32, Vec3) {
        let all = triangles.iter().map(|t| {
            let [a, b, c] = t.map(|i| positions[i as usize]);
            (b - a).cross(c - a) * 0.5
        });
        (all.clone().map(Vec3::length).sum(), all.sum())
    }

    /// Broke: an L of 7 m2 came in as a fan of 16 m2.
    #[test]
    fn an_l_has_the_area_of_an_l() {
        let l = [[0.0, 0.0], [4.0, 0.0], [4.0, 1.0], [1.0, 1.0], [1.0, 4.0], [0.0, 4.0]];
        let positions: Vec<Vec3> = l.iter().map(|[x, z]| Vec3::new(*x, 2.0, *z)).collect();
        for start in 0..6_u32 {
            let corners: Vec<u32> = (0..6).map(|i| (start + i) % 6).collect();
            let triangles = cut(&corners, &positions);
            let (total, turned) = area(&triangles, &positions);
            assert_eq!(triangles.len(), 4);
            assert!((total - 7.0).abs() < 1e-4 && (turned.y + 7.0).abs() < 1e-4, "{total} {turned}");
        }
    }

    #[test]
    fn a_face_that_bulges_everywhere_stays_a_fan() {
        let positions = [[0.0, 0.0], [2.0, 0.0], [3.0, 1.0], [1.0, 2.0]].map(|[x, y]| Vec3::new(x, y, 0.0));
        assert_eq!(cut(&[0, 1, 2, 3], &positions), [[0, 1, 2], [0, 2, 3]]);
        assert_eq!(cut(&[0, 1, 2, 9], &positions), [[0, 1, 2], [0, 2, 9]], "not known yet");
    }

    proptest! {
        /// The shoelace formula (common practice) gives the same area as the triangles of any star around a point.
        #[test]
        fn stars_have_the_area_of_the_shoelace_formula(
            reach in prop::collection::vec(0.2_f32..3.0, 5..40),
            tilt in -1.2_f32..1.2,
        ) {
            let count = reach.len() as f32;
            let flat: Vec<[f32; 2]> = reach
                .iter()
                .enumerate()
                .map(|(i, r)| {
                    let angle = i as f32 / count * std::f32::consts::TAU;
                    [r * libm::cosf(angle), r * libm::sinf(angle)]
                })
                .collect();
            let next = flat.iter().cycle().skip(1);
            let shoelace: f32 = flat.iter().zip(next).map(|(a, b)| a[0] * b[1] - b[0] * a[1]).sum::<f32>() * 0.5;
            let turn = glam::Quat::from_rotation_x(tilt);
            let positions: Vec<Vec3> = flat.iter().map(|[x, y]| turn * Vec3::new(*x, *y, 0.0)).collect();
            let corners: Vec<u32> = (0..flat.len() as u32).collect();
            let (total, turned) = area(&cut(&corners, &positions), &positions);
            prop_assert!((total - shoelace).abs() < 1e-3 * shoelace.max(1.0), "{total} {shoelace}");
            prop_assert!((turned.dot(turn * Vec3::Z) - shoelace).abs() < 1e-3 * shoelace.max(1.0));
        }
    }
}
