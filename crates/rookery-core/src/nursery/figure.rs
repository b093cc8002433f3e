//! A figure to see sizes by.

use super::Mesh;
use glam::{Vec3, vec3};
use std::f32::consts::TAU;

const GREY: Vec3 = vec3(0.30, 0.33, 0.35);

/// A standing person of 1.75 m in grey, without a face: round limbs on the origin, looking towards +Z.
///
/// Heights of the joints follow the usual eight-head canon of drawing books, by eye.
pub fn figure() -> Mesh {
    let mut mesh = Mesh::default();
    let limbs: [(&[[f32; 4]], f32); 5] = [
        // Each ring: x, y, z and radius.
        (
            &[
                [0.0, 0.86, 0.0, 0.13],
                [0.0, 0.98, 0.0, 0.155],
                [0.0, 1.14, 0.0, 0.125],
                [0.0, 1.32, 0.01, 0.165],
                [0.0, 1.42, 0.0, 0.13],
                [0.0, 1.48, 0.0, 0.055],
                [0.0, 1.53, 0.01, 0.055],
                [0.0, 1.56, 0.02, 0.085],
                [0.0, 1.64, 0.02, 0.098],
                [0.0, 1.71, 0.02, 0.075],
                [0.0, 1.75, 0.02, 0.01],
            ],
            0.72,
        ),
        (
            &[
                [-0.09, 0.0, 0.06, 0.05],
                [-0.09, 0.06, 0.0, 0.042],
                [-0.09, 0.3, -0.01, 0.052],
                [-0.095, 0.46, 0.0, 0.056],
                [-0.09, 0.68, 0.0, 0.075],
                [-0.075, 0.9, 0.0, 0.09],
            ],
            1.0,
        ),
        (
            &[
                [0.09, 0.0, 0.06, 0.05],
                [0.09, 0.06, 0.0, 0.042],
                [0.09, 0.3, -0.01, 0.052],
                [0.095, 0.46, 0.0, 0.056],
                [0.09, 0.68, 0.0, 0.075],
                [0.075, 0.9, 0.0, 0.09],
            ],
            1.0,
        ),
        (
            &[
                [-0.30, 0.72, 0.05, 0.028],
                [-0.285, 0.82, 0.03, 0.036],
                [-0.26, 1.08, -0.01, 0.042],
                [-0.21, 1.33, 0.0, 0.055],
                [-0.15, 1.42, 0.0, 0.05],
            ],
            1.0,
        ),
        (
            &[
                [0.30, 0.72, 0.05, 0.028],
                [0.285, 0.82, 0.03, 0.036],
                [0.26, 1.08, -0.01, 0.042],
                [0.21, 1.33, 0.0, 0.055],
                [0.15, 1.42, 0.0, 0.05],
            ],
            1.0,
        ),
    ];
    for (rings, deep) in limbs {
        limb(&mut mesh, rings, deep);
    }
    mesh
}

fn limb(mesh: &mut Mesh, rings: &[[f32; 4]], deep: f32) {
    const SIDES: u32 = 14;
    let first = mesh.positions.len() as u32;
    for [x, y, z, r] in rings {
        for k in 0..SIDES {
            let (s, c) = libm::sincosf(k as f32 / SIDES as f32 * TAU);
            mesh.vertex(vec3(x + c * r, *y, z + s * r * deep), vec3(c * deep, 0.0, s).normalize(), GREY);
        }
    }
    for ring in 0..rings.len() as u32 - 1 {
        for k in 0..SIDES {
            let (a, b) = (first + ring * SIDES + k, first + ring * SIDES + (k + 1) % SIDES);
            mesh.indices.extend([a, a + SIDES, b + SIDES, a, b + SIDES, b]);
        }
    }
}
