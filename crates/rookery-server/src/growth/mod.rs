//! Derived data: grounds and plants, computed when asked for and kept while there is room.
//!
//! Everything is named by the hash of what it depends on, so nothing here is ever out of date, and losing it all
//! loses nothing.

mod evens;
mod fits;
mod given;
mod imports;
mod local;
mod nursery;
mod slots;
mod store;
mod work;

pub use nursery::{FormSize, StandIn};
pub use work::{Pool, pool};

use crate::db::{Db, blobs};
use crate::error::ApiError;
use crate::reading::{Kind, Readers};
use axum::body::Bytes;
use evens::Evens;
use local::Lasts;
use rookery_core::ground::sculpt::reach_on_plan;
use rookery_core::ground::{AnyGround, Frame, GroundModel, GroundRef, PlanBox, Reading};
use rookery_core::habitat::{Crowns, Needs, reach_of_stroke};
use rookery_core::math::mesh_distance::MeshDistance;
use rookery_core::nursery::{Mesh, Season};
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::planting::{
    GrowError, Growth, gather, grown_on, host_model, layer_on, must_share_out, within_cap,
};
use rookery_core::scene::{
    BlobId, ContentKey, Document, GroundId, GroundSource, Keyed, Layer, Obstacle, Pixels, PlacedGround,
    PlacedSource, Shape, Stroke, content_key,
};
use rookery_formats::{ground_model, obstacle_mesh, placed_model};
use slots::Slots;
use std::borrow::Cow;
use std::sync::Arc;
use store::Store;

/// The most bytes of derived data that are kept where nothing else is said.
pub const USUAL_CEILING: usize = 4 << 30;

/// The cache and the threads that fill it.
pub struct Growths {
    pool: Pool,
    readers: Readers,
    lands: Slots<GroundModel>,
    placed: Slots<AnyGround>,
    /// By layer and ground, in the ground's own frame.
    plants: Slots<Growth>,
    /// By layer, in the scene's frame.
    layers: Slots<Growth>,
    readings: Slots<Vec<f32>>,
    /// Obstacles as distances are asked of them.
    distances: Slots<MeshDistance>,
    obstacles: Slots<Mesh>,
    /// By species in a season.
    forms: Slots<[FormSize; 3]>,
    stand_ins: Slots<Vec<StandIn>>,
    portraits: Slots<Vec<u8>>,
    /// Species read from files: for each form the full, light and far mesh.
    imports: Slots<Vec<[Mesh; 3]>>,
    /// Pictures over the plan, by their file.
    pictures: Slots<Pixels>,
    /// Plants as balls: crowns, and what layers claim.
    balls: Slots<Crowns>,
    /// Plants with forms of their own.
    fits: Slots<Fits>,
    /// What is sent to browsers, as it is sent.
    buffers: Slots<Bytes>,
    evens: Arc<Evens>,
    /// Holds all of these under one ceiling.
    store: Store,
    lasts: Lasts,
}

impl Growths {
    /// An empty cache that keeps no more than `ceiling` bytes; files are read by these readers first.
    pub fn new(readers: Readers, ceiling: usize) -> Self {
        let store = Store::new(ceiling);
        Self {
            readers,
            pool: pool("growth"),
            lands: Slots::new(&store, "land"),
            placed: Slots::new(&store, "ground"),
            plants: Slots::new(&store, "plants"),
            layers: Slots::new(&store, "layer"),
            readings: Slots::new(&store, "reading"),
            distances: Slots::new(&store, "distance"),
            obstacles: Slots::new(&store, "obstacle"),
            forms: Slots::new(&store, "forms"),
            stand_ins: Slots::new(&store, "stand-ins"),
            portraits: Slots::new(&store, "portrait"),
            imports: Slots::new(&store, "import"),
            pictures: Slots::new(&store, "picture"),
            balls: Slots::new(&store, "balls"),
            fits: Slots::new(&store, "fits"),
            buffers: Slots::new(&store, "buffer"),
            evens: Arc::new(Evens::new(&store)),
            store,
            lasts: Lasts::default(),
        }
    }
}

/// What the last stroke changed.
enum Changed {
    /// The land, under this stroke, and what lies around within this part of the plan.
    Sculpted(Stroke, Option<PlanBox>),
    /// A painting, or what lies around, within this part of the plan.
    Within(PlanBox),
}

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
fn weighed(model: GroundModel) -> (GroundModel, usize) {
    let bytes = model.terrain.heights_zx().len() * 8;
    (model, bytes)
}

impl Growths {
    /// Those who read files first.
    pub fn readers(&self) -> &Readers {
        &self.readers
    }

