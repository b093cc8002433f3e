//! Marram: a tuft of long, narrow, in-rolled leaves that bend outwards and taper to a point.

use super::{Detail, Mesh};
use crate::math::hash::{pcg4d, unit};
use glam::{Vec3, vec3};
use std::f32::consts::TAU;

/// Blades, segments along each, and how much wider they are drawn so that fewer of them cover as much.
fn resolution(detail: Detail) -> (u32, u32, f32) {
    match detail {
        Detail::Full => (54, 6, 1.0),
        Detail::Light => (17, 3, 2.3),
        Detail::Far => (6, 2, 4.6),
    }
}

const DARK: Vec3 = vec3(0.050, 0.044, 0.018);
const MID: Vec3 = vec3(0.150, 0.190, 0.062);
const BLUE: Vec3 = vec3(0.135, 0.190, 0.098);
const TIP: Vec3 = vec3(0.400, 0.400, 0.170);
const STRAW: Vec3 = vec3(0.430, 0.345, 0.175);

pub(super) fn build(form: u32, detail: Detail) -> Mesh {
    let (blades, segments, widen) = resolution(detail);
    let mut mesh = Mesh::default();
    // Lighter detail takes blades spread over the full tuft, so the outline stays.
    for i in 0..blades {
        blade(&mut mesh, form, i * 54 / blades, segments, widen);
    }
    let spikes = [0, 2, 1, 3, 0, 1][form as usize % 6];
    if detail != Detail::Far {
        for i in 0..spikes {
            spike(&mut mesh, form, i, detail, widen);
        }
    }
    mesh
}

/// One leaf. `index` counts over the full tuft, from the middle outwards.
fn blade(mesh: &mut Mesh, form: u32, index: u32, segments: u32, widen: f32) {
    let [a, b, c, d] = pcg4d([form, index, 0xB1AD, 1]).map(unit);
    let [e, f, g, h] = pcg4d([form, index, 0xB1AD, 2]).map(unit);
    let outer = (index as f32 + 0.5) / 54.0;
    // Tufts lean a little as a whole, each form its own way.
    let [lean_to, lean, ..] = pcg4d([form, 0, 0x1EA7, 3]).map(unit);
    let heading = index as f32 * 2.399_963 + (a - 0.5) * 1.1;
    let out = vec3(libm::cosf(heading), 0.0, libm::sinf(heading));
    let base = out * (0.012 + 0.085 * outer.sqrt()) * (0.7 + 0.6 * b);
    let dead = h < 0.14;
    let length = (0.56 + 0.42 * c) * if dead { 0.7 } else { 1.0 } * (1.05 - 0.22 * outer);
    let rise = (8.0 + 40.0 * outer * (0.5 + 0.7 * d)).to_radians();
    let droop = (14.0 + 62.0 * e * (0.45 + 0.75 * outer)).to_radians() * if dead { 1.4 } else { 1.0 };
    let width = 0.0062 * (0.75 + 0.5 * f) * widen;
    let side = vec3(-out.z, 0.0, out.x);
    let sway = (g - 0.5) * 0.5;
    let tilt = vec3(libm::cosf(lean_to * TAU), 0.0, libm::sinf(lean_to * TAU)) * (0.16 * lean);
    let (body, tip) = if dead {
        (STRAW * 0.75, STRAW)
    } else {
        (MID.lerp(BLUE, b) * (0.75 + 0.5 * e), MID.lerp(TIP, 0.35 + 0.65 * f))
    };
    let step = length / segments as f32;
    let mut at = base;
    let mut previous: Option<[u32; 2]> = None;
    for s in 0..=segments {
        let t = s as f32 / segments as f32;
        let bend = rise + droop * libm::powf(t, 1.6);
        let (sin, cos) = libm::sincosf(bend);
        let along = (out * sin + Vec3::Y * cos + side * (sway * t) + tilt * t).normalize();
        // The face looks up and out; bent towards up so that a stand is lit softly as a whole.
        let normal = (face(along, side) * 0.55 + Vec3::Y * 0.6 + out * 0.2).normalize();
        let colour = if t < 0.3 { DARK.lerp(body, t / 0.3) } else { body.lerp(tip, (t - 0.3) / 0.7) };
        let taper = if s == segments { 0.0 } else { 1.0 - 0.75 * t * t };
        let half = side * (width * 0.5 * taper);
        if s == segments {
            let point = mesh.vertex(at, normal, colour);
            if let Some([l, r]) = previous {
                mesh.indices.extend([l, r, point]);
            }
        } else {
            let here = [mesh.vertex(at - half, normal, colour), mesh.vertex(at + half, normal, colour)];
            if let Some([l, r]) = previous {
                mesh.indices.extend([l, r, here[1], l, here[1], here[0]]);
            }
            previous = Some(here);
        }
        at += along * step;
    }
}

fn face(along: Vec3, side: Vec3) -> Vec3 {
    let n = along.cross(side).normalize();
    if n.y < 0.0 { -n } else { n }
}

/// A flowering spike: a thin straw stalk with a spindle at its end.
fn spike(mesh: &mut Mesh, form: u32, index: u32, detail: Detail, widen: f32) {
    let [a, b, c, _] = pcg4d([form, index, 0x591C, 4]).map(unit);
    let heading = a * TAU;
    let out = vec3(libm::cosf(heading), 0.0, libm::sinf(heading));
    let height = 0.72 + 0.2 * b;
    let top = out * (0.05 + 0.12 * c) + Vec3::Y * height;
    let base = out * 0.02;
    let sides = if detail == Detail::Full { 4 } else { 2 };
    let rings = [(0.0, 0.0016), (0.76, 0.0016), (0.82, 0.0065), (0.92, 0.006), (1.0, 0.0005)];
    let mut previous: Vec<u32> = Vec::new();
    for (t, radius) in rings {
        let centre = base.lerp(top, t) + out * (0.05 * t * t);
        let colour = if t < 0.8 { MID.lerp(STRAW, t) } else { STRAW * 0.9 };
        let ring: Vec<u32> = (0..sides)
            .map(|k| {
                let (s, c) = libm::sincosf(k as f32 / sides as f32 * TAU);
                let d = vec3(c, 0.0, s);
                mesh.vertex(centre + d * radius * widen.min(1.6), (d + Vec3::Y * 0.7).normalize(), colour)
            })
            .collect();
        if !previous.is_empty() {
            for k in 0..sides {
                let n = (k + 1) % sides;
                mesh.indices.extend([previous[k], ring[k], ring[n], previous[k], ring[n], previous[n]]);
            }
        }
        previous = ring;
    }
}
