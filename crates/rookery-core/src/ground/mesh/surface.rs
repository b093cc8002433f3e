//! A mesh as a surface that plants grow on.

use super::{EvenOnMesh, MeshModel};
use crate::cancel::{CancelToken, Cancelled};
use crate::document::{Clumps, GroundId, Pattern};
use crate::ground::{Footing, PlanBox, Quota, Surface, Visit};
use crate::math::hash::{pcg4d, unit};
use crate::math::mesh_distance::closest_on_triangle;
use crate::math::sampling::square_to_triangle;
use crate::pattern::Layout;
use crate::pattern::{MAX_CANDIDATES, MeshPlace};
use glam::{Vec2, Vec3};

/// Level of random candidates in their names; even ones use smaller levels.
const LEVEL: u8 = 255;
/// Even places, at most: a stage keeps some four darts for each in memory, 64 bytes and more.
const MOST_EVEN: u64 = 5_000_000;
/// Points of a survey, about, on meshes with fewer faces.
const ENOUGH: f64 = 60_000.0;

/// A point of a mesh.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct MeshSpot {
    /// The triangle it lies on.
    pub face: u32,
    /// Where, in the ground's own frame, metres.
    pub position_m: Vec3,
    /// Unit normal, soft across soft edges.
    pub normal: Vec3,
}

impl MeshModel {
    /// A spot at every vertex, as one of its faces has it.
    pub fn vertex_spots(&self) -> Vec<MeshSpot> {
        let mut spots: Vec<Option<MeshSpot>> = vec![None; self.mesh.positions.len()];
        for face in 0..self.mesh.indices.len() as u32 / 3 {
            for (corner, (v, w)) in self.corners(face).into_iter().zip([(0.0, 0.0), (1.0, 0.0), (0.0, 1.0)]) {
                spots[corner].get_or_insert_with(|| self.spot_on(face, v, w));
            }
        }
        // A vertex without a face is never seen.
        let lone = || MeshSpot { face: 0, position_m: Vec3::ZERO, normal: Vec3::Y };
        spots.into_iter().map(|s| s.unwrap_or_else(lone)).collect()
    }

    /// Points of a run of triangles with the area each stands for, m2: one on small triangles, more on large ones.
    pub(super) fn survey_run(&self, run: usize, visit: &mut Visit<'_, MeshSpot>) {
        let fine_m2 = self.runs.area_m2 / ENOUGH;
        for face in self.runs.faces(run) {
            let area = self.runs.face_m2(face);
            // A triangle is cut into the square of a whole number of like triangles.
            let cuts = (area / fine_m2).sqrt().ceil().clamp(1.0, 300.0) as u32;
            let each = area / f64::from(cuts * cuts);
            let size = 1.0 / cuts as f32;
            for row in 0..cuts {
                for i in 0..(2 * (cuts - row) - 1) {
                    let spot = || {
                        // Upright and overturned ones by turns; a point of each, thrown at random, as plants are.
                        let step = (i / 2) as f32;
                        let [a, b, ..] = pcg4d([face as u32, row, i, 0x5EE]);
                        let [_, v, w] = square_to_triangle(Vec2::new(unit(a), unit(b)));
                        let (v, w) = if i % 2 == 0 { (v, w) } else { (1.0 - v, 1.0 - w) };
                        self.spot_on(face as u32, (step + v) * size, (row as f32 + w) * size)
                    };
                    visit(&spot, each);
                }
            }
        }
    }
}

impl Surface for MeshModel {
    type Spot = MeshSpot;
    type Place = MeshPlace;
    type Even = EvenOnMesh;

    const ON_PLAN: bool = false;

    fn area_m2(&self) -> f64 {
        self.runs.area_m2
    }

    fn carrier(&self, spot: &MeshSpot) -> GroundId {
        self.carrier_of(spot.face)
    }

    #[inline]
    fn spot(&self, place: &MeshPlace) -> MeshSpot {
        self.spot_on(place.face, place.v, place.w)
    }

    fn slope_deg(&self, spot: &MeshSpot) -> f32 {
        self.slope_of(spot)
    }

    fn altitude_m(&self, spot: &MeshSpot) -> f32 {
        self.altitude_of(spot.position_m)
    }

    fn altitude_range_m(&self) -> [f32; 2] {
        [self.altitude_histogram.low, self.altitude_histogram.high]
    }

    fn position_m(&self, spot: &MeshSpot) -> Vec3 {
        spot.position_m
    }

