//! What generators build with: tubes, blades and leaves, thinned for lighter detail.

use crate::math::flap::{FLAP_KINDS, Flap};
use crate::math::hash::{pcg4d, unit};
use crate::math::limb::Limb;
use crate::nursery::{Detail, Mesh};
use glam::{Quat, Vec3, vec3};

/// The angle between neighbours of a spiral that never lines up, radians: 137.508 degrees.
///
/// Source: Vogel, "A better way to construct the sunflower head", Mathematical Biosciences 44, 1979.
pub const GOLDEN: f32 = 2.399_963_2;

/// Smooth from 0 to 1 between two values.
pub fn smooth(from: f32, to: f32, x: f32) -> f32 {
    let t = ((x - from) / (to - from)).clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

/// A level direction.
pub fn heading(angle: f32) -> Vec3 {
    let (sin, cos) = libm::sincosf(angle);
    vec3(cos, 0.0, sin)
}

/// Some unit vector square to `v`, which is a unit vector.
pub fn square_to(v: Vec3) -> Vec3 {
    v.cross(if v.y.abs() < 0.9 { Vec3::Y } else { Vec3::X }).normalize()
}

/// The widest rows of a leaf or petal along its length.
#[derive(Clone, Copy, Debug)]
pub struct Outline {
    /// Width at shares of the length, against the full width; the ends close in a point.
    pub rows: &'static [(f32, f32)],
    /// Width at the tip; 0 is pointed.
    pub tip: f32,
}

impl Outline {
    /// Narrow, widest below the middle.
    pub const LANCE: Self = Self { rows: &[(0.3, 1.0), (0.65, 0.72)], tip: 0.0 };
    /// Widest in the middle.
    pub const OVAL: Self = Self { rows: &[(0.25, 0.82), (0.5, 1.0), (0.8, 0.62)], tip: 0.0 };
    /// As wide as long, widest near the end.
    pub const ROUND: Self = Self { rows: &[(0.25, 0.62), (0.6, 1.0), (0.88, 0.72)], tip: 0.3 };
    /// Pinched and swelling again: two lobes a side.
    pub const LOBED: Self = Self { rows: &[(0.2, 0.75), (0.34, 0.48), (0.58, 1.0), (0.72, 0.5)], tip: 0.0 };
    /// Two triangles: for leaves too many to be drawn finely.
    pub const KITE: Self = Self { rows: &[(0.42, 1.0)], tip: 0.0 };
    /// Widest at the end, as petals are.
    pub const PETAL: Self = Self { rows: &[(0.35, 0.6), (0.8, 1.0)], tip: 0.7 };
}

/// A leaf or petal to be drawn.
#[derive(Clone, Copy, Debug)]
pub struct Leaf {
    /// Where it begins.
    pub base: Vec3,
    /// Unit direction of its length at the base.
    pub along: Vec3,
    /// Unit direction its upper face looks, about.
    pub up: Vec3,
    /// Metres.
    pub length: f32,
    /// Metres.
    pub width: f32,
    /// How far its halves are folded up, radians.
    pub fold: f32,
    /// How far it bends down over its length, radians.
    pub droop: f32,
    /// Colour at the base.
    pub from: Vec3,
    /// Colour at the tip.
    pub to: Vec3,
}

/// A star of petals to be drawn.
#[derive(Clone, Copy, Debug)]
pub struct Petals {
    /// Its middle.
    pub at: Vec3,
    /// Unit direction the flower looks.
    pub axis: Vec3,
    /// How many.
    pub count: u32,
    /// Metres.
    pub length: f32,
    /// Metres.
    pub width: f32,
    /// How far they are tilted up from flat, radians.
    pub lift: f32,
    /// Colour at the base.
    pub from: Vec3,
    /// Colour at the tip.
    pub to: Vec3,
    /// Where the first stands, radians about the axis.
    pub turn: f32,
}

/// A volume whose outer leaves are lit as its hull is, and whose inner ones lie in shade.
#[derive(Clone, Copy, Debug)]
pub struct Crown {
    /// Its middle.
    pub middle: Vec3,
    /// Half its width, height and depth.
    pub half: Vec3,
    /// How far normals are bent to those of the hull, 0 to 1.
    pub soft: f32,
    /// Brightness in the middle against the hull, 0 to 1.
    pub shade: f32,
}

/// How something long hangs on its limb.
enum Hangs {
    /// It is the limb.
    Along,
    /// It rides at this share of it.
    At(f32),
}

/// A mesh under construction.
pub struct Builder {
    /// What was built so far.
    pub mesh: Mesh,
    /// How finely.
    pub detail: Detail,
    /// Bends normals and shades what lies within.
    pub crown: Option<Crown>,
    /// How much light goes through leaves, 0 to 1.
    pub through: f32,
    /// Share of the leaves drawn at light and at far detail.
    pub shares: [f32; 2],
    /// How much broader leaves, blades and twigs are than the number of those left out says.
    pub broader: f32,
    /// Whether leaves hide its twigs; where none do, lighter detail thins twigs instead of leaving them all out.
    pub leafless: bool,
    /// Where on its limb all that is built now hangs; by where it is built when none.
    pub riding: Option<f32>,
    seed: u32,
    form: u32,
    count: u32,
    /// Leaves built so far.
    leaves: u32,
    /// What grows on what: the limb that is being built on.
    limb: Option<u16>,
    /// Where along it the next vertices hang.
    share: f32,
}

/// Share of the twigs drawn at light and at far detail where no leaves hide them.
const TWIG_SHARES: [f32; 2] = [0.4, 0.14];

impl Builder {
    /// An empty mesh for one individual.
    pub fn new(seed: u32, form: u16, detail: Detail) -> Self {
        let mesh = Mesh::default();
        Self {
            mesh,
            detail,
            crown: None,
            through: 1.0,
            shares: [1.0 / 6.0, 1.0 / 36.0],
            broader: 1.0,
            leafless: false,
            riding: None,
            seed,
            form: u32::from(form),
            count: 0,
            leaves: 0,
            limb: None,
            share: 0.0,
        }
    }

    /// What is built from here on hangs on a limb along these points: what follows it from its foot bends with it, all else rides where it
    /// begins. A whole number of limbs fits into 16 bits; more hang on the last.
    pub fn limb(&mut self, points: &[Vec3]) {
        let limbs = &mut self.mesh.shares.limbs;
        if limbs.len() < usize::from(u16::MAX) {
            limbs.push(Limb::along(points));
        }
        self.limb = Some((limbs.len() - 1) as u16);
        self.riding = None;
    }

    /// Where along the limb a point lies; 0 without one.
    pub fn share_at(&self, point: Vec3) -> f32 {
        let limb = self.limb.map(|l| self.mesh.shares.limbs[usize::from(l)]);
        self.riding.or(limb.map(|l| l.share_at(point))).unwrap_or(0.0)
    }

    /// How the points of something long hang on the limb: each for itself where it is the limb, all where it begins elsewhere.
    fn hangs(&self, spine: &[Vec3]) -> Hangs {
        let limb = self.limb.map(|l| self.mesh.shares.limbs[usize::from(l)]);
        match limb {
            Some(l) if self.riding.is_none() && l.foot == spine[0] => Hangs::Along,
            _ => Hangs::At(self.share_at(spine[0])),
        }
    }

    fn hang(&mut self, hangs: &Hangs, point: Vec3) {
        self.share = match hangs {
            Hangs::Along => self.share_at(point),
            Hangs::At(share) => *share,
        };
    }

    /// Four numbers in `[0, 1)` for the `index`-th thing of a channel. They depend on nothing else.
    pub fn draw(&self, channel: u32, index: u32) -> [f32; 4] {
        pcg4d([self.seed, self.form ^ 0x51EE_D000, index, channel]).map(unit)
    }

    /// Whether the next leaf is drawn at this detail, and how many it then stands for.
    ///
    /// Source: Cook, Halstead, Planck & Ryu, "Stochastic Simplification of Aggregate Detail", SIGGRAPH 2007; here by a
    /// golden-ratio sequence instead of chance, so that what stays is evenly spread.
    pub fn thinned(&mut self) -> Option<f32> {
        self.thinned_to(self.shares)
    }

    fn thinned_to(&mut self, shares: [f32; 2]) -> Option<f32> {
        let share = match self.detail {
            Detail::Full => return Some(1.0),
            Detail::Light => shares[0],
            Detail::Far => shares[1],
        };
        let at = (self.count as f32 * 0.618_034 + 0.31).fract();
        self.count += 1;
        (at < share).then_some(1.0 / share)
    }

    /// Adds a vertex that lets `through` of the light pass.
    pub fn vertex(&mut self, position: Vec3, normal: Vec3, colour: Vec3, through: f32) -> u32 {
        let (mut normal, mut colour) = (normal, colour);
        if let Some(crown) = self.crown.filter(|_| through > 0.0) {
            let out = (position - crown.middle) / crown.half;
            let away = out.length();
            let hull = (out / crown.half).normalize_or(Vec3::Y);
            normal = normal.lerp(hull, crown.soft).normalize_or(Vec3::Y);
            colour *= crown.shade + (1.0 - crown.shade) * smooth(0.15, 0.95, away);
        }
        let through = through * self.through;
        if !self.mesh.shares.flaps.is_empty() {
            self.mesh.shares.flaps.push(Flap::default());
        }
        self.mesh.shares.limb.push(self.limb.unwrap_or(0));
        self.mesh.shares.share.push(if self.limb.is_some() { self.share } else { 0.0 });
        self.mesh.leafy(position, normal.normalize_or(Vec3::Y), colour.clamp(Vec3::ZERO, Vec3::ONE), through)
    }

    fn quad(&mut self, [a, b]: [u32; 2], [c, d]: [u32; 2]) {
        self.mesh.indices.extend([a, b, d, a, d, c]);
    }

    /// A leaf, unless lighter detail leaves it out.
    pub fn leaf(&mut self, leaf: Leaf, outline: Outline) {
        if let Some(of) = self.thinned() {
            let grow = of.sqrt();
            self.leaf_grown(Leaf { length: leaf.length * grow, width: leaf.width * grow, ..leaf }, outline);
        }
    }

    /// A leaf whatever the detail; lighter detail draws it as two triangles. At full detail it flutters.
    pub fn leaf_grown(&mut self, leaf: Leaf, outline: Outline) {
        let first = self.mesh.positions.len();
        let (base, along) = (leaf.base, leaf.along);
        self.leaf_still(leaf, outline);
        if self.detail != Detail::Full || self.limb.is_none() {
            return;
        }
        // Spread over kinds and phases by the golden section: neighbours never turn alike.
        self.leaves += 1;
        let phase = (self.leaves as f32 * 0.618_034).fract() * FLAP_KINDS as f32;
        let Mesh { positions, shares, .. } = &mut self.mesh;
        shares.flaps.resize(first, Flap::default());
        shares.flaps.extend(positions[first..].iter().map(|p| Flap::new(*p, base, along, phase)));
    }

    fn leaf_still(&mut self, leaf: Leaf, outline: Outline) {
        let outline = if self.detail == Detail::Full { outline } else { Outline::KITE };
        self.share = self.share_at(leaf.base);
        let side = leaf.along.cross(leaf.up).normalize_or(Vec3::X);
        let up = side.cross(leaf.along).normalize_or(Vec3::Y);
        // Two triangles show both halves; finer outlines are flat across where nobody can tell.
        let folded = leaf.fold.abs() > 0.02;
        let (sin, cos) = libm::sincosf(leaf.fold);
        let at = |t: f32| {
            let bend = leaf.droop * t * 0.5;
            let (s, c) = libm::sincosf(bend);
            (leaf.base + (leaf.along * c - up * s) * (leaf.length * t), leaf.along * s + up * c)
        };
        let base = self.vertex(leaf.base, up, leaf.from, 1.0);
        let mut previous: [u32; 3] = [base; 3];
        let rows = outline.rows.iter().copied();
        let tip = (1.0, outline.tip);
        for (t, width) in rows.chain([tip]) {
            let (spine, normal) = at(t);
            let half = leaf.width * 0.5 * width * self.broader;
            let colour = leaf.from.lerp(leaf.to, t);
            let lift = normal * (half * sin);
            let here = if width <= 0.0 {
                [self.vertex(spine, normal, colour, 1.0); 3]
            } else {
                let left = self.vertex(
                    spine - side * (half * cos) + lift,
                    (normal + side * sin).normalize(),
                    colour,
                    1.0,
                );
                let right = self.vertex(
                    spine + side * (half * cos) + lift,
                    (normal - side * sin).normalize(),
                    colour,
                    1.0,
                );
                let middle = if folded { self.vertex(spine, normal, colour * 0.94, 1.0) } else { left };
                [left, middle, right]
            };
            self.rows(previous, here, folded);
            previous = here;
        }
    }

    /// Joins two rows of left, middle and right; a row of one point closes to it.
    fn rows(&mut self, a: [u32; 3], b: [u32; 3], folded: bool) {
        let strips: &[[usize; 2]] = if folded { &[[0, 1], [1, 2]] } else { &[[0, 2]] };
        for [l, r] in strips {
            for t in [[a[*l], a[*r], b[*r]], [a[*l], b[*r], b[*l]]] {
                if t[0] != t[1] && t[1] != t[2] && t[0] != t[2] {
                    self.mesh.indices.extend(t);
                }
            }
        }
    }

    /// A blade along points, as wide as said at each, unless lighter detail leaves it out. `face` is where its face
    /// looks.
    pub fn blade(&mut self, spine: &[Vec3], widths: &[f32], face: Vec3, colours: &[Vec3]) {
        let Some(of) = self.thinned() else { return };
        // A third of the points still bends it.
        let every = if self.detail == Detail::Full { 1 } else { spine.len().div_ceil(3).max(1) };
        let wider = libm::powf(of, 0.7) * self.broader;
        let last = spine.len() - 1;
        let hangs = self.hangs(spine);
        let mut previous: Option<[u32; 2]> = None;
        let points = (0..last).step_by(every).chain([last]);
        for i in points {
            let along = (spine[(i + 1).min(last)] - spine[i.saturating_sub(1)]).normalize_or(Vec3::Y);
            let side = along.cross(face).normalize_or(Vec3::X);
            let mut up = side.cross(along);
            if up.y < 0.0 {
                up = -up;
            }
            let normal = (up * 0.55 + Vec3::Y * 0.6 + face * 0.2).normalize();
            let half = side * (widths[i] * 0.5 * wider);
            self.hang(&hangs, spine[i]);
            let here = if i == last && widths[i] <= 0.0 {
                [self.vertex(spine[i], normal, colours[i], 1.0); 2]
            } else {
                [
                    self.vertex(spine[i] - half, normal, colours[i], 1.0),
                    self.vertex(spine[i] + half, normal, colours[i], 1.0),
                ]
            };
            if let Some(before) = previous {
                if here[0] == here[1] {
                    self.mesh.indices.extend([before[0], before[1], here[0]]);
                } else {
                    self.quad(before, here);
                }
            }
            previous = Some(here);
        }
    }

    /// A round stem along points with a radius at each. Nothing goes through it. `sides` at full detail; thinner stems
    /// than `least` are left out at lighter detail.
    pub fn tube(&mut self, spine: &[Vec3], radii: &[f32], sides: u32, colours: &[Vec3], least: f32) {
        let (sides, every, least) = match self.detail {
            Detail::Full => (sides, 1, 0.0),
            Detail::Light => (sides.div_ceil(2).max(3), 2, least),
            Detail::Far => (3, 4, least * 3.0),
        };
        if radii[0] < least {
            if self.leafless {
                self.twig(spine, radii[0], colours);
            }
            return;
        }
        let last = spine.len() - 1;
        let mut across = square_to((spine[1] - spine[0]).normalize_or(Vec3::Y));
        let hangs = self.hangs(spine);
        let mut previous: Vec<u32> = Vec::new();
        for i in (0..last).step_by(every).chain([last]) {
            let along = (spine[(i + 1).min(last)] - spine[i.saturating_sub(1)]).normalize_or(Vec3::Y);
            across = (across - along * across.dot(along)).normalize_or(square_to(along));
            let other = along.cross(across);
            self.hang(&hangs, spine[i]);
            let ring: Vec<u32> = (0..sides)
                .map(|k| {
                    let (s, c) = libm::sincosf(k as f32 / sides as f32 * std::f32::consts::TAU);
                    let out = across * c + other * s;
                    self.vertex(spine[i] + out * (radii[i] * self.broader), out, colours[i], 0.0)
                })
                .collect();
            for k in 0..sides as usize {
                if !previous.is_empty() {
                    let n = (k + 1) % sides as usize;
                    self.mesh.indices.extend([
                        previous[k],
                        ring[n],
                        ring[k],
                        previous[k],
                        previous[n],
                        ring[n],
                    ]);
                }
            }
            previous = ring;
        }
        // Broad ends are closed, thin ones run out.
        if radii[last] > 1e-3 && previous.len() > 2 {
            for k in 1..previous.len() - 1 {
                self.mesh.indices.extend([previous[0], previous[k], previous[k + 1]]);
            }
        }
    }

    /// A twig as one tapering triangle, unless lighter detail leaves it out; those that stay are as much broader.
    fn twig(&mut self, spine: &[Vec3], radius: f32, colours: &[Vec3]) {
        let Some(of) = self.thinned_to(TWIG_SHARES) else { return };
        let (foot, tip) = (spine[0], spine[spine.len() - 1]);
        let along = (tip - foot).normalize_or(Vec3::Y);
        // Each looks another way, so that from every side some are seen broad.
        let turn = Quat::from_axis_angle(along, self.count as f32 * GOLDEN);
        let side = turn * square_to(along);
        let normal = (along.cross(side) + Vec3::Y * 0.6).normalize_or(Vec3::Y);
        // Tubes show their full width from every side, a flat twig two thirds of it on average.
        let half = side * (radius * of * 1.5).min((tip - foot).length() * 0.06) * self.broader;
        let hangs = self.hangs(spine);
        self.hang(&hangs, foot);
        let a = self.vertex(foot - half, normal, colours[0], 0.0);
        let b = self.vertex(foot + half, normal, colours[0], 0.0);
        self.hang(&hangs, tip);
        let c = self.vertex(tip, normal, colours[colours.len() - 1], 0.0);
        self.mesh.indices.extend([a, b, c]);
    }

    /// A star of petals. Drawn whatever the detail, with fewer petals.
    pub fn petals(&mut self, p: Petals) {
        let Petals { at, axis, count, length, width, lift, from, to, turn } = p;
        let (count, wider) = match self.detail {
            Detail::Full => (count, 1.0),
            _ => (count.min(3), (count as f32 / count.min(3) as f32).min(2.5)),
        };
        let x = square_to(axis);
        let (sin, cos) = libm::sincosf(lift);
        for i in 0..count {
            let out = Quat::from_axis_angle(axis, turn + i as f32 / count as f32 * std::f32::consts::TAU) * x;
            let leaf = Leaf {
                base: at,
                along: out * cos + axis * sin,
                up: axis * cos - out * sin,
                length,
                width: width * wider,
                fold: 0.0,
                droop: 0.25,
                from,
                to,
            };
            self.leaf_grown(leaf, Outline::PETAL);
        }
    }
}
