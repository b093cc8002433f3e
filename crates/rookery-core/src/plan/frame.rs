//! Where a ground stands in the scene.

use super::PlanBox;
use crate::document::{Document, GroundId, PlacedGround};
use crate::math::bearing::bearing_deg;
use glam::{Quat, Vec2, Vec3};

/// From a ground's own metres to the scene's: a turn about the vertical, then a shift.
///
/// A ground's scale is part of its surface, not of its frame, so that amounts and clearances on it are in true metres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Frame {
    /// Where the ground's origin lies, metres.
    pub origin_m: Vec3,
    /// The turn about the vertical.
    pub turn: Quat,
}

impl Frame {
    /// The land's: the scene itself.
    pub const SCENE: Self = Self { origin_m: Vec3::ZERO, turn: Quat::IDENTITY };

    /// Where a placed ground stands.
    pub fn new(ground: &PlacedGround) -> Self {
        let PlacedGround { x_m, y_m, z_m, turn_deg, .. } = *ground;
        // Clockwise seen from above is against the sense of a turn about Y.
        Self { origin_m: Vec3::new(x_m, y_m, z_m), turn: Quat::from_rotation_y(-turn_deg.to_radians()) }
    }

    /// A point of the ground as the scene sees it.
    #[inline]
    pub fn point(&self, local: Vec3) -> Vec3 {
        self.origin_m + self.turn * local
    }

    /// A point of the scene as the ground sees it.
    #[inline]
    pub fn local(&self, point: Vec3) -> Vec3 {
        self.turn.inverse() * (point - self.origin_m)
    }

    /// A direction of the ground as the scene sees it.
    #[inline]
    pub fn direction(&self, local: Vec3) -> Vec3 {
        self.turn * local
    }

    /// A point of the ground's plan on the plan of the scene.
    #[inline]
    pub fn plan(&self, local: Vec2) -> Vec2 {
        let p = self.point(Vec3::new(local.x, 0.0, local.y));
        Vec2::new(p.x, p.z)
    }

    /// The box on the plan of the scene around one on the ground's.
    pub fn box_on_plan(&self, local: &PlanBox) -> PlanBox {
        let corners = [
            local.low,
            local.high,
            Vec2::new(local.low.x, local.high.y),
            Vec2::new(local.high.x, local.low.y),
        ];
        let corners = corners.map(|c| self.plan(c));
        let low = corners.into_iter().fold(Vec2::INFINITY, Vec2::min);
        PlanBox { low, high: corners.into_iter().fold(Vec2::NEG_INFINITY, Vec2::max) }
    }

    /// A bearing from the ground's own north, from north: degrees clockwise, 0 to 360.
    pub fn bearing_deg(&self, local_deg: f32) -> f32 {
        let north = self.turn * Vec3::NEG_Z;
        (local_deg + bearing_deg(north.x, -north.z)).rem_euclid(360.0)
    }
}

impl Document {
    /// Where a ground stands; the land's frame for one that is not there.
    pub fn frame(&self, id: GroundId) -> Frame {
        self.placed(id).map_or(Frame::SCENE, |g| Frame::new(&g))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{ArchGround, Earths, PlacedSource, Upright};

    #[test]
    fn a_quarter_turn_takes_north_to_east_and_comes_back() {
        let frame = Frame::new(&PlacedGround {
            id: GroundId(1),
            name: "Arch".into(),
            source: PlacedSource::Arch(ArchGround::default()),
            x_m: 10.0,
            y_m: 2.0,
            z_m: -5.0,
            turn_deg: 90.0,
            scale: 3.0,
            upright: Upright::Gravity,
            earths: Earths::default(),
            strokes: Vec::new(),
            hidden: false,
            moves: None,
        });
        let north = Vec3::new(0.0, 1.0, -4.0);
        assert!(frame.point(north).distance(Vec3::new(14.0, 3.0, -5.0)) < 1e-5);
        assert!(frame.local(frame.point(north)).distance(north) < 1e-5);
    }
}
