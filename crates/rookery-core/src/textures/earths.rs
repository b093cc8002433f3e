//! Earths and rock. Tones, sizes and shares by eye.

use super::SIDE;
use super::courses::Courses;
use super::draw::{Drawn, Recipe, each};
use super::tiling::{draws, fractal, nearest, noise, smooth};
use glam::{Vec2, Vec3, vec2, vec3};
use std::f32::consts::TAU;

const FREE: [f32; 2] = [1.0, 1.0];

/// What lies on the ground: short lines from a place in a direction, the later over the earlier.
struct Strewn {
    /// Places from 0 to 1 along the sides, lengths in the same measure.
    from: Vec2,
    along: Vec2,
    colour: Vec3,
    rise: f32,
}

/// Draws lines a sample wide over samples.
fn strew(samples: &mut [Drawn], line: &Strewn) {
    let steps = (line.along.length() * SIDE as f32 * 1.5).ceil().max(1.0) as usize;
    let bow = line.along.perp() * 0.12;
    for step in 0..=steps {
        let t = step as f32 / steps as f32;
        let p = (line.from + line.along * t + bow * (4.0 * t * (1.0 - t))) * SIDE as f32;
        let [x, y] = [p.x, p.y].map(|v| (v.floor() as i32).rem_euclid(SIDE as i32) as usize);
        let own = &mut samples[y * SIDE + x];
        own.colour = line.colour * (0.85 + 0.3 * t);
        own.height += line.rise * (0.4 + 1.2 * t * (1.0 - t));
    }
}

fn lines(samples: &mut [Drawn], count: i32, long: [f32; 2], salt: u32, of: impl Fn([f32; 4]) -> (Vec3, f32)) {
    for i in 0..count {
        let [x, y, way, length] = draws(i, 0, salt);
        let own = draws(i, 1, salt);
        let (sin, cos) = (libm::sinf(way * TAU), libm::cosf(way * TAU));
        let (colour, rise) = of(own);
        let along = vec2(cos, sin) * (long[0] + (long[1] - long[0]) * length);
        strew(samples, &Strewn { from: vec2(x, y), along, colour, rise });
    }
}

pub fn turf() -> Recipe {
    let mut samples = each(|p| {
        let moss = smooth(-0.1, 0.5, fractal(p, [3, 3], 4, 0.6, 11));
        let crumbs = fractal(p, [22, 22], 3, 0.7, 12);
        let soil = vec3(0.60, 0.52, 0.36).lerp(vec3(0.52, 0.68, 0.30), moss);
        Drawn { colour: soil * (0.85 + 0.3 * crumbs), height: 0.25 * crumbs + 0.3 * moss }
    });
    // Blades that lie flat, older ones below.
    lines(&mut samples, 1500, [0.02, 0.06], 13, |[tone, ..]| {
        (vec3(1.05, 0.86, 0.52) * (0.7 + 0.6 * tone), 0.12)
    });
    lines(&mut samples, 3400, [0.02, 0.07], 14, |[tone, dry, ..]| {
        let green = vec3(0.80, 1.05, 0.52);
        let straw = vec3(1.50, 1.30, 0.82);
        (green.lerp(straw, smooth(0.62, 0.9, dry)) * (0.72 + 0.55 * tone), 0.16)
    });
    Recipe { size_m: 1.1, relief_m: 0.035, shifts: FREE, samples }
}

pub fn peat() -> Recipe {
    let mut samples = each(|p| {
        let warped = p + vec2(noise(p, [5, 5], 20), noise(p, [5, 5], 21)) * 0.03;
        let mut drawn = Drawn { colour: Vec3::splat(0.8), height: 0.5 * fractal(p, [3, 3], 4, 0.6, 22) };
        for (cells, salt, much) in [(13, 23, 0.5), (29, 24, 0.36), (61, 25, 0.22)] {
            let crumb = nearest(warped, cells, salt);
            let dome = 1.0 - smooth(0.05, 0.62, crumb.away[0]);
            drawn.height += much * dome * (0.35 + 0.65 * crumb.own[1]);
            drawn.colour *= 1.0 + much * (dome - 0.45) + 0.28 * (crumb.own[0] - 0.5);
        }
        drawn.colour *= vec3(1.06, 1.0, 0.9).lerp(vec3(0.95, 1.0, 1.05), 0.5 + 0.5 * noise(p, [4, 4], 26));
        drawn
    });
    lines(&mut samples, 260, [0.02, 0.09], 27, |[tone, ..]| (vec3(1.7, 1.45, 1.1) * (0.5 + tone), 0.1));
    lines(&mut samples, 26, [0.06, 0.16], 28, |[tone, ..]| (vec3(1.2, 0.98, 0.75) * (0.5 + 0.9 * tone), 0.3));
    Recipe { size_m: 1.2, relief_m: 0.05, shifts: FREE, samples }
}

