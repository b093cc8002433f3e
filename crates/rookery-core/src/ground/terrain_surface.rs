//! A terrain as a surface that plants grow on. Densities count its plan area.

use super::surface::{Footing, Quota, Surface, Visit};
use super::terrain::CellPoint;
use super::{GroundModel, PlanBox};
use crate::cancel::{CancelToken, Cancelled};
use crate::document::Clumps;
use crate::math::hash::{pcg4d, unit};
use crate::names::PlantId;
use crate::pattern::Candidate;
use crate::pattern::{
    EvenPattern, FACES, Layout, VERTICES, clumped_candidates, own_birth, random_candidates,
};
use glam::{Vec2, Vec3};

/// Points looked at in a survey, about: one to a cell, but no fewer and no more than these.
const FEWEST: f32 = 60_000.0;
const ENOUGH: f32 = 600_000.0;

/// A point of the plan and the cell it lies in.
#[derive(Clone, Copy, Debug)]
pub struct PlanSpot {
    x: f32,
    z: f32,
    cell: CellPoint,
}

impl GroundModel {
    /// The spot of a point of the plan; points outside are moved to the edge.
    #[inline]
    pub fn spot_at(&self, x: f32, z: f32) -> PlanSpot {
        PlanSpot { x, z, cell: self.terrain.locate(x, z) }
    }

    /// From where to where on the plan a run of the survey lies, from north to south, metres.
    pub fn run_z(&self, run: usize) -> [f32; 2] {
        let depth = self.terrain.size_m().y / self.survey_lattice().1 as f32;
        [0, 1].map(|end| self.terrain.min_xz().y + (run + end) as f32 * depth)
    }

    /// A survey looks at one point, thrown at random, in each part of this lattice over the plan: columns and rows. Values between
    /// samples are others than at them, and plants stand between.
    fn survey_lattice(&self) -> (usize, usize) {
        let size = self.terrain.size_m();
        let cells = ((self.terrain.nx() - 1) * (self.terrain.nz() - 1)) as f32;
        let points = cells.clamp(FEWEST, ENOUGH);
        let rows = (points * size.y / size.x).sqrt().round().clamp(1.0, points);
        ((points / rows).round().max(1.0) as usize, rows as usize)
    }
}

impl Surface for GroundModel {
    type Spot = PlanSpot;
    type Place = Candidate;
    type Even = EvenPattern;

    const ON_PLAN: bool = true;

    fn area_m2(&self) -> f64 {
        f64::from(self.terrain.plan_area_m2())
    }

    #[inline]
    fn spot(&self, place: &Candidate) -> PlanSpot {
        self.spot_at(place.x, place.z)
    }

    #[inline]
    fn slope_deg(&self, spot: &PlanSpot) -> f32 {
        self.slope_in(spot.cell)
    }

    #[inline]
    fn altitude_m(&self, spot: &PlanSpot) -> f32 {
        self.terrain.height_in(spot.cell) + self.base_m
    }

    #[inline]
    fn altitude_range_m(&self) -> [f32; 2] {
        self.altitude_range_m
    }

    #[inline]
    fn position_m(&self, spot: &PlanSpot) -> Vec3 {
        Vec3::new(spot.x, self.terrain.height_in(spot.cell), spot.z)
    }

    fn group(&self, _: &PlanSpot) -> Option<u16> {
        None
    }

    fn uv(&self, spot: &PlanSpot) -> Option<Vec2> {
        Some((Vec2::new(spot.x, spot.z) - self.terrain.min_xz()) / self.terrain.size_m())
    }

    #[inline]
    fn sampled(&self, values: &[f32], spot: &PlanSpot) -> f32 {
        self.between(values, spot.cell)
    }

    #[inline]
    fn footing(&self, spot: &PlanSpot) -> Footing {
        let normal = self.terrain.normal_in(spot.cell);
        let up = if self.square_to_surface { normal } else { Vec3::Y };
        Footing { position_m: self.position_m(spot), normal, up }
    }

