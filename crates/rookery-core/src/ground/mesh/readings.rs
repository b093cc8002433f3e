//! What is worked out of a whole mesh at its vertices: how much of the sky it sees, how it bends and how wet it
//! tends to be.

use super::wet::Welded;
use super::{MeshModel, MeshSpot};
use crate::ground::Histogram;
use crate::ground::Reading;
use crate::math::bearing::bearing_deg;
use crate::math::hash::{pcg4d, unit};
use crate::math::mesh_distance::closest_on_triangle;
use glam::{Quat, Vec3};
use rayon::prelude::*;
use std::f32::consts::TAU;

/// Directions looked into from each vertex.
const LOOKS: u32 = 64;

impl MeshModel {
    /// A quantity of the ground at every vertex. Aspect is counted from the north of the ground's own frame, and is not a number where
    /// it is level.
    pub fn reading(&self, reading: Reading) -> Vec<f32> {
        match reading {
            Reading::Altitude => self.altitudes_m(),
            Reading::Slope => self.slopes_deg(),
            Reading::Aspect => self.at_vertices(|_, _, n| match n.x * n.x + n.z * n.z {
                level if level < 1e-10 => f32::NAN,
                _ => bearing_deg(n.x, -n.z),
            }),
            Reading::Openness => self.openness(),
            Reading::ProfileCurvature => self.curvature(true),
            Reading::PlanCurvature => self.curvature(false),
            Reading::Wetness => self.wetness(),
        }
    }

    /// How the true area is spread over values that were read at the vertices: each stands for a third of the triangles about it.
    pub fn reading_histogram(&self, reading: Reading, values: &[f32]) -> Histogram {
        let (low, high) = reading.ends(values);
        let mut areas = vec![0.0_f64; values.len()];
        for face in self.mesh.indices.chunks_exact(3) {
            let [a, b, c] = [0, 1, 2].map(|k| self.mesh.positions[face[k] as usize]);
            let third = f64::from((b - a).cross(c - a).length()) / 6.0;
            face.iter().for_each(|i| areas[*i as usize] += third);
        }
        let known = values.iter().copied().zip(areas).filter(|(v, _)| !v.is_nan());
        Histogram::weighed(known, low, high)
    }

    /// The share of the sky seen from a level plate, as on a terrain, but by rays: 1 on a summit, 0.5 on a wall, 0 on an
    /// underside, less in mouths and cracks.
    fn openness(&self) -> Vec<f32> {
        let tree = self.tree();
        let reach = {
            let (low, high) = self.mesh.bounds();
            low.distance(high)
        };
        // Steeper looks count for more, as their light does on a level plate (Malley's method), spread evenly by a lattice.
        let looks: Vec<Vec3> = (0..LOOKS)
            .map(|i| {
                let [j, ..] = pcg4d([i, 77, 5, 1]);
                let r = ((i as f32 + unit(j)) / LOOKS as f32).sqrt();
                let (s, c) = libm::sincosf(i as f32 * 0.618_034 * TAU);
                Vec3::new(r * c, (1.0 - r * r).max(0.0).sqrt(), r * s)
            })
            .collect();
        let vertices = self.mesh.positions.par_iter().zip(&self.mesh.normals);
        let open = vertices.map(|(p, n)| {
            let turn = Quat::from_rotation_arc(Vec3::Y, self.level_at(*p));
            // Off the surface, so that it does not stand in its own way.
            let from = *p + *n * (reach * 1e-4);
            let seen = |look: &&Vec3| {
                let to = turn * **look;
                to.dot(*n) > 0.0 && !tree.blocks(from, to, reach)
            };
            looks.iter().filter(seen).count() as f32 / LOOKS as f32
        });
        open.collect()
    }

    /// How the surface bends, 1/m, along the steepest way or across it: the turn of the normal over each edge against its length,
    /// each edge counted by how much it runs that way. Above zero where it bulges.
    fn curvature(&self, along: bool) -> Vec<f32> {
        let Welded { own, positions, normals } = self.welded();
        let mut sums = vec![(0.0_f32, 0.0_f32); positions.len()];
        for face in self.mesh.indices.chunks_exact(3) {
            for k in 0..3 {
                let (a, b) = (own[face[k] as usize], own[face[(k + 1) % 3] as usize]);
                let edge = positions[b] - positions[a];
                let length_2 = edge.length_squared();
                if length_2 < 1e-12 {
                    continue;
                }
                let bend = (normals[b] - normals[a]).dot(edge) / length_2;
                for i in [a, b] {
                    let (n, up) = (normals[i], self.level_at(positions[i]));
                    let steepest = (up - n * n.dot(up)).normalize_or_zero();
                    let share = edge.dot(steepest).powi(2) / length_2;
                    // On level ground every way is as steep.
                    let share = if steepest == Vec3::ZERO {
                        0.5
                    } else if along {
                        share
                    } else {
                        1.0 - share
                    };
                    sums[i].0 += bend * share;
                    sums[i].1 += share;
                }
            }
        }
        own.iter().map(|at| sums[*at].0 / sums[*at].1.max(1e-6)).collect()
    }

