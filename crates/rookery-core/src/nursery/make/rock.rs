//! Rocks: a ball cut by planes, layered, rounded, chipped, weathered by noise and spotted with lichen.

use super::Look;
use super::builder::Builder;
use crate::math::noise::Noise;
use crate::nursery::settings::settings;
use crate::nursery::{Detail, Mesh};
use glam::{Vec3, vec3};
use std::collections::BTreeMap;

settings! {
    /// A stone, from pebble to pillar.
    Rock {
        length_m: 1.35, 0.005..20.0, 0.005, "m", "Length", "Longest way across.";
        wide: 0.9, 0.1..1.0, 0.01, "", "Width", "Width against the length.";
        high: 0.72, 0.05..6.0, 0.01, "", "Height", "Height against the length.";
        facets: 15.0, 4.0..40.0, 1.0, "", "Facets", "Planes that cut it; few make it blocky.";
        roundness: 0.35, 0.0..1.0, 0.01, "", "Roundness", "How far its edges are worn.";
        bedding: 0.0, 0.0..1.0, 0.01, "", "Bedding", "How clearly it is built of level beds.";
        beds: 7.0, 2.0..30.0, 1.0, "", "Beds", "Beds from foot to top.";
        rough: 0.35, 0.0..1.0, 0.01, "", "Roughness", "How uneven its faces are.";
        chips: 0.3, 0.0..1.0, 0.01, "", "Chips", "How often edges and corners are broken off.";
        lichen: 0.45, 0.0..1.0, 0.01, "", "Lichen", "How much of its upper side is overgrown.";
        sunk: 0.25, 0.0..0.9, 0.01, "", "Sunk", "Share of its height that lies under its base point.";
    }
}

pub(super) fn build(b: &mut Builder, s: &Rock, look: &Look) {
    let cuts = match b.detail {
        Detail::Full => 4,
        Detail::Light => 2,
        Detail::Far => 1,
    };
    let (directions, indices) = ball(cuts);
    let stone = Stone::new(b, s, look);
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
        let n = n.normalize_or(Vec3::Y);
        mesh.vertex(*p, n, stone.colour(*p, n));
    }
    b.mesh = mesh;
}

struct Stone<'a> {
    s: &'a Rock,
    look: &'a Look,
    /// Outward unit normal and distance of each cutting plane; the ball has radius 1.
    planes: Vec<(Vec3, f32)>,
    /// Larger is sharper edged.
    sharpness: f32,
    half_m: Vec3,
    weather: Noise,
    fine: Noise,
}

impl<'a> Stone<'a> {
    fn new(b: &Builder, s: &'a Rock, look: &'a Look) -> Self {
        let [a, c, d, e] = b.draw(0, 0);
        let mut planes: Vec<(Vec3, f32)> = (0..s.facets as u32)
            .map(|i| {
                let [u, v, h, _] = b.draw(1, i);
                (sphere(u, v), 0.64 + 0.30 * h)
            })
            .collect();
        // A flat bed to lie on.
        planes.push((Vec3::NEG_Y, 0.62));
        for i in 0..(s.chips * 14.0) as u32 {
            let [u, v, h, _] = b.draw(2, i);
            planes.push((sphere(u, v), 0.80 + 0.16 * h));
        }
        let half = s.length_m * 0.5;
        Self {
            s,
            look,
            planes,
            sharpness: 6.0 + 42.0 * (1.0 - s.roundness) * (1.0 - s.roundness),
            // The cuts take about a fifth off; this makes up for it.
            half_m: vec3(
                half * 1.12 * (0.92 + 0.16 * a),
                half * s.high * 1.22 * (0.92 + 0.16 * c),
                half * s.wide * 1.12 * (0.92 + 0.16 * d),
            ),
            weather: Noise::new((e * 1e6) as u32 ^ 0x77EA, 0.55, 5, 0.55),
            fine: Noise::new((e * 1e6) as u32 ^ 0x11C4, 0.16, 3, 0.6),
        }
    }

