//! Curvature from a quadratic surface through nine heights.
//!
//! Source: Zevenbergen & Thorne, "Quantitative analysis of land surface topography", Earth Surface Processes and
//! Landforms 12, 1987; D to H are the paper's letters. The sign of plan curvature is turned over, so that both are positive
//! where the ground bulges.

use super::window::per_window;
use crate::ground::Terrain;

/// Bend of the ground along the steepest way at every sample, 1/m: positive on a brow, negative at a foot, 0 where it
/// is level.
pub fn profile_curvature_per_m(terrain: &Terrain) -> Vec<f32> {
    per_quadric(terrain, |q| -2.0 * (q.d * q.g * q.g + q.e * q.h * q.h + q.f * q.g * q.h))
}

/// Bend of the ground across the steepest way at every sample, 1/m: positive on a spur, negative in a hollow, 0 where
/// it is level.
pub fn plan_curvature_per_m(terrain: &Terrain) -> Vec<f32> {
    per_quadric(terrain, |q| -2.0 * (q.d * q.h * q.h + q.e * q.g * q.g - q.f * q.g * q.h))
}

/// z = D x2 + E y2 + F xy + G x + H y + constant, y to the north.
struct Quadric {
    d: f32,
    e: f32,
    f: f32,
    g: f32,
    h: f32,
}

fn per_quadric(terrain: &Terrain, bend: impl Fn(&Quadric) -> f32 + Sync) -> Vec<f32> {
    let (x, z) = (terrain.cell_m().x, terrain.cell_m().y);
    per_window(terrain, |[north, here, south]| {
        let centre = here[1];
        let q = Quadric {
            d: ((here[0] + here[2]) * 0.5 - centre) / (x * x),
            e: ((north[1] + south[1]) * 0.5 - centre) / (z * z),
            f: (north[2] - north[0] + south[0] - south[2]) / (4.0 * x * z),
            g: (here[2] - here[0]) / (2.0 * x),
            h: (north[1] - south[1]) / (2.0 * z),
        };
        let steep_2 = q.g * q.g + q.h * q.h;
        // Below a slope of one in ten thousand there is no steepest way to speak of.
        if steep_2 < 1e-8 { 0.0 } else { bend(&q) / steep_2 }
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::Vec2;

    fn surface(height: impl Fn(f64, f64) -> f64) -> (Terrain, Vec<(f64, f64)>) {
        let n = 21;
        let cell = Vec2::new(0.5, 0.8);
        let places: Vec<(f64, f64)> = (0..n * n)
            .map(|i| (f64::from((i % n) - 10) * 0.5, f64::from(10 - (i / n)) * f64::from(cell.y)))
            .collect();
        let heights = places.iter().map(|(x, y)| height(*x, *y) as f32).collect();
        (Terrain::new(n as usize, n as usize, cell, heights).unwrap(), places)
    }

    fn inner(i: usize) -> bool {
        (1..20).contains(&(i % 21)) && (1..20).contains(&(i / 21))
    }

    /// Closed form: the second derivative of a (x2 + y2) is 2a along every line.
    #[test]
    fn a_bowl_bends_alike_along_and_across() {
        let a = 0.03;
        let (t, places) = surface(|x, y| a * (x * x + y * y));
        let (profile, plan) = (profile_curvature_per_m(&t), plan_curvature_per_m(&t));
        for (i, (x, y)) in places.iter().enumerate().filter(|(i, _)| inner(*i)) {
            if *x != 0.0 || *y != 0.0 {
                assert!((f64::from(profile[i]) + 2.0 * a).abs() < 2e-4, "{}", profile[i]);
                assert!((f64::from(plan[i]) + 2.0 * a).abs() < 2e-4, "{}", plan[i]);
            }
        }
    }

    /// Closed form for a (x2 - y2): along the gradient (x, -y) the second derivative is 2a (x2 - y2) / (x2 + y2), across it the
    /// opposite.
    #[test]
    fn a_saddle_bends_as_in_the_closed_form() {
        let a = 0.02;
        let (t, places) = surface(|x, y| a * (x * x - y * y));
        let (profile, plan) = (profile_curvature_per_m(&t), plan_curvature_per_m(&t));
        for (i, (x, y)) in places.iter().enumerate().filter(|(i, _)| inner(*i)) {
            if x.hypot(*y) > 1.0 {
                let along = 2.0 * a * (x * x - y * y) / (x * x + y * y);
                assert!((f64::from(profile[i]) + along).abs() < 3e-4, "{x}, {y}: {} for {along}", profile[i]);
                assert!((f64::from(plan[i]) - along).abs() < 3e-4, "{x}, {y}: {} for {along}", plan[i]);
            }
        }
    }

    #[test]
    fn a_plane_does_not_bend() {
        let (t, _) = surface(|x, y| 0.4 * x - 0.7 * y);
        assert!(profile_curvature_per_m(&t).iter().chain(&plan_curvature_per_m(&t)).all(|c| c.abs() < 2e-4));
    }
}
