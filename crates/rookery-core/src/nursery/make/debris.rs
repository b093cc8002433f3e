//! Debris: driftwood, twigs, fallen leaves, shells.

use super::Look;
use super::builder::{Builder, GOLDEN, Leaf, heading, square_to};
use super::herb::LeafShape;
use crate::math::noise::Noise;
use crate::nursery::settings::{choice, settings};
use glam::{Vec3, vec3};
use std::f32::consts::{PI, TAU};

choice! {
    /// What lies about.
    Litter {
        /// A worn log with the stumps of its branches.
        Log = "log",
        /// Thin sticks.
        Twigs = "twigs",
        /// Fallen leaves.
        Leaves = "leaves",
        /// Ribbed half shells.
        Shells = "shells",
    }
}

settings! {
    /// What lies about: one log, or a handful of small things.
    Debris {
        length_m: 1.6, 0.005..12.0, 0.005, "m", "Length", "Length of the log, or of one piece.";
        thick_m: 0.16, 0.001..2.0, 0.001, "m", "Thickness", "Thickness of the log or twig where it is thickest.";
        pieces: 1.0, 1.0..200.0, 1.0, "", "Pieces", "How many lie together.";
        spread_m: 0.0, 0.0..5.0, 0.01, "m", "Spread", "Radius over which the pieces lie.";
        bend: 0.35, 0.0..2.0, 0.01, "", "Bend", "How crooked a piece is.";
        knots: 4.0, 0.0..20.0, 1.0, "", "Stumps", "Stumps of branches on a log, forks of a twig.";
        vary: 0.4, 0.0..1.0, 0.01, "", "Variety", "How much pieces differ.";
        @ kind: Litter = Litter::Log, "Kind", "What lies about.";
        @ shape: LeafShape = LeafShape::Oval, "Leaf shape", "The outline of a fallen leaf.";
    }
}

pub(super) fn build(b: &mut Builder, s: &Debris, look: &Look) {
    for i in 0..s.pieces as u32 {
        let [a, c, d, e] = b.draw(0, i);
        let r = if s.pieces > 1.0 { ((i as f32 + 0.5) / s.pieces).sqrt() * s.spread_m } else { 0.0 };
        let foot = heading(i as f32 * GOLDEN + a) * r;
        let way = heading(if s.pieces > 1.0 { c * TAU } else { 0.0 });
        let size = 1.0 + s.vary * (d - 0.5);
        match s.kind {
            Litter::Log => log(b, s, look, foot, way, size, i),
            Litter::Twigs => {
                if b.thinned().is_some() {
                    stick(b, s, look, foot, way, size, i);
                }
            }
            Litter::Leaves => {
                let (from, to) = look.leaf_tones(e);
                let tilt = (a - 0.5) * 0.7;
                let length = s.length_m * size;
                let leaf = Leaf {
                    base: foot + Vec3::Y * (0.05 + 0.25 * e) * length,
                    along: (way + Vec3::Y * tilt).normalize(),
                    up: (Vec3::Y + heading(e * TAU) * 0.3).normalize(),
                    length,
                    width: length * 0.62,
                    fold: 0.25 * d,
                    droop: (c - 0.4) * 1.6,
                    from,
                    to,
                };
                b.leaf(leaf, s.shape.outline());
            }
            Litter::Shells => shell(b, s, look, foot, way, size, i),
        }
    }
}

fn log(b: &mut Builder, s: &Debris, look: &Look, foot: Vec3, way: Vec3, size: f32, index: u32) {
    let length = s.length_m * size;
    let [a, c, d, _] = b.draw(1, index);
    let worn = Noise::new((a * 1e6) as u32, 0.35, 3, 0.55);
    let side = vec3(-way.z, 0.0, way.x);
    let n = 14;
    let radius = s.thick_m * 0.5 * size;
    let spine: Vec<Vec3> = (0..=n)
        .map(|k| {
            let t = k as f32 / n as f32;
            let sway = libm::sinf(t * PI * (0.8 + c)) * s.bend * length * 0.16
                + worn.at(t * 0.7, 3.0) * s.bend * length * 0.05;
            let lift = libm::sinf(t * PI * (0.6 + d)) * s.bend * length * 0.08;
            foot + way * (length * (t - 0.5)) + side * sway + Vec3::Y * (radius * 0.55 + lift)
        })
        .collect();
    let radii: Vec<f32> = (0..=n)
        .map(|k| {
            let t = k as f32 / n as f32;
            let end = if k == 0 { 0.75 } else { 1.0 };
            radius
                * end
                * (1.0 - 0.62 * t)
                * (1.0 + 0.22 * worn.at(t, 9.0))
                * if t > 0.95 { 0.45 } else { 1.0 }
        })
        .collect();
    let colours: Vec<Vec3> = (0..=n)
        .map(|k| look.wood.lerp(look.leaf, (0.45 + 0.9 * worn.at(k as f32 * 0.13, 20.0)).clamp(0.0, 1.0)))
        .collect();
    b.tube(&spine, &radii, 9, &colours, 0.0);
    for k in 0..s.knots as u32 {
        let [a, c, d, e] = b.draw(2, index * 32 + k);
        let t = 0.12 + 0.8 * (k as f32 + a) / s.knots;
        let at = ((t * n as f32) as usize).min(n - 1);
        let along = (spine[at + 1] - spine[at]).normalize_or(way);
        let out = (side * (c * 2.0 - 1.0) + Vec3::Y * (0.15 + d) + along * 0.5).normalize();
        let reach = radius * (1.0 + 3.0 * e * e);
        let r = radii[at] * (0.28 + 0.25 * d);
        let end = spine[at] + out * (radii[at] * 0.6 + reach);
        b.tube(
            &[spine[at], spine[at].lerp(end, 0.6) + along * (reach * 0.12), end],
            &[r * 1.3, r, r * 0.35],
            5,
            &[look.wood, look.leaf, look.leaf * 0.85],
            r * 0.6,
        );
    }
}

