//! A tree with four boxes a node and four triangles a leaf, each looked at in one go, for distances alone.
//!
//! Sources: Wald, "On fast construction of SAH-based bounding volume hierarchies", IEEE RT 2007 (where boxes are parted); Dammertz, Hanika
//! & Keller, "Shallow bounding volume hierarchies for fast SIMD ray tracing", EGSR 2008 (four a node); distances to triangles as in
//! [`closest_on_triangle`](super::closest_on_triangle), operation by operation, so that they are the same to the bit.

use glam::{Vec3, Vec4};

/// A child that is a leaf.
const LEAF: u32 = 1 << 31;
/// A child that is not there.
const NONE: u32 = u32::MAX;
/// Slices that centres are sorted into along an axis.
const BINS: usize = 16;
/// Deeper than this boxes are parted by number, so that the stack suffices.
const DEEP: u32 = 40;
/// What can wait to be looked at: three a level but the last, which has four, and some.
const STACK: usize = 192;
/// A box is passed over only when it is surely farther: its own distance is rounded too.
const SURELY: f32 = 1.0 - 1e-6;

#[derive(Clone, Debug)]
pub(super) struct Wide {
    root: u32,
    nodes: Vec<Node>,
    leaves: Vec<Leaf>,
}

#[derive(Clone, Debug)]
struct Node {
    low: [Vec4; 3],
    high: [Vec4; 3],
    children: [u32; 4],
}

/// Corners of four triangles by coordinate; what is left over is the first again.
#[derive(Clone, Debug)]
struct Leaf([[Vec4; 3]; 3]);

/// A triangle while the tree is made.
#[derive(Clone, Copy)]
struct Part {
    corners: [Vec3; 3],
    centre: Vec3,
    low: Vec3,
    high: Vec3,
}

#[derive(Clone, Copy)]
struct Room {
    low: Vec3,
    high: Vec3,
}

impl Room {
    const NONE: Self = Self { low: Vec3::INFINITY, high: Vec3::NEG_INFINITY };

    fn around(parts: &[Part]) -> Self {
        parts.iter().fold(Self::NONE, |r, p| r.with(p.low, p.high))
    }

    fn with(self, low: Vec3, high: Vec3) -> Self {
        Self { low: self.low.min(low), high: self.high.max(high) }
    }

    /// Half its surface; 0 when there is nothing in it.
    fn half_area(self) -> f32 {
        let d = (self.high - self.low).max(Vec3::ZERO);
        if d.is_finite() { d.x * d.y + d.y * d.z + d.z * d.x } else { 0.0 }
    }
}

impl Wide {
    /// Makes the tree.
    pub fn new(triangles: &[[Vec3; 3]]) -> Self {
        let part = |t: &[Vec3; 3]| {
            let [a, b, c] = *t;
            let (low, high) = (a.min(b).min(c), a.max(b).max(c));
            Part { corners: *t, centre: (low + high) * 0.5, low, high }
        };
        let mut parts: Vec<Part> = triangles.iter().map(part).collect();
        let mut tree = Self { root: NONE, nodes: Vec::new(), leaves: Vec::new() };
        if !parts.is_empty() {
            tree.root = tree.grow(&mut parts, 0);
        }
        tree
    }

