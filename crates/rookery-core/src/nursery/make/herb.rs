//! Flowering herbs: a rosette, leafy stems, and heads of flowers.

use super::Look;
use super::builder::{Builder, GOLDEN, Leaf, Outline, Petals, heading};
use crate::nursery::settings::{choice, settings};
use glam::{Vec3, vec3};
use std::f32::consts::TAU;

choice! {
    /// How a herb flowers.
    Bloom {
        /// No flowers.
        None = "none",
        /// A disc with rays.
        Daisy = "daisy",
        /// A flat plate of many small flowers.
        Umbel = "umbel",
        /// Hanging bells all along the upper stem.
        Bells = "bells",
        /// A ball of many small flowers.
        Ball = "ball",
        /// A few open cups.
        Cup = "cup",
        /// A dense spike of small flowers.
        Spire = "spire",
    }
}

choice! {
    /// The outline of a leaf.
    LeafShape {
        /// Narrow, pointed, widest below the middle.
        Lance = "lance",
        /// Widest in the middle.
        Oval = "oval",
        /// About as wide as long.
        Round = "round",
        /// With lobes.
        Lobed = "lobed",
    }
}

impl LeafShape {
    pub(super) fn outline(self) -> Outline {
        match self {
            Self::Lance => Outline::LANCE,
            Self::Oval => Outline::OVAL,
            Self::Round => Outline::ROUND,
            Self::Lobed => Outline::LOBED,
        }
    }
}

settings! {
    /// A herb with a rosette of leaves, stems and flowers.
    Herb {
        stems: 3.0, 0.0..40.0, 1.0, "", "Stems", "How many stems rise from the foot.";
        height_m: 0.45, 0.01..3.0, 0.01, "m", "Height", "Height of a full-grown stem.";
        spread_deg: 18.0, 0.0..80.0, 1.0, "°", "Spread", "How far stems lean out.";
        stem_mm: 2.5, 0.3..40.0, 0.1, "mm", "Stem", "Thickness of a stem at its foot.";
        leaves: 9.0, 0.0..80.0, 1.0, "", "Stem leaves", "Leaves along each stem, at the golden angle from one another.";
        leaf_m: 0.05, 0.002..0.6, 0.001, "m", "Leaf length", "Length of the lowest stem leaf; they grow smaller upwards.";
        leaf_wide: 0.4, 0.04..1.5, 0.01, "", "Leaf width", "Width of a leaf against its length.";
        basal: 12.0, 0.0..120.0, 1.0, "", "Rosette leaves", "Leaves at the foot.";
        basal_m: 0.09, 0.002..1.0, 0.001, "m", "Rosette length", "Length of a leaf at the foot.";
        basal_deg: 50.0, 0.0..90.0, 1.0, "°", "Rosette spread", "How far leaves at the foot lie down; 90 is flat.";
        heads: 1.0, 0.0..80.0, 1.0, "", "Heads", "Flower heads, or flowers of a spire, on each stem.";
        flower_m: 0.03, 0.001..0.4, 0.001, "m", "Flower", "Width of a flower, or of a head of many.";
        vary: 0.4, 0.0..1.0, 0.01, "", "Variety", "How much stems and leaves differ.";
        @ bloom: Bloom = Bloom::Daisy, "Flowers", "How it flowers.";
        @ shape: LeafShape = LeafShape::Lance, "Leaf shape", "The outline of its leaves.";
    }
}

