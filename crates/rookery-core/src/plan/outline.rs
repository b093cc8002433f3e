//! Outlines on the plan: their line, how far a point lies from it, and the value they give.

use crate::document::{Outline, OutlineKind};
use glam::Vec2;

/// Pieces between two nodes of a smooth line.
const PIECES: usize = 12;

/// An outline ready to be asked about points.
#[derive(Clone, Debug)]
pub struct OutlineLine {
    /// The line in straight pieces, x and z in metres; a closed one ends where it begins.
    pub points: Vec<Vec2>,
    closed: bool,
    half_width_m: f32,
    soft_m: f32,
    low: Vec2,
    high: Vec2,
}

impl OutlineLine {
    /// Leads the line through the nodes.
    pub fn new(outline: &Outline) -> Self {
        let nodes: Vec<Vec2> = outline.nodes.iter().map(|p| Vec2::from(*p)).collect();
        let closed = outline.kind != OutlineKind::Track;
        let mut points = if outline.smooth { smooth(&nodes, closed) } else { nodes };
        if closed && let Some(first) = points.first().copied() {
            points.push(first);
        }
        let half_width_m = if closed { 0.0 } else { outline.width_m * 0.5 };
        let low = points.iter().copied().fold(Vec2::INFINITY, Vec2::min);
        let high = points.iter().copied().fold(Vec2::NEG_INFINITY, Vec2::max);
        Self { points, closed, half_width_m, soft_m: outline.soft_m, low, high }
    }

    /// Distance from a point to the edge, metres: below zero inside a closed line or on a track.
    pub fn distance_m(&self, p: Vec2) -> f32 {
        let mut nearest_2 = f32::INFINITY;
        let mut inside = false;
        for pair in self.points.windows(2) {
            let (a, b) = (pair[0], pair[1]);
            let along = b - a;
            let length_2 = along.length_squared();
            let t = if length_2 > 0.0 { ((p - a).dot(along) / length_2).clamp(0.0, 1.0) } else { 0.0 };
            nearest_2 = nearest_2.min(p.distance_squared(a + along * t));
            // Even-odd: how often a line to the east crosses the outline.
            if self.closed && (a.y > p.y) != (b.y > p.y) && p.x < a.x + (p.y - a.y) / (b.y - a.y) * along.x {
                inside = !inside;
            }
        }
        let away = nearest_2.sqrt();
        if self.closed { if inside { -away } else { away } } else { away - self.half_width_m }
    }

    /// Points of its edge so far apart, each with a unit normal; a track has two edges, its ends have none.
    pub fn edge(&self, step_m: f32) -> Vec<(Vec2, Vec2)> {
        let mut out = Vec::new();
        for pair in self.points.windows(2) {
            let along = pair[1] - pair[0];
            let Some(way) = along.try_normalize() else { continue };
            let n = (along.length() / step_m).ceil().max(1.0) as usize;
            for k in 0..n {
                let at = pair[0] + along * ((k as f32 + 0.5) / n as f32);
                for side in [way.perp(), -way.perp()] {
                    out.push((at + side * self.half_width_m, side));
                }
            }
        }
        out
    }

    /// Whether it ends where it begins.
    pub fn closed(&self) -> bool {
        self.closed
    }

    /// Half the width of a track, metres; 0 for a closed line.
    pub fn half_width_m(&self) -> f32 {
        self.half_width_m
    }

    /// How much a point belongs to it, 0 to 1: 1 inside a closed line from its soft edge inwards, 1 on a track, fading
    /// over its soft edge outwards.
    pub fn value(&self, p: Vec2) -> f32 {
        let (low, high) = self.reach();
        if p.cmplt(low).any() || p.cmpgt(high).any() {
            return 0.0;
        }
        self.value_at(self.distance_m(p))
    }

    /// Whether it gives any value within a box of the plan; it may say so where it gives none.
    pub fn touches(&self, low: Vec2, high: Vec2) -> bool {
        let (own_low, own_high) = self.reach();
        own_low.cmple(high).all() && low.cmple(own_high).all()
    }

    /// The corners of the box that holds every point with a value.
    pub fn reach(&self) -> (Vec2, Vec2) {
        let reach = if self.closed { 0.0 } else { self.half_width_m + self.soft_m };
        (self.low - reach, self.high + reach)
    }

    /// The value at a distance from the edge, metres; it never rises with the distance.
    pub(super) fn value_at(&self, d: f32) -> f32 {
        let outermost = if self.closed { 0.0 } else { self.soft_m };
        if d >= outermost {
            return 0.0;
        }
        if self.soft_m <= 0.0 {
            return 1.0;
        }
        let t = ((outermost - d) / self.soft_m).min(1.0);
        t * t * (3.0 - 2.0 * t)
    }

    /// Length of the line, metres.
    pub fn length_m(&self) -> f32 {
        self.points.windows(2).map(|p| p[0].distance(p[1])).sum()
    }

    /// Plan area of a closed line, m2; length times width for a track.
    pub fn area_m2(&self) -> f32 {
        if !self.closed {
            return self.length_m() * self.half_width_m * 2.0;
        }
        let first = self.points.first().copied().unwrap_or(Vec2::ZERO);
        self.points.windows(2).map(|p| (p[0] - first).perp_dot(p[1] - first)).sum::<f32>().abs() * 0.5
    }
}