    fn group(&self, spot: &MeshSpot) -> Option<u16> {
        self.group_of(spot.face)
    }

    fn uv(&self, spot: &MeshSpot) -> Option<Vec2> {
        let [a, b, c] = *self.uvs.get(spot.face as usize)?;
        let corners = self.corners(spot.face).map(|i| self.mesh.positions[i]);
        let (v, w) = closest_on_triangle(spot.position_m, corners[0], corners[1], corners[2]);
        Some(a * (1.0 - v - w) + b * v + c * w)
    }

    fn sampled(&self, values: &[f32], spot: &MeshSpot) -> f32 {
        self.between(values, spot)
    }

    fn footing(&self, spot: &MeshSpot) -> Footing {
        let up = self.up_at(spot.position_m, spot.normal);
        Footing { position_m: spot.position_m, normal: spot.normal, up }
    }

    fn runs(&self) -> usize {
        self.runs.count()
    }

    #[inline]
    fn plan(&self, place: &MeshPlace) -> Vec2 {
        let p = self.position_on(place.face, place.v, place.w);
        Vec2::new(p.x, p.z)
    }

    fn run_on_plan(&self, run: usize) -> PlanBox {
        let (mut low, mut high) = (Vec2::INFINITY, Vec2::NEG_INFINITY);
        for corner in self.runs.faces(run).flat_map(|face| self.corners(face as u32)) {
            let p = self.mesh.positions[corner];
            let p = Vec2::new(p.x, p.z);
            (low, high) = (low.min(p), high.max(p));
        }
        PlanBox { low, high }
    }

    fn survey(&self, run: usize, visit: &mut Visit<'_, MeshSpot>) {
        self.survey_run(run, visit);
    }

    fn most_places(&self, pattern: Pattern) -> u64 {
        match pattern {
            Pattern::Even => MOST_EVEN,
            // A small mesh holds fewer by far.
            Pattern::Random if self.bodies.is_empty() => MAX_CANDIDATES.min(self.runs.most() as u64),
            _ => MAX_CANDIDATES,
        }
    }

    fn random_places(&self, seed: u32, quota: impl Into<Quota>) -> Vec<MeshPlace> {
        let quota = quota.into();
        if self.bodies.is_empty() {
            return self.runs.first(seed, LEVEL, quota.count);
        }
        self.anew_on_bodies(seed, quota, |part, seed, count| part.runs.first(seed, LEVEL, count))
    }

    fn clumped_places(&self, seed: u32, clumps: &Clumps, quota: impl Into<Quota>) -> Vec<MeshPlace> {
        let quota = quota.into();
        if self.bodies.is_empty() {
            return self.whole().clumped(seed, clumps, quota.count);
        }
        self.anew_on_bodies(seed, quota, |part, seed, count| part.clumped(seed, clumps, count))
    }

    fn laid_places(&self, seed: u32, layout: &Layout<'_>, per_m2: Option<f64>) -> (Vec<MeshPlace>, u64) {
        if self.bodies.is_empty() {
            let mut places = self.whole().laid(seed, layout);
            let full = places.len() as u64;
            layout.thin(&mut places, self.area_m2(), per_m2);
            return (places, full);
        }
        let thin = |places: &mut Vec<MeshPlace>, area_m2| layout.thin(places, area_m2, per_m2);
        self.laid_on_bodies(seed, |part, own| part.laid(own, layout), thin)
    }

    fn spot_near(&self, point: Vec3) -> MeshSpot {
        let (face, v, w) = self.tree().closest(point).expect("a mesh ground has at least one face");
        self.spot_on(face, v, w)
    }

    fn beside(&self, spot: &MeshSpot, across_m: f32, along_m: f32) -> MeshSpot {
        let across = spot.normal.any_orthonormal_vector();
        let p = spot.position_m + across * across_m + spot.normal.cross(across) * along_m;
        self.tree().closest(p).map_or(*spot, |(face, v, w)| self.spot_on(face, v, w))
    }

    fn no_even_places(&self, seed: u32) -> EvenOnMesh {
        EvenOnMesh::new(seed)
    }

    fn even_places(
        &self,
        kept: &mut EvenOnMesh,
        quota: impl Into<Quota>,
        cancel: &CancelToken,
    ) -> Result<Vec<MeshPlace>, Cancelled> {
        let quota = quota.into();
        if self.bodies.is_empty() {
            return kept.first(self.whole(), quota.count, cancel);
        }
        self.even_on_bodies(kept, quota, cancel)
    }
}
