//! Courses of stones one above the other: the beds of a rock face, a wall of rubble.

use super::tiling::draws;
use glam::{Vec2, vec2};

/// Courses of uneven thickness from the bottom up: where each ends, 0 to 1.
fn tops(count: u32, uneven: f32, salt: u32) -> Vec<f32> {
    let thick: Vec<f32> =
        (0..count).map(|i| 1.0 - uneven + 2.0 * uneven * draws(i as i32, 0, salt)[0]).collect();
    let all: f32 = thick.iter().sum();
    let mut top = 0.0;
    thick
        .iter()
        .map(|t| {
            top += t / all;
            top
        })
        .collect()
}

/// Where a place of a coursed face lies.
pub struct Course {
    /// Which course, and which stone in it.
    pub own: [[f32; 4]; 2],
    /// To the nearest edge between courses and between stones, in sides of the picture.
    pub edge: Vec2,
}

/// Courses one above the other, each cut into stones; edges waver with `warp`.
pub struct Courses {
    tops: Vec<f32>,
    stones: [i32; 2],
    salt: u32,
}

impl Courses {
    pub fn new(count: u32, uneven: f32, stones: [i32; 2], salt: u32) -> Self {
        Self { tops: tops(count, uneven, salt), stones, salt }
    }

    pub fn at(&self, p: Vec2, warp: Vec2) -> Course {
        let q = p + warp;
        let y = q.y.rem_euclid(1.0);
        let n = self.tops.partition_point(|top| *top <= y).min(self.tops.len() - 1);
        let bottom = if n == 0 { 0.0 } else { self.tops[n - 1] };
        let course = draws(n as i32, 1, self.salt);
        let [few, many] = self.stones;
        let count = few + (course[0] * (many - few + 1) as f32) as i32;
        let at = (q.x + course[1]) * count as f32;
        let cut = |i: i32| 0.32 * (draws(i.rem_euclid(count), n as i32 + 100, self.salt)[0] - 0.5);
        let mut stone = at.floor() as i32;
        if at < stone as f32 + cut(stone) {
            stone -= 1;
        } else if at >= (stone + 1) as f32 + cut(stone + 1) {
            stone += 1;
        }
        let (left, right) = (stone as f32 + cut(stone), (stone + 1) as f32 + cut(stone + 1));
        let own = draws(stone.rem_euclid(count), n as i32 + 200, self.salt);
        let across = (at - left).min(right - at) / count as f32;
        Course { own: [course, own], edge: vec2(across, (y - bottom).min(self.tops[n] - y)) }
    }
}
