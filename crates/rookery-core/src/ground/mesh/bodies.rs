//! Many bodies as one ground: the plants of a layer that another layer grows on.
//!
//! What grows on a body hangs on the body's own name, its shape and the density that is asked for, never on the other bodies: each
//! has places of its own, in a frame that moves with it, and the k-th of them appears at the density `(k + u) / area`, with `u` a
//! number of the body's own from 0 to 1. So bodies of all sizes hold as many places as their area asks for on the whole, and more
//! only adds.

use super::places::Runs;
use super::{EvenOnMesh, MeshModel};
use crate::cancel::{CancelToken, Cancelled};
use crate::document::GroundId;
use crate::ground::{Frame, Quota};
use crate::math::hash::{pcg4d, unit};
use crate::math::mesh_distance::MeshDistance;
use crate::names::PlantId;
use crate::pattern::{MeshPlace, Place};
use glam::Vec3;
use rayon::prelude::*;
use std::ops::Range;
use std::sync::OnceLock;

/// What a body is called, and where it stands in its ground.
#[derive(Clone, Copy, Debug)]
pub struct BodyName {
    /// A lasting number of its own.
    pub key: u64,
    /// From the body's own frame to that of its ground.
    pub frame: Frame,
    /// The ground that carries it.
    pub carrier: GroundId,
}

/// A body of a ground, with what its places are found by.
#[derive(Clone, Debug)]
pub(super) struct Body {
    name: BodyName,
    /// Its triangles.
    pub faces: Range<u32>,
    runs: Runs,
    /// The lowest corner of its bounds and their diagonal, in its own frame, metres.
    low: Vec3,
    across_m: f32,
    tree: OnceLock<MeshDistance>,
}

/// Triangles among which places are sought: all of a mesh, or a body of it.
#[derive(Clone, Copy)]
pub(super) struct Part<'a> {
    pub model: &'a MeshModel,
    pub runs: &'a Runs,
    body: Option<&'a Body>,
}

impl MeshModel {
    /// The ground that carries a triangle.
    pub(super) fn carrier_of(&self, face: u32) -> GroundId {
        let after = self.bodies.partition_point(|b| b.faces.end <= face);
        self.bodies.get(after).map_or(GroundId::LAND, |b| b.name.carrier)
    }

