//! Where something that moves is at a time: a smooth line through the nodes of its path, over the land.

use crate::document::{Course, Spot};
use crate::ground::Terrain;
use glam::{Quat, Vec2, Vec3, vec2, vec3};
use serde::Serialize;

/// Pieces of one leg of a path, at most.
const MOST_PIECES: f32 = 128.0;

/// Where something is at a time, and how it is turned. Between two of them it goes straight and turns evenly.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Place {
    /// Seconds.
    pub time_s: f32,
    /// Its middle, metres.
    #[cfg_attr(feature = "openapi", schema(value_type = [f32; 3]))]
    pub at_m: Vec3,
    /// Its turn from how it is made, a quaternion.
    #[cfg_attr(feature = "openapi", schema(value_type = [f32; 4]))]
    pub turn: Quat,
}

/// Height of the land under a point of the plan, metres; that of its rim beyond it, and 0 where there is no land.
pub(super) fn land_at(land: Option<&Terrain>, at: Vec2) -> f32 {
    land.map_or(0.0, |t| t.height_at(at.x, at.y))
}

/// A course in short straight pieces of about `step_m` metres. What is `radius_m` thick rests on the land where its path does, and rolls
/// along it; nothing rolls that is 0 m thick.
pub(super) fn places(course: &Course, land: Option<&Terrain>, radius_m: f32, step_m: f32) -> Vec<Place> {
    let stands = |s: &Spot| {
        let at = vec2(s.x_m, s.z_m);
        vec3(s.x_m, land_at(land, at) + radius_m + s.over_m, s.z_m)
    };
    let nodes = match course {
        Course::Still { at } => return vec![Place { time_s: 0.0, at_m: stands(at), turn: Quat::IDENTITY }],
        Course::Path { nodes } => nodes,
    };
    let dots: Vec<(f32, Vec3)> = nodes.iter().map(|n| (n.time_s, vec3(n.x_m, n.over_m, n.z_m))).collect();
    let mut out = vec![Place { time_s: dots[0].0, at_m: stands(&nodes[0].spot()), turn: Quat::IDENTITY }];
    for leg in 0..dots.len() - 1 {
        let ((from, a), (to, b)) = (dots[leg], dots[leg + 1]);
        let (out_of, into) = (slope(&dots, leg) * (to - from), slope(&dots, leg + 1) * (to - from));
        let pieces = ((b - a).length() / step_m).ceil().clamp(4.0, MOST_PIECES);
        for k in 1..=pieces as u32 {
            let u = k as f32 / pieces;
            let p = hermite(a, out_of, b, into, u);
            let at_m = stands(&Spot { x_m: p.x, z_m: p.z, over_m: p.y.max(0.0) });
            let last = out[out.len() - 1];
            let lies = radius_m > 0.0 && p.y < 0.5 * radius_m;
            let turn = if lies { rolled(at_m - last.at_m, radius_m) * last.turn } else { last.turn };
            out.push(Place { time_s: from + (to - from) * u, at_m, turn: turn.normalize() });
        }
    }
    out
}

/// How fast a path passes a node: as straight from the one before it to the one after it, on either side of it by the time between.
fn slope(dots: &[(f32, Vec3)], i: usize) -> Vec3 {
    let (before, after) = (i.saturating_sub(1), (i + 1).min(dots.len() - 1));
    (dots[after].1 - dots[before].1) / (dots[after].0 - dots[before].0)
}

/// The cubic through two points with two velocities.
fn hermite(a: Vec3, va: Vec3, b: Vec3, vb: Vec3, u: f32) -> Vec3 {
    let (u2, u3) = (u * u, u * u * u);
    a * (2.0 * u3 - 3.0 * u2 + 1.0) + va * (u3 - 2.0 * u2 + u) + b * (3.0 * u2 - 2.0 * u3) + vb * (u3 - u2)
}

