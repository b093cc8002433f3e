//! Gradients and volumes: distances to shapes that are only in a mask.

use crate::document::{Document, Near};
use glam::{Vec2, Vec3};

/// A shape whose distance is asked at many points of the scene.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Volume {
    /// Beyond a line across the plan.
    Straight {
        /// A point of the line.
        from: Vec2,
        /// Which way it rises.
        towards: Vec2,
    },
    /// A ball.
    Ball {
        /// Its middle.
        at: Vec3,
        /// Its radius.
        radius: f32,
    },
    /// An upright cylinder without end.
    Cylinder {
        /// Its middle.
        at: Vec2,
        /// Its radius.
        radius: f32,
    },
    /// A box.
    Box {
        /// Its middle.
        at: Vec3,
        /// Half its size.
        half: Vec3,
        /// To its own right, on the plan.
        right: Vec2,
    },
}

impl Volume {
    /// The shape a mask measures to; none for what is in the scene itself.
    pub fn from_near(document: &Document, near: &Near) -> Option<Self> {
        let turned = |deg: f32| libm::sincosf(deg.to_radians());
        Some(match *near {
            Near::Straight { x_m, z_m, bearing_deg } => {
                let (s, c) = turned(bearing_deg);
                Self::Straight { from: Vec2::new(x_m, z_m), towards: Vec2::new(s, -c) }
            }
            Near::Ball { at_m, radius_m } => Self::Ball { at: at_m.into(), radius: radius_m },
            Near::Cylinder { x_m, z_m, radius_m } => {
                Self::Cylinder { at: Vec2::new(x_m, z_m), radius: radius_m }
            }
            Near::Box { at_m, size_m, turn_deg } => {
                let (s, c) = turned(turn_deg);
                Self::Box { at: at_m.into(), half: Vec3::from(size_m) * 0.5, right: Vec2::new(c, s) }
            }
            Near::Camera { id } => {
                let shot = document.shots.iter().find(|s| s.id == id)?;
                Self::Ball { at: shot.eye_m.into(), radius: 0.0 }
            }
            _ => return None,
        })
    }

    /// Distance from a point of the scene, metres, 0 on it or in it.
    pub fn distance(&self, p: Vec3) -> f32 {
        let plan = Vec2::new(p.x, p.z);
        match *self {
            Self::Straight { from, towards } => (plan - from).dot(towards).max(0.0),
            Self::Ball { at, radius } => (p.distance(at) - radius).max(0.0),
            Self::Cylinder { at, radius } => (plan.distance(at) - radius).max(0.0),
            Self::Box { at, half, right } => {
                let to = p - at;
                let flat = Vec2::new(to.x, to.z);
                let own = Vec3::new(flat.dot(right), to.y, right.perp_dot(flat)).abs();
                (own - half).max(Vec3::ZERO).length()
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::scene::kittiwake_head;
    use glam::vec3;

    fn distance(near: Near, p: Vec3) -> f32 {
        Volume::from_near(&kittiwake_head(), &near).unwrap().distance(p)
    }

    #[test]
    fn a_gradient_rises_the_way_it_points() {
        let east = Near::Straight { x_m: 3.0, z_m: 9.0, bearing_deg: 90.0 };
        assert!((distance(east, vec3(10.0, 5.0, -40.0)) - 7.0).abs() < 1e-4);
        assert_eq!(distance(east, vec3(-10.0, 5.0, 0.0)), 0.0);
    }

    #[test]
    fn volumes_are_as_far_as_their_nearest_point() {
        let ball = Near::Ball { at_m: [0.0, 3.0, 4.0], radius_m: 2.0 };
        assert_eq!((distance(ball, Vec3::ZERO), distance(ball, vec3(0.0, 4.0, 4.5))), (3.0, 0.0));
        let column = Near::Cylinder { x_m: 0.0, z_m: 0.0, radius_m: 1.0 };
        assert_eq!(distance(column, vec3(3.0, 900.0, 4.0)), 4.0);
        let beam = Near::Box { at_m: [0.0, 1.0, 0.0], size_m: [10.0, 2.0, 2.0], turn_deg: 90.0 };
        // Turned by a quarter it lies north and south.
        assert!((distance(beam, vec3(4.0, 1.0, 4.0)) - 3.0).abs() < 1e-5);
        assert!(distance(beam, vec3(0.5, 1.5, -4.9)) < 1e-5);
        assert!((distance(beam, vec3(0.0, 6.0, 8.0)) - 5.0).abs() < 1e-5);
    }
}
