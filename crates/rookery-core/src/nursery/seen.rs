//! How much of a picture a mesh covers and in what colour, seen from all around.

use super::Mesh;
use glam::{Quat, Vec2, Vec3};
use std::f32::consts::TAU;

/// Sides that a mesh is looked at from.
const SIDES: usize = 8;
/// How far down it is looked at, degrees: as one stands before it.
const DOWN_DEG: f32 = 10.0;

/// What is seen of a mesh.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Seen {
    /// Covered area of the picture, m2, the mean of eight sides.
    pub area_m2: f32,
    /// Mean reflectance of what covers it, linear RGB.
    pub colour: Vec3,
}

impl Seen {
    /// Looks at a mesh from eight sides, ten degrees down, so many rows of pixels from its foot to its top. One sees through the
    /// holes of pictures on it.
    pub fn look(mesh: &Mesh, rows: usize) -> Self {
        let (low, high) = mesh.bounds();
        let half_m = mesh.positions.iter().map(|p| p.x.hypot(p.z)).fold(1e-4, f32::max);
        let middle = Vec3::new(0.0, (low.y + high.y) * 0.5, 0.0);
        let reach = half_m.hypot((high.y - low.y) * 0.5);
        if !reach.is_finite() {
            return Self::default();
        }
        let per_m = rows as f32 / (2.0 * reach);
        let (mut hits, mut colour) = (0_usize, Vec3::ZERO);
        let mut picture = vec![Pixel::NOTHING; rows * rows];
        for side in 0..SIDES {
            picture.fill(Pixel::NOTHING);
            // On no side do two sheets that stand crossed lie one behind the other.
            let turn = Quat::from_rotation_x(DOWN_DEG.to_radians())
                * Quat::from_rotation_y(-TAU * (side as f32 + 0.25) / SIDES as f32);
            let at = |p: Vec3| {
                let p = turn * (p - middle);
                Vec3::new((p.x + reach) * per_m, (reach - p.y) * per_m, -p.z)
            };
            let corners: Vec<Vec3> = mesh.positions.iter().map(|p| at(*p)).collect();
            for (triangle, [a, b, c]) in mesh.indices.as_chunks::<3>().0.iter().enumerate() {
                let on = [corners[*a as usize], corners[*b as usize], corners[*c as usize]];
                let hole =
                    |at: [f32; 2]| mesh.skin.is_some() && mesh.colour_at(triangle, weights(at)).1 < 0.5;
                fill(&mut picture, rows, on, triangle as u32, hole);
            }
            for pixel in picture.iter().filter(|p| p.away.is_finite()) {
                colour += mesh.colour_at(pixel.triangle as usize, weights(pixel.at)).0;
                hits += 1;
            }
        }
        let area_m2 = hits as f32 / (per_m * per_m * SIDES as f32);
        Self { area_m2, colour: if hits == 0 { Vec3::ZERO } else { colour / hits as f32 } }
    }
}

/// What is nearest at a pixel.
#[derive(Clone, Copy)]
struct Pixel {
    away: f32,
    triangle: u32,
    /// Shares of the second and the third corner.
    at: [f32; 2],
}

impl Pixel {
    const NOTHING: Self = Self { away: f32::INFINITY, triangle: 0, at: [0.0; 2] };
}

fn weights([v, w]: [f32; 2]) -> [f32; 3] {
    [1.0 - v - w, v, w]
}