    /// Values at the vertices, between them.
    pub(super) fn between(&self, values: &[f32], spot: &MeshSpot) -> f32 {
        if values.len() != self.mesh.positions.len() {
            return f32::NAN;
        }
        let corners = self.corners(spot.face);
        let [a, b, c] = corners.map(|i| self.mesh.positions[i]);
        let (v, w) = closest_on_triangle(spot.position_m, a, b, c);
        values[corners[0]] * (1.0 - v - w) + values[corners[1]] * v + values[corners[2]] * w
    }
}

#[cfg(test)]
mod tests {
    use crate::document::{Earths, PlanetGround, Upright};
    use crate::ground::made::planet;
    use crate::ground::{AnyGround, MeshModel, MeshStanding, MeshSurface, Reading};
    use glam::{Vec3, vec3};

    fn standing(upright: Upright) -> MeshStanding {
        MeshStanding { base_m: 0.0, upright, earths: Earths::default(), water_m: None, seed: 1 }
    }

    /// A level floor with a level roof three metres over its eastern half.
    fn roofed() -> MeshModel {
        let n = 21;
        let mut positions = Vec::new();
        let mut indices = Vec::new();
        for (low, high, y, down) in [(-50.0, 50.0, 0.0, false), (0.0, 50.0, 3.0, true)] {
            let first = positions.len() as u32;
            for i in 0..n * n {
                let t = |k: u32| k as f32 / (n - 1) as f32;
                positions.push(vec3(low + (high - low) * t(i % n), y, -50.0 + 100.0 * t(i / n)));
            }
            for i in 0..(n - 1) * (n - 1) {
                let a = first + i / (n - 1) * n + i % (n - 1);
                let quad = [a, a + n, a + 1, a + 1, a + n, a + n + 1];
                indices.extend(if down { [a, a + 1, a + n, a + 1, a + n + 1, a + n] } else { quad });
            }
        }
        MeshModel::new(&MeshSurface { positions, indices, ..Default::default() }, &standing(Upright::Gravity))
            .unwrap()
    }

    #[test]
    fn under_a_roof_there_is_little_sky_and_on_an_underside_none() {
        let model = roofed();
        let open = model.reading(Reading::Openness);
        let at = |p: Vec3| {
            let i = model.mesh.positions.iter().position(|q| q.distance(p) < 0.1).expect("a vertex");
            open[i]
        };
        assert!(at(vec3(-50.0, 0.0, 0.0)) > 0.95);
        assert!(at(vec3(25.0, 0.0, 0.0)) < 0.05);
        // Straight below the edge of a wide roof half the sky is seen.
        assert!((at(vec3(0.0, 0.0, 0.0)) - 0.5).abs() < 0.08, "{}", at(vec3(0.0, 0.0, 0.0)));
        assert_eq!(at(vec3(25.0, 3.0, 0.0)), 0.0);
    }

    #[test]
    fn every_reading_has_a_value_for_every_vertex_and_a_histogram_of_the_whole_surface() {
        let model = roofed();
        for reading in Reading::ALL {
            let values = model.reading(reading);
            assert_eq!(values.len(), model.mesh.positions.len(), "{reading:?}");
            let h = model.reading_histogram(reading, &values);
            // A level floor and a level roof face no way.
            let area = if reading == Reading::Aspect { 0.0 } else { 10_000.0 + 5_000.0 };
            assert!((h.areas_m2.iter().sum::<f32>() - area).abs() < 1.0, "{reading:?}: {h:?}");
        }
        let slopes = model.reading(Reading::Slope);
        assert_eq!(
            model.reading_histogram(Reading::Slope, &slopes).high,
            180.0,
            "the roof is seen from below"
        );
    }

    #[test]
    fn a_planet_faces_away_from_its_middle() {
        let ground = PlanetGround { radius_m: 20.0, relief: 0.0, ..PlanetGround::default() };
        let model = MeshModel::new(&planet(&ground), &standing(Upright::Centre)).unwrap();
        let aspects = model.reading(Reading::Aspect);
        let off = |(p, aspect): (&Vec3, &f32)| {
            let expected = p.x.atan2(-p.z).to_degrees().rem_euclid(360.0);
            let off = (aspect - expected).abs();
            off.min(360.0 - off)
        };
        let sides = model.mesh.positions.iter().zip(&aspects).filter(|(p, _)| p.x.hypot(p.z) > 4.0);
        assert!(sides.clone().count() > 100);
        assert!(sides.map(off).all(|off| off < 3.0));
    }

    #[test]
    fn a_ball_bends_by_one_over_its_radius_every_way() {
        let ground = PlanetGround { radius_m: 20.0, relief: 0.0, ..PlanetGround::default() };
        let surface = planet(&ground);
        let model = AnyGround::Mesh(MeshModel::new(&surface, &standing(Upright::Gravity)).unwrap());
        let AnyGround::Mesh(model) = model else { unreachable!() };
        for reading in [Reading::ProfileCurvature, Reading::PlanCurvature] {
            let bend = model.reading(reading);
            // Where the net of triangles is uneven, normals are the mean of uneven faces: a few corners are off by a fifth.
            let near = bend.iter().filter(|k| (**k - 0.05).abs() < 0.002).count();
            assert!(near * 20 > bend.len() * 19, "{reading:?}: {near} of {}", bend.len());
            assert!(bend.iter().all(|k| (k - 0.05).abs() < 0.012), "{reading:?}");
        }
    }
}
