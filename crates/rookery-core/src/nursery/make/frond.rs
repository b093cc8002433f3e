//! Fronds: ferns, bracken and strap-leaved rosettes.

use super::Look;
use super::builder::{Builder, GOLDEN, Leaf, Outline, heading};
use crate::nursery::settings::{choice, settings};
use glam::{Vec3, vec3};

choice! {
    /// How far a frond is divided.
    Divided {
        /// One strap.
        Whole = "whole",
        /// Leaflets on both sides of the midrib.
        Once = "once",
        /// Leaflets on side ribs.
        Twice = "twice",
    }
}

settings! {
    /// A crown of fronds from one foot.
    Frond {
        fronds: 9.0, 1.0..40.0, 1.0, "", "Fronds", "How many fronds rise from the foot.";
        length_m: 0.8, 0.02..3.5, 0.01, "m", "Length", "Length of a frond, its stalk included.";
        stalk: 0.22, 0.0..0.8, 0.01, "", "Stalk", "Share of the length that bears no leaflets.";
        wide: 0.3, 0.02..1.2, 0.01, "", "Width", "Width of a frond against its length.";
        widest: 0.35, 0.05..0.9, 0.01, "", "Widest at", "Where a frond is widest, from foot to tip of its blade.";
        pairs: 18.0, 3.0..40.0, 1.0, "", "Pairs", "Pairs of leaflets or side ribs along a frond.";
        rise_deg: 32.0, 0.0..85.0, 1.0, "°", "Spread", "How far fronds lean out at the foot.";
        arch_deg: 55.0, -40.0..150.0, 1.0, "°", "Arch", "How far a frond bends over towards its tip.";
        vary: 0.4, 0.0..1.0, 0.01, "", "Variety", "How much fronds differ.";
        @ divided: Divided = Divided::Once, "Divided", "How far a frond is divided.";
    }
}

pub(super) fn build(b: &mut Builder, s: &Frond, look: &Look) {
    for i in 0..s.fronds as u32 {
        frond(b, s, look, i);
    }
}

fn frond(b: &mut Builder, s: &Frond, look: &Look, index: u32) {
    let [a, c, d, tone] = b.draw(0, index);
    let [e, f, ..] = b.draw(1, index);
    let out = heading(index as f32 * GOLDEN + (a - 0.5) * 0.7);
    let side = vec3(-out.z, 0.0, out.x);
    let length = s.length_m * (1.0 - s.vary * 0.7 * c);
    let lean = (s.rise_deg * (0.6 + 0.7 * d)).to_radians();
    let arch = (s.arch_deg * (1.0 + s.vary * (e - 0.5))).to_radians();
    let n = 16;
    let mut at = out * (s.length_m * 0.015);
    let mut spine = Vec::with_capacity(n + 1);
    let mut ways = Vec::with_capacity(n + 1);
    for k in 0..=n {
        let t = k as f32 / n as f32;
        let (sin, cos) = libm::sincosf(lean + arch * t * t);
        let way = (out * sin + Vec3::Y * cos + side * ((f - 0.5) * 0.35 * t)).normalize();
        spine.push(at);
        ways.push(way);
        at += way * (length / n as f32);
    }
    b.limb(&spine);
    let place = |t: f32| {
        let x = (t * n as f32).clamp(0.0, n as f32 - 1e-3);
        let k = x as usize;
        (spine[k].lerp(spine[k + 1], x - k as f32), ways[k])
    };
    let (from, to) = look.leaf_tones(tone);
    let up_of =
        |way: Vec3| side.cross(way).normalize_or(Vec3::Y) * if side.cross(way).y < 0.0 { -1.0 } else { 1.0 };
    if s.divided == Divided::Whole {
        let width = |t: f32| s.wide * length * profile(s, t);
        let stem = s.stalk;
        let points: Vec<usize> = (0..=n).filter(|k| *k as f32 / n as f32 >= stem || *k == 0).collect();
        let line: Vec<Vec3> = points.iter().map(|k| spine[*k]).collect();
        let last = points.len() - 1;
        let widths: Vec<f32> = points
            .iter()
            .enumerate()
            .map(|(i, k)| {
                if i == last {
                    0.0
                } else {
                    width(((*k as f32 / n as f32 - stem) / (1.0 - stem)).max(0.0)).max(length * 0.012)
                }
            })
            .collect();
        let colours: Vec<Vec3> = points
            .iter()
            .map(|k| look.root.lerp(from, 0.4 + 0.6 * (*k as f32 / n as f32)).lerp(to, *k as f32 / n as f32))
            .collect();
        b.blade(&line, &widths, up_of(ways[n / 2]).lerp(out, 0.4), &colours);
        return;
    }
    let radius = length * 0.0045;
    let radii: Vec<f32> = (0..=n).map(|k| radius * (1.0 - 0.8 * k as f32 / n as f32)).collect();
    let rib: Vec<Vec3> =
        (0..=n).map(|k| look.root.lerp(look.wood, 0.5).lerp(from, 0.6 * k as f32 / n as f32)).collect();
    b.tube(&spine, &radii, 4, &rib, radius * 0.9);
    let pairs = s.pairs as u32;
    for k in 0..pairs {
        let u = (k as f32 + 0.4) / pairs as f32;
        let (foot, way) = place(s.stalk + (1.0 - s.stalk) * u);
        let reach = s.wide * length * 0.5 * profile(s, u);
        let up = up_of(way);
        // A leaflet and all that it is divided into ride where it leaves the midrib.
        b.riding = None;
        b.riding = Some(b.share_at(foot));
        for hand in [-1.0, 1.0] {
            let [g, h, i, _] = b.draw(2, (index * 64 + k) * 2 + u32::from(hand > 0.0));
            // Leaflets lean towards the tip, more so near it, and hang a little.
            let along = (side * hand + way * (0.25 + 0.7 * u) + up * (0.12 * (g - 0.4))).normalize();
            let size = reach * (0.9 + 0.2 * h);
            let (from, to) = (from * (0.9 + 0.2 * i), to * (0.9 + 0.2 * i));
            let gap = length * (1.0 - s.stalk) / pairs as f32;
            if s.divided == Divided::Once {
                let leaf = Leaf {
                    base: foot,
                    along,
                    up,
                    length: size,
                    width: (gap * 1.15).min(size * 0.5),
                    fold: 0.12,
                    droop: 0.5,
                    from,
                    to,
                };
                b.leaf(leaf, Outline::LANCE);
            } else {
                let rib =
                    Leaf { base: foot, along, up, length: size, width: 0.0, fold: 0.0, droop: 0.0, from, to };
                side_rib(b, rib, gap);
            }
        }
    }
}

