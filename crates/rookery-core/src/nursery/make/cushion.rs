//! Cushions and mats: mosses, lichens, thyme, cushion plants.

use super::Look;
use super::builder::{Builder, GOLDEN, Leaf, Outline, Petals, heading, smooth};
use crate::math::noise::Noise;
use crate::nursery::Detail;
use crate::nursery::settings::{choice, settings};
use glam::{Vec3, vec3};
use std::f32::consts::TAU;

choice! {
    /// What covers a cushion.
    Cover {
        /// Short stems with narrow leaves all around.
        Shoots = "shoots",
        /// Small rosettes.
        Rosettes = "rosettes",
        /// Crisp upturned lobes, as of lichen.
        Lobes = "lobes",
        /// Fine standing blades.
        Blades = "blades",
    }
}

settings! {
    /// A dome or a mat covered with small shoots, with flowers over it.
    Cushion {
        width_m: 0.24, 0.01..4.0, 0.01, "m", "Width", "Width of the cushion.";
        height_m: 0.07, 0.002..1.5, 0.001, "m", "Height", "Height of its dome, flowers left out.";
        lumps: 0.4, 0.0..1.0, 0.01, "", "Lumps", "How uneven its outline is.";
        shoots: 420.0, 10.0..3000.0, 1.0, "", "Shoots", "Shoots over the whole cushion.";
        shoot_m: 0.014, 0.001..0.2, 0.001, "m", "Shoot", "Length of a shoot.";
        loose: 0.2, 0.0..1.0, 0.01, "", "Looseness", "How far shoots stand apart in length and direction.";
        flowers: 0.0, 0.0..300.0, 1.0, "", "Flowers", "Flower heads over the whole cushion.";
        flower_m: 0.02, 0.001..0.1, 0.001, "m", "Flower", "Width of a flower head.";
        stalk_m: 0.06, 0.0..0.4, 0.005, "m", "Stalk", "Height of flower heads over the cushion.";
        @ cover: Cover = Cover::Shoots, "Cover", "What the cushion is covered with.";
    }
}

struct Dome<'a> {
    s: &'a Cushion,
    lump: Noise,
    rim: Noise,
}

impl Dome<'_> {
    /// The surface at a share of the way from the middle to the rim.
    fn at(&self, r: f32, angle: f32) -> Vec3 {
        let out = heading(angle);
        let edge = 1.0 + 0.45 * self.s.lumps * self.rim.at(out.x, out.z);
        let plan = out * (r * self.s.width_m * 0.5 * edge);
        let lump = 1.0 + 0.6 * self.s.lumps * self.lump.at(plan.x / self.s.width_m, plan.z / self.s.width_m);
        let dome = (1.0 - r * r).max(0.0);
        plan + Vec3::Y * (self.s.height_m * libm::powf(dome, 0.6) * lump)
    }

    fn normal(&self, r: f32, angle: f32) -> Vec3 {
        let e = 0.02;
        let radial = self.at((r + e).min(1.0), angle) - self.at((r - e).max(0.0), angle);
        let around = self.at(r.max(0.05), angle + e) - self.at(r.max(0.05), angle - e);
        let n = around.cross(radial).normalize_or(Vec3::Y);
        if n.y < 0.0 { -n } else { n }
    }
}

pub(super) fn build(b: &mut Builder, s: &Cushion, look: &Look) {
    let [a, c, ..] = b.draw(0, 0);
    let dome = Dome {
        s,
        lump: Noise::new((a * 1e6) as u32, 0.3, 3, 0.55),
        rim: Noise::new((c * 1e6) as u32, 1.1, 2, 0.5),
    };
    bed(b, &dome, look);
    let shoots = s.shoots as u32;
    for i in 0..shoots {
        let r = ((i as f32 + 0.5) / shoots as f32).sqrt();
        let angle = i as f32 * GOLDEN;
        shoot(b, &dome, look, r.min(0.995), angle, i);
    }
    let flowers = (s.flowers * look.bloom) as u32;
    for i in 0..flowers {
        flower(b, &dome, look, i, flowers);
    }
}

/// The dome itself, dark between the shoots.
fn bed(b: &mut Builder, dome: &Dome, look: &Look) {
    let (rings, sides) = match b.detail {
        Detail::Full => (7, 20),
        Detail::Light => (4, 10),
        Detail::Far => (2, 6),
    };
    // Seen from afar the shoots are one with it.
    let colour = look.root.lerp(look.leaf, if b.detail == Detail::Full { 0.35 } else { 0.72 });
    let middle = b.vertex(dome.at(0.0, 0.0), Vec3::Y, colour, 0.0);
    let mut previous = vec![middle; sides];
    for ring in 1..=rings {
        let r = ring as f32 / rings as f32;
        let here: Vec<u32> = (0..sides)
            .map(|k| {
                let angle = k as f32 / sides as f32 * TAU;
                let mut p = dome.at(r, angle);
                if ring == rings {
                    p.y = -0.1 * dome.s.height_m;
                }
                let [tone, ..] = b.draw(1, (ring * sides + k) as u32);
                b.vertex(p, dome.normal(r.min(0.9), angle), colour * (0.85 + 0.3 * tone), 0.0)
            })
            .collect();
        for k in 0..sides {
            let n = (k + 1) % sides;
            b.mesh.indices.extend([previous[k], here[n], here[k]]);
            if ring > 1 {
                b.mesh.indices.extend([previous[k], previous[n], here[n]]);
            }
        }
        previous = here;
    }
}

