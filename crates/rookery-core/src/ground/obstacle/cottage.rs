//! A small stone house: limewashed walls, a gabled slate roof, two chimneys, a door and small windows.

use super::{FOOT_M, solid::Solid};
use crate::nursery::Mesh;
use crate::textures::Texture;
use glam::{Vec2, Vec3, vec2, vec3};

// Reflectances by eye.
const LIME: Vec3 = vec3(0.62, 0.60, 0.55);
const PLINTH: Vec3 = vec3(0.20, 0.19, 0.175);
const SLATE: Vec3 = vec3(0.085, 0.09, 0.105);
const RIDGE: Vec3 = vec3(0.13, 0.125, 0.12);
const WOOD: Vec3 = vec3(0.05, 0.085, 0.10);
const FRAME: Vec3 = vec3(0.55, 0.54, 0.50);
const GLASS: Vec3 = vec3(0.022, 0.028, 0.034);
const POT: Vec3 = vec3(0.30, 0.13, 0.07);

/// The ridge runs from west to east, the door looks south.
pub(super) fn build(width_m: f32, depth_m: f32, eaves_m: f32, roof_deg: f32) -> Mesh {
    let mut solid = Solid::default();
    let (w, d) = (width_m * 0.5, depth_m * 0.5);
    let pitch = libm::tanf(roof_deg.to_radians());
    let ridge = eaves_m + d * pitch;

    solid.of(Texture::Rubble, Vec2::ZERO);
    solid.block(vec3(-w - 0.08, -FOOT_M, -d - 0.08), vec3(w + 0.08, 0.35, d + 0.08), PLINTH);
    solid.of(Texture::Lime, Vec2::ZERO);
    walls(&mut solid, w, d, eaves_m, ridge);
    roof(&mut solid, w, d, eaves_m, ridge, pitch);
    for side in [-1.0, 1.0] {
        let x = side * (w - 0.42);
        solid.of(Texture::Lime, vec2(0.7, 0.9) * (1.0 + side));
        solid.block(vec3(x - 0.42, eaves_m, -0.45), vec3(x + 0.42, ridge + 0.95, 0.45), LIME * 0.93);
        solid.of(Texture::Rock, Vec2::ZERO);
        solid.block(vec3(x - 0.5, ridge + 0.95, -0.53), vec3(x + 0.5, ridge + 1.08, 0.53), PLINTH);
        solid.of(None, Vec2::ZERO);
        for z in [-0.2, 0.2] {
            solid.block(vec3(x - 0.12, ridge + 1.08, z - 0.12), vec3(x + 0.12, ridge + 1.4, z + 0.12), POT);
        }
    }
    front(&mut solid, w, d, eaves_m);
    solid.finish()
}

fn walls(solid: &mut Solid, w: f32, d: f32, eaves: f32, ridge: f32) {
    let base = 0.3;
    for side in [-1.0, 1.0] {
        // Long walls.
        let z = side * d;
        let mut long = [vec3(-w, base, z), vec3(w, base, z), vec3(w, eaves, z), vec3(-w, eaves, z)];
        // Gables up to the ridge.
        let x = side * w;
        let mut gable =
            [vec3(x, base, d), vec3(x, base, -d), vec3(x, eaves, -d), vec3(x, ridge, 0.0), vec3(x, eaves, d)];
        if side < 0.0 {
            long.reverse();
            gable.reverse();
        }
        solid.face(&long, LIME);
        solid.face(&gable, LIME);
    }
    // Closed below, so that the house is a solid.
    solid.face(&[vec3(-w, base, -d), vec3(w, base, -d), vec3(w, base, d), vec3(-w, base, d)], PLINTH);
}

/// Two slabs of slate courses, each course a little over the one below.
fn roof(solid: &mut Solid, w: f32, d: f32, eaves: f32, ridge: f32, pitch: f32) {
    let over = 0.28;
    let thick = 0.11;
    let courses = ((ridge - eaves) / 0.24).ceil().clamp(4.0, 60.0) as usize;
    let out = w + 0.14;
    for side in [-1.0_f32, 1.0] {
        for i in 0..courses {
            let along = |t: f32| {
                // From below the eaves to the ridge.
                let away = (d + over) * (1.0 - t);
                vec3(0.0, eaves + (d - away) * pitch, side * away)
            };
            let (low, high) = (along(i as f32 / courses as f32), along((i as f32 + 1.12) / courses as f32));
            let high = if high.y > ridge { vec3(0.0, ridge, 0.0) } else { high };
            let up = vec3(0.0, 1.0, side * pitch).normalize();
            let tone = SLATE * (1.0 + 0.16 * ((i * 5 % 7) as f32 / 3.0 - 1.0));
            let (a, b) = (low + up * 0.02, high);
            let (c, e) = (low + up * (thick + 0.035), high + up * thick);
            let x = |p: Vec3, x: f32| vec3(x, p.y, p.z);
            // Slates of one course lie half over those of the next.
            solid.of(Texture::Slate, vec2(0.137 * i as f32 + 0.61 * side, 0.43 * i as f32));
            // Corners as of a block: east, south, up.
            let (north, south) = if side > 0.0 { ((b, e), (a, c)) } else { ((a, c), (b, e)) };
            solid.hexahedron(
                [
                    x(north.0, -out),
                    x(north.0, out),
                    x(south.0, -out),
                    x(south.0, out),
                    x(north.1, -out),
                    x(north.1, out),
                    x(south.1, -out),
                    x(south.1, out),
                ],
                tone,
            );
        }
    }
    solid.of(Texture::Rock, Vec2::ZERO);
    solid.block(vec3(-out, ridge - 0.02, -0.16), vec3(out, ridge + 0.2, 0.16), RIDGE);
}

/// The door in the middle of the south wall, windows to either side and in the north wall.
fn front(solid: &mut Solid, w: f32, d: f32, eaves: f32) {
    let door = (eaves - 0.25).clamp(1.5, 2.0);
    let panel =
        |solid: &mut Solid, x: f32, z: f32, low: f32, high: f32, half: f32, colour: Vec3, out: f32| {
            let (near, far) = if z > 0.0 { (z + out, z - 0.05) } else { (z + 0.05, z - out) };
            solid.block(vec3(x - half, low, far.min(near)), vec3(x + half, high, far.max(near)), colour);
        };
    solid.of(None, Vec2::ZERO);
    panel(solid, 0.0, d, 0.1, door + 0.14, 0.62, FRAME, 0.03);
    panel(solid, 0.0, d, 0.1, door, 0.48, WOOD, 0.05);
    solid.of(Texture::Rock, Vec2::ZERO);
    solid.block(vec3(-0.75, -FOOT_M, d), vec3(0.75, 0.14, d + 0.6), PLINTH);
    let sill = (eaves * 0.4).max(0.8);
    let top = (sill + 1.05).min(eaves - 0.2);
    let places = if w > 3.2 { vec![-w * 0.58, w * 0.58] } else { vec![w * 0.6] };
    for z in [d, -d] {
        for &x in &places {
            solid.of(None, Vec2::ZERO);
            panel(solid, x, z, sill - 0.1, top + 0.08, 0.5, FRAME, 0.04);
            panel(solid, x, z, sill - 0.16, sill - 0.06, 0.6, PLINTH, 0.12);
            for (from, to) in [(-0.41, -0.03), (0.03, 0.41)] {
                let middle = (sill + top) * 0.5;
                for (low, high) in [(sill, middle - 0.03), (middle + 0.03, top)] {
                    panel(solid, x + (from + to) * 0.5, z, low, high, (to - from) * 0.5, GLASS, 0.05);
                }
            }
        }
    }
}