pub(super) fn build(b: &mut Builder, s: &Herb, look: &Look) {
    for i in 0..s.basal as u32 {
        let [a, c, d, e] = b.draw(0, i);
        let t = (i as f32 + 0.5) / s.basal;
        let out = heading(i as f32 * GOLDEN + (a - 0.5) * 0.6);
        let lie = (s.basal_deg * (0.45 + 0.55 * t) * (0.8 + 0.4 * c)).to_radians();
        let (sin, cos) = libm::sincosf(lie);
        let length = s.basal_m * (0.65 + 0.35 * t) * (1.0 + s.vary * (d - 0.5));
        let (from, to) = look.leaf_tones(e);
        let leaf = Leaf {
            base: out * (s.basal_m * 0.04),
            along: out * sin + Vec3::Y * cos,
            up: Vec3::Y * sin - out * cos,
            length,
            width: length * s.leaf_wide * 0.85,
            fold: 0.28,
            droop: 0.9,
            from: look.root.lerp(from, 0.45),
            to,
        };
        b.leaf(leaf, s.shape.outline());
    }
    for i in 0..s.stems as u32 {
        stem(b, s, look, i);
    }
}

fn stem(b: &mut Builder, s: &Herb, look: &Look, index: u32) {
    let [a, c, d, e] = b.draw(1, index);
    let many = (s.stems - 1.0).max(1.0);
    let outer = if s.stems > 1.0 { ((index as f32 + 0.3) / many).sqrt().min(1.0) } else { 0.25 };
    let out = heading(index as f32 * GOLDEN + a);
    let lean = (s.spread_deg * outer * (0.6 + 0.8 * c)).to_radians();
    let height = s.height_m * (1.0 - s.vary * 0.6 * d * outer);
    let at = |t: f32| {
        // Stems lean out and then straighten towards the light.
        out * (libm::sinf(lean) * height * (t - 0.35 * t * t) + s.stem_mm * 2e-3 * outer)
            + Vec3::Y * (height * t * (1.0 - 0.12 * lean))
    };
    let n = 6;
    let spine: Vec<Vec3> = (0..=n).map(|k| at(k as f32 / n as f32)).collect();
    let radius = s.stem_mm * 5e-4;
    let radii: Vec<f32> = (0..=n).map(|k| radius * (1.0 - 0.6 * k as f32 / n as f32)).collect();
    let colours: Vec<Vec3> =
        (0..=n).map(|k| look.root.lerp(look.leaf * 0.85, 0.25 + 0.75 * k as f32 / n as f32)).collect();
    b.limb(&spine);
    b.tube(&spine, &radii, 5, &colours, radius * 0.5);
    let along_stem = matches!(s.bloom, Bloom::Bells | Bloom::Spire);
    let leafy = if along_stem { 0.62 } else { 0.86 };
    for k in 0..s.leaves as u32 {
        let [u, v, w, x] = b.draw(2, index * 128 + k);
        let t = (k as f32 + 0.6) / s.leaves * leafy;
        let way = heading(k as f32 * GOLDEN + index as f32 + (u - 0.5) * 0.5);
        let along = (way * 0.85 + Vec3::Y * (0.25 + 0.5 * t) + (v - 0.5) * 0.2 * Vec3::Y).normalize();
        let length = s.leaf_m * (1.0 - 0.7 * t) * (1.0 + s.vary * (w - 0.5));
        let (from, to) = look.leaf_tones(x);
        let leaf = Leaf {
            base: at(t),
            along,
            up: Vec3::Y,
            length,
            width: length * s.leaf_wide,
            fold: 0.3,
            droop: 0.8,
            from,
            to,
        };
        b.leaf(leaf, s.shape.outline());
    }
    if look.bloom * 1.15 < e {
        return;
    }
    let axis = (at(1.0) - at(0.92)).normalize();
    flowers(b, s, look, index, &at, axis);
}

