//! Exact distance to a mesh, through a tree of boxes.

mod wide;

use glam::Vec3;
use wide::Wide;

/// Triangles in a leaf, at most.
const LEAF: usize = 4;

#[derive(Clone, Debug)]
struct Node {
    low: Vec3,
    high: Vec3,
    /// First triangle of a leaf, or the second child of a branch; the first follows its parent.
    at: u32,
    /// Triangles of a leaf; 0 in branches.
    count: u32,
}

/// A mesh that many points ask their distance of.
#[derive(Clone, Debug)]
pub struct MeshDistance {
    triangles: Vec<[Vec3; 3]>,
    /// The number of each triangle in the mesh.
    numbers: Vec<u32>,
    nodes: Vec<Node>,
    /// The same again for distances alone.
    wide: Box<Wide>,
}

impl MeshDistance {
    /// Builds the tree. An empty mesh is infinitely far from everything.
    pub fn new(positions: &[Vec3], indices: &[u32]) -> Self {
        let corners = |t: &[u32]| [0, 1, 2].map(|i| positions[t[i] as usize]);
        let mut triangles: Vec<([Vec3; 3], u32)> =
            indices.chunks_exact(3).enumerate().map(|(i, t)| (corners(t), i as u32)).collect();
        let mut nodes = Vec::new();
        if !triangles.is_empty() {
            split(&mut triangles, 0, &mut nodes);
        }
        let (triangles, numbers): (Vec<_>, _) = triangles.into_iter().unzip();
        let wide = Box::new(Wide::new(&triangles));
        Self { triangles, numbers, nodes, wide }
    }

    /// Its lowest and highest corner; none when there is no triangle.
    pub fn bounds(&self) -> Option<(Vec3, Vec3)> {
        self.nodes.first().map(|root| (root.low, root.high))
    }

    /// The point of the mesh nearest to a point: its triangle, and the shares of its second and third corner. None when there
    /// is no triangle.
    pub fn closest(&self, p: Vec3) -> Option<(u32, f32, f32)> {
        let (_, at) = self.nearest(p, f32::INFINITY)?;
        let [a, b, c] = self.triangles[at];
        let (v, w) = closest_on_triangle(p, a, b, c);
        Some((self.numbers[at], v, w))
    }

    /// The point of the surface nearest to a point; none when there is no triangle within `limit`.
    pub fn nearest_point(&self, p: Vec3, limit: f32) -> Option<Vec3> {
        let (_, at) = self.nearest(p, limit)?;
        let [a, b, c] = self.triangles[at];
        let (v, w) = closest_on_triangle(p, a, b, c);
        Some(a * (1.0 - v - w) + b * v + c * w)
    }

    /// Distance from a point to the surface, metres; what lies farther than `limit` may give any number above it.
    pub fn distance(&self, p: Vec3, limit: f32) -> f32 {
        self.wide.nearest_2(p, limit).map_or(f32::INFINITY, f32::sqrt)
    }

    /// Whether any triangle lies on a ray of unit direction within so many metres, from either side.
    pub fn blocks(&self, from: Vec3, towards: Vec3, within_m: f32) -> bool {
        let mut blocked = false;
        self.crossings(from, towards, within_m, |_, _| {
            blocked = true;
            false
        });
        blocked
    }

    /// Whether a triangle cuts any of the mesh: whether an edge of one crosses the other.
    pub fn meets(&self, triangle: &[Vec3; 3]) -> bool {
        let low = triangle.iter().fold(Vec3::INFINITY, |l, p| l.min(*p));
        let high = triangle.iter().fold(Vec3::NEG_INFINITY, |h, p| h.max(*p));
        let mut stack = [0_u32; 64];
        let mut depth = usize::from(!self.nodes.is_empty());
        while depth > 0 {
            depth -= 1;
            let number = stack[depth];
            let node = &self.nodes[number as usize];
            if node.high.cmplt(low).any() || node.low.cmpgt(high).any() {
                continue;
            }
            if node.count == 0 {
                stack[depth] = node.at;
                stack[depth + 1] = number + 1;
                depth += 2;
                continue;
            }
            let own = &self.triangles[node.at as usize..(node.at + node.count) as usize];
            if own.iter().any(|t| pierces(t, triangle) || pierces(triangle, t)) {
                return true;
            }
        }
        false
    }

