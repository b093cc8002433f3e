//! What a shot has in its picture.

use crate::document::Shot;
use glam::{Mat3, Vec3};

/// The picture of a shot, asked at points.
#[derive(Clone, Copy, Debug)]
pub struct ViewField {
    eye: Vec3,
    /// From the scene to the camera: x to its right, y up, z ahead.
    turn: Mat3,
    /// Half the angles of the picture, to the side and up, radians.
    half: [f32; 2],
}

impl ViewField {
    /// The picture of a shot.
    pub fn new(shot: &Shot) -> Self {
        let eye = Vec3::from(shot.eye_m);
        let ahead = (Vec3::from(shot.target_m) - eye).normalize_or(Vec3::NEG_Z);
        let right = ahead.cross(Vec3::Y).try_normalize().unwrap_or(Vec3::X);
        let tall = libm::tanf(shot.view_deg.to_radians() * 0.5);
        let wide = tall * shot.width_px as f32 / shot.height_px as f32;
        let turn = Mat3::from_cols(right, right.cross(ahead), ahead).transpose();
        Self { eye, turn, half: [libm::atanf(wide), libm::atanf(tall)] }
    }

    /// How far a point lies beside the picture, degrees: 0 in it, by the larger of the angles to the side and up.
    pub fn beside_deg(&self, p: Vec3) -> f32 {
        let seen = self.turn * (p - self.eye);
        let side = libm::atan2f(seen.x.abs(), seen.z) - self.half[0];
        // Behind the camera what matters is how far to the side.
        let up = libm::atan2f(seen.y.abs(), seen.z.abs()) - self.half[1];
        side.max(up).max(0.0).to_degrees()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::scene::kittiwake_head;
    use glam::vec3;

    #[test]
    fn what_is_in_the_picture_is_at_zero_and_what_is_behind_is_far() {
        let shot = Shot {
            eye_m: [0.0, 2.0, 0.0],
            target_m: [0.0, 2.0, -10.0],
            view_deg: 40.0,
            width_px: 200,
            height_px: 100,
            ..kittiwake_head().shots[0].clone()
        };
        let view = ViewField::new(&shot);
        assert_eq!(view.beside_deg(vec3(0.0, 2.0, -50.0)), 0.0);
        // Twice as wide as tall: half the width is atan(2 tan 20 degrees), 36.05 degrees.
        let at = |deg: f32| vec3(deg.to_radians().sin() * 30.0, 2.0, -deg.to_radians().cos() * 30.0);
        assert_eq!(view.beside_deg(at(36.0)), 0.0);
        assert!((view.beside_deg(at(46.05)) - 10.0).abs() < 0.1);
        assert!((view.beside_deg(vec3(0.0, 2.0, 9.0)) - (180.0 - 36.05)).abs() < 0.1);
        assert!((view.beside_deg(vec3(0.0, 12.0, -10.0)) - 25.0).abs() < 0.1);
    }
}
