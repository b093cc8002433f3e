//! What masks look at beside the document, from the cache where it is there.

use super::{Growths, SharedGround};
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::ground::{GroundRef, SunPath};
use rookery_core::habitat::{Given, Needs, Rules, crowns, water_distance_m};
use rookery_core::planting::GrowError;
use rookery_core::planting::clearance::claimed;
use rookery_core::scene::{Document, GroundId, Keyed, Layer, content_key};
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
}