    /// Whether a point lies inside: whether two of three rays first meet a face from behind, or leave bodies more often than they
    /// enter them. Bodies may overlap and need not be closed everywhere; faces must look outwards.
    pub fn holds(&self, p: Vec3) -> bool {
        let Some(root) = self.nodes.first() else { return false };
        if p.cmplt(root.low).any() || p.cmpgt(root.high).any() {
            return false;
        }
        // Askew, so that none runs along an edge of what is built upright.
        let rays =
            [Vec3::new(0.0132, 1.0, 0.0079), Vec3::new(1.0, 0.0473, 0.2871), Vec3::new(-0.3911, 0.0618, 1.0)];
        let from_behind = rays.iter().filter(|ray| {
            let towards = ray.normalize();
            let (mut first, mut out) = ((f32::INFINITY, false), 0);
            self.crossings(p, towards, f32::INFINITY, |[a, b, c], away| {
                let leaves = (*b - *a).cross(*c - *a).dot(towards) > 0.0;
                out += if leaves { 1 } else { -1 };
                if away < first.0 {
                    first = (away, leaves);
                }
                true
            });
            first.1 || out > 0
        });
        from_behind.count() >= 2
    }

    /// Shows all triangles on a ray of unit direction with the way to them, until `visit` has seen enough.
    ///
    /// Source: Moller & Trumbore, "Fast, minimum storage ray/triangle intersection", 1997.
    fn crossings(
        &self,
        from: Vec3,
        towards: Vec3,
        within_m: f32,
        mut visit: impl FnMut(&[Vec3; 3], f32) -> bool,
    ) {
        let inverse = towards.recip();
        let mut stack = [0_u32; 64];
        let mut depth = usize::from(!self.nodes.is_empty());
        while depth > 0 {
            depth -= 1;
            let number = stack[depth];
            let node = &self.nodes[number as usize];
            let (a, b) = ((node.low - from) * inverse, (node.high - from) * inverse);
            let (near, far) = (a.min(b).max_element().max(0.0), a.max(b).min_element().min(within_m));
            if near > far {
                continue;
            }
            if node.count == 0 {
                stack[depth] = node.at;
                stack[depth + 1] = number + 1;
                depth += 2;
                continue;
            }
            for t in &self.triangles[node.at as usize..(node.at + node.count) as usize] {
                let Some(away) = crossed(t, from, towards).filter(|d| *d > 0.0 && *d < within_m) else {
                    continue;
                };
                if !visit(t, away) {
                    return;
                }
            }
        }
    }

    /// Squared distance and place in the list of the nearest triangle within a limit.
    fn nearest(&self, p: Vec3, limit: f32) -> Option<(f32, usize)> {
        let mut best_2 = limit * limit;
        let mut found = None;
        let mut stack = [0_u32; 64];
        let mut depth = usize::from(!self.nodes.is_empty());
        while depth > 0 {
            depth -= 1;
            let number = stack[depth];
            let node = &self.nodes[number as usize];
            if away_2(node, p) > best_2 {
                continue;
            }
            if node.count > 0 {
                for at in node.at as usize..(node.at + node.count) as usize {
                    let d_2 = to_triangle_2(p, &self.triangles[at]);
                    if d_2 <= best_2 {
                        (best_2, found) = (d_2, Some((d_2, at)));
                    }
                }
                continue;
            }
            let (a, b) = (number + 1, node.at);
            let (da, db) = (away_2(&self.nodes[a as usize], p), away_2(&self.nodes[b as usize], p));
            // The nearer one is looked at first, so it lies on top.
            let (first, second) = if da <= db { (a, b) } else { (b, a) };
            stack[depth] = second;
            stack[depth + 1] = first;
            depth += 2;
        }
        found
    }
}

/// Whether an edge of the first triangle crosses the second.
fn pierces(edges: &[Vec3; 3], face: &[Vec3; 3]) -> bool {
    [(0, 1), (1, 2), (2, 0)].iter().any(|(i, j)| {
        let way = edges[*j] - edges[*i];
        let far = way.length();
        far > 0.0 && crossed(face, edges[*i], way / far).is_some_and(|d| d >= 0.0 && d <= far)
    })
}

