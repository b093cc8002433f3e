//! A mesh that plants grow on: closed solids, overhangs, statues, small planets.
//!
//! Densities count its true area. Nothing depends on how finely it is cut but the triangles plants are found on.

mod bodies;
mod clumped;
mod downhill;
mod even;
mod laid;
mod look;
mod nearest;
mod places;
mod readings;
mod soften;
mod sun;
mod surface;
mod wet;

pub use bodies::BodyName;
pub use even::EvenOnMesh;
pub use soften::weld;
pub use surface::MeshSpot;

use super::colour::Colouring;
use crate::document::{Earths, Upright};
use crate::ground::Histogram;
use crate::math::mesh_distance::MeshDistance;
use crate::nursery::{Dress, Mesh};
use bodies::Body;
use glam::{Vec2, Vec3};
use places::Runs;
use rayon::prelude::*;
use std::sync::OnceLock;
use thiserror::Error;

/// Surfaces that face up less than this (the cosine of 72 degrees) are walls: nothing lies above them.
const WALL: f32 = 0.31;

/// Why a mesh cannot be a ground.
#[derive(Clone, Debug, PartialEq, Eq, Error)]
pub enum MeshGroundError {
    /// It has no surface.
    #[error("the mesh has no face with an area; nothing can grow on it")]
    NoArea,
    /// None of the parts that were to be taken is there.
    #[error("none of its parts is called {0}")]
    NoSuchPart(String),
}

/// A mesh as it is handed in: flat or soft, welded or not.
#[derive(Clone, Debug, Default)]
pub struct MeshSurface {
    /// Places of the vertices, metres, Y up, in the ground's own frame.
    pub positions: Vec<Vec3>,
    /// Three a triangle, counter-clockwise seen from outside.
    pub indices: Vec<u32>,
    /// Names of the face groups.
    pub groups: Vec<String>,
    /// The group of each triangle; empty when there is at most one.
    pub group_of: Vec<u16>,
    /// Where each corner of each triangle lies in a picture, from its upper left corner; empty when nothing says so.
    pub uvs: Vec<[Vec2; 3]>,
    /// The bodies it is made of, where each holds what grows on it for itself; empty when it is one.
    pub bodies: Vec<BodyName>,
    /// The place of each triangle's body among those; empty when it is one.
    pub body_of: Vec<u32>,
}

/// A mesh with all that is read off it.
#[derive(Clone, Debug)]
pub struct MeshModel {
    /// Soft where the surface is soft, creased where it is creased; only faces with an area.
    pub mesh: Mesh,
    /// Names of the face groups.
    pub groups: Vec<String>,
    /// The group of each triangle; empty when there is at most one.
    group_of: Vec<u16>,
    /// Where the corners of each triangle lie in pictures; empty when nothing says so.
    uvs: Vec<[Vec2; 3]>,
    /// Height of the mesh's own origin in the scene, metres.
    base_m: f32,
    upright: Upright,
    /// The middle that things stand away from where up is away from the middle.
    centre: Vec3,
    /// Distance of the lowest land from the centre, metres.
    lowest_m: f32,
    runs: Box<Runs>,
    /// Empty when it is one.
    bodies: Vec<Body>,
    /// How the true area is spread over slope, degrees.
    pub slope_histogram: Histogram,
    /// How the true area is spread over altitude, metres.
    pub altitude_histogram: Histogram,
    /// Made when the nearest of its points are first asked for.
    tree: OnceLock<MeshDistance>,
}

/// How a mesh stands and what it looks like.
#[derive(Clone, Debug)]
pub struct MeshStanding {
    /// Height of its own origin in the scene, metres.
    pub base_m: f32,
    /// Which way is up on it.
    pub upright: Upright,
    /// What it looks like where it is bare.
    pub earths: Earths,
    /// Height of the water in the scene, metres, if there is any.
    pub water_m: Option<f32>,
    /// Varies the patches of its earths.
    pub seed: u32,
}

impl MeshModel {
    /// Reads a mesh.
    ///
    /// # Errors
    /// [`MeshGroundError::NoArea`].
    pub fn new(surface: &MeshSurface, standing: &MeshStanding) -> Result<Self, MeshGroundError> {
        let soften::Softened { mesh, group_of, uvs, body_of } = soften::soften(surface);
        let runs = Runs::new(&mesh, 0..mesh.indices.len() as u32 / 3).ok_or(MeshGroundError::NoArea)?;
        let (low, high) = mesh.bounds();
        let centre = (low + high) * 0.5;
        let lowest_m = mesh.positions.iter().map(|p| p.distance(centre)).fold(f32::INFINITY, f32::min);
        let empty = Histogram::weighed([], 0.0, 1.0);
        let mut model = Self {
            mesh,
            groups: surface.groups.clone(),
            group_of,
            uvs,
            base_m: standing.base_m,
            upright: standing.upright,
            centre,
            lowest_m,
            runs: Box::new(runs),
            bodies: Vec::new(),
            slope_histogram: empty.clone(),
            altitude_histogram: empty,
            tree: OnceLock::new(),
        };
        let (low_m, high_m) = model.altitude_range_m();
        model.slope_histogram = model.histogram(0.0, 180.0, |m, spot| m.slope_of(spot));
        model.altitude_histogram =
            model.histogram(low_m, high_m.max(low_m + 1e-3), |m, spot| m.altitude_of(spot.position_m));
        let water_m = standing.water_m.map(|w| w - standing.base_m);
        let colouring = Colouring::new(&standing.earths, water_m, standing.seed, None);
        model.find_bodies(&surface.bodies, &body_of);
        model.mesh.colours = look::colours(&model, &colouring);
        *model.mesh.dress = Dress::Ground(look::earths(&model, &colouring));
        Ok(model)
    }

