//! Grounds beside the land, and the plants of a layer as a ground for others.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use crate::reading::Kind;
use rookery_core::ground::{AnyGround, GroundModel, GroundRef};
use rookery_core::nursery::Mesh;
use rookery_core::planting::host_model;
use rookery_core::scene::{Document, GroundId, Keyed, Layer, PlacedGround, PlacedSource};
use rookery_formats::placed_model;
use std::sync::Arc;

/// A ground of a scene, ready to be grown on.
#[derive(Clone)]
pub enum SharedGround {
    /// The land.
    Land(Arc<GroundModel>),
    /// One beside it.
    Placed(Arc<AnyGround>),
}

impl SharedGround {
    /// The same, borrowed.
    pub fn as_ref(&self) -> GroundRef<'_> {
        match self {
            Self::Land(model) => model.as_ref().into(),
            Self::Placed(model) => AnyGround::as_ref(model),
        }
    }
}

/// A ground with the bytes it takes.
fn weighed(model: AnyGround) -> (AnyGround, usize) {
    let bytes = match &model {
        AnyGround::Terrain(t) => t.terrain.heights_zx().len() * 8,
        AnyGround::Mesh(m) => m.mesh.positions.len() * 36 + m.mesh.indices.len() * 8,
    };
    (model, bytes)
}

impl Growths {
    /// A ground beside the land, in its own frame.
    ///
    /// # Errors
    /// When its file is missing or unreadable, or its mesh has no surface.
    pub async fn placed(
        &self,
        db: &Db,
        document: &Keyed,
        ground: &PlacedGround,
    ) -> Result<Arc<AnyGround>, ApiError> {
        let key = document.ground_key(ground.id).ok_or(ApiError::NotFound("ground"))?;
        let make = async {
            if let Some(model) = self.sculpted_beside(document, ground.id).await? {
                return Ok(model);
            }
            let file = match &ground.source {
                PlacedSource::Mesh(m) => self.stored(db, &m.blob, Kind::Mesh).await?,
                PlacedSource::Heightmap(h) => self.stored(db, &h.blob, Kind::Heights).await?,
                _ => None,
            };
            let (ground, water_m) = (ground.clone(), document.ground.water_m);
            self.pool.run(move |_| Ok(weighed(placed_model(&ground, water_m, |_| file)?))).await
        };
        self.placed.get_or_make(key, make).await
    }

    /// A terrain beside the land made from the one before its last stroke, when that is at hand.
    async fn sculpted_beside(
        &self,
        document: &Keyed,
        id: GroundId,
    ) -> Result<Option<(AnyGround, usize)>, ApiError> {
        let Some((before, stroke)) = document.before_last_stroke(id) else { return Ok(None) };
        let before = document.after(before).ground_key(id).and_then(|key| self.placed.get(&key));
        let Some(before) = before else { return Ok(None) };
        self.pool
            .run(move |_| {
                Ok(match &*before {
                    AnyGround::Terrain(t) => Some(weighed(AnyGround::Terrain(t.sculpted(&stroke)))),
                    AnyGround::Mesh(_) => None,
                })
            })
            .await
    }

    /// A ground of a scene by its id.
    ///
    /// # Errors
    /// As [`Growths::ground`] and [`Growths::placed`].
    pub async fn any(&self, db: &Db, document: &Keyed, id: GroundId) -> Result<SharedGround, ApiError> {
        match document.placed(id) {
            Some(ground) => Ok(SharedGround::Placed(self.placed(db, document, &ground).await?)),
            None => Ok(SharedGround::Land(self.ground(db, document).await?)),
        }
    }

    /// A ground that a layer grows on: one of the scene, or the plants of another layer. None where those are gone.
    ///
    /// # Errors
    /// As [`Growths::any`], and when the other layer cannot grow or has too many plants.
    pub async fn ground_of(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
    ) -> Result<Option<SharedGround>, ApiError> {
        if id != GroundId::PLANTS {
            return self.any(db, document, id).await.map(Some);
        }
        let Some(host) = layer.on_plants.and_then(|id| document.layer(id)) else { return Ok(None) };
        let Some(key) = document.ground_key_of(layer, id) else { return Ok(None) };
        // One layer grows on another, that on a third: documents hold no cycles, so this ends.
        let grown = Box::pin(self.plants_next(db, document, host)).await?;
        if grown.plants.is_empty() {
            return Ok(None);
        }
        let make = async {
            let (document, host) = (self.with_species(db, Document::clone(document)).await?, host.clone());
            self.pool
                .run(move |_| {
                    let model = host_model(&document, &host, &grown.plants)?;
                    let model = model.ok_or(ApiError::NotFound("surface of the plants it grows on"))?;
                    // Each plant also has a table and a tree of its own triangles.
                    let bytes = model.mesh.positions.len() * 36 + model.mesh.indices.len() * 32;
                    Ok((AnyGround::Mesh(model), bytes))
                })
                .await
        };
        Ok(Some(SharedGround::Placed(self.placed.get_or_make(key, make).await?)))
    }

    /// The grounds of a scene that are not hidden, where they stand.
    ///
    /// # Errors
    /// When one of them cannot be made.
    pub async fn lying(&self, db: &Db, document: &Keyed) -> Result<Vec<(GroundId, Mesh)>, ApiError> {
        let mut out = Vec::new();
        for id in document.ground_ids() {
            if document.placed(id).is_some_and(|g| g.hidden) {
                continue;
            }
            let ground = self.any(db, document, id).await?;
            out.push((id, ground.as_ref().mesh(&document.frame(id))));
        }
        Ok(out)
    }
}
