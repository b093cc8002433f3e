//! What it looks like.

use super::Nap;
use crate::nursery::make::{Builder, ball, heading};
use crate::nursery::{Detail, Mesh};
use glam::{Quat, Vec3, vec3};
use std::f32::consts::TAU;

/// Forms of each kind.
pub const FORMS: u8 = 4;
/// Colours of forms are shares of the ground's own, times this: some are several times as light.
pub const COLOUR_SCALE: f32 = 0.25;

/// Half the width of a tuft, metres.
const HALF_M: f32 = 0.19;

/// A form at a detail. Its colours are relative: [`COLOUR_SCALE`] where it has the colour of the ground.
pub fn form(nap: Nap, form: u8, detail: Detail) -> Mesh {
    let mut b = Builder::new(0x0A90_0000 | u32::from(nap.number()), u16::from(form), detail);
    // Fewer blades are broader than their number says, so that they hide as much.
    b.broader = match detail {
        Detail::Full => 1.0,
        Detail::Light => 1.15,
        Detail::Far => 1.35,
    };
    match nap {
        Nap::Sward => {
            b.shares = [0.36, 0.14];
            grass(&mut b, 300, [0.034, 0.082], 0.0042, 0.13);
            rosettes(&mut b, 5);
        }
        Nap::Litter => {
            b.shares = [0.45, 0.14];
            grass(&mut b, 110, [0.012, 0.03], 0.003, 0.3);
            straws(&mut b, 34);
        }
        Nap::Strand => {
            b.shares = [0.6, 0.3];
            straws(&mut b, 4);
            stones(&mut b, 7, [0.003, 0.014], 0.55);
        }
        Nap::Pebbles => stones(&mut b, 16, [0.006, 0.032], 0.75),
        Nap::Crumbs => {
            b.shares = [0.45, 0.14];
            stones(&mut b, 5, [0.004, 0.018], 0.9);
            grass(&mut b, 26, [0.008, 0.02], 0.003, 0.1);
        }
    }
    b.mesh
}

/// Somewhere in the round of a tuft, denser towards its middle.
fn somewhere(u: f32, v: f32) -> Vec3 {
    heading(u * TAU) * (HALF_M * libm::powf(v, 0.6))
}

fn shade(of: Vec3) -> Vec3 {
    of * COLOUR_SCALE
}

/// Short blades, some of them dead, lengths from the first to the second of `long`, metres.
fn grass(b: &mut Builder, count: u32, long: [f32; 2], width: f32, dead: f32) {
    let fine = b.detail == Detail::Full;
    for i in 0..count {
        let [u, v, length, lean] = b.draw(0, i);
        let [way, droop, tone, straw] = b.draw(1, i);
        let foot = somewhere(u, v);
        let straw = straw < dead;
        // Shorter towards the rim, so that tufts run into one another.
        let rim = 1.0 - 0.35 * v;
        let length = (long[0] + (long[1] - long[0]) * length) * rim * if straw { 0.8 } else { 1.0 };
        let out = (heading(way * TAU) + foot * 2.0).normalize_or(Vec3::X);
        let rise = if straw { 0.7 + 0.7 * lean } else { 0.08 + 0.75 * lean };
        let droop = 0.3 + 1.0 * droop;
        let body = match straw {
            true => vec3(1.7, 1.42, 2.1).lerp(vec3(1.25, 1.0, 1.3), tone),
            false => vec3(0.86, 1.04, 0.70).lerp(vec3(1.18, 1.30, 0.92), tone),
        };
        let root = vec3(0.74, 0.66, 0.52);
        let step = |angle: f32| out * libm::sinf(angle) + Vec3::Y * libm::cosf(angle);
        let (middle, tip) = (step(rise) * (length * 0.55), step(rise + droop) * (length * 0.45));
        let colours = [shade(root), shade(body), shade(body * 1.12)];
        if fine {
            b.blade(&[foot, foot + middle, foot + middle + tip], &[width * 0.75, width, 0.0], out, &colours);
        } else {
            // A triangle has half the area of its width times its length.
            b.blade(&[foot, foot + middle + tip], &[width * 1.5, 0.0], out, &[colours[0], colours[2]]);
        }
    }
}

/// Small broad leaves pressed to the ground.
fn rosettes(b: &mut Builder, count: u32) {
    for i in 0..count {
        let [u, v, size, turn] = b.draw(2, i);
        let at = somewhere(u, v) + Vec3::Y * 0.004;
        let green = vec3(0.80, 1.12, 0.78);
        for k in 0..5 {
            let [wide, up, ..] = b.draw(3, i * 8 + k);
            let out = heading(turn * TAU + k as f32 * 2.4);
            let (long, half) = (0.011 + 0.013 * size, (0.0035 + 0.002 * wide) * (0.6 + 0.8 * size));
            let rise = vec3(0.0, 0.35 + 0.5 * up, 0.0);
            let middle = at + (out + rise).normalize() * (long * 0.6);
            b.blade(
                &[at, middle, middle + (out - rise * 0.3).normalize() * (long * 0.5)],
                &[half * 0.7, half * 2.0, half * 0.6],
                out,
                &[shade(green * 0.8), shade(green), shade(green * 1.1)],
            );
        }
    }
}

