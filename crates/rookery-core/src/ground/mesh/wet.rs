//! How wet a mesh tends to be, from its shape alone.
//!
//! Sources: Beven & Kirkby 1979 for the index, ln(a / tan b), as on a terrain; Freeman, "Calculating catchment area with
//! divergent flow based on a regular grid", Computers & Geosciences 17, 1991, for the flow: what a corner gathers goes to all
//! lower corners about it by their steepness to the power of 1.1. Rain falls plumb, so walls gather none of their own and
//! undersides neither; but what runs over their edge runs down them. Pits keep what they gather.

use super::MeshModel;
use glam::Vec3;
use std::collections::BTreeMap;

/// The power of steepness by which flow is shared (Freeman 1991).
const SHARING: f32 = 1.1;
/// Slopes under this tangent count as this, as on a terrain.
const LEAST_TAN: f32 = 1e-3;
/// Walls and undersides count as this steep.
const MOST_TAN: f32 = 100.0;
/// Less water than from this length of slope counts as this, metres.
const LEAST_M: f32 = 0.01;

/// Corners of a mesh, those of one place as one. Across a crease a mesh has several.
pub(super) struct Welded {
    /// Which of them each corner of the mesh is.
    pub(super) own: Vec<usize>,
    pub(super) positions: Vec<Vec3>,
    /// Of length 1.
    pub(super) normals: Vec<Vec3>,
}

impl MeshModel {
    pub(super) fn welded(&self) -> Welded {
        let mut numbers = BTreeMap::new();
        let number = |p: &Vec3| {
            let next = numbers.len();
            *numbers.entry(p.to_array().map(f32::to_bits)).or_insert(next)
        };
        let own: Vec<usize> = self.mesh.positions.iter().map(number).collect();
        let mut normals = vec![Vec3::ZERO; numbers.len()];
        let mut positions = vec![Vec3::ZERO; numbers.len()];
        for (i, at) in own.iter().enumerate() {
            normals[*at] += self.mesh.normals[i];
            positions[*at] = self.mesh.positions[i];
        }
        normals.iter_mut().for_each(|n| *n = n.normalize_or(Vec3::Y));
        Welded { own, positions, normals }
    }

    /// The topographic wetness index at every vertex.
    pub(super) fn wetness(&self) -> Vec<f32> {
        let Welded { own, positions, normals } = self.welded();
        // Ground about each corner: a third of the triangles that meet there; and as much of it as rain falls on.
        let mut ground_m2 = vec![0.0_f32; positions.len()];
        let mut gathered_m2 = vec![0.0_f32; positions.len()];
        let mut edges = Vec::with_capacity(self.mesh.indices.len() * 2);
        for face in self.mesh.indices.chunks_exact(3) {
            let [a, b, c] = [face[0], face[1], face[2]].map(|i| own[i as usize]);
            let across = (positions[b] - positions[a]).cross(positions[c] - positions[a]) / 6.0;
            let middle = (positions[a] + positions[b] + positions[c]) / 3.0;
            let rained_on = across.dot(self.level_at(middle)).max(0.0);
            for (i, j) in [(a, b), (b, c), (c, a)] {
                ground_m2[i] += across.length();
                gathered_m2[i] += rained_on;
                edges.extend([(i as u32, j as u32), (j as u32, i as u32)]);
            }
        }
        edges.sort_unstable();
        edges.dedup();
        let altitudes: Vec<f32> = positions.iter().map(|p| self.altitude_of(*p)).collect();
        let mut order: Vec<u32> = (0..positions.len() as u32).collect();
        order.sort_unstable_by(|a, b| {
            altitudes[*b as usize].total_cmp(&altitudes[*a as usize]).then(a.cmp(b))
        });
        let mut lower: Vec<(usize, f32)> = Vec::new();
        for here in order {
            let first = edges.partition_point(|(from, _)| *from < here);
            let about = edges[first..].iter().take_while(|(from, _)| *from == here);
            let here = here as usize;
            lower.clear();
            lower.extend(about.filter_map(|(_, there)| {
                let there = *there as usize;
                let fall = altitudes[here] - altitudes[there];
                let apart = positions[here].distance(positions[there]);
                (fall > 0.0 && apart > 0.0).then(|| (there, libm::powf(fall / apart, SHARING)))
            }));
            let sum: f32 = lower.iter().map(|(_, share)| share).sum();
            for (there, share) in &lower {
                gathered_m2[*there] += gathered_m2[here] * share / sum;
            }
        }
        let index = |i: usize| {
            let plumb = normals[i].dot(self.level_at(positions[i]));
            let tan = if plumb <= 0.0 { MOST_TAN } else { (1.0 - plumb * plumb).max(0.0).sqrt() / plumb };
            let width_m = ground_m2[i].sqrt().max(1e-6);
            libm::logf((gathered_m2[i] / width_m).max(LEAST_M) / tan.clamp(LEAST_TAN, MOST_TAN))
        };
        let all: Vec<f32> = (0..positions.len()).map(index).collect();
        own.into_iter().map(|i| all[i]).collect()
    }
}

#[cfg(test)]
mod tests {
    use crate::document::{Earths, PlanetGround, Upright};
    use crate::ground::made::planet;
    use crate::ground::{MeshModel, MeshStanding, MeshSurface, Reading};
    use glam::{Vec2, Vec3, vec3};