/// Fills the pixels whose middle lies in a triangle, where nothing nearer is and no `hole`. Corners are in pixels, and how far away.
fn fill(
    picture: &mut [Pixel],
    rows: usize,
    [a, b, c]: [Vec3; 3],
    triangle: u32,
    hole: impl Fn([f32; 2]) -> bool,
) {
    let cross = |u: Vec2, v: Vec2| u.perp_dot(v);
    let (a2, b2, c2) = (a.truncate(), b.truncate(), c.truncate());
    let twice = cross(b2 - a2, c2 - a2);
    if twice == 0.0 || !twice.is_finite() {
        return;
    }
    let (low, high) = (a2.min(b2).min(c2), a2.max(b2).max(c2));
    // Middles of pixels from the first in the box to the last; casts go towards zero and no further.
    let span = |low: f32, high: f32| {
        ((low - 0.5).ceil().max(0.0) as usize)..(((high - 0.5).floor() + 1.0).max(0.0) as usize).min(rows)
    };
    // What is zero at one side and grows into the triangle, for each side: u, v, and what they leave.
    let (per_u, per_v) = ((c2 - a2).perp() / -twice, (b2 - a2).perp() / twice);
    let sides = [(per_u, 0.0), (per_v, 0.0), (-per_u - per_v, 1.0)];
    for row in span(low.y, high.y) {
        let y = row as f32 + 0.5 - a2.y;
        // Thin blades fill little of their box: only columns between the sides are tried, and one more at either end.
        let (mut west, mut east) = (low.x - 1.0, high.x + 1.0);
        for (per, at_a) in sides {
            let at = a2.x - (at_a + per.y * y) / per.x;
            if per.x > 1e-6 && at.is_finite() {
                west = west.max(at - 1.0);
            } else if per.x < -1e-6 && at.is_finite() {
                east = east.min(at + 1.0);
            }
        }
        for column in span(west.max(low.x), east.min(high.x)) {
            let p = Vec2::new(column as f32 + 0.5, row as f32 + 0.5);
            let [u, v] = [cross(p - a2, c2 - a2) / twice, cross(b2 - a2, p - a2) / twice];
            if u >= 0.0 && v >= 0.0 && u + v <= 1.0 {
                let away = a.z + (b.z - a.z) * u + (c.z - a.z) * v;
                let pixel = &mut picture[row * rows + column];
                if away < pixel.away && !hole([u, v]) {
                    *pixel = Pixel { away, triangle, at: [u, v] };
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::nursery::make::ball;

    /// Cauchy: what a convex body covers on the average of all directions is a quarter of its surface; of a ball it is the same from
    /// everywhere.
    #[test]
    fn a_ball_covers_its_disc() {
        let (positions, indices) = ball(4);
        let mut mesh = Mesh::default();
        for p in positions {
            mesh.vertex(p * 0.5, p, Vec3::new(0.2, 0.4, 0.6));
        }
        mesh.indices = indices;
        let seen = Seen::look(&mesh, 160);
        assert!((seen.area_m2 / (std::f32::consts::PI * 0.25) - 1.0).abs() < 0.01, "{}", seen.area_m2);
        assert!(seen.colour.distance(Vec3::new(0.2, 0.4, 0.6)) < 1e-3);
    }

    /// Columns that are left out hold nothing: the same pixels as when all of the box are tried.
    #[test]
    fn thin_and_slanted_triangles_are_filled_as_by_trying_every_pixel() {
        use crate::math::hash::{pcg4d, unit};
        let rows = 40;
        let mut filled = 0;
        for n in 0..4000 {
            let number = |k: u32| pcg4d([n, k, 1, 2]).map(unit);
            // Every other one is a blade: its third corner beside its first.
            let [x, y, z, w] = number(0);
            let [p, q, r, s] = number(1);
            let thin = if n % 2 == 0 { 0.03 } else { 1.0 };
            let corners = [
                Vec3::new(x, y, 0.3),
                Vec3::new(z, w, 0.5),
                Vec3::new(x + (p - 0.5) * thin, y + (q - 0.5) * thin, r * s),
            ];
            let corners = corners.map(|c| Vec3::new(c.x * 48.0 - 4.0, c.y * 48.0 - 4.0, c.z));
            let mut picture = vec![Pixel::NOTHING; rows * rows];
            fill(&mut picture, rows, corners, n, |_| false);
            let [a, b, c] = corners.map(Vec3::truncate);
            let twice = (b - a).perp_dot(c - a);
            for (i, pixel) in picture.iter().enumerate() {
                let at = Vec2::new((i % rows) as f32 + 0.5, (i / rows) as f32 + 0.5);
                let [u, v] = [(at - a).perp_dot(c - a) / twice, (b - a).perp_dot(at - a) / twice];
                let within = u >= 0.0 && v >= 0.0 && u + v <= 1.0;
                assert_eq!(within, pixel.away.is_finite(), "{corners:?} at {at}");
                filled += usize::from(within);
            }
        }
        assert!(filled > 100_000, "{filled}");
    }

    /// An upright sheet shows the cosine of the angle it is seen at. From eight sides, the first a quarter of a step beside its face, these are
    /// 11.25, 56.25, 101.25 and 146.25 degrees, each twice.
    #[test]
    fn a_sheet_covers_the_mean_of_what_its_sides_show() {
        let mut mesh = Mesh::default();
        for (x, y) in [(-0.5, 0.0), (0.5, 0.0), (0.5, 1.0), (-0.5, 1.0)] {
            mesh.vertex(Vec3::new(x, y, 0.0), Vec3::Z, Vec3::ONE);
        }
        mesh.indices = vec![0, 1, 2, 0, 2, 3];
        let mean =
            [11.25_f32, 56.25, 101.25, 146.25].map(|deg| deg.to_radians().cos().abs()).iter().sum::<f32>()
                / 4.0;
        let by_hand = mean * DOWN_DEG.to_radians().cos();
        let seen = Seen::look(&mesh, 200);
        assert!((seen.area_m2 / by_hand - 1.0).abs() < 0.01, "{} for {by_hand}", seen.area_m2);
    }

    #[test]
    fn what_lies_behind_lends_no_colour() {
        let mut mesh = Mesh::default();
        for (k, colour) in [Vec3::X, Vec3::Z].into_iter().enumerate() {
            let size = 1.0 - k as f32 * 0.5;
            let first = mesh.positions.len() as u32;
            for (x, y) in [(-1.0, 0.0), (1.0, 0.0), (1.0, 2.0), (-1.0, 2.0)] {
                mesh.vertex(Vec3::new(x * size, y * size, 0.0), Vec3::Z, colour);
            }
            mesh.indices.extend([0, 1, 2, 0, 2, 3].map(|i| i + first));
            // The second stands behind the first from half of the sides, before it from the others.
            mesh.positions[first as usize..].iter_mut().for_each(|p| p.z -= k as f32 * 0.05);
        }
        let seen = Seen::look(&mesh, 120);
        assert!((seen.colour.z - 0.125).abs() < 0.02, "{}", seen.colour);
    }
}