fn stick(b: &mut Builder, s: &Debris, look: &Look, foot: Vec3, way: Vec3, size: f32, index: u32) {
    let length = s.length_m * size;
    let [a, c, d, e] = b.draw(1, index);
    let side = vec3(-way.z, 0.0, way.x);
    let radius = s.thick_m * 0.5 * (0.6 + 0.6 * d);
    let n = 5;
    let spine: Vec<Vec3> = (0..=n)
        .map(|k| {
            let t = k as f32 / n as f32;
            let sway = libm::sinf(t * PI + a * TAU) * s.bend * length * 0.12;
            foot + way * (length * (t - 0.5))
                + side * sway
                + Vec3::Y * (radius * (0.8 + 6.0 * c * c) + length * 0.06 * e * t)
        })
        .collect();
    let radii: Vec<f32> = (0..=n).map(|k| radius * (1.0 - 0.6 * k as f32 / n as f32)).collect();
    let colour = look.wood.lerp(look.leaf, 0.3 + 0.5 * e);
    b.tube(&spine, &radii, 4, &[colour; 6], 0.0);
    for k in 0..s.knots as u32 {
        let [a, c, d, _] = b.draw(3, index * 32 + k);
        let at = spine[1 + ((a * 3.9) as usize).min(3)];
        let out = (way * 0.7 + side * (c * 2.0 - 1.0) + Vec3::Y * (0.5 * d - 0.1)).normalize();
        let reach = length * (0.12 + 0.25 * d);
        b.tube(
            &[at, at + out * (reach * 0.5), at + out * reach + Vec3::Y * (reach * 0.08)],
            &[radius * 0.6, radius * 0.45, radius * 0.2],
            3,
            &[colour; 3],
            radius * 0.5,
        );
    }
}

/// Half a shell: a fan with ribs, domed.
fn shell(b: &mut Builder, s: &Debris, look: &Look, foot: Vec3, way: Vec3, size: f32, index: u32) {
    let [a, c, d, e] = b.draw(1, index);
    let length = s.length_m * size;
    let over = if a > 0.3 { 1.0 } else { -1.0 };
    let up = (Vec3::Y + heading(c * TAU) * 0.35 * d).normalize();
    let side = way.cross(up).normalize_or(square_to(way));
    let (rays, rows) = if b.detail == crate::nursery::Detail::Full { (14, 4) } else { (6, 2) };
    let tone = look.petal(e);
    let mut previous: Vec<u32> = Vec::new();
    for r in 0..=rows {
        let t = r as f32 / rows as f32;
        let here: Vec<u32> = (0..=rays)
            .map(|k| {
                let angle = (k as f32 / rays as f32 - 0.5) * 2.5;
                let rib = 1.0 + 0.05 * if k % 2 == 0 { 1.0 } else { -1.0 };
                let (sin, cos) = libm::sincosf(angle);
                let dome = libm::sinf(t * PI * 0.85) * 0.30 * (1.0 - 0.35 * (angle / 1.25) * (angle / 1.25));
                let plan = way * (cos * t) + side * (sin * t);
                let p = foot
                    + plan * (length * rib)
                    + up * (over * dome * length * rib + length * if over < 0.0 { 0.28 } else { 0.01 });
                let normal = (up * (1.0 - 0.4 * t) * over + plan * 0.5).normalize() * over;
                let band = 0.82 + 0.18 * libm::sinf(t * 17.0 + e * 9.0);
                b.vertex(p, normal, tone * band * (0.8 + 0.2 * rib), 0.25)
            })
            .collect();
        if r > 0 {
            for k in 0..rays {
                b.mesh.indices.extend([
                    previous[k],
                    here[k],
                    here[k + 1],
                    previous[k],
                    here[k + 1],
                    previous[k + 1],
                ]);
            }
        }
        previous = here;
    }
}

impl Debris {
    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        match self.kind {
            Litter::Log => self.thick_m * 1.7 + self.bend * self.length_m * 0.06,
            Litter::Twigs => self.thick_m * 4.0 + self.length_m * 0.12,
            Litter::Leaves => self.length_m * 0.45,
            Litter::Shells => self.length_m * 0.4,
        }
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        let own = match self.kind {
            Litter::Log | Litter::Twigs => self.length_m * 0.5,
            _ => self.length_m * 0.8,
        };
        own + self.spread_m * 0.9
    }
}
