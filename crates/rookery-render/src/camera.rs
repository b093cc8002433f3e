//! The camera of a shot.

use crate::accel::Ray;
use glam::{Vec2, Vec3A};
use rookery_core::scene::Shot;

/// A pinhole camera, upright.
#[derive(Clone, Copy, Debug)]
pub struct Camera {
    eye: Vec3A,
    forward: Vec3A,
    /// To the right edge of the picture at a distance of one.
    right: Vec3A,
    /// To the upper edge of the picture at a distance of one.
    up: Vec3A,
}

impl Camera {
    /// The camera of a shot for a picture of this shape.
    pub fn new(shot: &Shot, width_px: u32, height_px: u32) -> Self {
        let eye = Vec3A::from(shot.eye_m);
        let forward = (Vec3A::from(shot.target_m) - eye).normalize();
        let north = if forward.y.abs() > 0.9999 { Vec3A::NEG_Z } else { Vec3A::Y };
        let right = forward.cross(north).normalize();
        let half = libm::tanf(shot.view_deg.to_radians() * 0.5);
        let up = right.cross(forward) * half;
        Self { eye, forward, right: right * (half * width_px as f32 / height_px as f32), up }
    }

    /// The ray through a point of the picture; 0, 0 is the upper left corner, 1, 1 the lower right.
    pub fn ray(&self, at: Vec2) -> Ray {
        let direction = self.forward + self.right * (2.0 * at.x - 1.0) + self.up * (1.0 - 2.0 * at.y);
        Ray::new(self.eye, direction.normalize())
    }
}
