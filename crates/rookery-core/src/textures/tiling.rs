//! Patterns that go on beyond each edge of the unit square at the opposite one.

use crate::math::hash::{pcg4d, unit};
use glam::{Vec2, vec2};
use std::sync::LazyLock;

/// Four numbers of a cell, 0 to 1.
pub fn draws(x: i32, y: i32, salt: u32) -> [f32; 4] {
    pcg4d([x as u32, y as u32, salt, 0x7E87]).map(unit)
}

/// Gradient noise with so many cells along either side, about -1 to 1.
pub fn noise(p: Vec2, cells: [i32; 2], salt: u32) -> f32 {
    let at = p * vec2(cells[0] as f32, cells[1] as f32);
    let (cell, t) = (at.floor(), at - at.floor());
    let ease = t * t * t * (t * (t * 6.0 - 15.0) + 10.0);
    let corner = |dx: i32, dy: i32| {
        let x = (cell.x as i32 + dx).rem_euclid(cells[0]);
        let y = (cell.y as i32 + dy).rem_euclid(cells[1]);
        slope(x, y, salt).dot(t - vec2(dx as f32, dy as f32))
    };
    let north = corner(0, 0) + (corner(1, 0) - corner(0, 0)) * ease.x;
    let south = corner(0, 1) + (corner(1, 1) - corner(0, 1)) * ease.x;
    (north + (south - north) * ease.y) * 1.5
}

/// One of sixteen directions.
fn slope(x: i32, y: i32, salt: u32) -> Vec2 {
    static WAYS: LazyLock<[Vec2; 16]> = LazyLock::new(|| {
        std::array::from_fn(|i| {
            let angle = (i as f32 + 0.5) / 16.0 * std::f32::consts::TAU;
            vec2(libm::cosf(angle), libm::sinf(angle))
        })
    });
    WAYS[(pcg4d([x as u32, y as u32, salt, 0x7E87])[0] >> 28) as usize]
}

/// Several octaves of it, each finer one so many times as strong.
pub fn fractal(p: Vec2, cells: [i32; 2], octaves: u32, gain: f32, salt: u32) -> f32 {
    let (mut sum, mut weight, mut all) = (0.0, 1.0, 0.0);
    for octave in 0..octaves {
        sum += weight * noise(p, cells.map(|c| c << octave), salt + octave);
        all += weight;
        weight *= gain;
    }
    sum / all
}

/// The nearest of points strewn one to a cell.
#[derive(Clone, Copy, Debug)]
pub struct Nearest {
    /// From it to the place, in cells.
    pub from: Vec2,
    /// Distances to it and to the second nearest, in cells.
    pub away: [f32; 2],
    /// Numbers of its own.
    pub own: [f32; 4],
}

/// The nearest of points strewn over so many cells along a side.
pub fn nearest(p: Vec2, cells: i32, salt: u32) -> Nearest {
    let at = p * cells as f32;
    let cell = at.floor();
    let mut found = Nearest { from: Vec2::ZERO, away: [9.0; 2], own: [0.0; 4] };
    for dy in -1..=1 {
        for dx in -1..=1 {
            let (x, y) = (cell.x as i32 + dx, cell.y as i32 + dy);
            let key = (x.rem_euclid(cells), y.rem_euclid(cells));
            let [jx, jy, ..] = draws(key.0, key.1, salt);
            let from = at - vec2(x as f32 + 0.15 + 0.7 * jx, y as f32 + 0.15 + 0.7 * jy);
            let away = from.length();
            if away < found.away[0] {
                found =
                    Nearest { from, away: [away, found.away[0]], own: draws(key.0, key.1, salt ^ 0x5EED) };
            } else if away < found.away[1] {
                found.away[1] = away;
            }
        }
    }
    found
}

/// 0 at `low`, 1 at `high`, which may be the smaller.
pub fn smooth(low: f32, high: f32, v: f32) -> f32 {
    let t = ((v - low) / (high - low)).clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}