/// How far along a ray it crosses a triangle.
fn crossed([a, b, c]: &[Vec3; 3], from: Vec3, towards: Vec3) -> Option<f32> {
    let (ab, ac) = (*b - *a, *c - *a);
    let p = towards.cross(ac);
    let det = ab.dot(p);
    if det.abs() < 1e-12 {
        return None;
    }
    let to = from - *a;
    let u = to.dot(p) / det;
    let q = to.cross(ab);
    let v = towards.dot(q) / det;
    (u >= 0.0 && v >= 0.0 && u + v <= 1.0).then(|| ac.dot(q) / det)
}

fn away_2(node: &Node, p: Vec3) -> f32 {
    p.distance_squared(p.clamp(node.low, node.high))
}

fn split(triangles: &mut [([Vec3; 3], u32)], first: usize, nodes: &mut Vec<Node>) {
    let (mut low, mut high) = (Vec3::INFINITY, Vec3::NEG_INFINITY);
    for p in triangles.iter().flat_map(|(t, _)| t) {
        (low, high) = (low.min(*p), high.max(*p));
    }
    let number = nodes.len();
    nodes.push(Node { low, high, at: first as u32, count: triangles.len() as u32 });
    if triangles.len() <= LEAF {
        return;
    }
    let size = high - low;
    let axis = if size.x >= size.y && size.x >= size.z {
        0
    } else if size.y >= size.z {
        1
    } else {
        2
    };
    let middle = triangles.len() / 2;
    let centre = |(t, _): &([Vec3; 3], u32)| t[0][axis] + t[1][axis] + t[2][axis];
    triangles.select_nth_unstable_by(middle, |a, b| centre(a).total_cmp(&centre(b)));
    let (left, right) = triangles.split_at_mut(middle);
    split(left, first, nodes);
    let second = nodes.len() as u32;
    split(right, first + middle, nodes);
    (nodes[number].at, nodes[number].count) = (second, 0);
}

/// Squared distance to a triangle.
fn to_triangle_2(p: Vec3, [a, b, c]: &[Vec3; 3]) -> f32 {
    let (v, w) = closest_on_triangle(p, *a, *b, *c);
    p.distance_squared(*a * (1.0 - v - w) + *b * v + *c * w)
}

