//! Derived data: grounds and plants, computed when asked for and kept while there is room.
//!
//! Everything is named by the hash of what it depends on, so nothing here is ever out of date, and losing it all
//! loses nothing.

mod slots;
mod work;

pub use work::{Pool, pool};

use crate::db::{Db, blobs};
use crate::error::ApiError;
use rookery_core::ground::{GroundModel, Reading};
use rookery_core::nursery::Mesh;
use rookery_core::planting::pattern::EvenPattern;
use rookery_core::planting::{GrowError, Growth, grow_with};
use rookery_core::scene::{
    BlobId, Document, Ground, GroundSource, Layer, Obstacle, Pattern, Shape, content_key, ground_key,
    layer_key, obstacle_key,
};
use rookery_formats::{ground_model, obstacle_mesh};
use slots::Slots;
use std::sync::{Arc, Mutex};

const GROUND_BYTES: usize = 512 << 20;
const PLANT_BYTES: usize = 1 << 30;
const READING_BYTES: usize = 256 << 20;
const OBSTACLE_BYTES: usize = 256 << 20;
/// Even patterns kept between edits of the same layer; each is 24 bytes a place.
const EVEN_PATTERNS: usize = 6;

type EvenKey = (u32, [u32; 2]);

/// The cache and the threads that fill it.
pub struct Growths {
    pool: Pool,
    grounds: Slots<GroundModel>,
    plants: Slots<Growth>,
    readings: Slots<Vec<f32>>,
    obstacles: Slots<Mesh>,
    /// Last used at the end.
    evens: Mutex<Vec<(EvenKey, Arc<tokio::sync::Mutex<EvenPattern>>)>>,
}

impl Default for Growths {
    fn default() -> Self {
        Self {
            pool: pool("growth"),
            grounds: Slots::new(GROUND_BYTES),
            plants: Slots::new(PLANT_BYTES),
            readings: Slots::new(READING_BYTES),
            obstacles: Slots::new(OBSTACLE_BYTES),
            evens: Mutex::default(),
        }
    }
}

/// A stored file; none when it is not there.
async fn stored(db: &Db, blob: &BlobId) -> Result<Option<Vec<u8>>, ApiError> {
    match blobs::fetch(&mut db.get().await?, blob).await {
        Ok((_, bytes)) => Ok(Some(bytes)),
        Err(ApiError::NotFound(_)) => Ok(None),
        Err(e) => Err(e),
    }
}

/// A ground with the bytes it takes.
fn weighed(model: GroundModel) -> (GroundModel, usize) {
    let bytes = model.terrain.heights_zx().len() * 8;
    (model, bytes)
}

impl Growths {
    /// The threads, for other work of the same kind.
    pub fn pool(&self) -> &Pool {
        &self.pool
    }

    /// The ground of a scene. A file it names is read from the database when the ground is not at hand.
    ///
    /// # Errors
    /// When the file is missing or unreadable.
    pub async fn ground(&self, db: &Db, ground: &Ground) -> Result<Arc<GroundModel>, ApiError> {
        let key = ground_key(ground);
        if let Some(found) = self.grounds.get(&key) {
            return Ok(found);
        }
        let make = async {
            if let Some(model) = self.sculpted(ground).await? {
                return Ok(model);
            }
            let file = match &ground.source {
                GroundSource::Noise(_) => None,
                GroundSource::Heightmap(h) => stored(db, &h.blob).await?,
            };
            let ground = ground.clone();
            self.pool
                .run(move |_| {
                    let model = ground_model(&ground, |_| file)?;
                    Ok(weighed(model))
                })
                .await
        };
        self.grounds.get_or_make(key, make).await
    }

    /// The ground made from the one before its last stroke, when that is at hand.
    async fn sculpted(&self, ground: &Ground) -> Result<Option<(GroundModel, usize)>, ApiError> {
        let mut before = ground.clone();
        let Some(stroke) = before.strokes.pop() else { return Ok(None) };
        let Some(model) = self.grounds.get(&ground_key(&before)) else { return Ok(None) };
        self.pool.run(move |_| Ok(Some(weighed(model.sculpted(&stroke))))).await
    }

