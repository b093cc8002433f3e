//! First step: the places of the pattern.

use super::Work;
use crate::cancel::Cancelled;
use crate::document::{Layer, Pattern};
use crate::ground::{Quota, Surface};
use crate::pattern::{Layout, MAX_CANDIDATES};
use crate::planting::GrowError;
use crate::planting::Rules;
use glam::{Vec2, Vec3};
use std::sync::Arc;

impl<S: Surface> Work<'_, S> {
    /// All places of a layout up to a share of them, with how many there are in all. Where there is no density all of them are wanted.
    pub(super) fn laid_out(
        &self,
        layout: &Layout<'_>,
        per_m2: Option<f64>,
    ) -> Result<(Vec<S::Place>, u64), GrowError> {
        let limit = MAX_CANDIDATES;
        let expected = layout.expected(self.ground.area_m2());
        if expected > limit {
            return Err(GrowError::TooMany { candidates: expected, limit });
        }
        Ok(self.ground.laid_places(self.layer.seed, layout, per_m2))
    }

    /// So many places of the pattern; those of before where they are as many.
    pub(super) fn places(&self, even: &mut S::Even, quota: Quota) -> Result<Arc<Vec<S::Place>>, Cancelled> {
        // As many as before are the same ones.
        if let Some(known) =
            self.before.as_ref().and_then(|b| b.places.clone()?.downcast::<Vec<S::Place>>().ok())
            && known.len() == quota.count
        {
            return Ok(known);
        }
        let candidates = match self.layer.pattern {
            Pattern::Random => self.ground.random_places(self.layer.seed, quota),
            Pattern::Clumped => self.ground.clumped_places(self.layer.seed, &self.layer.clumps, quota),
            Pattern::Even => self.ground.even_places(even, quota, self.cancel)?,
            Pattern::Rows | Pattern::Along | Pattern::Vertices | Pattern::Faces => Vec::new(),
        };
        Ok(Arc::new(candidates))
    }
}

/// The layout of a layer's pattern; none for patterns that fill any ground.
pub(super) fn laid_out<'a>(layer: &'a Layer, rules: &'a Rules) -> Option<Layout<'a>> {
    let rows = &layer.rows;
    match layer.pattern {
        Pattern::Random | Pattern::Even | Pattern::Clumped => None,
        Pattern::Rows => {
            let (s, c) = libm::sincosf(rows.turn_deg.to_radians());
            let own = rules.frame().turn.inverse() * Vec3::new(s, 0.0, -c);
            Some(Layout::Rows { rows, towards: Vec2::new(own.x, own.z).normalize_or(Vec2::Y) })
        }
        Pattern::Along => Some(Layout::Along { rows, line: rules.line(), frame: rules.frame() }),
        Pattern::Vertices => Some(Layout::Vertices),
        Pattern::Faces => Some(Layout::Faces),
    }
}