pub fn sand() -> Recipe {
    let samples = each(|p| {
        // Ripples of the wind: the lee side is the steeper one; they run together, end and begin.
        let bend = 0.55 * fractal(p, [2, 3], 3, 0.5, 30);
        let phase = p.y * 13.0 + bend * 2.2;
        let t = phase - phase.floor();
        let crest = if t < 0.66 { t / 0.66 } else { (1.0 - t) / 0.34 };
        let crest = crest * crest * (3.0 - 2.0 * crest);
        let strong = smooth(-0.5, 0.35, fractal(p, [3, 3], 2, 0.5, 31));
        let grain = fractal(p, [64, 64], 2, 0.8, 32);
        let mut drawn = Drawn {
            colour: vec3(1.0, 0.985, 0.955) * (0.93 + 0.09 * strong * (crest - 0.5) + 0.13 * grain),
            height: 0.3 * strong * crest + 0.15 * grain + 0.35 * fractal(p, [2, 2], 3, 0.5, 33),
        };
        // Bits of shell, dark grains, small stones.
        let speck = nearest(p, 46, 34);
        let size = 0.09 + 0.22 * speck.own[1] * speck.own[1];
        if speck.own[0] < 0.16 && speck.away[0] < size {
            let dome = 1.0 - (speck.away[0] / size) * (speck.away[0] / size);
            let kind = speck.own[2];
            let tone = if kind < 0.4 {
                vec3(1.5, 1.5, 1.52)
            } else if kind < 0.75 {
                vec3(0.52, 0.52, 0.56)
            } else {
                vec3(0.95, 0.78, 0.62)
            };
            drawn.colour = drawn.colour.lerp(tone, smooth(0.0, 0.35, dome));
            drawn.height += 0.22 * dome * (size / 0.3);
        }
        drawn
    });
    Recipe { size_m: 1.5, relief_m: 0.028, shifts: FREE, samples }
}

pub fn shingle() -> Recipe {
    let samples = each(|p| {
        let warped = p + vec2(noise(p, [7, 7], 40), noise(p, [7, 7], 41)) * 0.012;
        let mut drawn = Drawn {
            colour: vec3(0.42, 0.40, 0.37) * (1.0 + 0.3 * fractal(p, [48, 48], 2, 0.7, 42)),
            height: -0.1,
        };
        for (cells, salt, share, tall) in [(40, 43, 1.0, 0.30), (21, 44, 0.72, 0.55), (11, 45, 0.34, 1.0)] {
            let stone = nearest(warped, cells, salt);
            let [there, tone, kind, turn] = stone.own;
            if there > share {
                continue;
            }
            // Rolled round, longer than wide.
            let (sin, cos) = (libm::sinf(turn * TAU), libm::cosf(turn * TAU));
            let along = vec2(stone.from.dot(vec2(cos, sin)), stone.from.dot(vec2(-sin, cos)) * 1.28);
            let r = along.length() / (0.44 + 0.12 * tone);
            if r >= 1.0 {
                continue;
            }
            let dome = (1.0 - r * r).sqrt();
            let height = tall * (0.55 * dome + 0.25 * there);
            if height < drawn.height {
                continue;
            }
            let body = if kind < 0.62 {
                vec3(1.0, 0.99, 0.97)
            } else if kind < 0.8 {
                vec3(1.05, 0.92, 0.80)
            } else if kind < 0.92 {
                vec3(0.72, 0.75, 0.80)
            } else {
                vec3(1.65, 1.62, 1.55)
            };
            let vein = 1.0 + 0.12 * noise(p, [36, 36], 46);
            drawn.colour = body * (0.62 + 0.66 * tone) * vein * (0.55 + 0.45 * smooth(0.0, 0.45, dome));
            drawn.height = height;
        }
        drawn
    });
    Recipe { size_m: 1.25, relief_m: 0.05, shifts: FREE, samples }
}