fn flowers(b: &mut Builder, s: &Herb, look: &Look, index: u32, at: &dyn Fn(f32) -> Vec3, axis: Vec3) {
    let top = at(1.0);
    let size = s.flower_m;
    let heads = (s.heads as u32).max(1);
    match s.bloom {
        Bloom::None => {}
        Bloom::Daisy | Bloom::Cup | Bloom::Ball | Bloom::Umbel => {
            for h in 0..heads {
                let [a, c, d, e] = b.draw(3, index * 64 + h);
                // The first sits at the top, the others on side shoots below it.
                let (foot, middle, way) = if h == 0 {
                    (top, top, axis)
                } else {
                    let from = at(0.55 + 0.35 * a);
                    let way = (heading(h as f32 * GOLDEN + c) * 0.75 + Vec3::Y).normalize();
                    (from, from + way * (s.height_m * (0.16 + 0.14 * d)), way)
                };
                if h > 0 {
                    let r = s.stem_mm * 2.5e-4;
                    b.tube(&[foot, middle], &[r, r * 0.7], 3, &[look.leaf * 0.85; 2], r * 0.7);
                }
                let way = (way + vec3(a - 0.5, 0.0, d - 0.5) * 0.5).normalize();
                let petal = look.petal(e);
                match s.bloom {
                    Bloom::Daisy => daisy(b, look, middle, way, size, petal, c),
                    Bloom::Cup => {
                        b.petals(Petals {
                            at: middle,
                            axis: way,
                            count: 5,
                            length: size * 0.55,
                            width: size * 0.5,
                            lift: 0.75,
                            from: petal * 0.8,
                            to: petal,
                            turn: a * TAU,
                        });
                        knob(b, middle + way * (size * 0.1), way, size * 0.14, look.eye);
                    }
                    Bloom::Ball => ball(b, look, middle, way, size, index * 64 + h),
                    _ => umbel(b, look, middle, way, size, index * 64 + h),
                }
            }
        }
        Bloom::Bells | Bloom::Spire => {
            let bells = s.bloom == Bloom::Bells;
            for k in 0..heads {
                let [a, c, d, _] = b.draw(3, index * 64 + k);
                let t = 0.5 + 0.5 * (k as f32 + 0.5) / heads as f32;
                let way = heading(k as f32 * GOLDEN * if bells { 0.35 } else { 1.0 } + (a - 0.5) * 0.7);
                // Buds at the tip are small still.
                let grown = size * (1.15 - 0.75 * ((t - 0.5) * 2.0)) * (0.85 + 0.3 * c);
                let petal = look.petal(d);
                if bells {
                    let hang = (way * 0.8 - Vec3::Y * 0.75).normalize();
                    bell(b, at(t) + way * s.stem_mm * 5e-4, hang, grown, petal, look.eye);
                } else {
                    let out = (way + Vec3::Y * 0.55).normalize();
                    b.petals(Petals {
                        at: at(t),
                        axis: out,
                        count: 4,
                        length: grown * 0.6,
                        width: grown * 0.5,
                        lift: 0.35,
                        from: petal * 0.8,
                        to: petal,
                        turn: a * TAU,
                    });
                }
            }
        }
    }
}

fn daisy(b: &mut Builder, look: &Look, at: Vec3, axis: Vec3, size: f32, petal: Vec3, turn: f32) {
    b.petals(Petals {
        at,
        axis,
        count: 13,
        length: size * 0.5,
        width: size * 0.15,
        lift: 0.1,
        from: petal * 0.9,
        to: petal,
        turn: turn * TAU,
    });
    knob(b, at, axis, size * 0.17, look.eye);
}

/// A small dome.
fn knob(b: &mut Builder, at: Vec3, axis: Vec3, radius: f32, colour: Vec3) {
    let spine = [at - axis * radius * 0.2, at + axis * radius * 0.45, at + axis * radius * 0.75];
    b.tube(&spine, &[radius, radius * 0.8, radius * 0.05], 6, &[colour * 0.75, colour, colour * 1.1], 0.0);
}

