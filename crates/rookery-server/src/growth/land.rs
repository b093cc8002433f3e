//! The land, and what is read off it.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use crate::reading::Kind;
use rookery_core::ground::{GroundModel, Reading, beyond};
use rookery_core::nursery::{Mesh, Season};
use rookery_core::planting::GrowError;
use rookery_core::scene::{Document, GroundId, GroundSource, Keyed, Motion, content_key};
use rookery_formats::ground_model;
use std::sync::Arc;

/// A ground with the bytes it takes.
fn weighed(model: GroundModel) -> (GroundModel, usize) {
    let bytes = model.terrain.heights_zx().len() * 8;
    (model, bytes)
}

impl Growths {
    /// The land of a scene. A file it names is read from the database when the land is not at hand.
    ///
    /// # Errors
    /// When the file is missing or unreadable.
    pub async fn ground(&self, db: &Db, document: &Keyed) -> Result<Arc<GroundModel>, ApiError> {
        let key = document.land_key();
        if let Some(found) = self.lands.get(&key) {
            return Ok(found);
        }
        let make = async {
            if let Some(model) = self.sculpted(document).await? {
                return Ok(model);
            }
            let file = match &document.ground.source {
                GroundSource::Noise(_) => None,
                GroundSource::Heightmap(h) => self.stored(db, &h.blob, Kind::Heights).await?,
            };
            let document = land_alone(document);
            self.pool.run(move |_| Ok(weighed(ground_model(&document, |_| file)?))).await
        };
        self.lands.get_or_make(key, make).await
    }

    /// The land beyond its edges, to the horizon; none where it ends or is not there.
    ///
    /// # Errors
    /// When the land cannot be made.
    pub async fn beyond(&self, db: &Db, document: &Keyed) -> Result<Option<Arc<Mesh>>, ApiError> {
        if document.ground.absent || document.ground.ends {
            return Ok(None);
        }
        let make = async {
            let model = self.ground(db, document).await?;
            let source = document.ground.source.clone();
            self.pool
                .run(move |_| {
                    let mesh = beyond(&model, &source);
                    let bytes = mesh.positions.len() * 36 + mesh.indices.len() * 4;
                    Ok((mesh, bytes))
                })
                .await
        };
        let key = content_key("beyond", &document.land_key().to_string());
        Ok(Some(self.obstacles.get_or_make(key, make).await?))
    }

    /// The land made from the one before its last stroke, when that is at hand.
    pub(super) async fn sculpted(&self, document: &Keyed) -> Result<Option<(GroundModel, usize)>, ApiError> {
        let Some((before, stroke)) = document.before_last_stroke(GroundId::LAND) else { return Ok(None) };
        let Some(model) = self.lands.get(&document.after(before).land_key()) else { return Ok(None) };
        self.pool.run(move |_| Ok(Some(weighed(model.sculpted(&stroke))))).await
    }

    /// A quantity read off a ground in its own frame, one value per sample or vertex. When the caller goes away, so does the work.
    ///
    /// # Errors
    /// When the ground cannot be made.
    pub async fn reading(
        &self,
        db: &Db,
        document: &Keyed,
        id: GroundId,
        reading: Reading,
    ) -> Result<Arc<Vec<f32>>, ApiError> {
        let own = document.ground_key(id).ok_or(ApiError::NotFound("ground"))?;
        let key = content_key("reading", &(own.to_string(), reading));
        let make = async {
            let ground = self.any(db, document, id).await?;
            self.pool
                .run(move |cancel| {
                    let values = ground.as_ref().reading(reading, cancel).map_err(GrowError::from)?;
                    let bytes = size_of_val(values.as_slice());
                    Ok((values, bytes))
                })
                .await
        };
        self.readings.get_or_make(key, make).await
    }
}

/// As much of a document as its land and obstacles need.
pub(super) fn land_alone(document: &Document) -> Document {
    let Document { schema, edition, epoch, name, ground, waters, .. } = document;
    Document {
        schema: *schema,
        edition: *edition,
        epoch: *epoch,
        name: name.clone(),
        ground: ground.clone(),
        waters: waters.clone(),
        grounds: Vec::new(),
        zones: Vec::new(),
        species: Vec::new(),
        season: Season::SUMMER,
        paints: Vec::new(),
        pictures: Vec::new(),
        earth_pictures: Vec::new(),
        shares: Vec::new(),
        blowers: Vec::new(),
        bodies: Vec::new(),
        outlines: Vec::new(),
        obstacles: Vec::new(),
        layers: Vec::new(),
        yields: Vec::new(),
        cap: None,
        shots: Vec::new(),
        motion: Motion::default(),
    }
}
