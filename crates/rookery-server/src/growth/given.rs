//! What masks look at beside the document, from the cache where it is there.

use super::{Growths, SharedGround};
use crate::db::Db;
use crate::error::ApiError;
use crate::reading::Kind;
use rookery_core::ground::{GroundRef, SunPath};
use rookery_core::habitat::{Crowns, Given, Needs, Rules, crowns, water_distance_m};
use rookery_core::math::mesh_distance::MeshDistance;
use rookery_core::measure::{Findings, crossings, findings};
use rookery_core::planting::clearance::claimed;
use rookery_core::planting::{GrowError, Plant, grown_on};
use rookery_core::scene::{Document, GroundId, HeldPixels, Keyed, Layer, Obstacle, content_key};
use rookery_formats::GroundError;
use rookery_formats::picture::read_pixels;
use std::sync::Arc;

impl Growths {
    /// The masks of a layer on one ground, with all they look at.
    ///
    /// # Errors
    /// When something they look at cannot be made.
    pub async fn rules(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
        ground: &SharedGround,
    ) -> Result<Rules, ApiError> {
        let given = self.given(db, document, layer, id, ground).await?;
        if layer.masks.iter().all(|m| m.picture.is_none()) {
            return Ok(Rules::of(document, layer, id, ground.as_ref().groups(), &given));
        }
        let document = self.with_pictures(db, Document::clone(document), layer).await?;
        Ok(Rules::of(&document, layer, id, ground.as_ref().groups(), &given))
    }

    /// Measures what a layer grew.
    ///
    /// # Errors
    /// When it cannot grow.
    pub async fn findings(&self, db: &Db, document: &Keyed, layer: &Layer) -> Result<Findings, ApiError> {
        let growth = self.plants(db, document, layer).await?;
        let mut grounds = Vec::new();
        for id in grown_on(document, layer) {
            let Some(ground) = self.ground_of(db, document, layer, id).await? else { continue };
            let rules = self.rules(db, document, layer, id, &ground).await?;
            grounds.push((id, ground, rules));
        }
        let mut others = Vec::new();
        for id in document.claims().over(layer.id) {
            let Some(other) = document.layer(*id) else { continue };
            others.push((other.clone(), self.plants(db, document, other).await?));
        }
        let (document, layer) = (self.with_species(db, Document::clone(document)).await?, layer.clone());
        let measure = move |_: &_| {
            let on: Vec<_> = grounds.iter().map(|(id, g, rules)| (*id, g.as_ref(), rules)).collect();
            let others: Vec<_> = others.iter().map(|(l, g)| (l, g.plants.as_slice())).collect();
            let crossing = crossings(&document, &layer, &growth.plants, &others);
            Ok(Findings { crossing, ..findings(&document, &layer, &on, &growth.plants) })
        };
        self.pool().run(measure).await
    }

    /// A document with the pixels of the pictures that a layer looks at.
    async fn with_pictures(
        &self,
        db: &Db,
        mut document: Document,
        layer: &Layer,
    ) -> Result<Document, ApiError> {
        for picture in &mut document.pictures {
            if !layer.masks.iter().any(|m| m.picture.is_some_and(|look| look.id == picture.id)) {
                continue;
            }
            let make = async {
                let missing =
                    || GroundError::MissingFile { name: picture.file.clone(), id: picture.blob.clone() };
                let file = self.stored(db, &picture.blob, Kind::Picture).await?.ok_or_else(missing)?;
                let name = picture.file.clone();
                self.pool()
                    .run(move |_| {
                        let pixels = read_pixels(&file).map_err(|why| ApiError::BadPicture { name, why })?;
                        let bytes = size_of_val(pixels.rgba.as_slice());
                        Ok((pixels, bytes))
                    })
                    .await
            };
            let key = content_key("picture", &picture.blob);
            picture.held = HeldPixels(Some(self.pictures.get_or_make(key, make).await?));
        }
        Ok(document)
    }

