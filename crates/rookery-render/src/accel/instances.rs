//! The upper level: many placed copies of a few meshes.

use super::{MeshBvh, Ray};
use glam::{Mat3A, Quat, Vec3A};
use obvhs::{BvhBuildParams, aabb::Aabb, cwbvh::CwBvh, cwbvh::builder::build_cwbvh, ray::RayHit};
use rayon::prelude::*;
use std::cell::Cell;
use std::time::Duration;

/// A placed copy of a mesh: turned, scaled evenly, moved.
#[derive(Clone, Copy, Debug)]
pub struct Instance {
    /// Base point, metres.
    pub position: Vec3A,
    /// From the mesh's frame to the scene.
    pub rotation: Quat,
    /// Even scale, above zero.
    pub size: f32,
    /// Which mesh.
    pub mesh: u32,
    /// A number of its own for colour, 0 to 65535.
    pub tint: u16,
}

impl Instance {
    /// The ray in the mesh's frame; its direction stays a unit vector, so distances are divided by the size.
    #[inline]
    fn localise(&self, ray: &Ray) -> Ray {
        let inverse = self.rotation.inverse();
        let origin = (inverse * (ray.origin - self.position)) / self.size;
        Ray { origin, direction: inverse * ray.direction, t_max: ray.t_max / self.size }
    }

    fn bounds(&self, local: &Aabb) -> Aabb {
        let centre = (local.min + local.max) * 0.5;
        let half = (local.max - local.min) * 0.5;
        let turn = Mat3A::from_quat(self.rotation);
        let reach =
            Mat3A::from_cols(turn.x_axis.abs(), turn.y_axis.abs(), turn.z_axis.abs()) * half * self.size;
        let middle = self.position + turn * centre * self.size;
        Aabb { min: middle - reach, max: middle + reach }
    }
}

/// All instances of a scene with their acceleration structure.
pub struct Instances {
    list: Vec<Instance>,
    bvh: Option<CwBvh>,
}

impl Instances {
    /// Builds over instances of the given meshes.
    pub fn new(list: Vec<Instance>, meshes: &[MeshBvh]) -> Self {
        let boxes: Vec<Aabb> = list.par_iter().map(|i| i.bounds(&meshes[i.mesh as usize].bounds())).collect();
        let params =
            BvhBuildParams { pre_split: false, max_prims_per_leaf: 1, ..BvhBuildParams::fast_build() };
        let bvh = (!boxes.is_empty()).then(|| build_cwbvh(&boxes, params, &mut Duration::default()));
        Self { list, bvh }
    }

    /// The instances, in the order they were given.
    pub fn list(&self) -> &[Instance] {
        &self.list
    }

    /// Distance, triangle and instance of the nearest hit nearer than the ray's end.
    pub fn nearest(&self, ray: &Ray, meshes: &[MeshBvh]) -> Option<(f32, u32, u32)> {
        let bvh = self.bvh.as_ref()?;
        let best = Cell::new(None);
        let mut hit = RayHit::none();
        bvh.ray_traverse(ray.inner(), &mut hit, |r, leaf| {
            let index = bvh.primitive_indices[leaf];
            let instance = &self.list[index as usize];
            let local = instance.localise(&Ray { t_max: r.tmax, ..*ray });
            match meshes[instance.mesh as usize].nearest(&local) {
                Some((t, triangle)) if t * instance.size < r.tmax => {
                    best.set(Some((t * instance.size, triangle, index)));
                    t * instance.size
                }
                _ => f32::INFINITY,
            }
        });
        best.get()
    }

    /// Whether any instance lies on the ray before its end.
    pub fn blocks(&self, ray: &Ray, meshes: &[MeshBvh]) -> bool {
        let Some(bvh) = self.bvh.as_ref() else { return false };
        !bvh.ray_traverse_miss(ray.inner(), |_, leaf| {
            let instance = &self.list[bvh.primitive_indices[leaf] as usize];
            if meshes[instance.mesh as usize].blocks(&instance.localise(ray)) { 0.0 } else { f32::INFINITY }
        })
    }
}