    /// All of it.
    pub(super) fn whole(&self) -> Part<'_> {
        Part { model: self, runs: &self.runs, body: None }
    }

    fn part<'a>(&'a self, body: &'a Body) -> Part<'a> {
        Part { model: self, runs: &body.runs, body: Some(body) }
    }

    /// Finds the bodies of a mesh, from the place of each triangle's among `names`. The triangles of a body follow one another; a body
    /// without any area is left out.
    pub(super) fn find_bodies(&mut self, names: &[BodyName], body_of: &[u32]) {
        let mut bodies = Vec::with_capacity(names.len());
        let mut first = 0_u32;
        for own in body_of.chunk_by(|a, b| a == b) {
            let faces = first..first + own.len() as u32;
            first = faces.end;
            let name = names[own[0] as usize];
            let corners = faces.clone().flat_map(|f| self.corners(f)).map(|c| self.mesh.positions[c]);
            let (low, high) = corners
                .map(|p| name.frame.local(p))
                .fold((Vec3::INFINITY, Vec3::NEG_INFINITY), |(low, high), p| (low.min(p), high.max(p)));
            let Some(runs) = Runs::new(&self.mesh, faces.clone()) else { continue };
            let across_m = low.distance(high);
            bodies.push(Body { name, faces, runs, low, across_m, tree: OnceLock::new() });
        }
        self.bodies = bodies;
    }

    /// The places of all bodies that a quota asks for. `of` gives the first so many of a part for a seed, each once, with what was kept of
    /// that body from earlier times.
    pub(super) fn on_bodies<K: Send>(
        &self,
        seed: u32,
        quota: Quota,
        kept: &mut [K],
        of: impl Fn(&mut K, Part<'_>, u32, usize) -> Result<Vec<MeshPlace>, Cancelled> + Sync,
    ) -> Result<Vec<MeshPlace>, Cancelled> {
        // So many more than are asked for hold them, however the numbers of the bodies fall.
        let least = (quota.count + self.bodies.len()) as f64 / self.runs.area_m2;
        let per_m2 = quota.per_m2.unwrap_or(least);
        let found: Result<Vec<Vec<MeshPlace>>, Cancelled> = self
            .bodies
            .par_iter()
            .zip(kept)
            .map(|(body, kept)| {
                let own = body.own(seed);
                let count = (per_m2 * body.runs.area_m2 - f64::from(own.from)).ceil().max(0.0) as usize;
                if count == 0 {
                    return Ok(Vec::new());
                }
                let mut places = of(kept, self.part(body), own.seed, count)?;
                places.sort_unstable_by(MeshPlace::order);
                for (k, place) in places.iter_mut().enumerate() {
                    place.birth = ((k as f64 + f64::from(own.from)) / body.runs.area_m2) as f32;
                    place.id = body.named(place.id);
                }
                Ok(places)
            })
            .collect();
        let mut places = found?.concat();
        if quota.per_m2.is_none() && places.len() > quota.count {
            if quota.count > 0 {
                places.select_nth_unstable_by(quota.count - 1, MeshPlace::order);
            }
            places.truncate(quota.count);
        }
        Ok(places)
    }

    /// The places of every body as it is laid out by itself.
    pub(super) fn laid_on_bodies(
        &self,
        seed: u32,
        of: impl Fn(Part<'_>, u32) -> Vec<MeshPlace> + Sync,
        thin: impl Fn(&mut Vec<MeshPlace>, f64) + Sync,
    ) -> (Vec<MeshPlace>, u64) {
        let found: Vec<(Vec<MeshPlace>, u64)> = self
            .bodies
            .par_iter()
            .map(|body| {
                let mut places = of(self.part(body), body.own(seed).seed);
                let full = places.len() as u64;
                thin(&mut places, body.runs.area_m2);
                places.iter_mut().for_each(|p| p.id = body.named(p.id));
                (places, full)
            })
            .collect();
        let full = found.iter().map(|(_, full)| full).sum();
        (found.into_iter().flat_map(|(places, _)| places).collect(), full)
    }

    /// Even places on every body, kept for the next time.
    pub(super) fn even_on_bodies(
        &self,
        kept: &mut EvenOnMesh,
        quota: Quota,
        cancel: &CancelToken,
    ) -> Result<Vec<MeshPlace>, Cancelled> {
        let seed = kept.seed;
        if kept.bodies.len() != self.bodies.len() {
            let fresh = |b: &Body| EvenOnMesh::across(b.own(seed).seed, b.across_m);
            kept.bodies = self.bodies.iter().map(fresh).collect();
        }
        self.on_bodies(seed, quota, &mut kept.bodies, |own, part, _, count| own.first(part, count, cancel))
    }

    /// Places of bodies of which nothing is kept.
    pub(super) fn anew_on_bodies(
        &self,
        seed: u32,
        quota: Quota,
        of: impl Fn(Part<'_>, u32, usize) -> Vec<MeshPlace> + Sync,
    ) -> Vec<MeshPlace> {
        let mut nothing = vec![(); self.bodies.len()];
        let of = |(): &mut (), part: Part<'_>, seed, count| Ok(of(part, seed, count));
        self.on_bodies(seed, quota, &mut nothing, of).expect("nothing stops it")
    }
}

/// What a body has of its own for a layer's seed.
struct Own {
    seed: u32,
    /// From 0 to 1.
    from: f32,
}

impl Body {
    fn own(&self, seed: u32) -> Own {
        let [own, from, ..] = pcg4d([seed, self.name.key as u32, (self.name.key >> 32) as u32, 0xB0D1]);
        Own { seed: own, from: unit(from) }
    }

    /// The name of a place on it among those of all bodies: its kind stays, the rest is hashed with the body's own name.
    fn named(&self, id: PlantId) -> PlantId {
        let key = self.name.key;
        let [low, high, ..] = pcg4d([key as u32, (key >> 32) as u32, id.0 as u32, (id.0 >> 32) as u32]);
        let rest = (u64::from(high) << 32 | u64::from(low)) & 0x00FF_FFFF_FFFF_FFFF;
        PlantId(id.0 & 0xFF00_0000_0000_0000 | rest)
    }
}

impl<'a> Part<'a> {
    /// Its triangles.
    pub fn faces(&self) -> Range<u32> {
        self.body.map_or(0..self.model.mesh.indices.len() as u32 / 3, |b| b.faces.clone())
    }

    /// The lowest corner of its bounds, in the frame of [`Part::local`].
    pub fn low(&self) -> Vec3 {
        self.body.map_or_else(|| self.model.mesh.bounds().0, |b| b.low)
    }

    /// A point as one sees it who moves with the part.
    pub fn local(&self, point: Vec3) -> Vec3 {
        self.body.map_or(point, |b| b.name.frame.local(point))
    }

    /// The point of the part nearest to a point.
    pub fn closest(&self, point: Vec3) -> Option<(u32, f32, f32)> {
        let Some(body) = self.body else { return self.model.tree().closest(point) };
        let tree = body.tree.get_or_init(|| {
            let faces = body.faces.clone();
            let corners: Vec<Vec3> =
                faces.flat_map(|f| self.model.corners(f)).map(|c| self.model.mesh.positions[c]).collect();
            let indices: Vec<u32> = (0..corners.len() as u32).collect();
            MeshDistance::new(&corners, &indices)
        });
        tree.closest(point).map(|(face, v, w)| (body.faces.start + face, v, w))
    }

    /// Lowest and highest corner, in the frame of the ground.
    pub fn bounds(&self) -> (Vec3, Vec3) {
        let Some(body) = self.body else { return self.model.mesh.bounds() };
        let corners = body.faces.clone().flat_map(|f| self.model.corners(f));
        corners
            .map(|c| self.model.mesh.positions[c])
            .fold((Vec3::INFINITY, Vec3::NEG_INFINITY), |(low, high), p| (low.min(p), high.max(p)))
    }
}
