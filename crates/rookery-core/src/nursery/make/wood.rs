//! Shrubs and trees: stems, branches, twigs and leaves.
//!
//! Source: Weber & Penn, "Creation and Rendering of Realistic Trees", SIGGRAPH 1995: crown shapes by the ratio of their
//! table, branches by down angle and curve, radii by the length ratio to a power. Two orders of branches are built; the
//! finer ones are stood in for by more leaves. Whorls, wind and hanging twigs are our own.

use super::Look;
use super::builder::{Builder, Crown, GOLDEN, Leaf, Petals, heading, smooth, square_to};
use super::herb::LeafShape;
use crate::nursery::settings::{choice, settings};
use glam::{Quat, Vec3, vec3};
use std::f32::consts::{PI, TAU};

choice! {
    /// The outline of a crown.
    CrownShape {
        /// Widest at the bottom, pointed.
        Cone = "cone",
        /// Widest in the middle.
        Ball = "ball",
        /// Widest at the bottom, round.
        Dome = "dome",
        /// As wide all along.
        Column = "column",
        /// Widest above its foot, pointed.
        Flame = "flame",
        /// Widest at the top.
        Spreading = "spreading",
    }
}

impl CrownShape {
    /// Length of a branch against the longest; `r` is 1 at the bottom of the crown and 0 at its top.
    ///
    /// Source: the function ShapeRatio of Weber & Penn 1995.
    fn ratio(self, r: f32) -> f32 {
        match self {
            Self::Cone => 0.2 + 0.8 * r,
            Self::Ball => 0.2 + 0.8 * libm::sinf(PI * r),
            Self::Dome => 0.2 + 0.8 * libm::sinf(0.5 * PI * r),
            Self::Column => 1.0,
            Self::Flame => 0.5 + 0.5 * if r <= 0.7 { r / 0.7 } else { (1.0 - r) / 0.3 },
            Self::Spreading => 1.0 - 0.8 * r,
        }
    }
}

choice! {
    /// What twigs bear.
    Foliage {
        /// Flat leaves around the twig.
        Leaves = "leaves",
        /// Needles in two rows along the twig.
        Rows = "needle rows",
        /// Tufts of needles towards the tip.
        Tufts = "needle tufts",
        /// Short needles all around.
        Scales = "scales",
    }
}

settings! {
    /// A shrub or a tree.
    Wood {
        height_m: 7.0, 0.05..60.0, 0.05, "m", "Height", "Height of the whole plant.";
        stems: 1.0, 1.0..40.0, 1.0, "", "Stems", "Stems from one foot.";
        stem_deg: 20.0, 0.0..80.0, 1.0, "°", "Stem spread", "How far several stems lean apart.";
        trunk_m: 0.2, 0.001..4.0, 0.001, "m", "Trunk", "Thickness of a stem at its foot.";
        bare: 0.25, 0.0..0.9, 0.01, "", "Bare stem", "Share of the height without branches.";
        branches: 26.0, 2.0..160.0, 1.0, "", "Branches", "Branches on each stem.";
        whorl: 0.0, 0.0..12.0, 1.0, "", "Whorl", "Branches that stand at one height; 0 spreads them along a spiral.";
        reach: 0.36, 0.02..1.2, 0.01, "", "Reach", "Length of the longest branch against the height.";
        down_deg: 62.0, 5.0..150.0, 1.0, "°", "Angle", "Angle between branch and stem at the foot of the crown; branches higher up stand steeper.";
        rise: 0.35, -1.5..1.5, 0.05, "", "Rise", "How far branches turn up towards their tips; below zero they hang.";
        gnarl: 0.3, 0.0..1.5, 0.01, "", "Gnarl", "How crooked stems and branches grow.";
        twigs: 9.0, 0.0..40.0, 1.0, "", "Twigs", "Twigs along each branch.";
        twig: 0.4, 0.02..1.2, 0.01, "", "Twig length", "Length of the longest twig against its branch.";
        weep: 0.1, -0.5..2.0, 0.05, "", "Weep", "How far twigs hang down.";
        leaves: 16.0, 0.0..80.0, 1.0, "", "Leaves", "Leaves, or tufts of needles, on each twig.";
        leaf_m: 0.06, 0.002..0.6, 0.001, "m", "Leaf length", "Length of a leaf or needle.";
        leaf_wide: 0.6, 0.02..1.4, 0.01, "", "Leaf width", "Width of a leaf against its length.";
        flowers: 0.0, 0.0..30.0, 1.0, "", "Flowers", "Flowers or fruits on each twig.";
        flower_m: 0.015, 0.002..0.3, 0.001, "m", "Flower", "Width of a flower or fruit.";
        wind: 0.0, 0.0..1.0, 0.01, "", "Wind", "How far the sea wind has shaped it; it leans away from it, along its own east.";
        @ crown: CrownShape = CrownShape::Ball, "Crown", "The outline of the crown.";
        @ foliage: Foliage = Foliage::Leaves, "Foliage", "What the twigs bear.";
        @ shape: LeafShape = LeafShape::Oval, "Leaf shape", "The outline of a leaf.";
    }
}

