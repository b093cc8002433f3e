//! A small planet: a ball with hills, cut evenly all round.

use crate::document::PlanetGround;
use crate::ground::MeshSurface;
use crate::math::noise::Noise;
use glam::{Vec2, Vec3};
use std::collections::BTreeMap;

/// Its middle is the origin. Each side of a cube is cut into squares and blown up to a ball.
pub fn planet(settings: &PlanetGround) -> MeshSurface {
    let PlanetGround { radius_m, relief, seed, faces } = *settings;
    let broad = Noise::new(seed, radius_m * 1.1, 4, 0.5);
    let height = |d: Vec3| {
        let p = d * radius_m;
        // About the same range for every seed: noise of four octaves rarely passes 0.7.
        radius_m * (1.0 + 0.5 * relief * (broad.at_3d(p.x, p.y, p.z) / 0.7).clamp(-1.0, 1.0))
    };
    let n = faces as i32;
    let mut mesh = MeshSurface::default();
    // Vertices on the edges of the cube belong to several sides.
    let mut known = BTreeMap::<[i32; 3], u32>::new();
    for (normal, u, v) in SIDES {
        let mut vertex = |i: i32, j: i32| {
            let whole = |a: [i32; 3], k: i32| a.map(|c| c * k);
            let [a, b, c] = [whole(normal, n), whole(u, 2 * i - n), whole(v, 2 * j - n)];
            let place = [0, 1, 2].map(|k| a[k] + b[k] + c[k]);
            *known.entry(place).or_insert_with(|| {
                // Equal angles, so that squares in the middle of a side are not much larger than those in its corners.
                let even = |c: i32| libm::tanf(c as f32 / n as f32 * std::f32::consts::FRAC_PI_4);
                let direction = Vec3::from(place.map(even)).normalize();
                mesh.positions.push(direction * height(direction));
                mesh.positions.len() as u32 - 1
            })
        };
        let mut quads = Vec::new();
        for j in 0..n {
            for i in 0..n {
                quads.push([vertex(i, j), vertex(i + 1, j), vertex(i + 1, j + 1), vertex(i, j + 1)]);
            }
        }
        mesh.indices.extend(quads.into_iter().flat_map(|[a, b, c, d]| [a, b, c, a, c, d]));
    }
    let corners =
        mesh.indices.chunks_exact(3).map(|t| [t[0], t[1], t[2]].map(|i| mesh.positions[i as usize]));
    mesh.uvs = corners.map(on_a_map).collect();
    mesh
}

/// Where the corners of a triangle lie on a map of the planet: longitude from its left to its right edge, north in the middle, and
/// latitude from the pole that points up downwards.
fn on_a_map(corners: [Vec3; 3]) -> [Vec2; 3] {
    let longitude = |p: Vec3| 0.5 + libm::atan2f(p.x, -p.z) / std::f32::consts::TAU;
    let middle = longitude(corners[0] + corners[1] + corners[2]);
    corners.map(|p| {
        let u = longitude(p);
        // A triangle over the seam goes on beyond the edge; a pole lies under the middle of each of its triangles.
        let u = if p.x.hypot(p.z) < 1e-4 * p.length() { middle } else { u - (u - middle).round() };
        Vec2::new(u, libm::acosf((p.y / p.length()).clamp(-1.0, 1.0)) / std::f32::consts::PI)
    })
}

/// Outward normal of each side of a cube and the two directions along it, right-handed.
const SIDES: [([i32; 3], [i32; 3], [i32; 3]); 6] = [
    ([1, 0, 0], [0, 1, 0], [0, 0, 1]),
    ([-1, 0, 0], [0, 0, 1], [0, 1, 0]),
    ([0, 1, 0], [0, 0, 1], [1, 0, 0]),
    ([0, -1, 0], [1, 0, 0], [0, 0, 1]),
    ([0, 0, 1], [1, 0, 0], [0, 1, 0]),
    ([0, 0, -1], [0, 1, 0], [1, 0, 0]),
];

#[cfg(test)]
mod tests {
    use super::super::nets::tests::{is_closed, volume};
    use super::*;

    #[test]
    fn a_planet_without_relief_is_a_closed_ball() {
        let ball = planet(&PlanetGround { relief: 0.0, radius_m: 5.0, faces: 48, seed: 1 });
        assert!(is_closed(&ball) && ball.indices.len() == 48 * 48 * 6 * 6);
        let exact = 4.0 / 3.0 * std::f32::consts::PI * 125.0;
        assert!((volume(&ball) / exact - 1.0).abs() < 2e-3);
    }

    #[test]
    fn its_map_has_longitude_and_latitude_and_no_torn_triangles() {
        let ball = planet(&PlanetGround { relief: 0.0, radius_m: 5.0, faces: 48, seed: 1 });
        assert_eq!(ball.uvs.len() * 3, ball.indices.len());
        for (t, uvs) in ball.indices.chunks_exact(3).zip(&ball.uvs) {
            let wide = |k: usize| {
                uvs.iter().map(|c| c[k]).fold(f32::MIN, f32::max)
                    - uvs.iter().map(|c| c[k]).fold(f32::MAX, f32::min)
            };
            let away = ball.positions[t[0] as usize].y.abs();
            assert!(wide(1) < 0.03 && (wide(0) < 0.06 || away > 4.5), "{uvs:?}");
            for (i, uv) in t.iter().zip(uvs) {
                let p = ball.positions[*i as usize];
                assert!(((uv.y - 0.5) * std::f32::consts::PI + (p.y / 5.0).asin()).abs() < 1e-3);
                let east = libm::sinf((uv.x - 0.5) * std::f32::consts::TAU) * p.x.hypot(p.z);
                assert!((east - p.x).abs() < 1e-3 || away > 4.999);
            }
        }
    }

    #[test]
    fn relief_stays_within_what_it_says() {
        let hilly = planet(&PlanetGround { relief: 0.4, radius_m: 10.0, faces: 40, seed: 9 });
        let radii: Vec<f32> = hilly.positions.iter().map(|p| p.length()).collect();
        assert!(is_closed(&hilly) && radii.iter().all(|r| (8.0 - 1e-3..=12.0 + 1e-3).contains(r)));
        assert!(radii.iter().copied().fold(0.0, f32::max) > 10.8);
    }
}
