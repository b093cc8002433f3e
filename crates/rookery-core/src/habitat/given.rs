//! What masks look at beside the document: things that must be computed first.

use super::near::Crowns;
use super::source::{Sampled, source};
use crate::document::{Claims, Document, Layer, LayerId, ObstacleId};
use crate::math::mesh_distance::MeshDistance;
use std::sync::Arc;

/// What the masks of a layer need, and what it keeps clear of.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Needs {
    /// What is worked out at the samples of the ground.
    pub sampled: Vec<Sampled>,
    /// Whether they look at the height of the whole ground.
    pub whole_height: bool,
    /// Obstacles.
    pub obstacles: Vec<ObstacleId>,
    /// Layers whose plants they look at.
    pub layers: Vec<LayerId>,
    /// Layers whose plants claim their ground first.
    pub claims: Vec<LayerId>,
}

impl Needs {
    /// What a layer needs. Masks that are off are measured too, so they count.
    pub fn new(document: &Document, layer: &Layer) -> Self {
        Self::with(document, &document.claims(), layer)
    }

    /// As [`Needs::new`], where it is known who yields to whom.
    pub fn with(document: &Document, claims: &Claims, layer: &Layer) -> Self {
        let mut needs = Self::default();
        for mask in &layer.masks {
            source(mask.quantity).needs(mask, document, &mut needs);
        }
        if layer.clearance.obstacles.is_on() {
            needs.obstacles.extend(document.obstacles.iter().map(|o| o.id));
        }
        if layer.clearance.others.is_on() {
            needs.claims.extend(claims.over(layer.id));
        }
        needs.obstacles.sort_unstable();
        needs.obstacles.dedup();
        needs.layers.sort_unstable();
        needs.layers.dedup();
        needs
    }

    /// Adds something that is worked out at the samples, once.
    pub(super) fn sample(&mut self, what: Sampled) {
        if !self.sampled.contains(&what) {
            self.sampled.push(what);
        }
    }

    /// Whether a change of the ground changes the masks only where the ground changed, or next to it.
    pub fn local(&self) -> bool {
        *self == Self::default()
    }
}

/// What was computed for the masks of a layer on one ground. Whatever is not there is unknown: its masks let all through.
#[derive(Clone, Debug, Default)]
pub struct Given {
    /// Values at the samples of the ground.
    pub sampled: Vec<(Sampled, Arc<Vec<f32>>)>,
    /// Obstacles where they stand.
    pub obstacles: Vec<(ObstacleId, Arc<MeshDistance>)>,
    /// Plants of other layers where they stand.
    pub crowns: Vec<(LayerId, Arc<Crowns>)>,
    /// What the plants of layers that come first claim.
    pub claims: Vec<(LayerId, Arc<Crowns>)>,
}

impl Given {
    /// Values at the samples of the ground, where they were worked out.
    pub(super) fn sampled(&self, what: &Sampled) -> Option<Arc<Vec<f32>>> {
        self.sampled.iter().find(|(own, _)| own == what).map(|(_, values)| values.clone())
    }
}
