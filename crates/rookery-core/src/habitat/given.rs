//! What masks look at beside the document: things that must be computed first.

use super::near::Crowns;
use super::source::{Sampled, source};
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::GroundRef;
use crate::math::mesh_distance::MeshDistance;
use crate::nursery::Mesh;
use crate::planting::clearance::claimed;
use crate::planting::{Growth, Plant};
use crate::scene::{Claims, Document, GroundId, Layer, LayerId, Obstacle, ObstacleId};
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
    /// Computes all of it. `obstacle` gives the mesh of an obstacle where it stands, `plants` what grows in a layer.
    ///
    /// # Errors
    /// Those of `plants`, and when the work is stopped.
    pub fn compute<E: From<Cancelled>>(
        document: &Document,
        layer: &Layer,
        (id, ground): (GroundId, &GroundRef<'_>),
        obstacle: impl Fn(&Obstacle) -> Option<Mesh>,
        plants: impl Fn(&Layer) -> Result<Arc<Growth>, E>,
        cancel: &CancelToken,
    ) -> Result<Self, E> {
        let needs = Needs::new(document, layer);
        let mut given = Self::default();
        for what in &needs.sampled {
            if let Some(values) = what.compute(document, id, ground, cancel)? {
                given.sampled.push((*what, Arc::new(values)));
            }
        }
        for o in document.obstacles.iter().filter(|o| needs.obstacles.contains(&o.id)) {
            if let Some(mesh) = obstacle(o) {
                given.obstacles.push((o.id, Arc::new(MeshDistance::new(&mesh.positions, &mesh.indices))));
            }
        }
        for other in &document.layers {
            let (looked_at, claims) = (needs.layers.contains(&other.id), needs.claims.contains(&other.id));
            if looked_at || claims {
                let grown = plants(other)?;
                let plants = &grown.plants;
                if looked_at {
                    given.crowns.push((other.id, Arc::new(crowns(document, other, plants))));
                }
                if claims {
                    given.claims.push((other.id, Arc::new(claimed(document, other, plants))));
                }
            }
        }
        Ok(given)
    }

    /// Values at the samples of the ground, where they were worked out.
    pub(super) fn sampled(&self, what: &Sampled) -> Option<Arc<Vec<f32>>> {
        self.sampled.iter().find(|(own, _)| own == what).map(|(_, values)| values.clone())
    }
}

/// The crowns of a layer's plants.
pub fn crowns(document: &Document, layer: &Layer, plants: &[Plant]) -> Crowns {
    let radii: Vec<f32> =
        layer.mix.iter().map(|m| document.species(&m.species).map_or(0.0, |s| s.radius_m())).collect();
    let radius = |p: &Plant| radii.get(usize::from(p.species)).copied().unwrap_or(0.0);
    Crowns::new(plants.iter().map(|p| (p.position_m, p.size * p.stretch[1].max(1.0) * radius(p))).collect())
}
