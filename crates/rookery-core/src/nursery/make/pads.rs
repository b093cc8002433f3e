//! What floats: leaves that lie on water, on stalks from below, and flowers among them.

use super::Look;
use super::builder::{Builder, GOLDEN, Petals, heading};
use crate::nursery::Detail;
use crate::nursery::settings::settings;
use glam::{Vec3, vec3};
use std::f32::consts::TAU;

settings! {
    /// Leaves that lie on the water: water lilies, pondweed, duckweed.
    Pads {
        pads: 9.0, 1.0..600.0, 1.0, "", "Pads", "Leaves that float.";
        pad_m: 0.2, 0.001..1.5, 0.001, "m", "Pad", "Width of a leaf.";
        long: 1.0, 0.7..4.0, 0.05, "", "Length", "Length of a leaf against its width.";
        spread_m: 0.9, 0.02..6.0, 0.01, "m", "Spread", "Width of the whole, from the middle of one leaf to that of another.";
        notch: 0.5, 0.0..1.0, 0.01, "", "Notch", "How far a leaf is cut in to its stalk.";
        rim: 0.15, 0.0..1.0, 0.01, "", "Rim", "How far the rim stands up.";
        vary: 0.35, 0.0..1.0, 0.01, "", "Variety", "How much leaves differ in size and tone.";
        flowers: 1.0, 0.0..40.0, 1.0, "", "Flowers", "Flowers over the whole plant.";
        flower_m: 0.11, 0.002..0.4, 0.001, "m", "Flower", "Width of a flower.";
        stalk_m: 0.03, 0.0..0.5, 0.005, "m", "Stalk", "Height of a flower over the water.";
    }
}

pub(super) fn build(b: &mut Builder, s: &Pads, look: &Look) {
    let pads = s.pads as u32;
    for i in 0..pads {
        pad(b, s, look, i, pads);
    }
    let flowers = (s.flowers * look.bloom).round() as u32;
    for i in 0..flowers {
        flower(b, s, look, i, flowers);
    }
}

/// Where the `i`-th of `count` things lies: evenly, by the golden angle, and a little beside that.
fn place(s: &Pads, i: u32, count: u32, [a, c]: [f32; 2]) -> (Vec3, f32) {
    let r = ((i as f32 + 0.5) / count as f32).sqrt() * s.spread_m * 0.5;
    let angle = i as f32 * GOLDEN + (a - 0.5) * 0.9;
    let beside = s.spread_m / (count as f32).sqrt() * 0.2 * s.vary;
    (heading(angle) * (r + (c - 0.5) * beside), angle)
}

fn pad(b: &mut Builder, s: &Pads, look: &Look, index: u32, count: u32) {
    let [a, c, d, e] = b.draw(0, index);
    let Some(of) = b.thinned() else { return };
    let (at, angle) = place(s, index, count, [a, c]);
    // Few leaves grow in both directions when they stand for many.
    let grow = (of * b.broader).sqrt();
    let half = s.pad_m * 0.5 * (1.0 + s.vary * (d - 0.6)) * grow;
    let sides = match b.detail {
        Detail::Full if s.pads <= 60.0 => 18,
        Detail::Full | Detail::Light => 7,
        Detail::Far => 5,
    };
    // Leaves turn their notch to the middle, each a little its own way, and lie over one another by a hair.
    let turn = angle + (c - 0.5) * 2.4;
    let (out, side) = (heading(turn), heading(turn + TAU * 0.25));
    let (from, to) = look.leaf_tones(e);
    let tone = 1.0 + s.vary * (a - 0.5);
    let rise = s.pad_m * 0.004 * (index % 5) as f32 + s.pad_m * 0.01;
    let stalk = at + Vec3::Y * rise - out * (half * s.long * 0.12 * s.notch);
    let tilt = vec3(a - 0.5, 0.0, d - 0.5) * 0.06;
    let up = (Vec3::Y + tilt).normalize();
    let middle = b.vertex(stalk, up, from * tone, 0.6);
    let open = 0.5 * s.notch * (0.5 + 0.7 * e);
    let edge: Vec<u32> = (0..=sides)
        .map(|k| {
            let turn = TAU * 0.5 + open * 0.5 + (TAU - open) * k as f32 / sides as f32;
            let (sin, cos) = libm::sincosf(turn);
            let wave = 1.0 + 0.05 * s.vary * libm::sinf(turn * 3.0 + a * TAU);
            let flat = out * (cos * half * s.long) + side * (sin * half);
            let lift = s.rim * half * 0.22 * (0.8 + 0.4 * libm::sinf(turn * 2.0 + c * TAU)) - tilt.dot(flat);
            let normal = (up - flat.normalize_or(Vec3::X) * (s.rim * 0.5)).normalize();
            b.vertex(at + flat * wave + Vec3::Y * (rise + lift.max(0.0)), normal, to * tone, 0.6)
        })
        .collect();
    for pair in edge.windows(2) {
        b.mesh.indices.extend([middle, pair[1], pair[0]]);
    }
}

fn flower(b: &mut Builder, s: &Pads, look: &Look, index: u32, count: u32) {
    let [a, c, d, e] = b.draw(1, index);
    let (at, _) = place(s, index, count.max(2), [a, c]);
    let at = at * 0.8 + heading(a * TAU) * (s.pad_m * 0.4);
    let top = at + Vec3::Y * (s.stalk_m * (0.7 + 0.6 * d) + s.pad_m * 0.01);
    let axis = (Vec3::Y + vec3(c - 0.5, 0.0, e - 0.5) * 0.3).normalize();
    if s.stalk_m > s.flower_m * 0.3 {
        let thin = (s.flower_m * 0.05).max(4e-4);
        let green = look.leaf * 0.8;
        b.tube(&[at - Vec3::Y * 0.01, at.lerp(top, 0.5), top], &[thin; 3], 4, &[green; 3], thin * 0.6);
    }
    // Three rings of petals, each shorter and more upright; the eye within.
    let petal = look.petal(d);
    for (ring, (count, share, lift)) in
        [(8, 1.0, 0.25), (7, 0.85, 0.7), (5, 0.6, 1.1)].into_iter().enumerate()
    {
        b.petals(Petals {
            at: top + axis * (s.flower_m * 0.02 * ring as f32),
            axis,
            count,
            length: s.flower_m * 0.5 * share,
            width: s.flower_m * 0.2 * share,
            lift,
            from: petal * 0.82,
            to: petal,
            turn: a * TAU + ring as f32 * 0.4,
        });
    }
    b.petals(Petals {
        at: top + axis * (s.flower_m * 0.06),
        axis,
        count: 6,
        length: s.flower_m * 0.15,
        width: s.flower_m * 0.07,
        lift: 1.2,
        from: look.eye * 0.8,
        to: look.eye,
        turn: c * TAU,
    });
}

impl Pads {
    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        let rim = self.pad_m * (0.03 + 0.13 * self.rim);
        let flower = if self.flowers >= 1.0 { self.stalk_m + self.flower_m * 0.5 } else { 0.0 };
        rim.max(flower)
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        (self.spread_m + self.pad_m * self.long.max(1.0)) * 0.5
    }
}
