//! Growing on a ground of either kind.

use super::{GrowError, Growth, Rules, Verdict, grow_with, probe, regrow, regrow_curves};
use crate::cancel::CancelToken;
use crate::document::Layer;
use crate::ground::{GroundRef, KeptEven};
use crate::plan::PlanBoxes;
use glam::Vec3;

impl GroundRef<'_> {
    /// Grows a layer on it, see [`grow_with`]. Even places of another kind of ground are replaced.
    ///
    /// # Errors
    /// [`GrowError`].
    pub fn grow(
        &self,
        layer: &Layer,
        rules: &Rules,
        even: &mut KeptEven,
        cancel: &CancelToken,
    ) -> Result<Growth, GrowError> {
        match (self, &mut *even) {
            (Self::Terrain(t), KeptEven::Terrain(kept)) => grow_with(*t, layer, rules, kept, cancel),
            (Self::Mesh(m), KeptEven::Mesh(kept)) => grow_with(*m, layer, rules, kept, cancel),
            _ => {
                *even = self.no_even_places(layer.seed);
                self.grow(layer, rules, even, cancel)
            }
        }
    }

    /// Grows a layer again after something changed within parts of the scene's plan, see [`regrow`].
    ///
    /// # Errors
    /// [`GrowError`].
    pub fn regrow(
        &self,
        layer: &Layer,
        rules: &Rules,
        even: &mut KeptEven,
        before: &Growth,
        changed: &PlanBoxes,
        cancel: &CancelToken,
    ) -> Result<Growth, GrowError> {
        match (self, &mut *even) {
            (Self::Terrain(t), KeptEven::Terrain(kept)) => {
                regrow(*t, layer, rules, kept, before, changed, cancel)
            }
            (Self::Mesh(m), KeptEven::Mesh(kept)) => regrow(*m, layer, rules, kept, before, changed, cancel),
            _ => self.grow(layer, rules, even, cancel),
        }
    }

    /// Grows a layer again after curves of its masks were drawn anew, see [`regrow_curves`].
    ///
    /// # Errors
    /// [`GrowError`].
    pub fn regrow_curves(
        &self,
        layer: &Layer,
        rules: &Rules,
        even: &mut KeptEven,
        before: (&Growth, &Rules),
        cancel: &CancelToken,
    ) -> Result<Growth, GrowError> {
        match (self, &mut *even) {
            (Self::Terrain(t), KeptEven::Terrain(kept)) => {
                regrow_curves(*t, layer, rules, kept, before, cancel)
            }
            (Self::Mesh(m), KeptEven::Mesh(kept)) => regrow_curves(*m, layer, rules, kept, before, cancel),
            _ => self.grow(layer, rules, even, cancel),
        }
    }

    /// Why a layer grows at a point or does not. The point is in the ground's own frame; on a terrain its height does not
    /// matter. None beside the ground: off a terrain's plan, or more than `reach_m` from a mesh.
    pub fn probe(&self, rules: &Rules, point: Vec3, reach_m: f32) -> Option<Verdict> {
        match self {
            Self::Terrain(t) => {
                let on = t.terrain.contains(point.x, point.z);
                on.then(|| probe(*t, rules, &t.spot_at(point.x, point.z)))
            }
            Self::Mesh(m) => {
                let (spot, away) = m.nearest(point);
                (away <= reach_m).then(|| probe(*m, rules, &spot))
            }
        }
    }
}
