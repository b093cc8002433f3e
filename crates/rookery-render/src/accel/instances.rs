//! The upper level: many placed copies of a few meshes.

use super::{MeshBvh, Ray};
use glam::{Mat3A, Quat, Vec3A};
use obvhs::{BvhBuildParams, aabb::Aabb, cwbvh::CwBvh, cwbvh::builder::build_cwbvh, ray::RayHit};
use rayon::prelude::*;
use std::cell::Cell;
use std::time::Duration;

/// A placed copy of a mesh: scaled along its own axes, turned, moved.
#[derive(Clone, Copy, Debug)]
pub struct Instance {
    /// Base point, metres.
    pub position: Vec3A,
    /// From the mesh's frame to the scene.
    pub rotation: Quat,
    /// Scale along its own axes, above zero.
    pub scale: Vec3A,
    /// Which mesh.
    pub mesh: u32,
    /// A number of its own for colour, 0 to 65535.
    pub tint: u16,
    /// What its colours are multiplied with: red, green, blue, each in 128ths.
    pub colour: [u8; 3],
}

impl Instance {
    /// A mesh as it was built, where it was built; the middle tint leaves colours as they are.
    pub fn new(mesh: u32) -> Self {
        Self {
            position: Vec3A::ZERO,
            rotation: Quat::IDENTITY,
            scale: Vec3A::ONE,
            mesh,
            tint: 0x8080,
            colour: [128; 3],
        }
    }

    /// The ray in the mesh's frame, and how many of its lengths a length of the scene is: its direction stays a unit vector.
    #[inline]
    fn localise(&self, ray: &Ray) -> (Ray, f32) {
        let inverse = self.rotation.inverse();
        let origin = (inverse * (ray.origin - self.position)) / self.scale;
        let direction = (inverse * ray.direction) / self.scale;
        let longer = direction.length();
        (Ray { origin, direction: direction / longer, t_max: ray.t_max * longer }, longer)
    }

    fn bounds(&self, local: &Aabb) -> Aabb {
        let centre = (local.min + local.max) * 0.5;
        let half = (local.max - local.min) * 0.5 * self.scale;
        let turn = Mat3A::from_quat(self.rotation);
        let reach = Mat3A::from_cols(turn.x_axis.abs(), turn.y_axis.abs(), turn.z_axis.abs()) * half;
        let middle = self.position + turn * (centre * self.scale);
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
            let (local, longer) = instance.localise(&Ray { t_max: r.tmax, ..*ray });
            match meshes[instance.mesh as usize].nearest(&local) {
                Some((t, triangle)) if t / longer < r.tmax => {
                    best.set(Some((t / longer, triangle, index)));
                    t / longer
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
            if meshes[instance.mesh as usize].blocks(&instance.localise(ray).0) { 0.0 } else { f32::INFINITY }
        })
    }
}