    /// A stored file that may be read here as this, since it was so by a process of its own; none when it is not there.
    async fn stored(&self, db: &Db, blob: &BlobId, kind: Kind) -> Result<Option<Vec<u8>>, ApiError> {
        let found = blobs::fetch_to_read(&mut db.get().await?, blob, kind).await;
        let (bytes, was_read) = match found {
            Ok(found) => found,
            Err(ApiError::NotFound(_)) => return Ok(None),
            Err(e) => return Err(e),
        };
        if !was_read {
            self.readers.read(kind, &bytes).await?;
            blobs::was_read(&mut db.get().await?, blob, kind).await?;
        }
        Ok(Some(bytes))
    }

    /// Bytes of derived data that are kept, and the most that are.
    pub fn kept_bytes(&self) -> [usize; 2] {
        [self.store.bytes(), self.store.ceiling()]
    }

    /// A buffer for the view, encoded when it is not at hand. `name` says of what; it must name the contents.
    ///
    /// # Errors
    /// Those of the encoding.
    pub async fn buffer(
        &self,
        name: ContentKey,
        encode: impl FnOnce() -> Vec<u8> + Send + 'static,
    ) -> Result<Bytes, ApiError> {
        let make = async {
            let bytes = self.pool.run(move |_| Ok(Bytes::from(encode()))).await?;
            let length = bytes.len();
            Ok((bytes, length))
        };
        Ok(Bytes::clone(&*self.buffers.get_or_make(name, make).await?))
    }

    /// The threads, for other work of the same kind.
    pub fn pool(&self) -> &Pool {
        &self.pool
    }

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