/// A stem or branch: points with directions and radii.
struct Limb {
    points: Vec<Vec3>,
    radii: Vec<f32>,
    length: f32,
}

impl Limb {
    fn at(&self, t: f32) -> (Vec3, Vec3, f32) {
        let last = self.points.len() - 1;
        let x = (t * last as f32).clamp(0.0, last as f32 - 1e-3);
        let k = x as usize;
        let f = x - k as f32;
        let way = (self.points[k + 1] - self.points[k]).normalize_or(Vec3::Y);
        (
            self.points[k].lerp(self.points[k + 1], f),
            way,
            self.radii[k] + (self.radii[k + 1] - self.radii[k]) * f,
        )
    }
}

pub(super) fn build(b: &mut Builder, s: &Wood, look: &Look) {
    let reach = s.reach * s.height_m;
    let middle = vec3(s.wind * s.height_m * 0.32, s.height_m * (0.5 + 0.5 * s.bare) * 0.96, 0.0);
    let wide =
        if s.stems > 1.0 { reach + libm::sinf(s.stem_deg.to_radians()) * s.height_m * 0.6 } else { reach };
    b.crown = Some(Crown {
        middle: middle - Vec3::Y * (0.12 * s.height_m),
        half: vec3(wide * 1.1 + s.wind * s.height_m * 0.2, s.height_m * (1.0 - s.bare) * 0.56, wide * 1.1),
        soft: 0.55,
        shade: 0.42,
    });
    let mut work = Work { b, s, look, thick: s.trunk_m * 0.5 };
    for i in 0..s.stems as u32 {
        work.stem(i);
    }
}

/// How a limb sets out.
struct Start {
    from: Vec3,
    way: Vec3,
    length: f32,
    /// At its foot, metres.
    radius: f32,
    /// At its tip, metres.
    tip: f32,
    /// How far it turns up over its length; below zero it hangs.
    rise: f32,
    steps: usize,
    /// Channel and number of its chances.
    key: [u32; 2],
    gnarl: f32,
}

/// One plant being built.
struct Work<'a> {
    b: &'a mut Builder,
    s: &'a Wood,
    look: &'a Look,
    /// Radius of the stem that is being built, metres.
    thick: f32,
}

fn bark(look: &Look, limb: &Limb, thick: f32) -> Vec<Vec3> {
    // Young wood takes on a little of the leaf.
    limb.radii.iter().map(|r| (look.leaf * 0.55).lerp(look.wood, smooth(0.0, 0.25, r / thick))).collect()
}