    /// True area of the surface, m2.
    pub fn true_area_m2(&self) -> f64 {
        self.runs.area_m2
    }

    /// Lowest and highest land, metres.
    fn altitude_range_m(&self) -> (f32, f32) {
        let heights = self.mesh.positions.iter().map(|p| self.altitude_of(*p));
        heights.fold((f32::INFINITY, f32::NEG_INFINITY), |(low, high), h| (low.min(h), high.max(h)))
    }

    /// The way up at a point, for what stands there.
    fn up_at(&self, position: Vec3, normal: Vec3) -> Vec3 {
        match self.upright {
            Upright::Gravity => Vec3::Y,
            Upright::Surface => normal,
            Upright::Centre => (position - self.centre).try_normalize().unwrap_or(Vec3::Y),
        }
    }

    /// The way that slopes are measured against: the plumb line, or away from the middle.
    fn level_at(&self, position: Vec3) -> Vec3 {
        match self.upright {
            Upright::Centre => (position - self.centre).try_normalize().unwrap_or(Vec3::Y),
            Upright::Gravity | Upright::Surface => Vec3::Y,
        }
    }

    fn slope_of(&self, spot: &MeshSpot) -> f32 {
        self.slope_between(spot.position_m, spot.normal)
    }

    fn slope_between(&self, position: Vec3, normal: Vec3) -> f32 {
        libm::acosf(self.level_at(position).dot(normal).clamp(-1.0, 1.0)).to_degrees()
    }

    fn altitude_of(&self, position: Vec3) -> f32 {
        match self.upright {
            Upright::Centre => position.distance(self.centre) - self.lowest_m,
            Upright::Gravity | Upright::Surface => position.y + self.base_m,
        }
    }

    fn histogram(&self, low: f32, high: f32, value: impl Fn(&Self, &MeshSpot) -> f32 + Sync) -> Histogram {
        let runs: Vec<Vec<(f32, f64)>> = (0..self.runs.count())
            .into_par_iter()
            .map(|run| {
                let mut out = Vec::new();
                self.survey_run(run, &mut |spot, weight| out.push((value(self, &spot()), weight)));
                out
            })
            .collect();
        Histogram::weighed(runs.into_iter().flatten(), low, high)
    }

    #[inline]
    fn tree(&self) -> &MeshDistance {
        self.tree.get_or_init(|| MeshDistance::new(&self.mesh.positions, &self.mesh.indices))
    }

    /// Corners of a triangle.
    fn corners(&self, face: u32) -> [usize; 3] {
        let first = face as usize * 3;
        [0, 1, 2].map(|i| self.mesh.indices[first + i] as usize)
    }

    /// Where a point of a triangle lies, by the shares of its second and third corner.
    #[inline]
    pub fn position_on(&self, face: u32, v: f32, w: f32) -> Vec3 {
        let [a, b, c] = self.corners(face).map(|i| self.mesh.positions[i]);
        a * (1.0 - v - w) + b * v + c * w
    }

    /// A point of a triangle, by the shares of its second and third corner.
    #[inline]
    pub fn spot_on(&self, face: u32, v: f32, w: f32) -> MeshSpot {
        let corners = self.corners(face);
        let u = 1.0 - v - w;
        let blend = |list: &[Vec3]| list[corners[0]] * u + list[corners[1]] * v + list[corners[2]] * w;
        let normal = blend(&self.mesh.normals);
        MeshSpot {
            face,
            position_m: blend(&self.mesh.positions),
            normal: normal.try_normalize().unwrap_or(Vec3::Y),
        }
    }

    /// The point of the surface nearest to a point, in the ground's own frame, and how far it is, metres.
    pub fn nearest(&self, point: Vec3) -> (MeshSpot, f32) {
        nearest::nearest(self, point)
    }

    /// How far a point lies outside the surface, metres; below zero inside.
    pub fn height_over(&self, point: Vec3) -> f32 {
        let Some((face, v, w)) = self.tree().closest(point) else { return 0.0 };
        let spot = self.spot_on(face, v, w);
        let away = point - spot.position_m;
        away.length().copysign(away.dot(spot.normal))
    }

    /// How far a point lies above the surface along the way up there, metres; below zero inside. The surface is taken for flat about its
    /// nearest point; at undersides and walls it is the distance.
    pub fn height_along_up(&self, point: Vec3) -> f32 {
        let Some((face, v, w)) = self.tree().closest(point) else { return 0.0 };
        let spot = self.spot_on(face, v, w);
        let away = point - spot.position_m;
        let upright = self.level_at(spot.position_m).dot(spot.normal);
        let height = away.length().copysign(away.dot(spot.normal));
        if upright > WALL { height / upright } else { height }
    }

    /// What is read off the mesh at every vertex of it: the slope in degrees.
    pub fn slopes_deg(&self) -> Vec<f32> {
        self.at_vertices(|m, p, n| m.slope_between(p, n))
    }

    /// The altitude at every vertex, metres.
    pub fn altitudes_m(&self) -> Vec<f32> {
        self.at_vertices(|m, p, _| m.altitude_of(p))
    }

    fn at_vertices(&self, value: impl Fn(&Self, Vec3, Vec3) -> f32 + Sync) -> Vec<f32> {
        let vertices = self.mesh.positions.par_iter().zip(&self.mesh.normals);
        vertices.map(|(p, n)| value(self, *p, *n)).collect()
    }

    /// The group of a triangle, if the mesh has several.
    fn group_of(&self, face: u32) -> Option<u16> {
        match self.group_of.get(face as usize) {
            Some(group) => Some(*group),
            None => (!self.groups.is_empty()).then_some(0),
        }
    }
}
