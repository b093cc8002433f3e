//! Blades and tufts: grasses, sedges, rushes.

use super::Look;
use super::builder::{Builder, GOLDEN, heading};
use crate::nursery::settings::{choice, settings};
use glam::{Vec3, vec3};
use std::f32::consts::TAU;

choice! {
    /// What a grass carries when it flowers.
    Head {
        /// A slender spindle.
        Spike = "spike",
        /// Drooping branches with small grains.
        Panicle = "panicle",
        /// A narrow plume: small grains close about the stalk.
        Wisp = "wisp",
        /// A white tuft of down.
        Down = "down",
        /// A small brown tassel at the side of the stalk.
        Tassel = "tassel",
    }
}

settings! {
    /// A tuft of blades with flowering stalks.
    Blades {
        blades: 54.0, 3.0..400.0, 1.0, "", "Blades", "How many leaves the tuft has.";
        length_m: 0.75, 0.02..3.0, 0.01, "m", "Length", "Length of a full-grown blade.";
        width_mm: 6.2, 0.3..60.0, 0.1, "mm", "Width", "Width of a blade where it is widest.";
        segments: 6.0, 2.0..16.0, 1.0, "", "Segments", "Pieces of a blade along its length; more of them bend more smoothly.";
        clump_m: 0.09, 0.0..1.5, 0.005, "m", "Clump", "Radius of the foot, over which the blades are spread.";
        spread_deg: 40.0, 0.0..90.0, 1.0, "°", "Spread", "How far the outermost blades lean out at the foot.";
        bend_deg: 55.0, 0.0..170.0, 1.0, "°", "Bend", "How far a blade bends over towards its tip.";
        twist_deg: 15.0, 0.0..180.0, 1.0, "°", "Twist", "How far a blade wanders to the side.";
        vary: 0.45, 0.0..1.0, 0.01, "", "Variety", "How much blades differ in length, width and bend.";
        straw: 0.14, 0.0..1.0, 0.01, "", "Straw", "Share of blades that are dead and pale.";
        stalks: 1.2, 0.0..60.0, 0.1, "", "Stalks", "Flowering stalks, on average; they stand only in flower.";
        stalk_m: 0.82, 0.02..3.5, 0.01, "m", "Stalk height", "Height of a flowering stalk.";
        head_m: 0.16, 0.005..0.6, 0.005, "m", "Head", "Length of the flower head.";
        @ head: Head = Head::Spike, "Head form", "What the flower head looks like.";
    }
}

pub(super) fn build(b: &mut Builder, s: &Blades, look: &Look) {
    let count = s.blades as u32;
    for i in 0..count {
        blade(b, s, look, i, count);
    }
    let [a, ..] = b.draw(2, 0);
    let stalks = (s.stalks * look.bloom * (0.5 + a) + 0.35) as u32;
    for i in 0..stalks {
        stalk(b, s, look, i);
    }
}

/// One leaf, counted from the middle outwards.
fn blade(b: &mut Builder, s: &Blades, look: &Look, index: u32, count: u32) {
    let [u, length, droop, width] = b.draw(0, index);
    let [tone, straw, wander, turn] = b.draw(1, index);
    let vary = |x: f32| 1.0 + s.vary * (x - 0.5) * 1.4;
    let outer = (index as f32 + 0.5) / count as f32;
    // Tufts lean a little as a whole, each form its own way.
    let [lean_to, lean, ..] = b.draw(3, 0);
    let out = heading(index as f32 * GOLDEN + (turn - 0.5) * 1.1);
    let base = out * s.clump_m * (0.12 + 0.88 * outer.sqrt()) * (0.7 + 0.6 * u);
    let dead = straw < s.straw;
    let length = s.length_m * vary(length) * if dead { 0.75 } else { 1.0 } * (1.06 - 0.26 * outer);
    let rise = (4.0 + s.spread_deg * outer * (0.5 + 0.7 * u)).to_radians();
    let droop =
        (s.bend_deg * vary(droop) * (0.35 + 0.75 * outer)).to_radians() * if dead { 1.4 } else { 1.0 };
    let side = vec3(-out.z, 0.0, out.x);
    let wander = (wander - 0.5) * s.twist_deg.to_radians() * 2.0;
    let tilt = heading(lean_to * TAU) * (0.16 * lean);
    let (body, tip) = look.blade(tone, dead);
    let n = s.segments as usize;
    let mut at = base;
    let (mut spine, mut widths, mut colours) = (Vec::new(), Vec::new(), Vec::new());
    for k in 0..=n {
        let t = k as f32 / n as f32;
        spine.push(at);
        widths.push(if k == n { 0.0 } else { s.width_mm * 1e-3 * vary(width) * (1.0 - 0.75 * t * t) });
        colours.push(if t < 0.3 { look.root.lerp(body, t / 0.3) } else { body.lerp(tip, (t - 0.3) / 0.7) });
        let (sin, cos) = libm::sincosf(rise + droop * libm::powf(t, 1.6));
        at += (out * sin + Vec3::Y * cos + side * (wander * t) + tilt * t).normalize() * (length / n as f32);
    }
    b.limb(&spine);
    b.blade(&spine, &widths, out, &colours);
}

