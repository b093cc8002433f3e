//! Computing what masks and clearance look at beside the document.

use super::clearance::claimed;
use super::{Growth, Plant};
use crate::air::Flow;
use crate::cancel::{CancelToken, Cancelled};
use crate::document::{Document, GroundId, Layer, Obstacle, WindFrom};
use crate::ground::{GroundRef, Terrain};
use crate::habitat::{Beside, Crowns, Given, Needs, Sampled};
use crate::math::mesh_distance::MeshDistance;
use crate::nursery::Mesh;
use std::sync::Arc;

/// The mean wind over a scene by where it comes from; none where it is not known.
pub type Blowing<'a> = dyn Fn(WindFrom) -> Result<Option<Flow>, Cancelled> + 'a;

impl Given {
    /// Computes all of it. `obstacle` gives the mesh of an obstacle where it stands, `plants` what grows in a layer; `land` is the
    /// land of the scene, if there is any, and `flow` the mean wind from a side over all of it.
    ///
    /// # Errors
    /// Those of `plants`, and when the work is stopped.
    pub fn compute<E: From<Cancelled>>(
        document: &Document,
        layer: &Layer,
        (id, ground): (GroundId, &GroundRef<'_>),
        (land, flow): (Option<&Terrain>, &Blowing<'_>),
        obstacle: impl Fn(&Obstacle) -> Option<Mesh>,
        plants: impl Fn(&Layer) -> Result<Arc<Growth>, E>,
        cancel: &CancelToken,
    ) -> Result<Self, E> {
        let needs = Needs::new(document, layer);
        let mut given = Self::default();
        for what in &needs.sampled {
            let flow = if let Sampled::Wind(wind) = what { flow(*wind)? } else { None };
            let beside = Beside { land, flow: flow.as_ref() };
            if let Some(values) = what.compute(document, id, ground, beside, cancel)? {
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
}

/// The crowns of a layer's plants.
pub fn crowns(document: &Document, layer: &Layer, plants: &[Plant]) -> Crowns {
    let radii: Vec<f32> =
        layer.mix.iter().map(|m| document.species(&m.species).map_or(0.0, |s| s.radius_m())).collect();
    let radius = |p: &Plant| radii.get(usize::from(p.species)).copied().unwrap_or(0.0);
    Crowns::new(plants.iter().map(|p| (p.position_m, p.size * p.stretch[1].max(1.0) * radius(p))).collect())
}
