//! The surface of a water, to grow on.

use crate::document::WaterSurface;
use crate::ground::mesh::MeshSurface;
use glam::{Vec2, Vec3, vec2};
use std::f32::consts::TAU;

/// Faces along each side of a rectangle.
const ALONG: u32 = 128;
/// Rings and sectors of an oval.
const RINGS: u32 = 48;
const SECTORS: u32 = 144;

/// Level, facing up. What is read off it is read at its corners, so they lie close enough to tell where the shore runs.
pub fn water_surface(settings: &WaterSurface) -> MeshSurface {
    let size = vec2(settings.width_m, settings.depth_m);
    let at = |p: Vec2| Vec3::new(p.x * size.x, 0.0, p.y * size.y);
    let mut mesh = MeshSurface::default();
    let mut face = |corners: [u32; 3]| mesh.indices.extend(corners);
    if settings.round {
        let here = |ring: u32, sector: u32| 1 + (ring - 1) * SECTORS + sector % SECTORS;
        for s in 0..SECTORS {
            face([0, here(1, s + 1), here(1, s)]);
            for ring in 1..RINGS {
                let [a, b, c, d] =
                    [here(ring, s), here(ring, s + 1), here(ring + 1, s + 1), here(ring + 1, s)];
                face([a, b, c]);
                face([a, c, d]);
            }
        }
        mesh.positions.push(Vec3::ZERO);
        for ring in 1..=RINGS {
            for s in 0..SECTORS {
                let (sin, cos) = libm::sincosf(s as f32 / SECTORS as f32 * TAU);
                mesh.positions.push(at(vec2(cos, sin) * (0.5 * ring as f32 / RINGS as f32)));
            }
        }
    } else {
        let row = ALONG + 1;
        for j in 0..ALONG {
            for i in 0..ALONG {
                let [a, b, c, d] = [j * row + i, j * row + i + 1, (j + 1) * row + i + 1, (j + 1) * row + i];
                face([a, c, b]);
                face([a, d, c]);
            }
        }
        let corner = |k: u32| vec2((k % row) as f32, (k / row) as f32) / ALONG as f32 - 0.5;
        mesh.positions.extend((0..row * row).map(|k| at(corner(k))));
    }
    mesh
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Area by the cross product; of an oval pi a b, of a rectangle its sides (any handbook).
    #[test]
    fn it_is_as_large_as_it_says_and_faces_up_everywhere() {
        for (round, exact) in [(false, 12.0 * 5.0), (true, std::f32::consts::PI * 6.0 * 2.5)] {
            let mesh = water_surface(&WaterSurface { width_m: 12.0, depth_m: 5.0, round });
            let doubled = mesh.indices.chunks_exact(3).map(|t| {
                let [a, b, c] = [t[0], t[1], t[2]].map(|i| mesh.positions[i as usize]);
                let cross = (b - a).cross(c - a);
                assert!(cross.y > 0.0 && cross.x == 0.0 && cross.z == 0.0, "{round} {cross}");
                cross.y
            });
            let area = doubled.sum::<f32>() / 2.0;
            assert!((area / exact - 1.0).abs() < 1e-3, "{round}: {area} of {exact}");
        }
    }
}