/// Florets over a ball, by Vogel's spiral.
fn ball(b: &mut Builder, look: &Look, at: Vec3, axis: Vec3, size: f32, index: u32) {
    let middle = at + axis * size * 0.25;
    let florets = 30;
    for k in 0..florets {
        let [a, c, ..] = b.draw(5, index * 64 + k);
        let y = 1.0 - 1.55 * (k as f32 + 0.5) / florets as f32;
        let r = (1.0 - y * y).max(0.0).sqrt();
        let side = super::builder::square_to(axis);
        let (sin, cos) = libm::sincosf(k as f32 * GOLDEN);
        let out = axis * y + (side * cos + axis.cross(side) * sin) * r;
        let petal = look.petal(a) * (0.72 + 0.28 * (y * 0.5 + 0.5) + 0.12 * (c - 0.5));
        let Some(of) = b.thinned() else { continue };
        b.petals(Petals {
            at: middle + out * size * 0.28,
            axis: out,
            count: 3,
            length: size * 0.24 * of.sqrt().min(2.6),
            width: size * 0.16 * of.sqrt().min(2.6),
            lift: 0.35,
            from: petal * 0.75,
            to: petal,
            turn: a * TAU,
        });
    }
    knob(b, middle - axis * size * 0.12, axis, size * 0.3, look.petal(0.5) * 0.55);
}

/// A plate of small flowers on rays; the places follow Vogel's spiral.
fn umbel(b: &mut Builder, look: &Look, at: Vec3, axis: Vec3, size: f32, index: u32) {
    let side = super::builder::square_to(axis);
    let flowers = 34;
    for k in 0..flowers {
        let [a, c, ..] = b.draw(6, index * 64 + k);
        let r = ((k as f32 + 0.5) / flowers as f32).sqrt();
        let (sin, cos) = libm::sincosf(k as f32 * GOLDEN);
        let out = side * cos + axis.cross(side) * sin;
        let place = at + out * (r * size * 0.5) + axis * (size * (0.34 - 0.12 * r * r + 0.03 * a));
        let thin = size * 0.006;
        if k % 4 == 0 {
            b.tube(&[at, place], &[thin, thin * 0.6], 3, &[look.leaf; 2], thin * 2.0);
        }
        let Some(of) = b.thinned() else { continue };
        let petal = look.petal(c);
        let grow = of.sqrt().min(2.6);
        b.petals(Petals {
            at: place,
            axis: (axis + out * 0.25 * r).normalize(),
            count: 5,
            length: size * 0.075 * grow,
            width: size * 0.065 * grow,
            lift: 0.1,
            from: petal * 0.92,
            to: petal,
            turn: a * TAU,
        });
    }
}

/// A hanging bell: a short widening tube with a flared lip.
fn bell(b: &mut Builder, at: Vec3, axis: Vec3, size: f32, colour: Vec3, inner: Vec3) {
    let rows = [(0.0, 0.12), (0.3, 0.3), (0.75, 0.36), (1.0, 0.48)];
    let spine: Vec<Vec3> = rows.iter().map(|(t, _)| at + axis * (size * t)).collect();
    let radii: Vec<f32> = rows.iter().map(|(_, r)| size * r * 0.62).collect();
    let lip = colour.lerp(inner, 0.25);
    b.tube(&spine, &radii, 6, &[colour * 0.8, colour, colour, lip], 0.0);
}

impl Herb {
    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        let rosette = self.basal_m * libm::cosf(self.basal_deg.to_radians() * 0.6);
        if self.stems > 0.0 { self.height_m.max(rosette) } else { rosette }
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        let rosette = if self.basal > 0.0 {
            self.basal_m * libm::sinf(self.basal_deg.to_radians()).max(0.3)
        } else {
            0.0
        };
        let lean = libm::sinf(self.spread_deg.to_radians()) * self.height_m * 0.6;
        let flowers = if self.bloom == Bloom::None { 0.0 } else { self.flower_m * 0.5 };
        let leaves = if self.leaves > 0.0 { self.leaf_m * 0.8 } else { 0.0 };
        rosette.max(if self.stems > 0.0 { lean + leaves.max(flowers) } else { 0.0 })
    }
}