/// A curve through all nodes that does not swing beyond them where they lie close.
///
/// Source: Yuksel, Schaefer & Keyser, "Parameterization and applications of Catmull-Rom curves", Computer-Aided
/// Design 43(7), 2011 (the centripetal form).
fn smooth(nodes: &[Vec2], closed: bool) -> Vec<Vec2> {
    let n = nodes.len();
    if n < 3 {
        return nodes.to_vec();
    }
    let node = |i: isize| {
        if closed {
            nodes[i.rem_euclid(n as isize) as usize]
        } else if i < 0 {
            nodes[0] * 2.0 - nodes[1]
        } else if i >= n as isize {
            nodes[n - 1] * 2.0 - nodes[n - 2]
        } else {
            nodes[i as usize]
        }
    };
    let spans = if closed { n } else { n - 1 };
    let mut out = Vec::with_capacity(spans * PIECES + 1);
    for span in 0..spans as isize {
        let p = [-1, 0, 1, 2].map(|i| node(span + i));
        for piece in 0..PIECES {
            out.push(catmull_rom(p, piece as f32 / PIECES as f32));
        }
    }
    if !closed {
        out.push(nodes[n - 1]);
    }
    out
}

fn catmull_rom(p: [Vec2; 4], t: f32) -> Vec2 {
    let knot = |a: Vec2, b: Vec2| a.distance(b).sqrt().max(1e-4);
    let t0 = 0.0;
    let t1 = t0 + knot(p[0], p[1]);
    let t2 = t1 + knot(p[1], p[2]);
    let t3 = t2 + knot(p[2], p[3]);
    let at = t1 + (t2 - t1) * t;
    let mix = |a: Vec2, b: Vec2, from: f32, to: f32| {
        a * ((to - at) / (to - from)) + b * ((at - from) / (to - from))
    };
    let (a, b, c) = (mix(p[0], p[1], t0, t1), mix(p[1], p[2], t1, t2), mix(p[2], p[3], t2, t3));
    mix(mix(a, b, t0, t2), mix(b, c, t1, t3), t1, t2)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::OutlineId;
    use glam::vec2;
    use proptest::prelude::*;

    fn outline(kind: OutlineKind, nodes: &[[f32; 2]], smooth: bool) -> Outline {
        let name = "test".to_owned();
        Outline {
            id: OutlineId(1),
            name,
            kind,
            nodes: nodes.to_vec(),
            smooth,
            soft_m: 2.0,
            width_m: 3.0,
            earth: None,
        }
    }

    const SQUARE: [[f32; 2]; 4] = [[-10.0, -10.0], [10.0, -10.0], [10.0, 10.0], [-10.0, 10.0]];

    #[test]
    fn a_square_has_its_distances_its_area_and_its_soft_edge() {
        let line = OutlineLine::new(&outline(OutlineKind::Bed, &SQUARE, false));
        assert_eq!((line.area_m2(), line.length_m()), (400.0, 80.0));
        assert_eq!(line.distance_m(vec2(0.0, 0.0)), -10.0);
        assert_eq!(line.distance_m(vec2(13.0, 14.0)), 5.0);
        assert_eq!((line.value(vec2(0.0, 0.0)), line.value(vec2(10.5, 0.0))), (1.0, 0.0));
        assert!((line.value(vec2(9.0, 0.0)) - 0.5).abs() < 1e-5);
    }

    #[test]
    fn a_track_is_as_wide_as_it_says_and_fades_outwards() {
        let line = OutlineLine::new(&outline(OutlineKind::Track, &[[0.0, 0.0], [20.0, 0.0]], false));
        assert_eq!(line.area_m2(), 60.0);
        assert_eq!((line.value(vec2(5.0, 1.4)), line.value(vec2(5.0, 3.6))), (1.0, 0.0));
        assert!((line.value(vec2(5.0, 2.5)) - 0.5).abs() < 1e-5);
    }

    #[test]
    fn a_smooth_line_passes_through_its_nodes_and_a_smooth_ring_is_nearly_round() {
        let ring: Vec<[f32; 2]> = (0..12)
            .map(|i| f32::to_radians(i as f32 * 30.0))
            .map(|a| [a.cos() * 5.0, a.sin() * 5.0])
            .collect();
        let line = OutlineLine::new(&outline(OutlineKind::Bed, &ring, true));
        for node in ring {
            assert!(line.points.iter().any(|p| p.distance(node.into()) < 1e-4));
        }
        let area = std::f32::consts::PI * 25.0;
        assert!((line.area_m2() - area).abs() < area * 0.01, "{}", line.area_m2());
    }

    proptest! {
        /// Winding by summed angles agrees with the crossings for a star-shaped line.
        #[test]
        fn inside_is_where_the_line_winds_around(radii in proptest::collection::vec(2.0_f32..9.0, 5..12), x in -10.0_f32..10.0, z in -10.0_f32..10.0) {
            let n = radii.len();
            let nodes: Vec<[f32; 2]> = radii.iter().enumerate().map(|(i, r)| {
                let a = i as f32 / n as f32 * std::f32::consts::TAU;
                [r * a.cos(), r * a.sin()]
            }).collect();
            let line = OutlineLine::new(&outline(OutlineKind::Clearing, &nodes, false));
            let p = vec2(x, z);
            let turned: f32 = line.points.windows(2).map(|w| (w[0] - p).angle_to(w[1] - p)).sum();
            let d = line.distance_m(p);
            prop_assume!(d.abs() > 1e-3);
            prop_assert_eq!(d < 0.0, turned.abs() > 3.0);
        }
    }
}