/// Crusts and spots of lichen over a colour.
fn lichen(p: Vec2, colour: Vec3, much: f32, salt: u32) -> Vec3 {
    let spot =
        nearest(p + vec2(noise(p, [24, 24], salt), noise(p, [24, 24], salt + 1)) * 0.012, 17, salt + 2);
    let size = 0.16 + 0.3 * spot.own[1];
    let there = spot.own[0] < much;
    let share = if there { smooth(size, size * 0.75, spot.away[0]) } else { 0.0 };
    let crust = if spot.own[2] < 0.8 { vec3(1.5, 1.52, 1.42) } else { vec3(1.5, 1.1, 0.5) };
    let ragged = 0.75 + 0.35 * noise(p, [80, 80], salt + 3);
    colour.lerp(crust * ragged, 0.62 * share)
}

pub fn rock() -> Recipe {
    let samples = each(|p| {
        let warped = p + vec2(fractal(p, [4, 4], 3, 0.55, 50), fractal(p, [4, 4], 3, 0.55, 51)) * 0.05;
        let block = nearest(warped, 4, 52);
        let crack =
            smooth(0.034, 0.0, block.away[1] - block.away[0]) * smooth(0.0, 0.5, noise(p, [3, 3], 53));
        let flake = nearest(warped, 11, 54);
        let fine = fractal(p, [20, 20], 4, 0.62, 55);
        let broad = fractal(p, [3, 3], 4, 0.55, 56);
        let pit = smooth(0.35, 0.75, fractal(p, [16, 16], 2, 0.5, 57));
        let tone = 1.0 + 0.16 * broad + 0.2 * fine + 0.12 * (flake.own[0] - 0.5) - 0.3 * pit - 0.5 * crack;
        let warm = 0.06 * (block.own[0] - 0.5);
        let colour = lichen(p, vec3(1.0 + warm, 1.0, 1.0 - warm) * tone, 0.3, 58);
        let height =
            0.5 * broad + 0.2 * fine + 0.18 * block.own[1] + 0.1 * flake.own[1] - 0.15 * pit - 0.4 * crack;
        Drawn { colour, height }
    });
    Recipe { size_m: 2.2, relief_m: 0.2, shifts: FREE, samples }
}

pub fn face() -> Recipe {
    let courses = Courses::new(19, 0.9, [1, 3], 60);
    let samples = each(|p| {
        let waver = fractal(p, [5, 5], 4, 0.6, 61);
        let warp = vec2(0.045 * fractal(p, [5, 7], 4, 0.6, 62), 0.02 * waver);
        let c = courses.at(p, warp);
        let [bed, block] = c.own;
        let fine = fractal(p, [24, 36], 4, 0.62, 63);
        let broad = fractal(p, [3, 5], 3, 0.5, 64);
        // Joints are not open everywhere.
        let joint = smooth(0.008, 0.0, c.edge.x) * smooth(0.5, 1.0, block[2]);
        let parting =
            smooth(0.012, 0.0, c.edge.y) * smooth(0.1, 0.8, bed[2]) * (0.55 + 0.45 * noise(p, [7, 3], 67));
        let worn = smooth(0.0, 0.03, c.edge.y.min(c.edge.x * 1.4));
        // Leaves of a bed, thinner than it.
        let leaf = fractal(p + warp, [3, 48], 2, 0.6, 68) * smooth(0.35, 0.7, bed[0]);
        let streak = smooth(0.0, 0.7, noise(p, [17, 3], 65));
        let tone =
            1.0 + 0.3 * (bed[3] - 0.5) + 0.16 * (block[1] - 0.5) + 0.2 * fine + 0.12 * broad + 0.16 * leaf
                - 0.16 * streak
                - 0.55 * joint.max(parting);
        let warm = 0.14 * (bed[1] - 0.5);
        let colour = lichen(p, vec3(1.0 + warm, 1.0, 1.0 - warm) * tone, 0.14, 66);
        let height = 0.5 * bed[2] + 0.3 * block[0] + 0.2 * worn + 0.16 * fine + 0.25 * broad + 0.1 * leaf
            - 0.3 * joint.max(parting);
        Drawn { colour, height }
    });
    Recipe { size_m: 7.5, relief_m: 0.8, shifts: [1.0, 0.0], samples }
}

pub fn grit() -> Recipe {
    let samples = each(|p| {
        let fine = fractal(p, [18, 18], 4, 0.75, 70);
        let grain = nearest(p, 40, 71);
        let dome = 1.0 - smooth(0.0, 0.6, grain.away[0]);
        let colour = Vec3::splat(1.0 + 0.35 * fine + 0.3 * (grain.own[0] - 0.5) * dome + 0.1 * (dome - 0.4));
        Drawn { colour, height: 0.5 * fine + 0.4 * dome * grain.own[1] }
    });
    // So small that nobody follows it.
    Recipe { size_m: 0.27, relief_m: 0.008, shifts: [0.0, 0.0], samples }
}
