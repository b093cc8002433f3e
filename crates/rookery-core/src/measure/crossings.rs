//! Plants that stand in plants of layers they keep clear of, measured by themselves: every pair that is near on the plan.

use super::findings::{Finding, gathered};
use crate::document::{Document, Layer, LayerId};
use crate::math::plan_grid::PlanGrid;
use crate::planting::Plant;
use crate::planting::clearance::foot_m;
use glam::Vec2;
use rayon::prelude::*;
use serde::Serialize;

/// Less is lost in rounding and in how far slopes tilt what is sunk, metres.
const SLIGHT_M: f32 = 0.01;

/// Plants that meet those of another layer.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Crossing {
    /// The other layer, which claims its ground first.
    pub layer: LayerId,
    /// Those whose footprint meets one of it by more than 1 cm; the worst in metres.
    pub found: Finding,
}

/// Measures all plants of a layer against those of others, by footprint and distance in space.
pub fn crossings(
    document: &Document,
    layer: &Layer,
    plants: &[Plant],
    others: &[(&Layer, &[Plant])],
) -> Vec<Crossing> {
    let prints = |l: &Layer| -> Vec<f32> {
        l.mix.iter().map(|m| document.species(&m.species).map_or(0.0, |s| s.footprint_m())).collect()
    };
    let reach = |prints: &[f32], p: &Plant| {
        prints.get(usize::from(p.species)).copied().unwrap_or(0.0) * p.size * p.stretch[1].max(1.0)
    };
    let own = prints(layer);
    let all: Vec<usize> = (0..plants.len()).collect();
    others
        .iter()
        .map(|(other, theirs)| {
            let prints = prints(other);
            let feet: Vec<_> = theirs.iter().map(|p| foot_m(document, other, p)).collect();
            let plan: Vec<Vec2> = feet.iter().map(|p| Vec2::new(p.x, p.z)).collect();
            let grid = PlanGrid::new(&plan[..]);
            let widest = theirs.iter().map(|p| reach(&prints, p)).fold(0.0, f32::max);
            let meets: Vec<f32> = plants
                .par_iter()
                .map(|p| {
                    let (foot, room) = (foot_m(document, layer, p), reach(&own, p));
                    let at = Vec2::new(foot.x, foot.z);
                    let mut most = 0.0_f32;
                    grid.within(at - (room + widest), at + (room + widest), |j| {
                        let j = j as usize;
                        most = most.max(room + reach(&prints, &theirs[j]) - foot.distance(feet[j]));
                    });
                    most
                })
                .collect();
            let found = gathered(plants, &all, 0.0, |k| (meets[k] > SLIGHT_M).then_some(meets[k]));
            Crossing { layer: other.id, found }
        })
        .collect()
}