    /// A quantity read off a ground, one value per sample. When the caller goes away, so does the work.
    ///
    /// # Errors
    /// When the ground cannot be made.
    pub async fn reading(
        &self,
        db: &Db,
        ground: &Ground,
        reading: Reading,
    ) -> Result<Arc<Vec<f32>>, ApiError> {
        let key = content_key("reading", &(ground_key(ground).to_string(), reading));
        let make = async {
            let model = self.ground(db, ground).await?;
            self.pool
                .run(move |cancel| {
                    let values = reading.of(&model.terrain, cancel).map_err(GrowError::from)?;
                    let bytes = size_of_val(values.as_slice());
                    Ok((values, bytes))
                })
                .await
        };
        self.readings.get_or_make(key, make).await
    }

    /// An obstacle where it stands. A file it names is read from the database when the mesh is not at hand.
    ///
    /// # Errors
    /// When the ground cannot be made, or its file is missing or unreadable.
    pub async fn obstacle(
        &self,
        db: &Db,
        ground: &Ground,
        obstacle: &Obstacle,
    ) -> Result<Arc<Mesh>, ApiError> {
        let make = async {
            let model = self.ground(db, ground).await?;
            let file = match &obstacle.shape {
                Shape::Mesh { blob, .. } => stored(db, blob).await?,
                _ => None,
            };
            let obstacle = obstacle.clone();
            self.pool
                .run(move |_| {
                    let mesh = obstacle_mesh(&obstacle, &model.terrain, |_| file)?;
                    let bytes = mesh.positions.len() * 36 + mesh.indices.len() * 4;
                    Ok((mesh, bytes))
                })
                .await
        };
        self.obstacles.get_or_make(obstacle_key(ground_key(ground), obstacle), make).await
    }

    /// The obstacles of a scene that are not hidden, by name, where they stand.
    ///
    /// # Errors
    /// When one of them cannot be made.
    pub async fn standing(&self, db: &Db, document: &Document) -> Result<Vec<(String, Mesh)>, ApiError> {
        let mut out = Vec::new();
        for o in document.obstacles.iter().filter(|o| !o.hidden) {
            let mesh = self.obstacle(db, &document.ground, o).await?;
            out.push((o.name.clone(), Mesh::clone(&mesh)));
        }
        Ok(out)
    }

    /// The plants of a layer. When the caller goes away, so does the work.
    ///
    /// # Errors
    /// When the ground cannot be made or the amount is too much.
    pub async fn plants(&self, db: &Db, document: &Document, layer: &Layer) -> Result<Arc<Growth>, ApiError> {
        let key = layer_key(ground_key(&document.ground), layer);
        if let Some(found) = self.plants.get(&key) {
            return Ok(found);
        }
        let make = async {
            let ground = self.ground(db, &document.ground).await?;
            let layer = layer.clone();
            // Waited for here and handed over locked: see `slots::Value`.
            let mut even = self.even(&ground, &layer).lock_owned().await;
            self.pool
                .run(move |cancel| {
                    let grown: Result<Growth, GrowError> = grow_with(&ground, &layer, &mut even, cancel);
                    let grown = grown?;
                    let bytes = size_of_val(grown.plants.as_slice());
                    Ok((grown, bytes))
                })
                .await
        };
        self.plants.get_or_make(key, make).await
    }

    /// The even pattern of a layer's seed on this ground; a fresh one for other patterns, which do not use it.
    fn even(&self, ground: &GroundModel, layer: &Layer) -> Arc<tokio::sync::Mutex<EvenPattern>> {
        let size = ground.terrain.size_m();
        let fresh = || Arc::new(tokio::sync::Mutex::new(EvenPattern::new(layer.seed, size)));
        if layer.pattern != Pattern::Even {
            return fresh();
        }
        let key = (layer.seed, [size.x.to_bits(), size.y.to_bits()]);
        let mut evens = self.evens.lock().expect("nothing panics while holding it");
        let found = evens.iter().position(|(k, _)| *k == key).map(|i| evens.remove(i).1);
        let pattern = found.unwrap_or_else(fresh);
        if evens.len() >= EVEN_PATTERNS {
            evens.remove(0);
        }
        evens.push((key, pattern.clone()));
        pattern
    }
}