    fn grow(&mut self, parts: &mut [Part], depth: u32) -> u32 {
        if parts.len() <= 4 {
            let corner = |k: usize, lane: usize| parts.get(lane).unwrap_or(&parts[0]).corners[k];
            let lanes =
                |k: usize, axis: usize| Vec4::from_array([0, 1, 2, 3].map(|lane| corner(k, lane)[axis]));
            self.leaves.push(Leaf([0, 1, 2].map(|k| [0, 1, 2].map(|axis| lanes(k, axis)))));
            return LEAF | (self.leaves.len() - 1) as u32;
        }
        // Parted in two, and the larger again, until there are four.
        let mut groups: Vec<&mut [Part]> = vec![parts];
        while groups.len() < 4 {
            let cost =
                |g: &[Part]| if g.len() <= 4 { -1.0 } else { Room::around(g).half_area() * g.len() as f32 };
            let Some(most) = (0..groups.len()).max_by(|a, b| cost(groups[*a]).total_cmp(&cost(groups[*b])))
            else {
                break;
            };
            if groups[most].len() <= 4 {
                break;
            }
            let (left, right) = parted(groups.swap_remove(most), depth);
            groups.extend([left, right]);
        }
        let at = self.nodes.len();
        let (mut low, mut high) = ([Vec4::MAX; 3], [Vec4::MAX; 3]);
        for (lane, group) in groups.iter().enumerate() {
            let room = Room::around(group);
            for axis in 0..3 {
                low[axis][lane] = room.low[axis];
                high[axis][lane] = room.high[axis];
            }
        }
        self.nodes.push(Node { low, high, children: [NONE; 4] });
        for (lane, group) in groups.into_iter().enumerate() {
            let child = self.grow(group, depth + 1);
            self.nodes[at].children[lane] = child;
        }
        at as u32
    }

    /// Squared distance to the nearest triangle within a limit; none when there is none.
    pub fn nearest_2(&self, p: Vec3, limit: f32) -> Option<f32> {
        if self.root == NONE {
            return None;
        }
        let wide = [Vec4::splat(p.x), Vec4::splat(p.y), Vec4::splat(p.z)];
        let (mut best, mut found) = (limit * limit, None);
        let mut stack = [(0.0_f32, NONE); STACK];
        stack[0] = (0.0, self.root);
        let mut depth = 1;
        while depth > 0 {
            depth -= 1;
            let (away, at) = stack[depth];
            if away * SURELY > best {
                continue;
            }
            if at & LEAF != 0 {
                let each = self.leaves[(at & !LEAF) as usize].distances_2(&wide).to_array();
                for d in each {
                    if d <= best {
                        (best, found) = (d, Some(d));
                    }
                }
                continue;
            }
            let node = &self.nodes[at as usize];
            let off = [0, 1, 2].map(|k| wide[k] - wide[k].max(node.low[k]).min(node.high[k]));
            let away = (off[0] * off[0] + off[1] * off[1] + off[2] * off[2]).to_array();
            // The nearest is looked at first, so it lies on top.
            let first = depth;
            for (away, child) in away.into_iter().zip(node.children) {
                if child == NONE || away * SURELY > best {
                    continue;
                }
                let mut k = depth;
                while k > first && stack[k - 1].0 < away {
                    stack[k] = stack[k - 1];
                    k -= 1;
                }
                stack[k] = (away, child);
                depth += 1;
            }
        }
        found
    }
}

type Lanes = [Vec4; 3];

