//! Soft clouds: one sheet of them at one height, which the sky shows and the land is shaded by. A still and the view read the same table.

use crate::math::hash::{pcg4d, unit};
use std::sync::OnceLock;

/// Values of the table each way.
pub const SIDE: usize = 256;
/// Width of the square of sky that the table is of, metres; beyond it, it comes again.
pub const TILE_M: f32 = 7200.0;
/// How high they are, metres: fair-weather clouds over a coast have their bases at 600 to 1200 m (common textbook range).
pub const HEIGHT_M: f32 = 1100.0;
/// Of a cloud's share, to each side of it, over which it thins out.
pub const SOFT: f32 = 0.3;
/// A sheet that were level to its end would lie in streaks over the horizon: it bends down a little, as it does over a round earth.
pub const BENDS: f32 = 0.05;
/// Most of the sun's light that a cloud takes away.
pub const TAKES: f32 = 0.86;
/// Wind at their height against that 10 m up: the power law with an exponent of one seventh (Davenport 1960; common practice for open country).
const ALOFT: f32 = 1.957;
/// Largest billows in the table, each way.
const COARSEST: u32 = 7;
const OCTAVES: u32 = 5;

/// How much of the sky they cover, and where they have got to.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Clouds {
    /// Share of the sky that is clouded, 0 to 1.
    pub share: f32,
    /// How far they have drifted, metres towards x and z.
    pub drift_m: [f32; 2],
}

/// How fast they drift in a wind of so many m/s at 10 m that goes this way, m/s towards x and z.
pub fn drift_m_per_s(speed_m_per_s: f32, heading: [f32; 2]) -> [f32; 2] {
    heading.map(|h| h * speed_m_per_s * ALOFT)
}

impl Clouds {
    /// How thick they are over a point where one looks or light comes from, 0 (none) to 1. `from` and the unit direction `to` are in metres of the scene.
    pub fn towards(&self, from: [f32; 3], to: [f32; 3]) -> f32 {
        if self.share <= 0.0 || to[1] <= 0.0 || from[1] >= HEIGHT_M {
            return 0.0;
        }
        let away = (HEIGHT_M - from[1]) / (to[1] + BENDS);
        self.over(from[0] + to[0] * away, from[2] + to[2] * away)
    }

    /// How thick they are over a point of the plan at their height, 0 to 1.
    pub fn over(&self, x: f32, z: f32) -> f32 {
        self.thickness(self.rank(x, z))
    }

    /// From a value of the table: half where the share of the sky that is clouded ends.
    pub fn thickness(&self, rank: f32) -> f32 {
        let edge = SOFT * self.share;
        let t = ((rank - 1.0 + self.share + edge) / (2.0 * edge).max(1e-6)).clamp(0.0, 1.0);
        t * t * (3.0 - 2.0 * t)
    }

    /// The table over a point of the plan, between its values.
    pub fn rank(&self, x: f32, z: f32) -> f32 {
        billow((x - self.drift_m[0]) / TILE_M, (z - self.drift_m[1]) / TILE_M)
    }
}

/// The table at a place, in widths of it, between its values.
pub fn billow(u: f32, v: f32) -> f32 {
    let at = |v: f32| v.rem_euclid(1.0) * SIDE as f32 - 0.5;
    let (u, v) = (at(u), at(v));
    let (cu, cv) = (u.floor(), v.floor());
    let (fu, fv) = (u - cu, v - cv);
    let table = table();
    let of = |dx: i32, dz: i32| {
        let wrap = |c: f32, d: i32| (c as i32 + d).rem_euclid(SIDE as i32) as usize;
        f32::from(table[wrap(cv, dz) * SIDE + wrap(cu, dx)]) / 255.0
    };
    let row = |dz: i32| of(0, dz) + (of(1, dz) - of(0, dz)) * fu;
    row(0) + (row(1) - row(0)) * fv
}