    #[inline]
    fn plan(&self, place: &Candidate) -> Vec2 {
        Vec2::new(place.x, place.z)
    }

    fn runs(&self) -> usize {
        self.survey_lattice().1
    }

    fn run_on_plan(&self, run: usize) -> PlanBox {
        let half = self.terrain.size_m() * 0.5;
        let [north, south] = self.run_z(run);
        PlanBox { low: Vec2::new(-half.x, north), high: Vec2::new(half.x, south) }
    }

    fn survey(&self, run: usize, visit: &mut Visit<'_, PlanSpot>) {
        let (columns, rows) = self.survey_lattice();
        let part = self.terrain.size_m() / Vec2::new(columns as f32, rows as f32);
        for column in 0..columns {
            let spot = || {
                let [u, v, ..] = pcg4d([column as u32, run as u32, 0x5EE, 0]);
                let at =
                    Vec2::new(column as f32 + unit(u), run as f32 + unit(v)) * part + self.terrain.min_xz();
                self.spot_at(at.x, at.y)
            };
            visit(&spot, 1.0);
        }
    }

    fn random_places(&self, seed: u32, quota: impl Into<Quota>) -> Vec<Candidate> {
        random_candidates(seed, self.terrain.size_m(), quota.into().count)
    }

    fn clumped_places(&self, seed: u32, clumps: &Clumps, quota: impl Into<Quota>) -> Vec<Candidate> {
        clumped_candidates(seed, self.terrain.size_m(), clumps, quota.into().count)
    }

    fn laid_places(&self, seed: u32, layout: &Layout<'_>, per_m2: Option<f64>) -> (Vec<Candidate>, u64) {
        let half = self.terrain.size_m() * 0.5;
        let named = |level: u8, p: Vec3, index: usize| {
            let id = PlantId(u64::from(level) << 56 | index as u64);
            Candidate { x: p.x, z: p.z, birth: own_birth(seed, id), id }
        };
        let t = &self.terrain;
        let mut places: Vec<Candidate> = match layout {
            Layout::Vertices => {
                let samples = (0..t.nx() * t.nz()).map(|i| (t.vertex(i % t.nx(), i / t.nx()), i));
                samples.map(|(p, i)| named(VERTICES, p, i)).collect()
            }
            Layout::Faces => {
                let (nx, nz) = (t.nx() - 1, t.nz() - 1);
                let middle = |i: usize| (t.vertex(i % nx, i / nx) + t.vertex(i % nx + 1, i / nx + 1)) * 0.5;
                (0..nx * nz).map(|i| named(FACES, middle(i), i)).collect()
            }
            Layout::Rows { .. } | Layout::Along { .. } => {
                let points = layout.points(seed, -half, half);
                points
                    .into_iter()
                    .map(|p| Candidate { x: p.at.x, z: p.at.y, birth: p.birth, id: p.id })
                    .collect()
            }
        };
        let full = places.len() as u64;
        layout.thin(&mut places, self.area_m2(), per_m2);
        (places, full)
    }

    fn spot_near(&self, point: Vec3) -> PlanSpot {
        self.spot_at(point.x, point.z)
    }

    fn beside(&self, spot: &PlanSpot, across_m: f32, along_m: f32) -> PlanSpot {
        let half = self.terrain.size_m() * 0.5;
        self.spot_at((spot.x + across_m).clamp(-half.x, half.x), (spot.z + along_m).clamp(-half.y, half.y))
    }

    fn no_even_places(&self, seed: u32) -> EvenPattern {
        EvenPattern::new(seed, self.terrain.size_m())
    }

    fn even_places(
        &self,
        kept: &mut EvenPattern,
        quota: impl Into<Quota>,
        cancel: &CancelToken,
    ) -> Result<Vec<Candidate>, Cancelled> {
        Ok(kept.first(quota.into().count, cancel)?.to_vec())
    }
}
