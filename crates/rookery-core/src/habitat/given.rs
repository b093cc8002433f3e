//! What masks look at beside the document: things that must be computed first.

use super::near::Crowns;
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::{GroundRef, Reading, SunPath, Terrain};
use crate::math::distance_transform::distance_transform;
use crate::math::mesh_distance::MeshDistance;
use crate::nursery::Mesh;
use crate::planting::clearance::claimed;
use crate::planting::{Growth, Plant};
use crate::scene::{
    Claims, Document, GroundId, Layer, LayerId, Mask, Near, Obstacle, ObstacleId, Quantity, SunDay,
};
use std::sync::Arc;

/// What the masks of a layer need, and what it keeps clear of.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Needs {
    /// Readings of the ground.
    pub readings: Vec<Reading>,
    /// Days whose hours of sun they look at.
    pub suns: Vec<SunDay>,
    /// Whether they look at the height of the whole ground.
    pub whole_height: bool,
    /// Whether they look at the distance to water.
    pub water: bool,
    /// Obstacles.
    pub obstacles: Vec<ObstacleId>,
    /// Layers whose plants they look at.
    pub layers: Vec<LayerId>,
    /// Layers whose plants claim their ground first.
    pub claims: Vec<LayerId>,
}

/// The reading a quantity is, where it is one that must be worked out.
pub fn reading_of(quantity: Quantity) -> Option<Reading> {
    match quantity {
        Quantity::ProfileCurvature => Some(Reading::ProfileCurvature),
        Quantity::PlanCurvature => Some(Reading::PlanCurvature),
        Quantity::Wetness => Some(Reading::Wetness),
        Quantity::Openness => Some(Reading::Openness),
        _ => None,
    }
}

impl Needs {
    /// What a layer needs. Masks that are off are measured too, so they count.
    pub fn of(document: &Document, layer: &Layer) -> Self {
        Self::with(document, &document.claims(), layer)
    }

    /// As [`Needs::of`], where it is known who yields to whom.
    pub fn with(document: &Document, claims: &Claims, layer: &Layer) -> Self {
        let mut needs = Self::default();
        for mask in &layer.masks {
            needs.readings.extend(reading_of(mask.quantity));
            needs.whole_height |= mask.quantity == Quantity::HeightShare;
            if let Some(day) = mask.sun.filter(|day| !needs.suns.contains(day)) {
                needs.suns.push(day);
            }
            match mask.near {
                Some(Near::Water) => needs.water = true,
                Some(Near::Obstacle { id }) => needs.obstacles.push(id),
                Some(Near::Obstacles) => needs.obstacles.extend(document.obstacles.iter().map(|o| o.id)),
                Some(Near::Layer { id }) => needs.layers.push(id),
                _ => {}
            }
        }
        if layer.clearance.obstacles.is_on() {
            needs.obstacles.extend(document.obstacles.iter().map(|o| o.id));
        }
        if layer.clearance.others.is_on() {
            needs.claims.extend(claims.over(layer.id));
        }
        needs.readings.sort_unstable();
        needs.readings.dedup();
        needs.obstacles.sort_unstable();
        needs.obstacles.dedup();
        needs.layers.sort_unstable();
        needs.layers.dedup();
        needs
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
    pub readings: Vec<(Reading, Arc<Vec<f32>>)>,
    /// Hours of sun at the samples of the ground.
    pub suns: Vec<(SunDay, Arc<Vec<f32>>)>,
    /// Distance to water at the samples of the ground, metres.
    pub water: Option<Arc<Vec<f32>>>,
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
        let needs = Needs::of(document, layer);
        let mut given = Self::default();
        for reading in &needs.readings {
            if let Some(values) = ground.reading(*reading, cancel)? {
                given.readings.push((*reading, Arc::new(values)));
            }
        }
        for day in &needs.suns {
            let hours = ground.sun_hours(&SunPath::new(day, &document.frame(id)), cancel)?;
            given.suns.push((*day, Arc::new(hours)));
        }
        if let GroundRef::Terrain(t) = ground {
            given.water = needs.water.then(|| Arc::new(water_distance_m(document, &t.terrain)));
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

    /// Values at the samples of the ground for a mask that needs some.
    pub(super) fn samples(&self, mask: &Mask) -> Option<Arc<Vec<f32>>> {
        if mask.near == Some(Near::Water) {
            return self.water.clone();
        }
        if let Some(day) = mask.sun {
            return self.suns.iter().find(|(d, _)| *d == day).map(|(_, values)| values.clone());
        }
        let wanted = reading_of(mask.quantity)?;
        self.readings.iter().find(|(r, _)| *r == wanted).map(|(_, values)| values.clone())
    }
}

/// The crowns of a layer's plants.
pub fn crowns(document: &Document, layer: &Layer, plants: &[Plant]) -> Crowns {
    let radii: Vec<f32> =
        layer.mix.iter().map(|m| document.species(&m.species).map_or(0.0, |s| s.radius_m())).collect();
    let radius = |p: &Plant| radii.get(usize::from(p.species)).copied().unwrap_or(0.0);
    Crowns::new(plants.iter().map(|p| (p.position_m, p.size * p.stretch[1].max(1.0) * radius(p))).collect())
}

/// Distance on the plan to water that lies on the land, at every sample, metres; infinite where there is none.
pub fn water_distance_m(document: &Document, terrain: &Terrain) -> Vec<f32> {
    let everywhere = document.ground.water_m;
    let under = |i: usize| {
        let p = terrain.vertex(i % terrain.nx(), i / terrain.nx());
        everywhere.is_some_and(|level| p.y < level)
            || document.waters.iter().any(|w| p.y < w.height_m && w.covers(p.x, p.z))
    };
    let marked: Vec<bool> = (0..terrain.nx() * terrain.nz()).map(under).collect();
    distance_transform(&marked, terrain.nx(), terrain.cell_m())
}
