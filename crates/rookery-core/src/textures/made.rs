//! What is built of. Tones, sizes and shares by eye.

use super::courses::Courses;
use super::draw::{Drawn, Recipe, each};
use super::tiling::{draws, fractal, nearest, noise, smooth};
use glam::{Vec3, vec2, vec3};

/// Pictures of walls stay where they are: a shift would cut stones.
const STAYS: [f32; 2] = [0.0, 0.0];

pub fn rubble() -> Recipe {
    let courses = Courses::new(13, 0.4, [5, 9], 80);
    let samples = each(|p| {
        let warp = vec2(fractal(p, [9, 9], 3, 0.6, 81), fractal(p, [9, 9], 3, 0.6, 82)) * 0.011;
        let c = courses.at(p, warp);
        let fine = fractal(p, [30, 30], 4, 0.65, 83);
        let [_, [tone, warm, proud, _]] = c.own;
        let stone = smooth(0.004, 0.012, c.edge.x.min(c.edge.y));
        let round = smooth(0.004, 0.035, c.edge.x.min(c.edge.y));
        let warm = 0.11 * (warm - 0.5);
        let body = vec3(1.0 + warm, 1.0, 1.0 - warm) * (0.7 + 0.6 * tone + 0.3 * fine);
        let mortar = vec3(1.32, 1.25, 1.1) * (0.9 + 0.4 * fine);
        Drawn { colour: mortar.lerp(body, stone), height: round * (0.45 + 0.5 * proud) + 0.22 * fine }
    });
    Recipe { size_m: 2.4, relief_m: 0.06, shifts: STAYS, samples }
}

pub fn lime() -> Recipe {
    let samples = each(|p| {
        let trowel = fractal(p + vec2(noise(p, [3, 3], 90), 0.0) * 0.05, [6, 9], 3, 0.5, 91);
        let rubble = nearest(p, 9, 92);
        let under = smooth(0.0, 0.5, rubble.away[1] - rubble.away[0]);
        let fine = fractal(p, [40, 40], 3, 0.7, 93);
        let stain = smooth(0.05, 0.75, fractal(p, [4, 2], 4, 0.6, 94));
        let crack = nearest(p + vec2(noise(p, [12, 12], 95), noise(p, [12, 12], 96)) * 0.02, 3, 97);
        let hair = smooth(0.012, 0.0, crack.away[1] - crack.away[0]) * smooth(0.1, 0.4, noise(p, [4, 4], 98));
        let tone = 1.0 + 0.05 * trowel + 0.05 * fine - 0.13 * stain - 0.3 * hair;
        Drawn {
            colour: vec3(1.0, 0.99, 0.965).lerp(vec3(0.97, 1.0, 0.98), stain) * tone,
            height: 0.6 * trowel + 0.35 * under + 0.16 * fine - 0.3 * hair,
        }
    });
    Recipe { size_m: 2.6, relief_m: 0.03, shifts: STAYS, samples }
}

pub fn slate() -> Recipe {
    const ACROSS: f32 = 7.0;
    let samples = each(|p| {
        let at = p.x * ACROSS + 0.02 * noise(p, [7, 5], 100);
        let (n, t) = (at.floor() as i32, at - at.floor());
        let [tone, warm, proud, _] = draws(n.rem_euclid(ACROSS as i32), 0, 101);
        let joint = smooth(0.022, 0.008, t.min(1.0 - t));
        let leaves = fractal(p, [10, 26], 4, 0.6, 102);
        let spot = nearest(p, 13, 103);
        let crust = if spot.own[0] < 0.13 { smooth(0.3, 0.2, spot.away[0]) } else { 0.0 };
        let warm = 0.12 * (warm - 0.5);
        let body = vec3(1.0 + warm, 1.0, 1.0 - warm) * (0.78 + 0.44 * tone + 0.22 * leaves - 0.6 * joint);
        Drawn {
            colour: body.lerp(Vec3::splat(1.9), 0.35 * crust),
            height: 0.35 * proud + 0.25 * leaves + 0.3 - 0.5 * joint,
        }
    });
    Recipe { size_m: 1.9, relief_m: 0.016, shifts: STAYS, samples }
}
