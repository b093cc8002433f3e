//! What bodies look like, about their own middle.

use crate::document::BodyForm;
use crate::ground::obstacle::boulder;
use crate::nursery::Mesh;
use glam::{Quat, Vec3, vec3};
use std::f32::consts::{FRAC_PI_2, PI, TAU};

// Paint, wood and iron, by eye.
const IRON_RED: Vec3 = vec3(0.42, 0.085, 0.045);
const CHALK: Vec3 = vec3(0.62, 0.60, 0.54);
const ORANGE: Vec3 = vec3(0.60, 0.20, 0.03);
const OAK: Vec3 = vec3(0.20, 0.125, 0.07);
const IRON: Vec3 = vec3(0.09, 0.085, 0.08);

/// Sides of what is turned.
const SIDES: usize = 48;

/// A mesh as a body: its middle at the origin, its largest extent as given, metres. None where it is a point.
pub fn fitted(mesh: &Mesh, size_m: f32) -> Option<Mesh> {
    let (low, high) = mesh.bounds();
    let most = (high - low).max_element();
    let known = mesh.positions.iter().all(|p| p.is_finite());
    if mesh.indices.is_empty() || !known || !most.is_finite() || most <= 0.0 {
        return None;
    }
    let mut mesh = mesh.clone();
    let (middle, times) = ((low + high) * 0.5, size_m / most);
    mesh.positions.iter_mut().for_each(|p| *p = (*p - middle) * times);
    mesh.shares = Box::default();
    Some(mesh)
}

/// The mesh of a body, metres, its middle at the origin; of one from a file a ball as large, see [`fitted`].
pub fn body_mesh(form: &BodyForm) -> Mesh {
    match form {
        BodyForm::Mesh { size_m, .. } => body_mesh(&BodyForm::Ball { radius_m: 0.5 * size_m }),
        BodyForm::Ball { radius_m } => {
            let arc = |i: usize| {
                let a = i as f32 / 24.0 * PI - FRAC_PI_2;
                [radius_m * libm::cosf(a), radius_m * libm::sinf(a)]
            };
            let profile: Vec<_> = (0..=24).map(arc).collect();
            // Gores of two colours, so that one sees it roll.
            turned(&profile, |side, _| if (side / (SIDES / 6)).is_multiple_of(2) { IRON_RED } else { CHALK })
        }
        BodyForm::Buoy { radius_m: r } => {
            let arc = |i: usize| {
                let a = i as f32 / 24.0 * PI - FRAC_PI_2;
                [r * libm::cosf(a), r * libm::sinf(a)]
            };
            let profile: Vec<_> = (0..=24).map(arc).collect();
            let mut mesh = turned(&profile, |_, ring| if (10..14).contains(&ring) { CHALK } else { ORANGE });
            // The ring to tie up to, inside the ball's own reach but for its upper half.
            let (wide, thick) = (0.2 * r, 0.045 * r);
            let loop_ = |i: usize| {
                let a = i as f32 / 12.0 * TAU;
                [wide + thick * libm::cosf(a), -thick * libm::sinf(a)]
            };
            let ring: Vec<_> = (0..=12).map(loop_).collect();
            let mut ring = turned(&ring, |_, _| IRON);
            let up = Quat::from_rotation_x(FRAC_PI_2);
            place(&mut ring, up, vec3(0.0, r * 0.98, 0.0));
            add(&mut mesh, ring);
            mesh
        }
        BodyForm::Barrel { radius_m, length_m } => {
            let half = 0.5 * length_m;
            let mut profile =
                vec![[0.0, -half * 0.94], [0.86 * radius_m, -half * 0.94], [0.86 * radius_m, -half]];
            profile.extend((1..24).map(|i| {
                let u = i as f32 / 12.0 - 1.0;
                [radius_m * (1.0 - 0.14 * u * u), u * half]
            }));
            profile.extend([[0.86 * radius_m, half], [0.86 * radius_m, half * 0.94], [0.0, half * 0.94]]);
            let mut mesh = turned(&profile, |side, ring| {
                let hoop = matches!(ring, 3..=4 | 8..=9 | 17..=18 | 22..=23);
                if hoop { IRON } else { OAK * (0.85 + 0.3 * ((side / 3 * 7 % 5) as f32 / 4.0)) }
            });
            place(&mut mesh, Quat::from_rotation_z(FRAC_PI_2), Vec3::ZERO);
            mesh
        }
        BodyForm::Boulder { size_m, form } => {
            let mut mesh = boulder(*size_m, *form);
            let (low, high) = mesh.bounds();
            place(&mut mesh, Quat::IDENTITY, (low + high) * -0.5);
            mesh
        }
    }
}