    fn surface(&self, direction: Vec3) -> Vec3 {
        // A p-norm of the planes is a minimum with rounded edges.
        let sum: f32 = self
            .planes
            .iter()
            .map(|(n, h)| libm::powf((direction.dot(*n) / h).max(0.0), self.sharpness))
            .sum();
        let mut p = direction * libm::powf(sum + 1.0, -1.0 / self.sharpness);
        if self.s.bedding > 0.0 {
            // Beds are pushed in and out by turns, hard ones standing over soft ones.
            let bed = (p.y * 0.5 + 0.5) * self.s.beds + 0.35 * self.weather.at_3d(p.x, p.y * 0.3, p.z);
            let part = bed - bed.floor();
            let hard = self.fine.at_3d(bed.floor() * 3.7, 11.0, 5.0);
            let groove = (1.0 - (part * 2.0 - 1.0).abs()).min(0.35) / 0.35;
            let out = self.s.bedding * (0.10 * hard - 0.07 * (1.0 - groove));
            p.x *= 1.0 + out;
            p.z *= 1.0 + out;
        }
        let rough = self.weather.at_3d(p.x, p.y, p.z);
        let grain = self.fine.at_3d(p.x * 1.3, p.y * 1.3, p.z * 1.3);
        let p = p * (1.0 + self.s.rough * (0.15 * rough + 0.03 * grain)) * self.half_m;
        // The base point lies above the bed: a stone sits in the ground, not on it.
        let high = self.half_m.y * 1.55;
        p + Vec3::Y * (self.half_m.y * 0.62 - high * self.s.sunk)
    }

    fn colour(&self, p: Vec3, n: Vec3) -> Vec3 {
        let q = p / self.half_m;
        let tone = self.weather.at_3d(q.x * 1.3 + 5.0, q.y * 1.3, q.z * 1.3);
        let grain = self.fine.at_3d(q.x * 2.3, q.y * 2.3, q.z * 2.3);
        let mut stone =
            self.look.root.lerp(self.look.leaf, (0.5 + 0.6 * tone).clamp(0.0, 1.0)) * (1.0 + 0.16 * grain);
        if self.s.bedding > 0.0 {
            let bed =
                ((q.y * 0.5 + 0.5) * self.s.beds + 0.35 * self.weather.at_3d(q.x, q.y * 0.3, q.z)).floor();
            stone *= 1.0 + 0.22 * self.s.bedding * self.fine.at_3d(bed * 3.7, 3.0, 8.0);
        }
        let spots = self.fine.at_3d(q.x * 0.8, q.y * 0.8, q.z * 0.8) + 0.35 * n.y + 0.25 * tone;
        let lichen = if tone > 0.12 { self.look.flower } else { self.look.old };
        let edge = 1.05 - 1.15 * self.s.lichen;
        let c = stone.lerp(lichen, ((spots - edge) * 5.0).clamp(0.0, 0.75));
        // Damp and earth towards the bed.
        let damp = (0.28 - p.y / self.half_m.y).max(0.0) / 0.6;
        (c * (1.0 - 0.45 * damp.min(1.0))).clamp(Vec3::ZERO, Vec3::ONE)
    }
}

fn sphere(u: f32, v: f32) -> Vec3 {
    let z = 1.0 - 2.0 * u;
    let r = (1.0 - z * z).max(0.0).sqrt();
    let (s, c) = libm::sincosf(v * std::f32::consts::TAU);
    vec3(r * c, z, r * s)
}

impl Rock {
    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        self.length_m * self.high * 0.88 * (1.0 - self.sunk)
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        self.length_m * 0.47
    }
}

/// A ball of triangles: an icosahedron whose faces are cut in four, `cuts` times.
pub(crate) fn ball(cuts: u32) -> (Vec<Vec3>, Vec<u32>) {
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