/// Dead stalks and twigs that lie.
fn straws(b: &mut Builder, count: u32) {
    for i in 0..count {
        let [u, v, length, way] = b.draw(4, i);
        let [tone, rise, thick, bend] = b.draw(5, i);
        let foot = somewhere(u, v) + Vec3::Y * 0.003;
        let out = heading(way * TAU);
        let length = 0.025 + 0.085 * length * length;
        let middle = foot + out * (length * 0.5) + Vec3::Y * (length * 0.25 * rise);
        let end = foot + (out + heading(way * TAU + 1.3) * (bend - 0.5) * 0.6).normalize() * length;
        let width = 0.0014 + 0.0022 * thick;
        let colour = vec3(2.6, 2.1, 1.7).lerp(vec3(1.1, 0.9, 0.8), tone);
        let colours = [shade(colour), shade(colour), shade(colour * 1.1)];
        b.blade(&[foot, middle, end], &[width, width, width * 0.4], out, &colours);
    }
}

/// Stones half in the ground, radii from the first to the second of `large`, metres: most of them small.
fn stones(b: &mut Builder, count: u32, large: [f32; 2], angular: f32) {
    let (fine, coarse) = (ball(1), ball(0));
    // The smallest are left out from afar.
    let count = if b.detail == Detail::Far { count.div_ceil(3) } else { count };
    for i in 0..count {
        let [u, v, size, turn] = b.draw(6, i);
        let [tone, high, wide, warm] = b.draw(7, i);
        // The first are the largest.
        let rank = (i as f32 + size) / count as f32;
        let radius = large[0] + (large[1] - large[0]) * (1.0 - rank) * (1.0 - rank);
        let half = vec3(1.0, 0.45 + 0.4 * high, 0.65 + 0.35 * wide) * radius;
        let at = somewhere(u, v) + Vec3::Y * (half.y * 0.25);
        let turn = Quat::from_rotation_y(turn * TAU) * Quat::from_rotation_x((wide - 0.5) * 0.5);
        let colour = vec3(0.95 + 0.14 * warm, 0.98, 1.02 - 0.12 * warm) * (0.7 + 0.75 * tone);
        let (points, faces) = if b.detail == Detail::Full && i * 3 < count { &fine } else { &coarse };
        let first = b.mesh.positions.len() as u32;
        for (n, p) in points.iter().enumerate() {
            let [rough, ..] = b.draw(8, i * 64 + n as u32);
            let p = *p * (1.0 + (rough - 0.5) * 0.45 * angular);
            let position = at + turn * (p * half);
            let normal = (turn * (p / half)).normalize_or(Vec3::Y);
            // Dark where it goes into the ground.
            let foot = (position.y / (half.y * 0.6)).clamp(0.0, 1.0);
            b.vertex(position, normal, shade(colour * (0.7 + 0.3 * foot)), 0.0);
        }
        b.mesh.indices.extend(faces.iter().map(|f| first + f));
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Area of its triangles and their mean colour against the ground's, weighed by area.
    fn measured(mesh: &Mesh) -> (f32, Vec3) {
        let (mut area, mut colour) = (0.0, Vec3::ZERO);
        for corners in mesh.indices.chunks_exact(3) {
            let [a, b, c] = [0, 1, 2].map(|i| corners[i] as usize);
            let p = |i: usize| mesh.positions[i];
            let own = (p(b) - p(a)).cross(p(c) - p(a)).length() * 0.5;
            area += own;
            colour += (mesh.colours[a] + mesh.colours[b] + mesh.colours[c]) / 3.0 * own;
        }
        (area, colour / area / COLOUR_SCALE)
    }

    #[test]
    fn lighter_forms_have_about_the_same_area_and_colour() {
        for nap in [Nap::Sward, Nap::Litter] {
            for n in 0..FORMS {
                let (area, colour) = measured(&form(nap, n, Detail::Full));
                for detail in [Detail::Light, Detail::Far] {
                    let (lighter, own) = measured(&form(nap, n, detail));
                    assert!(
                        (0.6..1.25).contains(&(lighter / area)),
                        "{nap:?} {detail:?}: {lighter} of {area}"
                    );
                    assert!(
                        (own - colour).abs().max_element() < 0.25,
                        "{nap:?} {detail:?}: {own}, not {colour}"
                    );
                }
            }
        }
    }

    #[test]
    fn forms_are_low_within_their_round_and_differ() {
        for nap in Nap::ALL {
            let all: Vec<Mesh> = (0..FORMS).map(|n| form(nap, n, Detail::Full)).collect();
            for mesh in &all {
                let (low, high) = mesh.bounds();
                assert!(low.y > -0.04 && high.y < 0.1, "{nap:?} from {low} to {high}");
                assert!(low.x > -0.32 && high.x < 0.32);
                assert!(mesh.triangles() > 20 && mesh.triangles() < 1200, "{nap:?}: {}", mesh.triangles());
                assert!(mesh.colours.iter().all(|c| c.max_element() <= 1.0));
            }
            assert_ne!(all[0].positions, all[1].positions);
            let far = form(nap, 0, Detail::Far).triangles();
            assert!(far < all[0].triangles() / 3, "{nap:?}: {far} of {}", all[0].triangles());
        }
    }
}
