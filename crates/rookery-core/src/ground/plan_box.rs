//! A box of the plan.

use glam::Vec2;

/// Part of the plan between two corners, metres: where something changed.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PlanBox {
    /// Smallest x and z.
    pub low: Vec2,
    /// Largest x and z.
    pub high: Vec2,
}

impl PlanBox {
    /// Whether a point lies in it, edges included.
    #[inline]
    pub fn contains(&self, x: f32, z: f32) -> bool {
        x >= self.low.x && x <= self.high.x && z >= self.low.y && z <= self.high.y
    }
}