fn stalk(b: &mut Builder, s: &Blades, look: &Look, index: u32) {
    let [turn, height, lean, tone] = b.draw(4, index);
    let out = heading(turn * TAU);
    let height = s.stalk_m * (0.85 + 0.3 * height);
    let bend = 0.1 + 0.22 * lean;
    let foot = out * s.clump_m * 0.4 * tone;
    let at = |t: f32| foot + Vec3::Y * (height * t) + out * (height * bend * t * t);
    let radius = (s.width_mm * 2.2e-4).clamp(3e-4, 2.5e-3);
    let stem: Vec<Vec3> = (0..5).map(|k| at(k as f32 / 4.0)).collect();
    let colours: Vec<Vec3> = (0..5).map(|k| look.leaf.lerp(look.old, 0.3 + 0.12 * k as f32)).collect();
    b.limb(&stem);
    b.tube(&stem, &[radius, radius, radius * 0.9, radius * 0.8, radius * 0.6], 4, &colours, radius * 0.6);
    let axis = (at(1.0) - at(0.9)).normalize();
    let head = s.head_m * (0.8 + 0.4 * tone);
    let top = at(1.0);
    let colour = look.flower.lerp(look.old, 0.25 * tone);
    match s.head {
        Head::Spike => {
            let spine = [
                top - axis * head * 0.5,
                top - axis * head * 0.2,
                top + axis * head * 0.2,
                top + axis * head * 0.5,
            ];
            let r = head * 0.045;
            b.tube(
                &spine,
                &[radius, r, r * 0.9, 2e-4],
                5,
                &[colour * 0.9, colour, colour, colour * 1.1],
                0.0,
            );
        }
        Head::Panicle => {
            for k in 0..14 {
                let [a, c, d, _] = b.draw(5, index * 64 + k);
                let t = k as f32 / 14.0;
                let way = heading(k as f32 * GOLDEN + a);
                let from = top - axis * head * (1.0 - t) * 0.9;
                let reach = head * (0.42 - 0.3 * t) * (0.7 + 0.6 * c);
                let spine: Vec<Vec3> = (0..4)
                    .map(|j| {
                        let u = j as f32 / 3.0;
                        from + way * (reach * u) + axis * (reach * 0.7 * u)
                            - Vec3::Y * (reach * 0.5 * u * u * (0.5 + d))
                    })
                    .collect();
                let w = s.head_m * 0.02;
                b.blade(&spine, &[w * 0.35, w * 0.5, w, 0.0], way, &[colour; 4]);
            }
        }
        Head::Wisp => {
            let end = top + axis * (head * 0.5);
            b.tube(&[top, end], &[radius * 0.6, 2e-4], 3, &[colour, colour], 0.0);
            for k in 0..30 {
                let [a, c, d, _] = b.draw(5, index * 64 + k);
                let t = k as f32 / 30.0;
                let way = heading(k as f32 * GOLDEN + a);
                let from = top + axis * (head * (t - 0.5));
                let long = head * (0.15 - 0.07 * t) * (0.7 + 0.6 * c);
                let to = (axis + way * (0.22 + 0.3 * d)).normalize() * long;
                let w = head * 0.014;
                let own = colour * (0.8 + 0.4 * d);
                b.blade(&[from, from + to * 0.6, from + to], &[w * 0.5, w, 0.0], way, &[own; 3]);
            }
        }
        Head::Down => {
            for k in 0..26 {
                let [a, c, d, e] = b.draw(5, index * 64 + k);
                let way = (heading(k as f32 * GOLDEN) + Vec3::Y * (1.4 * a - 0.9)).normalize();
                let reach = head * (0.35 + 0.4 * c);
                let end = top + way * reach - Vec3::Y * (reach * 0.25 * d);
                let mid = top.lerp(end, 0.55) + Vec3::Y * (reach * 0.1 * e);
                b.blade(
                    &[top, mid, end],
                    &[head * 0.05, head * 0.11, 0.0],
                    way,
                    &[colour * 0.85, colour, colour],
                );
            }
        }
        Head::Tassel => {
            let from = at(0.86);
            for k in 0..9 {
                let [a, c, d, _] = b.draw(5, index * 64 + k);
                let way = (out + heading(a * TAU) * 0.9 + Vec3::Y * (0.9 * c)).normalize();
                let end = from + way * head * (0.35 + 0.5 * d);
                b.blade(
                    &[from, from.lerp(end, 0.6), end],
                    &[head * 0.05, head * 0.1, head * 0.03],
                    way,
                    &[colour; 3],
                );
            }
        }
    }
}

impl Blades {
    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        // A bent blade does not stand as high as it is long.
        let blades =
            self.length_m * (1.0 - 0.22 * (self.bend_deg / 90.0).min(1.6) - 0.10 * self.spread_deg / 90.0);
        if self.stalks >= 0.5 { blades.max(self.stalk_m * 1.05) } else { blades }
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        let lean = (self.spread_deg * 0.75 + self.bend_deg * 0.5).clamp(6.0, 100.0).to_radians();
        self.clump_m + self.length_m * 0.85 * libm::sinf(lean.min(1.5))
    }
}
