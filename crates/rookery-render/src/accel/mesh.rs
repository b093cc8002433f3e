//! The lower level: one mesh.

use super::{Ray, weights_at};
use glam::Vec3A;
use obvhs::{
    BvhBuildParams, aabb::Aabb, cwbvh::CwBvh, cwbvh::builder::build_cwbvh_from_tris, ray::RayHit,
    rt_triangle::RtTriangle, triangle::Triangle,
};
use rookery_core::nursery::Mesh;
use std::time::Duration;

/// A mesh with its acceleration structure. Triangles keep the numbers they have in the mesh.
pub struct MeshBvh {
    bvh: CwBvh,
    /// In the order of the structure's leaves.
    triangles: Vec<RtTriangle>,
    /// The mesh again, where its pictures have holes that rays go through.
    holes: Option<Mesh>,
}

impl MeshBvh {
    /// Builds over a mesh with at least one triangle.
    ///
    /// # Panics
    /// When the mesh has no triangle.
    pub fn new(mesh: &Mesh) -> Self {
        Self::with(mesh, BvhBuildParams::medium_build())
    }

    /// The same in less time, for a mesh that few rays meet.
    ///
    /// # Panics
    /// When the mesh has no triangle.
    pub fn quick(mesh: &Mesh) -> Self {
        Self::with(mesh, BvhBuildParams::fast_build())
    }

    fn with(mesh: &Mesh, params: BvhBuildParams) -> Self {
        assert!(!mesh.indices.is_empty(), "a mesh needs a triangle to be hit");
        let corner = |i: u32| Vec3A::from(mesh.positions[i as usize]);
        let triangles: Vec<Triangle> = mesh
            .indices
            .chunks_exact(3)
            .map(|t| Triangle { v0: corner(t[0]), v1: corner(t[1]), v2: corner(t[2]) })
            .collect();
        let params = BvhBuildParams { pre_split: false, ..params };
        let bvh = build_cwbvh_from_tris(&triangles, params, &mut Duration::default());
        let triangles =
            bvh.primitive_indices.iter().map(|&i| RtTriangle::from(&triangles[i as usize])).collect();
        Self { bvh, triangles, holes: mesh.holes().then(|| mesh.clone()) }
    }

    /// The box around the mesh in its own frame.
    pub fn bounds(&self) -> Aabb {
        self.bvh.total_aabb
    }

    /// Distance at which a ray meets a triangle, by its place among the leaves; infinite where it goes by or through a hole.
    #[inline]
    fn meets(&self, ray: &obvhs::ray::Ray, leaf: usize) -> f32 {
        let t = self.triangles[leaf].intersect(ray);
        match &self.holes {
            Some(mesh) if t < ray.tmax => {
                let triangle = self.bvh.primitive_indices[leaf] as usize;
                let weights = weights_at(mesh, triangle, ray.origin + ray.direction * t);
                if mesh.colour_at(triangle, weights).1 < 0.5 { f32::INFINITY } else { t }
            }
            _ => t,
        }
    }

    /// Distance and triangle of the nearest hit nearer than the ray's end.
    pub fn nearest(&self, ray: &Ray) -> Option<(f32, u32)> {
        let mut hit = RayHit::none();
        let found = self.bvh.ray_traverse(ray.inner(), &mut hit, |r, i| self.meets(r, i));
        found.then(|| (hit.t, self.bvh.primitive_indices[hit.primitive_id as usize]))
    }

    /// Whether anything lies on the ray before its end.
    pub fn blocks(&self, ray: &Ray) -> bool {
        !self.bvh.ray_traverse_miss(ray.inner(), |r, i| self.meets(r, i))
    }
}