/// Billows from west to east and then to the south, as ranks: as much of the sky lies below a value as it says, 0 to 255. So a share of clouds is the share
/// of the sky they cover. One side goes on at the other.
pub fn table() -> &'static [u8] {
    static TABLE: OnceLock<Vec<u8>> = OnceLock::new();
    TABLE.get_or_init(|| {
        let heights: Vec<f32> = (0..SIDE * SIDE).map(|i| billows(i % SIDE, i / SIDE)).collect();
        let mut order: Vec<usize> = (0..heights.len()).collect();
        order.sort_by(|a, b| heights[*a].total_cmp(&heights[*b]).then(a.cmp(b)));
        let mut ranks = vec![0_u8; heights.len()];
        for (nth, at) in order.into_iter().enumerate() {
            ranks[at] = (nth * 256 / heights.len()) as u8;
        }
        ranks
    })
}

/// Rounded heaps over one another: gradient noise (Perlin 2002) on a lattice that closes upon itself, its finer octaves folded so that they bulge.
fn billows(column: usize, row: usize) -> f32 {
    let (u, v) = ((column as f32 + 0.5) / SIDE as f32, (row as f32 + 0.5) / SIDE as f32);
    let (mut sum, mut weight) = (0.0, 1.0);
    for octave in 0..OCTAVES {
        let cells = COARSEST << octave;
        let n = gradient_noise(u * cells as f32, v * cells as f32, cells, octave);
        sum += weight * if octave == 0 { n } else { 0.5 - 1.6 * n.abs() };
        weight *= 0.52;
    }
    sum
}

fn gradient_noise(x: f32, y: f32, cells: u32, octave: u32) -> f32 {
    let (cx, cy) = (x.floor(), y.floor());
    let (fx, fy) = (x - cx, y - cy);
    let fade = |t: f32| t * t * t * (t * (t * 6.0 - 15.0) + 10.0);
    let corner = |dx: u32, dy: u32| {
        let turns = unit(pcg4d([(cx as u32 + dx) % cells, (cy as u32 + dy) % cells, octave, 0xC10D])[0]);
        let (s, c) = libm::sincosf(turns * std::f32::consts::TAU);
        c * (fx - dx as f32) + s * (fy - dy as f32)
    };
    let mix = |a: f32, b: f32, t: f32| a + (b - a) * t;
    let (u, v) = (fade(fx), fade(fy));
    mix(mix(corner(0, 0), corner(1, 0), u), mix(corner(0, 1), corner(1, 1), u), v)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_share_of_clouds_is_the_share_of_the_sky_they_cover() {
        for share in [0.1, 0.35, 0.6, 0.9] {
            let clouds = Clouds { share, ..Clouds::default() };
            let step = TILE_M / 400.0;
            let clouded = (0..160_000)
                .filter(|i| clouds.over((i % 400) as f32 * step, (i / 400) as f32 * step) > 0.5)
                .count() as f32
                / 160_000.0;
            assert!((clouded - share).abs() < 0.02, "asked {share}, covered {clouded}");
        }
        assert_eq!(Clouds::default().over(120.0, 40.0), 0.0);
    }

    #[test]
    fn they_drift_with_the_wind_and_go_on_beyond_the_table() {
        let still = Clouds { share: 0.5, drift_m: [0.0; 2] };
        let drift = drift_m_per_s(6.0, [1.0, 0.0]);
        assert!(drift[0] > 6.0 && drift[1] == 0.0);
        let later = Clouds { drift_m: drift.map(|d| d * 60.0), ..still };
        for (x, z) in [(0.0_f32, 0.0_f32), (-3100.0, 870.0), (6900.0, -40.0)] {
            assert!((later.rank(x + later.drift_m[0], z) - still.rank(x, z)).abs() < 2e-3);
            assert!((still.rank(x + TILE_M, z - 2.0 * TILE_M) - still.rank(x, z)).abs() < 2e-3);
        }
    }

    #[test]
    fn none_are_seen_from_above_them_or_below_the_horizon() {
        let all = Clouds { share: 1.0, ..Clouds::default() };
        assert!(all.towards([0.0; 3], [0.0, 1.0, 0.0]) > 0.5);
        assert_eq!(all.towards([0.0, HEIGHT_M, 0.0], [0.0, 1.0, 0.0]), 0.0);
        assert_eq!(all.towards([0.0; 3], [0.8, -0.6, 0.0]), 0.0);
    }
}
