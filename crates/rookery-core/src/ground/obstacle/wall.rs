//! A dry-stone wall: courses of rough stones with a batter, cope stones on edge along the top.

use super::Stand;
use super::solid::{Solid, corners};
use crate::ground::Terrain;
use crate::math::hash::{pcg4d, unit};
use crate::nursery::Mesh;
use crate::textures::Texture;
use glam::{Vec2, Vec3, vec2, vec3};

/// Height of a course, metres.
const COURSE_M: f32 = 0.19;
/// The cope's share of the height.
const COPE: f32 = 0.2;
const SALT: u32 = 0xD57E;

/// Follows the line over the ground, stone by stone.
pub(super) fn build(
    points: &[[f32; 2]],
    height_m: f32,
    thickness_m: f32,
    seed: u32,
    stand: &Stand,
    terrain: &Terrain,
) -> Mesh {
    let mut solid = Solid::default();
    let line = Line::new(points);
    let body = height_m * (1.0 - COPE);
    let courses = (body / COURSE_M).round().max(1.0) as u32;
    for course in 0..courses {
        let rise = body / courses as f32;
        let share = (course as f32 + 0.5) / courses as f32;
        let wide = thickness_m * (1.0 - share / 3.0);
        // Stones shrink towards the top.
        let usual = (0.46 - 0.16 * share).max(rise);
        // One course below the ground as its footing.
        let low = course as f32 * rise - if course == 0 { 0.35 } else { 0.0 };
        let high = (course + 1) as f32 * rise;
        stones(&line, usual, seed ^ course.wrapping_mul(0x9E37), |stone| {
            for side in [-1.0_f32, 1.0] {
                let rough = |i: usize| (stone.random[i] - 0.5) * 0.06;
                let depth = wide * 0.5 + rough(if side > 0.0 { 0 } else { 1 });
                let (near, far) = (side * depth, side * -0.02);
                stone.lay(&mut solid, stand, terrain, low, high, near.min(far), near.max(far), side > 0.0);
            }
        });
    }
    let top = thickness_m * (2.0 / 3.0) * 0.52;
    stones(&line, 0.2, seed ^ 0xC09E, |stone| {
        let high = height_m - stone.random[0] * height_m * 0.06;
        stone.lay(
            &mut solid,
            stand,
            terrain,
            body,
            high,
            -top - stone.random[1] * 0.05,
            top + stone.random[2] * 0.05,
            true,
        );
    });
    solid.finish()
}

struct Line {
    points: Vec<Vec2>,
    /// From the start to each point, metres.
    at_m: Vec<f32>,
}

impl Line {
    fn new(points: &[[f32; 2]]) -> Self {
        let points: Vec<Vec2> = points.iter().map(|p| Vec2::from(*p)).collect();
        let mut at_m = vec![0.0];
        for pair in points.windows(2) {
            at_m.push(at_m[at_m.len() - 1] + pair[0].distance(pair[1]));
        }
        Self { points, at_m }
    }

    fn length(&self) -> f32 {
        self.at_m[self.at_m.len() - 1]
    }

    /// A point of the line and the unit vector across it, south of a line that runs east.
    fn at(&self, along: f32) -> (Vec2, Vec2) {
        let next = self.at_m.partition_point(|a| *a < along).clamp(1, self.points.len() - 1);
        let (a, b) = (self.points[next - 1], self.points[next]);
        let span = self.at_m[next] - self.at_m[next - 1];
        let t = if span > 0.0 { ((along - self.at_m[next - 1]) / span).clamp(0.0, 1.0) } else { 0.0 };
        (a + (b - a) * t, (b - a).perp().normalize_or(Vec2::Y))
    }
}

struct LaidStone<'a> {
    line: &'a Line,
    from: f32,
    to: f32,
    random: [f32; 4],
}

/// Cuts a line into stones of about a usual length.
fn stones(line: &Line, usual: f32, seed: u32, mut lay: impl FnMut(&LaidStone<'_>)) {
    let length = line.length();
    let mut from = 0.0;
    let mut number = 0;
    while from < length - 1e-3 {
        let random = pcg4d([seed, number, SALT, 0]).map(unit);
        let to = (from + usual * (0.6 + 0.9 * random[3])).min(length);
        // No sliver at the end.
        let to = if length - to < usual * 0.4 { length } else { to };
        lay(&LaidStone { line, from, to, random });
        from = to;
        number += 1;
    }
}

impl LaidStone<'_> {
    /// A rough block from one side of the wall's middle to the other, its faces drawn in at the edges.
    #[expect(clippy::too_many_arguments, reason = "a stone's six bounds and where it lies")]
    fn lay(
        &self,
        solid: &mut Solid,
        stand: &Stand,
        terrain: &Terrain,
        low: f32,
        high: f32,
        right: f32,
        left: f32,
        lit: bool,
    ) {
        let joint = 0.012;
        let tone = 0.72 + 0.5 * self.random[2];
        let warm = 0.06 * (self.random[0] - 0.5);
        let colour =
            vec3(0.185 + warm, 0.178 + warm * 0.6, 0.165 - warm * 0.3) * tone * if lit { 1.0 } else { 0.97 };
        let at = |along: f32, across: f32, up: f32| {
            let (p, side) = self.line.at(along);
            let q = p + side * across;
            stand.foot(q.x, q.y, terrain) + Vec3::Y * (up * stand.scale)
        };
        let (from, to) = (self.from + joint, (self.to - joint).max(self.from + joint + 0.01));
        // Unit corners onto the stone: along, across, up; every corner a little off.
        let mut wobble = 0;
        let placed = corners(Vec3::ZERO, Vec3::ONE).map(|c| {
            wobble += 1;
            let [a, b, d, _] =
                pcg4d([(self.from * 977.0) as u32, wobble, (low * 613.0 + 99.0) as u32, SALT]).map(unit);
            let off = vec3(a - 0.5, b - 0.5, d - 0.5) * 0.035;
            at(
                from + (to - from) * c.x + off.x,
                // A block's south is where the line's side vector points when it runs east.
                right + (left - right) * c.z + off.z,
                low + joint + (high - low - joint) * c.y + off.y,
            )
        });
        let shift = vec2(self.random[1], self.random[3]) * 7.0 + vec2(self.from, low * 3.0);
        solid.of(Texture::Rock, shift).hexahedron(placed, colour);
    }
}