fn minus(a: &Lanes, b: &Lanes) -> Lanes {
    [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
}

fn dot(a: &Lanes, b: &Lanes) -> Vec4 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

impl Leaf {
    /// Squared distances of a point to its triangles.
    #[inline]
    fn distances_2(&self, p: &Lanes) -> Vec4 {
        let (zero, one) = (Vec4::ZERO, Vec4::ONE);
        let [a, b, c] = &self.0;
        let (ab, ac) = (minus(b, a), minus(c, a));
        let ap = minus(p, a);
        let (d1, d2) = (dot(&ab, &ap), dot(&ac, &ap));
        let bp = minus(p, b);
        let (d3, d4) = (dot(&ab, &bp), dot(&ac, &bp));
        let cp = minus(p, c);
        let (d5, d6) = (dot(&ab, &cp), dot(&ac, &cp));
        let vc = d1 * d4 - d3 * d2;
        let vb = d5 * d2 - d1 * d6;
        let va = d3 * d6 - d5 * d4;
        let (e, f) = (d4 - d3, d5 - d6);
        // From the last that is asked to the first: each overrules those after it.
        let sum = one / (va + vb + vc);
        let (mut v, mut w) = (vb * sum, vc * sum);
        let mut settle = |when, own: Vec4, other: Vec4| {
            v = Vec4::select(when, own, v);
            w = Vec4::select(when, other, w);
        };
        let on_bc = e / (e + f);
        settle(va.cmple(zero) & e.cmpge(zero) & f.cmpge(zero), one - on_bc, on_bc);
        settle(vb.cmple(zero) & d2.cmpge(zero) & d6.cmple(zero), zero, d2 / (d2 - d6));
        settle(d6.cmpge(zero) & d5.cmple(d6), zero, one);
        settle(vc.cmple(zero) & d1.cmpge(zero) & d3.cmple(zero), d1 / (d1 - d3), zero);
        settle(d3.cmpge(zero) & d4.cmple(d3), one, zero);
        settle(d1.cmple(zero) & d2.cmple(zero), zero, zero);
        let u = one - v - w;
        let off = [0, 1, 2].map(|k| p[k] - (a[k] * u + b[k] * v + c[k] * w));
        dot(&off, &off)
    }
}

/// Parted in two where it costs least by the surface of the halves.
fn parted(parts: &mut [Part], depth: u32) -> (&mut [Part], &mut [Part]) {
    let middle = parts.len() / 2;
    let place = if depth < DEEP { cheapest(parts) } else { None };
    let Some((axis, border)) = place else {
        let size = Room::around(parts);
        let axis = (size.high - size.low).max_position();
        parts.select_nth_unstable_by(middle, |a, b| a.centre[axis].total_cmp(&b.centre[axis]));
        return parts.split_at_mut(middle);
    };
    let mut left = 0;
    for i in 0..parts.len() {
        if parts[i].centre[axis] < border {
            parts.swap(i, left);
            left += 1;
        }
    }
    parts.split_at_mut(left)
}

/// The axis and the place along it where parting costs least; none where all centres are one.
fn cheapest(parts: &[Part]) -> Option<(usize, f32)> {
    let centres = parts.iter().fold(Room::NONE, |r, p| r.with(p.centre, p.centre));
    let mut best: Option<(f32, usize, f32)> = None;
    for axis in 0..3 {
        let (low, wide) = (centres.low[axis], centres.high[axis] - centres.low[axis]);
        if wide <= 0.0 || !wide.is_finite() {
            continue;
        }
        let border = |k: usize| low + wide * k as f32 / BINS as f32;
        let mut bins = [(Room::NONE, 0_usize); BINS];
        for p in parts {
            // By the same comparison as the parting itself.
            let mut k = (((p.centre[axis] - low) / wide * BINS as f32) as usize).min(BINS - 1);
            while k > 0 && p.centre[axis] < border(k) {
                k -= 1;
            }
            while k + 1 < BINS && p.centre[axis] >= border(k + 1) {
                k += 1;
            }
            bins[k] = (bins[k].0.with(p.low, p.high), bins[k].1 + 1);
        }
        let mut after = [(Room::NONE, 0_usize); BINS + 1];
        for k in (0..BINS).rev() {
            let (room, count) = bins[k];
            after[k] = (after[k + 1].0.with(room.low, room.high), after[k + 1].1 + count);
        }
        let (mut before, mut count) = (Room::NONE, 0);
        for k in 1..BINS {
            let (room, own) = bins[k - 1];
            (before, count) = (before.with(room.low, room.high), count + own);
            if count == 0 || after[k].1 == 0 {
                continue;
            }
            let cost = before.half_area() * count as f32 + after[k].0.half_area() * after[k].1 as f32;
            if best.is_none_or(|(least, ..)| cost < least) {
                best = Some((cost, axis, border(k)));
            }
        }
    }
    best.map(|(_, axis, border)| (axis, border))
}