/// The turn of a round thing that rolls along a piece without slipping.
fn rolled(by: Vec3, radius_m: f32) -> Quat {
    let far = by.length();
    let about = Vec3::Y.cross(by).normalize_or_zero();
    if about == Vec3::ZERO { Quat::IDENTITY } else { Quat::from_axis_angle(about, far / radius_m) }
}

/// Where a thing is at a time.
pub fn place_at(places: &[Place], time_s: f64) -> Place {
    let time = time_s as f32;
    let next = places.partition_point(|p| p.time_s <= time);
    let (Some(to), Some(from)) = (places.get(next), next.checked_sub(1).and_then(|i| places.get(i))) else {
        return places[next.saturating_sub(1)];
    };
    let u = (time - from.time_s) / (to.time_s - from.time_s);
    Place { time_s: time, at_m: from.at_m.lerp(to.at_m, u), turn: from.turn.slerp(to.turn, u) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::PathNode;

    fn node(time_s: f32, x_m: f32, z_m: f32, over_m: f32) -> PathNode {
        PathNode { time_s, x_m, z_m, over_m }
    }

    fn slanted() -> Terrain {
        // A plane that rises by 0.5 a metre to the east.
        let heights = (0..41 * 41).map(|i| (i % 41) as f32 * 0.5 - 10.0).collect();
        Terrain::new(41, 41, Vec2::ONE, heights).unwrap()
    }

    #[test]
    fn a_path_goes_through_its_nodes_at_their_times_and_stays_at_its_ends() {
        let course = Course::Path {
            nodes: vec![node(1.0, -8.0, 0.0, 2.0), node(3.0, 0.0, 6.0, 2.0), node(4.0, 8.0, 0.0, 5.0)],
        };
        let land = slanted();
        let all = places(&course, Some(&land), 0.0, 0.5);
        for (time, x, z, over) in
            [(0.0, -8.0, 0.0, 2.0), (1.0, -8.0, 0.0, 2.0), (3.0, 0.0, 6.0, 2.0), (9.0, 8.0, 0.0, 5.0)]
        {
            let p = place_at(&all, time).at_m;
            let wanted = vec3(x, x * 0.5 + over, z);
            assert!((p - wanted).length() < 1e-3, "at {time} s {p} for {wanted}");
        }
        // No corner: what it goes before a node and after it differs by little.
        let v = |t: f64| (place_at(&all, t + 0.02).at_m - place_at(&all, t - 0.02).at_m) / 0.04;
        assert!((v(2.95) - v(3.03)).length() < 0.3 * v(3.0).length(), "{} {}", v(2.95), v(3.03));
        let still = Course::Still { at: node(0.0, 4.0, 1.0, 0.0).spot() };
        let one = places(&still, Some(&land), 0.5, 0.5);
        assert_eq!((one.len(), place_at(&one, 77.0).at_m), (1, vec3(4.0, 2.5, 1.0)));
    }

    #[test]
    fn a_ball_rolls_once_round_over_its_girth() {
        let girth = std::f32::consts::TAU * 0.5;
        let course = Course::Path { nodes: vec![node(0.0, 0.0, 0.0, 0.0), node(2.0, girth, 0.0, 0.0)] };
        let all = places(&course, None, 0.5, 0.1);
        let mark = |t: f64| place_at(&all, t).turn * Vec3::Y;
        // To the east its top goes east, then down.
        assert!((mark(0.5) - Vec3::X).length() < 1e-2, "{}", mark(0.5));
        assert!((mark(1.0) + Vec3::Y).length() < 1e-2 && (mark(2.0) - Vec3::Y).length() < 1e-2);
        let flown = Course::Path { nodes: vec![node(0.0, 0.0, 0.0, 3.0), node(2.0, girth, 0.0, 3.0)] };
        assert_eq!(place_at(&places(&flown, None, 0.5, 0.1), 1.3).turn, Quat::IDENTITY);
    }
}