fn shoot(b: &mut Builder, dome: &Dome, look: &Look, r: f32, angle: f32, index: u32) {
    let s = dome.s;
    let [a, c, d, e] = b.draw(2, index);
    let base = dome.at(r, angle + (a - 0.5) * 0.05);
    let up = dome.normal(r, angle);
    let away = heading(a * TAU);
    let axis = (up + away * (0.7 * s.loose * c) + Vec3::Y * 0.25).normalize();
    let length = s.shoot_m * (1.0 + s.loose * (d - 0.4));
    let (from, to) = look.leaf_tones(e);
    let from = look.root.lerp(from, 0.5);
    let Some(of) = b.thinned() else { return };
    let grow = of.sqrt().min(3.0);
    match s.cover {
        Cover::Blades => {
            let side = axis.cross(up.lerp(away, 0.7)).normalize_or(Vec3::X);
            let leaf = Leaf {
                base,
                along: axis,
                up: side.cross(axis).normalize_or(Vec3::Y),
                length,
                width: length * 0.1 * of.sqrt(),
                fold: 0.0,
                droop: 0.7 * c,
                from,
                to,
            };
            b.leaf_grown(leaf, Outline::LANCE);
        }
        Cover::Shoots | Cover::Rosettes => {
            let rosette = s.cover == Cover::Rosettes;
            let x = super::builder::square_to(axis);
            let z = axis.cross(x);
            let leaves = if b.detail == Detail::Full { 5 } else { 3 };
            for k in 0..leaves {
                let (sin, cos) = libm::sincosf(k as f32 * TAU / leaves as f32 + a * TAU);
                let out = x * cos + z * sin;
                let open = if rosette { 0.9 } else { 0.45 };
                let along = (axis * (1.0 - open * 0.5) + out * open).normalize();
                let wide = if rosette { 0.42 } else { 0.3 };
                let leaf = Leaf {
                    base,
                    along,
                    up: (axis - out * 0.4).normalize(),
                    length: length * grow,
                    width: length * wide * grow,
                    fold: 0.0,
                    droop: if rosette { -0.5 } else { 0.5 },
                    from,
                    to,
                };
                b.leaf_grown(leaf, Outline::KITE);
            }
        }
        Cover::Lobes => {
            let out = (heading(angle) * 0.9 + away * 0.7 + up * (0.12 + 0.25 * c)).normalize();
            let leaf = Leaf {
                base: base - up * (length * 0.15),
                along: out,
                up,
                length: length * grow,
                width: length * 0.9 * grow,
                fold: -0.2,
                droop: -0.5,
                from,
                to,
            };
            b.leaf_grown(leaf, Outline::ROUND);
        }
    }
}

fn flower(b: &mut Builder, dome: &Dome, look: &Look, index: u32, count: u32) {
    let s = dome.s;
    let [a, c, d, e] = b.draw(3, index);
    let r = ((index as f32 + 0.5) / count as f32).sqrt() * 0.95;
    let angle = index as f32 * GOLDEN + (a - 0.5);
    let base = dome.at(r, angle);
    let lean = (heading(angle) * (0.5 * r) + vec3(c - 0.5, 0.0, d - 0.5) * 0.4 + Vec3::Y).normalize();
    let height = s.stalk_m * (0.7 + 0.6 * e);
    let top = base + lean * height;
    let thin = (s.flower_m * 0.035).max(3e-4);
    if s.stalk_m > s.flower_m * 0.5 {
        let stalk = [base, base.lerp(top, 0.5) + Vec3::Y * (height * 0.04), top];
        b.limb(&stalk);
        b.tube(
            &stalk,
            &[thin, thin, thin * 0.8],
            3,
            &[look.leaf, look.leaf, look.leaf.lerp(look.flower, 0.4)],
            thin * 0.6,
        );
    }
    let Some(of) = b.thinned() else { return };
    let grow = of.sqrt().min(2.5);
    let size = s.flower_m * grow * (0.8 + 0.4 * a);
    // A small head: two tiers of petals, the upper ones lighter.
    let petal = look.petal(d);
    let shade = 0.75 + 0.25 * smooth(0.0, 1.0, e);
    b.petals(Petals {
        at: top,
        axis: lean,
        count: 6,
        length: size * 0.5,
        width: size * 0.34,
        lift: 0.25,
        from: petal * 0.72 * shade,
        to: petal * shade,
        turn: a * TAU,
    });
    b.petals(Petals {
        at: top + lean * (size * 0.08),
        axis: lean,
        count: 5,
        length: size * 0.36,
        width: size * 0.3,
        lift: 0.85,
        from: petal * 0.85,
        to: (petal * 1.06).min(Vec3::ONE),
        turn: c * TAU,
    });
}

impl Cushion {
    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        let flowers = if self.flowers > 0.0 { self.stalk_m + self.flower_m * 0.3 } else { 0.0 };
        self.height_m + (self.shoot_m * 0.8).max(flowers)
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        self.width_m * 0.5 + self.shoot_m * 0.5
    }
}
