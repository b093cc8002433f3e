//! A boulder: a ball cut by planes, its edges rounded, weathered by noise and spotted with lichen.

use super::{Detail, Mesh};
use crate::math::hash::{pcg4d, unit};
use crate::math::noise::Noise;
use glam::{Vec3, vec3};
use std::collections::BTreeMap;

pub(super) fn build(form: u32, detail: Detail) -> Mesh {
    let cuts = match detail {
        Detail::Full => 4,
        Detail::Light => 2,
        Detail::Far => 1,
    };
    let (directions, indices) = ball(cuts);
    let stone = Stone::new(form);
    let positions: Vec<Vec3> = directions.iter().map(|d| stone.surface(*d)).collect();
    let mut normals = vec![Vec3::ZERO; positions.len()];
    for t in indices.chunks_exact(3) {
        let [a, b, c] = [0, 1, 2].map(|i| positions[t[i] as usize]);
        let n = (b - a).cross(c - a);
        for &i in t {
            normals[i as usize] += n;
        }
    }
    let mut mesh = Mesh { indices, ..Mesh::default() };
    for (p, n) in positions.iter().zip(normals) {
        let n = n.normalize();
        mesh.vertex(*p, n, stone.colour(*p, n));
    }
    mesh
}

struct Stone {
    /// Outward unit normal and distance of each cutting plane; the ball has radius 1.
    planes: Vec<(Vec3, f32)>,
    /// Larger is sharper edged.
    sharpness: f32,
    half_m: Vec3,
    weather: Noise,
    lichen: Noise,
}

impl Stone {
    fn new(form: u32) -> Self {
        let [a, b, c, d] = pcg4d([form, 0, 0x5706, 0]).map(unit);
        let planes = (0..15)
            .map(|i| {
                let [u, v, h, _] = pcg4d([form, i, 0x5706, 1]).map(unit);
                (sphere(u, v), 0.66 + 0.30 * h)
            })
            // A flat bed to lie on.
            .chain([(Vec3::NEG_Y, 0.58)])
            .collect();
        Self {
            planes,
            sharpness: 14.0 + 22.0 * a,
            half_m: vec3(0.62 + 0.16 * b, 0.52 + 0.12 * c, 0.56 + 0.14 * d),
            weather: Noise::new(form ^ 0x77EA, 0.55, 5, 0.55),
            lichen: Noise::new(form ^ 0x11C4, 0.16, 3, 0.6),
        }
    }

    fn surface(&self, direction: Vec3) -> Vec3 {
        // A p-norm of the planes is a minimum with rounded edges.
        let sum: f32 = self
            .planes
            .iter()
            .map(|(n, h)| libm::powf((direction.dot(*n) / h).max(0.0), self.sharpness))
            .sum();
        let radius = libm::powf(sum + 1.0, -1.0 / self.sharpness);
        let p = direction * radius;
        let rough = self.weather.at_3d(p.x, p.y, p.z);
        let p = p * (1.0 + 0.055 * rough) * self.half_m;
        // The base point lies a little above the bed: a boulder sits in the ground, not on it.
        p + Vec3::Y * (self.half_m.y * 0.5)
    }

    fn colour(&self, p: Vec3, n: Vec3) -> Vec3 {
        let tone = self.weather.at_3d(p.x * 1.7 + 5.0, p.y * 1.7, p.z * 1.7);
        let grain = self.lichen.at_3d(p.x * 3.0, p.y * 3.0, p.z * 3.0);
        let stone =
            vec3(0.165, 0.157, 0.145).lerp(vec3(0.30, 0.285, 0.25), (0.5 + 0.6 * tone).clamp(0.0, 1.0));
        let stone = stone * (1.0 + 0.16 * grain);
        let spots = self.lichen.at_3d(p.x, p.y, p.z) + 0.35 * n.y + 0.25 * tone;
        let pale = vec3(0.40, 0.40, 0.33);
        let gold = vec3(0.42, 0.30, 0.07);
        let lichen = if tone > 0.12 { gold } else { pale };
        let c = stone.lerp(lichen, ((spots - 0.52) * 5.0).clamp(0.0, 0.7));
        // Damp and earth towards the bed.
        let damp = (0.28 - p.y).max(0.0) / 0.4;
        (c * (1.0 - 0.5 * damp.min(1.0))).clamp(Vec3::ZERO, Vec3::ONE)
    }
}

fn sphere(u: f32, v: f32) -> Vec3 {
    let z = 1.0 - 2.0 * u;
    let r = (1.0 - z * z).max(0.0).sqrt();
    let (s, c) = libm::sincosf(v * std::f32::consts::TAU);
    vec3(r * c, z, r * s)
}

/// A ball of triangles: an icosahedron whose faces are cut in four, `cuts` times.
fn ball(cuts: u32) -> (Vec<Vec3>, Vec<u32>) {
    let t = 0.5 * (1.0 + 5.0_f32.sqrt());
    let mut points: Vec<Vec3> = [
        [-1.0, t, 0.0],
        [1.0, t, 0.0],
        [-1.0, -t, 0.0],
        [1.0, -t, 0.0],
        [0.0, -1.0, t],
        [0.0, 1.0, t],
        [0.0, -1.0, -t],
        [0.0, 1.0, -t],
        [t, 0.0, -1.0],
        [t, 0.0, 1.0],
        [-t, 0.0, -1.0],
        [-t, 0.0, 1.0],
    ]
    .map(|p| Vec3::from(p).normalize())
    .to_vec();
    let mut faces: Vec<[u32; 3]> = vec![
        [0, 11, 5],
        [0, 5, 1],
        [0, 1, 7],
        [0, 7, 10],
        [0, 10, 11],
        [1, 5, 9],
        [5, 11, 4],
        [11, 10, 2],
        [10, 7, 6],
        [7, 1, 8],
        [3, 9, 4],
        [3, 4, 2],
        [3, 2, 6],
        [3, 6, 8],
        [3, 8, 9],
        [4, 9, 5],
        [2, 4, 11],
        [6, 2, 10],
        [8, 6, 7],
        [9, 8, 1],
    ];
    for _ in 0..cuts {
        let mut middles = BTreeMap::new();
        let mut middle = |points: &mut Vec<Vec3>, a: u32, b: u32| {
            *middles.entry((a.min(b), a.max(b))).or_insert_with(|| {
                points.push((points[a as usize] + points[b as usize]).normalize());
                points.len() as u32 - 1
            })
        };
        faces = faces
            .into_iter()
            .flat_map(|[a, b, c]| {
                let ab = middle(&mut points, a, b);
                let bc = middle(&mut points, b, c);
                let ca = middle(&mut points, c, a);
                [[a, ab, ca], [ab, b, bc], [ca, bc, c], [ab, bc, ca]]
            })
            .collect();
    }
    (points, faces.into_flattened())
}