    async fn given(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
        ground: &SharedGround,
    ) -> Result<Given, ApiError> {
        let needs = Needs::with(document, document.claims(), layer);
        let mut given = Given::default();
        let on_terrain = matches!(ground.as_ref(), GroundRef::Terrain(_));
        for reading in needs.readings.iter().copied() {
            let values = if id == GroundId::LAND {
                self.reading(db, document, reading).await?
            } else {
                self.on_ground(document, layer, id, ground, reading.id(), move |g, cancel| {
                    Ok(g.reading(reading, cancel).map_err(GrowError::from)?.unwrap_or_default())
                })
                .await?
            };
            // A ground without such a reading leaves it unknown.
            if !values.is_empty() {
                given.readings.push((reading, values));
            }
        }
        for day in needs.suns.iter().copied() {
            let path = SunPath::new(&day, &document.frame(id));
            let name =
                format!("sun {} {} {} {:?}", day.latitude_deg, day.month, day.day, document.frame(id).turn);
            let work = move |g: GroundRef<'_>, cancel: &_| {
                Ok(g.sun_hours(&path, cancel).map_err(GrowError::from)?)
            };
            given.suns.push((day, self.on_ground(document, layer, id, ground, &name, work).await?));
        }
        if needs.water && on_terrain {
            let scene = Document::clone(document);
            let work = move |g: GroundRef<'_>, _: &_| match g {
                GroundRef::Terrain(t) => Ok(water_distance_m(&scene, &t.terrain)),
                GroundRef::Mesh(_) => Ok(Vec::new()),
            };
            given.water = Some(self.on_ground(document, layer, id, ground, "water distance", work).await?);
        }
        for o in document.obstacles.iter().filter(|o| needs.obstacles.contains(&o.id)) {
            given.obstacles.push((o.id, self.distance_to(db, document, o).await?));
        }
        for other in &document.layers {
            // One layer looks at another, that at a third: documents hold no cycles, so this ends.
            if needs.layers.contains(&other.id) {
                given.crowns.push((other.id, self.balls(db, document, other, "crowns", crowns).await?));
            }
            if needs.claims.contains(&other.id) {
                given.claims.push((other.id, self.balls(db, document, other, "claims", claimed).await?));
            }
        }
        Ok(given)
    }

    /// The plants of a layer as balls of some kind, by the name of that kind.
    async fn balls(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        name: &str,
        of: fn(&Document, &Layer, &[Plant]) -> Crowns,
    ) -> Result<Arc<Crowns>, ApiError> {
        let reaches: Vec<_> = document.mix_of(layer).map(|(_, s)| (s.footprint_m(), s.radius_m())).collect();
        let plants = document.layer_key(layer).to_string();
        let key = content_key("balls", &(name, plants, layer.clearance.others.by, reaches));
        let make = async {
            let grown = Box::pin(self.plants_next(db, document, layer)).await?;
            let (scene, layer) = (Document::clone(document), layer.clone());
            self.pool()
                .run(move |_| {
                    let found = of(&scene, &layer, &grown.plants);
                    let bytes = found.bytes();
                    Ok((found, bytes))
                })
                .await
        };
        self.balls.get_or_make(key, make).await
    }

    /// Values at the samples of a terrain or the vertices of a mesh, by name.
    async fn on_ground(
        &self,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
        ground: &SharedGround,
        name: &str,
        work: impl FnOnce(GroundRef<'_>, &rookery_core::cancel::CancelToken) -> Result<Vec<f32>, ApiError>
        + Send
        + 'static,
    ) -> Result<Arc<Vec<f32>>, ApiError> {
        let own = document.ground_key_of(layer, id).ok_or(ApiError::NotFound("ground"))?;
        let key =
            content_key("on ground", &(own.to_string(), name, document.ground.water_m, &document.waters));
        let make = async {
            let ground = ground.clone();
            self.pool()
                .run(move |cancel| {
                    let values = work(ground.as_ref(), cancel)?;
                    let bytes = size_of_val(values.as_slice());
                    Ok((values, bytes))
                })
                .await
        };
        self.readings.get_or_make(key, make).await
    }

    /// An obstacle as distances are asked of it.
    pub(super) async fn distance_to(
        &self,
        db: &Db,
        document: &Keyed,
        obstacle: &Obstacle,
    ) -> Result<Arc<MeshDistance>, ApiError> {
        let key = content_key("distance", &document.obstacle_key(obstacle).to_string());
        let make = async {
            let mesh = self.obstacle(db, document, obstacle).await?;
            self.pool()
                .run(move |_| {
                    let bytes = mesh.indices.len() * 16;
                    Ok((MeshDistance::new(&mesh.positions, &mesh.indices), bytes))
                })
                .await
        };
        self.distances.get_or_make(key, make).await
    }
}