    /// The land made from the one before its last stroke, when that is at hand.
    async fn sculpted(&self, document: &Keyed) -> Result<Option<(GroundModel, usize)>, ApiError> {
        let mut before = Document::clone(document);
        let Some(stroke) = before.ground.strokes.pop() else { return Ok(None) };
        let Some(model) = self.lands.get(&document.after(before).land_key()) else { return Ok(None) };
        self.pool.run(move |_| Ok(Some(weighed(model.sculpted(&stroke))))).await
    }

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
            let file = match &ground.source {
                PlacedSource::Mesh(m) => self.stored(db, &m.blob, Kind::Mesh).await?,
                PlacedSource::Heightmap(h) => self.stored(db, &h.blob, Kind::Heights).await?,
                _ => None,
            };
            let (ground, water_m) = (ground.clone(), document.ground.water_m);
            self.pool
                .run(move |_| {
                    let model = placed_model(&ground, water_m, |_| file)?;
                    let bytes = match &model {
                        AnyGround::Terrain(t) => t.terrain.heights_zx().len() * 8,
                        AnyGround::Mesh(m) => m.mesh.positions.len() * 36 + m.mesh.indices.len() * 8,
                    };
                    Ok((model, bytes))
                })
                .await
        };
        self.placed.get_or_make(key, make).await
    }

    /// A ground of a scene by its id.
    ///
    /// # Errors
    /// As [`Growths::ground`] and [`Growths::placed`].
    pub async fn any(&self, db: &Db, document: &Keyed, id: GroundId) -> Result<SharedGround, ApiError> {
        match document.placed(id) {
            Some(ground) => Ok(SharedGround::Placed(self.placed(db, document, ground).await?)),
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
                    let bytes = model.mesh.positions.len() * 36 + model.mesh.indices.len() * 8;
                    Ok((AnyGround::Mesh(model), bytes))
                })
                .await
        };
        Ok(Some(SharedGround::Placed(self.placed.get_or_make(key, make).await?)))
    }

    /// The grounds of a scene that are not hidden, by name, where they stand.
    ///
    /// # Errors
    /// When one of them cannot be made.
    pub async fn lying(&self, db: &Db, document: &Keyed) -> Result<Vec<(String, Mesh)>, ApiError> {
        let mut out = Vec::new();
        for id in document.ground_ids() {
            let placed = document.placed(id);
            if placed.is_some_and(|g| g.hidden) {
                continue;
            }
            let ground = self.any(db, document, id).await?;
            let name = placed.map_or_else(|| "Land".to_owned(), |g| g.name.clone());
            out.push((name, ground.as_ref().mesh(&document.frame(id))));
        }
        Ok(out)
    }

    /// A quantity read off the land, one value per sample. When the caller goes away, so does the work.
    ///
    /// # Errors
    /// When the ground cannot be made.
    pub async fn reading(
        &self,
        db: &Db,
        document: &Keyed,
        reading: Reading,
    ) -> Result<Arc<Vec<f32>>, ApiError> {
        let key = content_key("reading", &(document.land_key().to_string(), reading));
        let make = async {
            let model = self.ground(db, document).await?;
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
        document: &Keyed,
        obstacle: &Obstacle,
    ) -> Result<Arc<Mesh>, ApiError> {
        let make = async {
            let model = self.ground(db, document).await?;
            let file = match &obstacle.shape {
                Shape::Mesh { blob, .. } => self.stored(db, blob, Kind::Mesh).await?,
                _ => None,
            };
            let (land, obstacle) = (land_alone(document), obstacle.clone());
            self.pool
                .run(move |_| {
                    let mesh = obstacle_mesh(&land, &obstacle, &model.terrain, |_| file)?;
                    let bytes = mesh.positions.len() * 36 + mesh.indices.len() * 4;
                    Ok((mesh, bytes))
                })
                .await
        };
        self.obstacles.get_or_make(document.obstacle_key(obstacle), make).await
    }

    /// The obstacles of a scene that are not hidden, by name, where they stand.
    ///
    /// # Errors
    /// When one of them cannot be made.
    pub async fn standing(&self, db: &Db, document: &Keyed) -> Result<Vec<(String, Mesh)>, ApiError> {
        let mut out = Vec::new();
        for o in document.obstacles.iter().filter(|o| !o.hidden) {
            let mesh = self.obstacle(db, document, o).await?;
            out.push((o.name.clone(), Mesh::clone(&mesh)));
        }
        Ok(out)
    }

    /// The plants of a layer on all its grounds, where they stand. When the caller goes away, so does the work.
    ///
    /// # Errors
    /// When a ground cannot be made or the amount is too much.
    pub async fn plants(&self, db: &Db, document: &Keyed, layer: &Layer) -> Result<Arc<Growth>, ApiError> {
        // One after the other, so that none has to wait for a chain of others within its own work.
        for other in document.grows_after(layer.id) {
            if let Some(other) = document.layer(other) {
                Box::pin(self.plants_next(db, document, other)).await?;
            }
        }
        Box::pin(self.plants_next(db, document, layer)).await
    }

    /// The plants of a layer, where those that it waits for are at hand; otherwise they are grown within this.
    pub(super) async fn plants_next(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
    ) -> Result<Arc<Growth>, ApiError> {
        let mut on = grown_on(document, layer);
        if layer.on_plants.is_some() && self.ground_of(db, document, layer, GroundId::PLANTS).await?.is_none()
        {
            on.clear();
        }
        if let ([id], true) = (on.as_slice(), document.grounds_of(layer).len() == 1)
            && document.frame(*id) == Frame::SCENE
        {
            let layer = self.within_cap(db, document, layer).await?;
            return self.plants_on(db, document, &layer, *id, &[]).await;
        }
        let make = async {
            let layer = &*self.within_cap(db, document, layer).await?;
            let allowed = self.allowed(db, document, layer).await?;
            let mut grown = Vec::new();
            for id in on {
                let growth = self.plants_on(db, document, layer, id, &allowed).await?;
                grown.push((id, document.frame(id), growth));
            }
            let layer = layer.clone();
            self.pool
                .run(move |_| {
                    let parts: Vec<_> =
                        grown.iter().map(|(id, frame, g)| (*id, *frame, g.as_ref())).collect();
                    let growth = gather(&layer, &parts);
                    let bytes = growth.bytes();
                    Ok((growth, bytes))
                })
                .await
        };
        self.layers.get_or_make(document.layer_key(layer), make).await
    }

    /// The layer with no more plants than the cap of the scene leaves it.
    async fn within_cap<'l>(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &'l Layer,
    ) -> Result<Cow<'l, Layer>, ApiError> {
        let mut before = Vec::new();
        if document.cap.is_some() {
            for id in document.grows_after(layer.id) {
                if let Some(other) = document.layer(id) {
                    before.push(Box::pin(self.plants_next(db, document, other)).await?.tally.placed);
                }
            }
        }
        Ok(within_cap(document, layer, &before))
    }

    /// The area that a layer's masks allow on each of its grounds, where its amount must be shared out.
    async fn allowed(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
    ) -> Result<Vec<(GroundId, f64)>, ApiError> {
        let mut out = Vec::new();
        if must_share_out(document, layer) {
            for id in document.grounds_of(layer) {
                let ground = self.any(db, document, id).await?;
                let rules = self.rules(db, document, layer, id, &ground).await?;
                out.push((id, self.pool.run(move |_| Ok(ground.as_ref().shares(&rules).allowed_m2)).await?));
            }
        }
        Ok(out)
    }

    /// What a layer grew on the land before the last stroke of a tool or a brush, when that is at hand, and what the stroke
    /// changed.
    fn before_stroke(
        &self,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
    ) -> Option<(Arc<Growth>, ContentKey, Changed)> {
        if id != GroundId::LAND {
            return None;
        }
        let needs = Needs::with(document, document.claims(), layer);
        let looked_at = || needs.claims.iter().chain(&needs.layers).filter_map(|id| document.layer(*id));
        let kept = |before: &Keyed| {
            let key = before.plants_key(layer, id)?;
            Some((self.plants.get(&key)?, key))
        };
        // Whichever of the two was made last, the other is the same before and after.
        for paint in layer.masks.iter().filter_map(|m| m.paint) {
            let mut before = Document::clone(document);
            let stroke = before.paints.iter_mut().find(|p| p.id == paint).and_then(|p| p.strokes.pop());
            // Paint changes nothing else that a layer looks at but plants of layers that look at it too.
            let before = document.after(before);
            let plants = |d: &Keyed| -> Vec<ContentKey> { looked_at().map(|l| d.layer_key(l)).collect() };
            if plants(&before) != plants(document) {
                continue;
            }
            if let Some(((found, key), stroke)) = stroke.and_then(|s| Some((kept(&before)?, s))) {
                return Some((found, key, Changed::Within(reach_of_stroke(&stroke))));
            }
        }
        // What is worked out of the whole ground, or of other things that stand on it, changes elsewhere too.
        if !needs.local() {
            return None;
        }
        let mut before = Document::clone(document);
        let stroke = before.ground.strokes.pop()?;
        let (found, key) = kept(&document.after(before))?;
        Some((found, key, Changed::Sculpted(stroke, None)))
    }

    /// The plants of a layer on one ground, in the ground's own frame.
    async fn plants_on(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
        allowed: &[(GroundId, f64)],
    ) -> Result<Arc<Growth>, ApiError> {
        let key = document.plants_key(layer, id).ok_or(ApiError::NotFound("ground"))?;
        if let Some(found) = self.plants.get(&key) {
            return Ok(found);
        }
        let make = async {
            let ground =
                self.ground_of(db, document, layer, id).await?.ok_or(ApiError::NotFound("ground"))?;
            let rules = self.rules(db, document, layer, id, &ground).await?;
            let own = layer_on(layer, id, allowed);
            let alone = allowed.is_empty() && id == GroundId::LAND;
            let mut before = if alone { self.before_stroke(document, layer, id) } else { None };
            let around = if alone { self.around(db, document, layer).await? } else { None };
            if let (None, Some((rest, around))) = (&before, &around) {
                let found = self.before_change(db, document, layer, rest, around).await?;
                before = found.and_then(|(growth, key, reach)| Some((growth, key, Changed::Within(reach?))));
                if before.is_none() {
                    before = self.before_sculpting(db, document, layer, around).await?;
                }
            }
            // Waited for here and handed over locked: see `slots::Value`.
            let (even_key, even) = self.evens.of(document, id, &ground, &own);
            let mut kept = even.clone().lock_owned().await;
            let evens = self.evens.clone();
            let (grown, bytes) = self
                .pool
                .run(move |cancel| {
                    let ground = ground.as_ref();
                    let grown: Result<Growth, GrowError> = match (&before, &ground) {
                        (Some((before, _, stroke)), GroundRef::Terrain(t)) => {
                            let changed = match stroke {
                                Changed::Sculpted(stroke, around) => {
                                    let own = reach_on_plan(&t.terrain, stroke);
                                    around.map_or(own, |a| PlanBox {
                                        low: own.low.min(a.low),
                                        high: own.high.max(a.high),
                                    })
                                }
                                Changed::Within(reach) => *reach,
                            };
                            ground.regrow(&own, &rules, &mut kept, before, &changed, cancel)
                        }
                        _ => ground.grow(&own, &rules, &mut kept, cancel),
                    };
                    // Those found so far are kept when the work is stopped, too: it is begun again with the next touch of a setting.
                    if let Some(key) = even_key {
                        evens.keep(key, &even, kept.bytes());
                    }
                    let mut grown = grown?;
                    grown.since = before.map(|(_, key, _)| key);
                    let bytes = grown.bytes();
                    Ok((grown, bytes))
                })
                .await?;
            if let Some((rest, around)) = around {
                self.lasts.put(rest, key, around);
            }
            Ok((grown, bytes))
        };
        self.plants.get_or_make(key, make).await
    }
}

/// As much of a document as its land and obstacles need.
fn land_alone(document: &Document) -> Document {
    let Document { schema, name, ground, waters, .. } = document;
    Document {
        schema: *schema,
        name: name.clone(),
        ground: ground.clone(),
        waters: waters.clone(),
        grounds: Vec::new(),
        zones: Vec::new(),
        species: Vec::new(),
        season: Season::SUMMER,
        paints: Vec::new(),
        pictures: Vec::new(),
        shares: Vec::new(),
        outlines: Vec::new(),
        obstacles: Vec::new(),
        layers: Vec::new(),
        yields: Vec::new(),
        cap: None,
        shots: Vec::new(),
    }
}