/// Shares of the second and third corner at the point of a triangle nearest to `p`.
///
/// Source: Ericson, Real-Time Collision Detection, 2005, section 5.1.5.
pub fn closest_on_triangle(p: Vec3, a: Vec3, b: Vec3, c: Vec3) -> (f32, f32) {
    let (ab, ac, ap) = (b - a, c - a, p - a);
    let (d1, d2) = (ab.dot(ap), ac.dot(ap));
    if d1 <= 0.0 && d2 <= 0.0 {
        return (0.0, 0.0);
    }
    let bp = p - b;
    let (d3, d4) = (ab.dot(bp), ac.dot(bp));
    if d3 >= 0.0 && d4 <= d3 {
        return (1.0, 0.0);
    }
    let vc = d1 * d4 - d3 * d2;
    if vc <= 0.0 && d1 >= 0.0 && d3 <= 0.0 {
        return (d1 / (d1 - d3), 0.0);
    }
    let cp = p - c;
    let (d5, d6) = (ab.dot(cp), ac.dot(cp));
    if d6 >= 0.0 && d5 <= d6 {
        return (0.0, 1.0);
    }
    let vb = d5 * d2 - d1 * d6;
    if vb <= 0.0 && d2 >= 0.0 && d6 <= 0.0 {
        return (0.0, d2 / (d2 - d6));
    }
    let va = d3 * d6 - d5 * d4;
    let (e, f) = (d4 - d3, d5 - d6);
    if va <= 0.0 && e >= 0.0 && f >= 0.0 {
        let w = e / (e + f);
        return (1.0 - w, w);
    }
    let sum = 1.0 / (va + vb + vc);
    (vb * sum, vc * sum)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::math::hash::{pcg4d, unit};

    fn point(i: u32, size: f32) -> Vec3 {
        let [x, y, z, _] = pcg4d([i, 7, 9, 1]).map(unit);
        (Vec3::new(x, y, z) - 0.5) * size
    }

    /// Brute force over all triangles.
    #[test]
    fn the_tree_gives_the_least_distance_to_any_triangle() {
        let positions: Vec<Vec3> = (0..900).map(|i| point(i / 3, 20.0) + point(i + 5000, 3.0)).collect();
        let indices: Vec<u32> = (0..900).collect();
        let tree = MeshDistance::new(&positions, &indices);
        for i in 0..400 {
            let p = point(i + 90_000, 40.0);
            let all = positions.chunks_exact(3).map(|t| to_triangle_2(p, &[t[0], t[1], t[2]]));
            let nearest = all.fold(f32::INFINITY, f32::min).sqrt();
            assert_eq!(tree.distance(p, f32::INFINITY), nearest, "to the bit");
            let (t, v, w) = tree.closest(p).unwrap();
            let corner = |i: usize| positions[t as usize * 3 + i];
            let there = corner(0) * (1.0 - v - w) + corner(1) * v + corner(2) * w;
            assert!((there.distance(p) - nearest).abs() < 1e-4);
            assert!(tree.distance(p, nearest * 1.01) <= nearest + 1e-4, "a limit beyond it changes nothing");
            assert!(tree.distance(p, nearest * 0.9) > nearest * 0.9);
        }
        assert_eq!(MeshDistance::new(&[], &[]).distance(Vec3::ZERO, 10.0), f32::INFINITY);
    }

    /// Faces without an area, all in one place, and a long row: no box of these can be parted well.
    #[test]
    fn odd_meshes_have_distances_too() {
        let odd = |of: &dyn Fn(u32) -> [Vec3; 3]| -> Vec<Vec3> { (0..3000).flat_map(of).collect() };
        let meshes = [
            odd(&|_| [Vec3::ZERO, Vec3::X, Vec3::Y]),
            odd(&|i| [Vec3::splat(i as f32); 3]),
            odd(&|i| [Vec3::X * 2.0_f32.powi(i as i32 % 60 - 30), Vec3::Y, Vec3::Z]),
            odd(&|i| [0, 1, 2].map(|k| point(i / 7 * 3 + k, 5.0))),
        ];
        for positions in meshes {
            let indices: Vec<u32> = (0..positions.len() as u32).collect();
            let tree = MeshDistance::new(&positions, &indices);
            for i in 0..60 {
                let p = point(i + 7000, 30.0);
                let all = positions.chunks_exact(3).map(|t| to_triangle_2(p, &[t[0], t[1], t[2]]));
                let nearest = all.filter(|d| !d.is_nan()).fold(f32::INFINITY, f32::min).sqrt();
                assert_eq!(tree.distance(p, f32::INFINITY), nearest);
            }
        }
    }

    #[test]
    fn the_distance_to_a_box_is_that_to_its_faces_edges_and_corners() {
        let corners: Vec<Vec3> =
            (0..8).map(|i| Vec3::new((i & 1) as f32, (i >> 1 & 1) as f32, (i >> 2) as f32)).collect();
        let quads = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 4, 6, 2], [1, 3, 7, 5], [0, 1, 5, 4], [2, 6, 7, 3]];
        let indices: Vec<u32> = quads.iter().flat_map(|q| [q[0], q[1], q[2], q[0], q[2], q[3]]).collect();
        let tree = MeshDistance::new(&corners, &indices);
        let table = [
            (Vec3::new(0.5, 3.0, 0.5), 2.0),
            (Vec3::new(2.0, 2.0, 0.5), 2.0_f32.sqrt()),
            (Vec3::splat(2.0), 3.0_f32.sqrt()),
            (Vec3::splat(0.5), 0.5),
        ];
        for (p, expected) in table {
            assert!((tree.distance(p, 100.0) - expected).abs() < 1e-5, "{p}");
            assert_eq!(tree.holds(p), p == Vec3::splat(0.5), "{p}");
        }
        assert!(!tree.holds(Vec3::new(0.5, -1.0, 0.5)), "below it is not in it");
    }
}
