//! Finding what a ray hits first.

mod instances;
mod mesh;

pub use instances::{Instance, Instances};
pub use mesh::MeshBvh;

use glam::Vec3A;
use rookery_core::nursery::Mesh;

/// The nearest thing along a ray.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Hit {
    /// Distance along the unit direction, metres.
    pub t: f32,
    /// Triangle of the mesh.
    pub triangle: u32,
    /// Instance, or [`Hit::GROUND`].
    pub instance: u32,
}

impl Hit {
    /// In `instance`: the ground itself was hit.
    pub const GROUND: u32 = u32::MAX;
}

/// A ray with the stretch of it that counts.
#[derive(Clone, Copy, Debug)]
pub struct Ray {
    /// Where it starts, metres.
    pub origin: Vec3A,
    /// Unit direction.
    pub direction: Vec3A,
    /// Hits at or beyond this distance do not count, metres.
    pub t_max: f32,
}

impl Ray {
    /// A ray without end.
    pub fn new(origin: Vec3A, direction: Vec3A) -> Self {
        Self { origin, direction, t_max: f32::INFINITY }
    }

    /// Where the ray is after `t` metres.
    pub fn at(&self, t: f32) -> Vec3A {
        self.origin + self.direction * t
    }

    fn inner(&self) -> obvhs::ray::Ray {
        // Adding zero turns -0 into 0. The traversal takes the sign of -0 for two different things and misses.
        obvhs::ray::Ray::new(self.origin, self.direction + Vec3A::ZERO, 0.0, self.t_max)
    }
}

/// Weights of the corners of a triangle at a point of it; they sum to 1.
pub fn weights_at(mesh: &Mesh, triangle: usize, p: Vec3A) -> [f32; 3] {
    let [a, b, c] = [0, 1, 2].map(|i| Vec3A::from(mesh.positions[mesh.indices[triangle * 3 + i] as usize]));
    let n = (b - a).cross(c - a);
    let area_2 = n.length_squared();
    if area_2 <= 0.0 {
        return [1.0, 0.0, 0.0];
    }
    let v = (p - a).cross(c - a).dot(n) / area_2;
    let w = (b - a).cross(p - a).dot(n) / area_2;
    let (v, w) = (v.clamp(0.0, 1.0), w.clamp(0.0, 1.0));
    let u = (1.0 - v - w).max(0.0);
    let sum = u + v + w;
    [u / sum, v / sum, w / sum]
}