impl Work<'_> {
    /// Grows a limb step by step: towards the light or down, away from the wind, crooked by chance.
    fn limb(&self, start: Start) -> Limb {
        let Start { from, mut way, length, radius, tip, rise, steps, key, gnarl } = start;
        let n = steps as f32;
        let (mut points, mut radii) = (vec![from], vec![radius]);
        let mut at = from;
        for k in 0..steps {
            let t = (k + 1) as f32 / n;
            let [a, c, ..] = self.b.draw(key[0], key[1] * 32 + k as u32);
            let jitter = vec3(a - 0.5, 0.0, c - 0.5) * (gnarl * 2.2 / n.sqrt());
            let side = square_to(way);
            let bent = side * jitter.x + way.cross(side) * jitter.z;
            way = (way + bent + Vec3::Y * (rise / n) + Vec3::X * (self.s.wind * 0.9 / n)).normalize();
            at += way * (length / n);
            points.push(at);
            radii.push((radius * (1.0 - t * 0.85)).max(tip));
        }
        Limb { points, radii, length }
    }

    /// Grows a stem with all it bears.
    fn stem(&mut self, index: u32) {
        let (s, look) = (self.s, self.look);
        let [a, c, d, _] = self.b.draw(0, index);
        let many = s.stems > 1.0;
        let outer = if many { ((index as f32 + 0.4) / s.stems).sqrt() } else { 0.12 };
        let lean = (if many { s.stem_deg } else { 6.0 * s.gnarl } * outer * (0.6 + 0.7 * a)).to_radians();
        let out = heading(index as f32 * GOLDEN + c * if many { 0.8 } else { TAU });
        let height = s.height_m * if many { 1.0 - 0.45 * d * outer } else { 1.0 };
        let radius = s.trunk_m * 0.5 * if many { 0.6 + 0.6 * d } else { 1.0 };
        let way = out * libm::sinf(lean) + Vec3::Y * libm::cosf(lean);
        // A crooked or leaning stem is longer than it is high.
        let length = height / (libm::cosf(lean) * (1.0 - 0.18 * s.wind)).max(0.4);
        let foot =
            out * (outer * s.trunk_m * if many { 1.6 } else { 0.0 }) - Vec3::Y * (0.03 * s.height_m).min(0.3);
        let tip = (s.height_m * 4e-4).max(4e-4);
        let (rise, gnarl) = (0.25 * s.gnarl + 0.12, s.gnarl * 0.4);
        let start = Start {
            from: foot,
            way,
            length: length * 0.97,
            radius,
            tip,
            rise,
            steps: 12,
            key: [1, index],
            gnarl,
        };
        let mut trunk = self.limb(start);
        self.thick = radius;
        // Roots flare at the foot.
        trunk.radii[0] *= if many { 1.1 } else { 1.45 };
        let colours = bark(look, &trunk, radius);
        self.b.limb(&trunk.points);
        self.b.tube(&trunk.points, &trunk.radii, if many { 5 } else { 9 }, &colours, 0.0);
        let count = s.branches as u32;
        for k in 0..count {
            self.branch(&trunk, index, k, count);
        }
    }

    fn branch(&mut self, trunk: &Limb, stem: u32, k: u32, count: u32) {
        let (s, look, thick) = (self.s, self.look, self.thick);
        let key = stem * 256 + k;
        let [a, c, d, e] = self.b.draw(2, key);
        let (t, turn) = if s.whorl >= 1.0 {
            let whorl = k / s.whorl as u32;
            let whorls = count.div_ceil(s.whorl as u32);
            let t = (whorl as f32 + 0.5 + 0.25 * (a - 0.5)) / whorls as f32;
            (t, (k % s.whorl as u32) as f32 / s.whorl * TAU + whorl as f32 * GOLDEN + (c - 0.5) * 0.5)
        } else {
            (
                (k as f32 + 0.3 + 0.5 * a) / count as f32,
                k as f32 * GOLDEN + stem as f32 * 1.7 + (c - 0.5) * 0.9,
            )
        };
        let at = s.bare + (0.985 - s.bare) * t.min(1.0);
        let (from, axis, radius) = trunk.at(at);
        let ratio = s.crown.ratio(1.0 - t);
        let side = Quat::from_axis_angle(axis, turn) * square_to(axis);
        let windward = (-side.x).max(0.0) * s.wind;
        let length = s.reach * trunk.length * ratio * (0.75 + 0.5 * d) * (1.0 - 0.75 * windward);
        // Steeper towards the top, as light comes from there.
        let down = (s.down_deg * (1.0 - 0.45 * t) * (0.85 + 0.3 * e)).to_radians();
        let way = axis * libm::cosf(down) + side * libm::sinf(down);
        // Radius by the ratio of lengths to the power 1.2 (Weber & Penn).
        let thickness =
            (radius * 0.8).min(thick * 1.5 * libm::powf(length / trunk.length, 1.2)).max(s.height_m * 3e-4);
        let tip = (s.height_m * 2.5e-4).max(3e-4);
        // Shrubs have many stems: theirs are drawn with fewer sides.
        let (steps, sides) = if s.stems > 3.0 { (4, 3) } else { (6, 5) };
        let start = Start {
            from,
            way,
            length,
            radius: thickness,
            tip,
            rise: s.rise,
            steps,
            key: [3, key],
            gnarl: s.gnarl,
        };
        let limb = self.limb(start);
        // It rides, with all that it bears, where it leaves the stem: no joint opens.
        self.b.riding = None;
        self.b.riding = Some(self.b.share_at(from));
        let colours = bark(look, &limb, thick);
        self.b.tube(&limb.points, &limb.radii, sides, &colours, s.height_m * 1.2e-3);
        // A long branch bears more twigs than a short one.
        let twigs = (s.twigs * (0.3 + 1.05 * ratio)).round() as u32;
        for j in 0..twigs {
            let t = 0.22 + 0.78 * (j as f32 + 0.6) / twigs as f32;
            self.twig(&limb, t.min(0.99), key * 64 + j, j);
        }
        // The branch's own end bears leaves too.
        self.foliage(&limb, 0.55, key * 64 + 63);
    }

    fn twig(&mut self, parent: &Limb, t: f32, key: u32, j: u32) {
        let (s, look, thick) = (self.s, self.look, self.thick);
        let [a, c, d, e] = self.b.draw(4, key);
        let (from, axis, radius) = parent.at(t);
        let flat = matches!(s.foliage, Foliage::Rows);
        // Needle rows lie flat on both sides of a branch; elsewhere twigs go all around.
        let side = if flat {
            let level =
                axis.cross(Vec3::Y).normalize_or(Vec3::X) * if j.is_multiple_of(2) { 1.0 } else { -1.0 };
            (level + Vec3::Y * (0.3 * (a - 0.5))).normalize()
        } else {
            Quat::from_axis_angle(axis, j as f32 * GOLDEN + a * 1.2) * square_to(axis)
        };
        let down = (38.0 + 26.0 * c).to_radians();
        let way = (axis * libm::cosf(down) + side * libm::sinf(down) - Vec3::Y * (0.25 * s.weep)).normalize();
        let length = s.twig * parent.length * (1.0 - 0.55 * t) * (0.7 + 0.6 * d);
        let thickness = (radius * 0.6).min(s.height_m * 1.6e-3).max(3e-4);
        let (rise, gnarl) = (0.3 * s.rise - 1.6 * s.weep, s.gnarl * 0.8);
        let start =
            Start { from, way, length, radius: thickness, tip: 2.5e-4, rise, steps: 2, key: [5, key], gnarl };
        let limb = self.limb(start);
        let colours = bark(look, &limb, thick);
        self.b.tube(&limb.points, &limb.radii, 3, &colours, s.height_m * 2.5e-3);
        self.foliage(&limb, 0.12 + 0.1 * e, key);
    }

    /// Leaves and flowers along a twig from a share of its length on.
    fn foliage(&mut self, limb: &Limb, from_t: f32, key: u32) {
        let (s, look) = (self.s, self.look);
        let count = s.leaves as u32;
        for i in 0..count {
            let [a, c, d, e] = self.b.draw(6, key * 64 + i);
            let [fall, ..] = self.b.draw(7, key * 64 + i);
            if fall >= look.kept {
                continue;
            }
            let t = from_t + (1.0 - from_t) * (i as f32 + 0.7) / s.leaves;
            let (at, axis, radius) = limb.at(t);
            let (from, to) = look.leaf_tones(e);
            let side = match s.foliage {
                Foliage::Rows => {
                    let level = axis.cross(Vec3::Y).normalize_or(Vec3::X)
                        * if i.is_multiple_of(2) { 1.0 } else { -1.0 };
                    // A third of the needles stand up from the upper side.
                    (level + Vec3::Y * (0.15 + 0.9 * a * a)).normalize()
                }
                _ => Quat::from_axis_angle(axis, i as f32 * GOLDEN + a) * square_to(axis),
            };
            let size = s.leaf_m * (0.75 + 0.5 * d);
            let leaf = |along: Vec3, length: f32, width: f32, fold: f32, droop: f32| Leaf {
                base: at + side * radius,
                along,
                up: (Vec3::Y + axis * 0.3 + side * 0.2).normalize(),
                length,
                width,
                fold,
                droop,
                from,
                to,
            };
            match s.foliage {
                Foliage::Leaves => {
                    // Leaves turn their faces up and hang a little from their stalks.
                    let along =
                        (side * 0.8 + axis * 0.55 - Vec3::Y * (0.15 + 0.5 * s.weep.max(0.0))).normalize();
                    let outline = if s.leaves * s.twigs * s.branches * s.stems < 2000.0 {
                        s.shape.outline()
                    } else {
                        super::builder::Outline::KITE
                    };
                    self.b.leaf(leaf(along, size, size * s.leaf_wide, 0.0, 0.6), outline);
                }
                Foliage::Rows => {
                    let along = (side * 0.85 + axis * 0.6).normalize();
                    self.b
                        .leaf(leaf(along, size, size * s.leaf_wide, 0.0, 0.1), super::builder::Outline::KITE);
                }
                Foliage::Scales => {
                    let along = (side * 0.55 + axis * 0.85).normalize();
                    self.b.leaf(
                        leaf(along, size, size * s.leaf_wide, 0.0, -0.2),
                        super::builder::Outline::KITE,
                    );
                }
                Foliage::Tufts => {
                    let needles = 5;
                    for k in 0..needles {
                        let turn = Quat::from_axis_angle(axis, k as f32 / needles as f32 * TAU + c * TAU);
                        let open = 0.35 + 0.5 * a;
                        let along =
                            (axis * (1.0 - 0.4 * open) + turn * square_to(axis) * open + Vec3::Y * 0.15)
                                .normalize();
                        self.b.leaf(
                            leaf(along, size, size * s.leaf_wide, 0.0, 0.15),
                            super::builder::Outline::KITE,
                        );
                    }
                }
            }
        }
        for i in 0..(s.flowers * look.bloom + 0.01) as u32 {
            let [a, c, d, e] = self.b.draw(8, key * 64 + i);
            let (at, axis, _) = limb.at(0.3 + 0.7 * (i as f32 + a) / s.flowers);
            let out = (Quat::from_axis_angle(axis, i as f32 * GOLDEN + c * TAU) * square_to(axis)
                + axis * 0.4
                + Vec3::Y * 0.3)
                .normalize();
            let Some(of) = self.b.thinned() else { continue };
            let size = s.flower_m * (0.75 + 0.5 * d) * of.sqrt().min(3.0);
            let petal = look.petal(e);
            self.b.petals(Petals {
                at: at + out * (size * 0.25),
                axis: out,
                count: 4,
                length: size * 0.55,
                width: size * 0.5,
                lift: 0.5,
                from: petal * 0.8,
                to: petal,
                turn: a * TAU,
            });
        }
    }
}

impl Wood {
    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        self.height_m * (1.0 - 0.12 * self.wind)
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        let stems =
            if self.stems > 1.0 { libm::sinf(self.stem_deg.to_radians()) * self.height_m * 0.5 } else { 0.0 };
        (self.reach * 1.12 * self.height_m * libm::sinf(self.down_deg.to_radians()).max(0.55) + stems)
            * (1.0 + 0.25 * self.wind)
    }
}