/// A side rib with its own leaflets, smaller towards its tip. The rib is given as the leaf it takes the place of.
fn side_rib(b: &mut Builder, rib: Leaf, gap: f32) {
    let Leaf { base: foot, along, up, length: reach, from, to, .. } = rib;
    let count = ((reach / (gap * 0.5)) as u32).clamp(3, 12);
    let side = along.cross(up).normalize_or(Vec3::X);
    for j in 0..count {
        let t = (j as f32 + 0.5) / count as f32;
        let base = foot + along * (reach * t) - up * (reach * 0.12 * t * t);
        let size = gap * 0.62 * (1.15 - 0.85 * t);
        for hand in [-1.0, 1.0] {
            let way = (side * hand + along * 0.55).normalize();
            let width = (reach / count as f32 * 1.25).min(size * 0.75);
            let leaf = Leaf {
                base,
                along: way,
                up,
                length: size,
                width,
                fold: 0.0,
                droop: 0.3,
                from: from.lerp(to, t * 0.5),
                to,
            };
            b.leaf(leaf, Outline::KITE);
        }
    }
    let end = Leaf {
        base: foot + along * (reach * 0.94),
        along,
        up,
        length: gap * 0.5,
        width: gap * 0.2,
        fold: 0.0,
        droop: 0.2,
        from,
        to,
    };
    b.leaf(end, Outline::KITE);
}

/// Width of a frond along its blade against its full width.
fn profile(s: &Frond, t: f32) -> f32 {
    let w = s.widest;
    if t < w {
        0.35 + 0.65 * libm::sinf(t / w * std::f32::consts::FRAC_PI_2)
    } else {
        libm::powf(1.0 - (t - w) / (1.0 - w), 0.75)
    }
}

impl Frond {
    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        let lean = (self.rise_deg + self.arch_deg.max(0.0) * 0.35).to_radians();
        self.length_m * libm::cosf(lean.min(1.0)) * 0.95
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        let lean = (self.rise_deg + self.arch_deg.max(0.0) * 0.45).to_radians();
        self.length_m * libm::sinf(lean.min(1.5)) * 0.85 + self.wide * self.length_m * 0.2
    }
}