/// A profile of radius and height, from below, turned about the vertical; `colour` of each side and ring.
fn turned(profile: &[[f32; 2]], colour: impl Fn(usize, usize) -> Vec3) -> Mesh {
    let mut mesh = Mesh::default();
    for ring in 0..profile.len() - 1 {
        let ([r0, y0], [r1, y1]) = (profile[ring], profile[ring + 1]);
        for side in 0..SIDES {
            let at = |s: usize, r: f32, y: f32| {
                let a = s as f32 / SIDES as f32 * TAU;
                vec3(r * libm::cosf(a), y, -r * libm::sinf(a))
            };
            let first = mesh.positions.len() as u32;
            for (s, k) in [(side, ring), (side + 1, ring), (side + 1, ring + 1), (side, ring + 1)] {
                let [r, y] = profile[k];
                let a = s as f32 / SIDES as f32 * TAU;
                let [nr, ny] = outward(profile, k, ring);
                let normal = vec3(nr * libm::cosf(a), ny, -nr * libm::sinf(a));
                mesh.vertex(at(s, r, y), normal, colour(side, ring));
            }
            if r0.min(r1) < 0.0 || (r0, y0) == (r1, y1) {
                continue;
            }
            if r0 > 1e-6 {
                mesh.indices.extend([first, first + 1, first + 2]);
            }
            if r1 > 1e-6 {
                mesh.indices.extend([first, first + 2, first + 3]);
            }
        }
    }
    mesh
}

/// Where a profile faces at a point, for one of the pieces beside it: smooth but over sharp edges.
fn outward(profile: &[[f32; 2]], k: usize, piece: usize) -> [f32; 2] {
    let of = |i: usize| {
        let ([r0, y0], [r1, y1]) = (profile[i], profile[i + 1]);
        let long = libm::hypotf(r1 - r0, y1 - y0).max(1e-9);
        [(y1 - y0) / long, (r0 - r1) / long]
    };
    let own = of(piece);
    let other = if k == piece { k.checked_sub(1) } else { Some(k) }.filter(|i| i + 1 < profile.len());
    let Some(next) = other.map(of).filter(|n| n[0] * own[0] + n[1] * own[1] > 0.7) else { return own };
    let (r, y) = (own[0] + next[0], own[1] + next[1]);
    let long = libm::hypotf(r, y);
    [r / long, y / long]
}

fn place(mesh: &mut Mesh, turn: Quat, by: Vec3) {
    mesh.positions.iter_mut().for_each(|p| *p = turn * *p + by);
    mesh.normals.iter_mut().for_each(|n| *n = turn * *n);
}

fn add(mesh: &mut Mesh, other: Mesh) {
    let first = mesh.positions.len() as u32;
    mesh.positions.extend(other.positions);
    mesh.normals.extend(other.normals);
    mesh.colours.extend(other.colours);
    mesh.indices.extend(other.indices.into_iter().map(|i| first + i));
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn bodies_are_closed_face_outwards_and_lie_about_their_middle() {
        let forms = [
            (BodyForm::Ball { radius_m: 0.5 }, 4.0 / 3.0 * PI * 0.125, 0.02),
            (BodyForm::Buoy { radius_m: 0.5 }, 4.0 / 3.0 * PI * 0.125, 0.02),
            // Between a cylinder of its ends and one of its middle.
            (BodyForm::Barrel { radius_m: 0.4, length_m: 1.1 }, PI * 0.16 * 1.1 * 0.87, 0.1),
        ];
        for (form, wanted, within) in forms {
            let mesh = body_mesh(&form);
            let volume: f32 = mesh
                .indices
                .chunks_exact(3)
                .map(|t| {
                    let [a, b, c] = [t[0], t[1], t[2]].map(|i| mesh.positions[i as usize]);
                    a.dot(b.cross(c)) / 6.0
                })
                .sum();
            assert!((volume / wanted - 1.0).abs() < within, "{form:?}: {volume} m3 for {wanted}");
            for t in mesh.indices.chunks_exact(3) {
                let [a, b, c] = [t[0], t[1], t[2]].map(|i| mesh.positions[i as usize]);
                let (face, normal) = ((b - a).cross(c - a), mesh.normals[t[0] as usize]);
                assert!(face.length() < 1e-9 || face.dot(normal) > 0.0, "{form:?}: {face} {normal}");
            }
            assert!(mesh.normals.iter().all(|n| (n.length() - 1.0).abs() < 1e-4));
        }
        let boulder = body_mesh(&BodyForm::Boulder { size_m: 1.4, form: 2 });
        let (low, high) = boulder.bounds();
        assert!((low + high).length() < 1e-4 && ((high - low).max_element() - 1.4).abs() < 1e-3);
        let (low, high) = body_mesh(&BodyForm::Barrel { radius_m: 0.4, length_m: 1.1 }).bounds();
        assert!((high.x - 0.55).abs() < 1e-4 && (low.y + 0.4).abs() < 1e-3);
    }
}