    fn standing(upright: Upright) -> MeshStanding {
        MeshStanding { base_m: 0.0, upright, earths: Earths::default(), water_m: None, seed: 1 }
    }

    /// A net of a metre, 61 x 61 corners about the origin.
    fn net(height: impl Fn(Vec2) -> f32) -> MeshModel {
        let n = 61_u32;
        let corner = |i: u32| {
            let p = Vec2::new((i % n) as f32 - 30.0, (i / n) as f32 - 30.0);
            vec3(p.x, height(p), p.y)
        };
        let positions = (0..n * n).map(corner).collect();
        let mut indices = Vec::new();
        for i in 0..(n - 1) * (n - 1) {
            let a = i / (n - 1) * n + i % (n - 1);
            indices.extend([a, a + n, a + 1, a + 1, a + n, a + n + 1]);
        }
        MeshModel::new(&MeshSurface { positions, indices, ..Default::default() }, &standing(Upright::Gravity))
            .unwrap()
    }

    fn at(model: &MeshModel, wetness: &[f32], p: Vec2) -> f32 {
        let near = |q: &Vec3| Vec2::new(q.x, q.z).distance(p) < 0.1;
        wetness[model.mesh.positions.iter().position(near).expect("a vertex")]
    }

    /// Closed form: the strip above a metre of contour is as long as the way up, on the plan.
    #[test]
    fn a_plane_has_its_closed_form_index() {
        let model = net(|p| p.y * -0.2);
        let wetness = model.reading(Reading::Wetness);
        for z in [-20.0, 0.0, 20.0_f32] {
            let expected = ((z + 30.0) / 0.2).ln();
            let got = at(&model, &wetness, Vec2::new(0.0, z));
            assert!((got - expected).abs() < 0.1, "{got} for {expected} at {z}");
        }
    }

    /// Closed form: above a metre of contour of a cone lies half a radius of ground.
    #[test]
    fn a_cone_has_its_closed_form_index_all_the_way_round() {
        let model = net(|p| p.length() * -0.5);
        let wetness = model.reading(Reading::Wetness);
        let (mut sum, mut count) = (0.0, 0);
        for (p, got) in model.mesh.positions.iter().zip(&wetness) {
            let r = Vec2::new(p.x, p.z).length();
            if (8.0..25.0).contains(&r) {
                let short = got - (r * 0.5 / 0.5).ln();
                // Triangles of a net run one way; flow about the axes and the diagonals differs.
                assert!(short.abs() < 0.7, "{short} at {p}");
                sum += short;
                count += 1;
            }
        }
        // A contour is taken to be as wide as the ground about its corner, whichever way it runs: a tenth more on average.
        assert!((sum / count as f32).abs() < 0.15, "{} on average", sum / count as f32);
    }

    #[test]
    fn a_valley_is_wetter_than_its_sides_and_grows_down() {
        let model = net(|p| p.x.abs() * 0.5 - p.y * 0.1);
        let wetness = model.reading(Reading::Wetness);
        let at = |x, z| at(&model, &wetness, Vec2::new(x, z));
        assert!(at(0.0, 10.0) > at(12.0, 10.0) + 2.0);
        assert!(at(0.0, 20.0) > at(0.0, -10.0));
    }

    /// Rain that falls on a planet falls towards its middle, wherever that is; none is lost or made.
    #[test]
    fn a_planet_has_wet_and_dry_places_all_round() {
        let ground = PlanetGround { radius_m: 20.0, relief: 0.3, ..PlanetGround::default() };
        let model = MeshModel::new(&planet(&ground), &standing(Upright::Centre)).unwrap();
        let wetness = model.reading(Reading::Wetness);
        assert!(wetness.iter().all(|w| w.is_finite()));
        for up in [Vec3::Y, Vec3::NEG_Y, Vec3::X, Vec3::NEG_Z] {
            let side: Vec<f32> = model
                .mesh
                .positions
                .iter()
                .zip(&wetness)
                .filter(|(p, _)| p.dot(up) > 12.0)
                .map(|(_, w)| *w)
                .collect();
            let mean = side.iter().sum::<f32>() / side.len() as f32;
            assert!((0.0..8.0).contains(&mean), "{mean} on average about {up}");
            assert!(side.iter().any(|w| *w > mean + 2.0), "no wet place about {up}");
        }
    }

    /// Under a roof no rain falls, and on an underside nothing gathers.
    #[test]
    fn an_underside_is_dry() {
        let box_ = MeshSurface {
            positions: (0..8)
                .map(|i| vec3((i & 1) as f32, (i >> 1 & 1) as f32, (i >> 2) as f32) * 4.0)
                .collect(),
            indices: vec![
                0, 1, 5, 0, 5, 4, 2, 7, 3, 2, 6, 7, 0, 3, 1, 0, 2, 3, 4, 5, 7, 4, 7, 6, 0, 4, 6, 0, 6, 2, 1,
                3, 7, 1, 7, 5,
            ],
            ..Default::default()
        };
        let model = MeshModel::new(&box_, &standing(Upright::Gravity)).unwrap();
        let wetness = model.reading(Reading::Wetness);
        let (low, high): (Vec<_>, Vec<_>) =
            model.mesh.positions.iter().zip(&wetness).partition(|(p, _)| p.y < 1.0);
        let most = low.iter().map(|(_, w)| **w).fold(f32::MIN, f32::max);
        assert!(high.iter().all(|(_, w)| **w > most), "{low:?} {high:?}");
    }
}
