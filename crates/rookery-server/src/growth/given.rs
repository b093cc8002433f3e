//! What masks look at beside the document, from the cache where it is there.

use super::{Growths, SharedGround};
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::habitat::{Beside, Given, Needs, Sampled};
use rookery_core::planting::GrowError;
use rookery_core::planting::clearance::claimed;
use rookery_core::planting::{Rules, crowns};
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
            return Ok(Rules::on(document, layer, id, ground.as_ref().groups(), &given));
        }
        let document = self.with_pictures(db, Document::clone(document), layer).await?;
        Ok(Rules::on(&document, layer, id, ground.as_ref().groups(), &given))
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
        for what in needs.sampled.iter().copied() {
            let values = match what {
                Sampled::Reading(reading) if id != GroundId::PLANTS => {
                    self.reading(db, document, id, reading).await?
                }
                _ => self.on_ground(db, document, layer, id, ground, what).await?,
            };
            // A ground that has none of the kind leaves it unknown.
            if !values.is_empty() {
                given.sampled.push((what, values));
            }
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

    /// Values at the samples of a terrain or the vertices of a mesh; empty where it has none of the kind.
    async fn on_ground(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
        ground: &SharedGround,
        what: Sampled,
    ) -> Result<Arc<Vec<f32>>, ApiError> {
        let own = document.ground_key_of(layer, id).ok_or(ApiError::NotFound("ground"))?;
        let name = what.hangs_on(document, id);
        let looks_down = id.is_water() && what == Sampled::Depth && !document.ground.absent;
        let beneath = looks_down.then(|| document.land_key().to_string());
        let land = if looks_down { Some(self.ground(db, document).await?) } else { None };
        let wind = match what {
            Sampled::Wind(wind) => Some(self.flow(db, document, wind.from_deg).await?),
            _ => None,
        };
        let blows = match what {
            Sampled::Wind(wind) => Some(document.flow_key(wind.from_deg).to_string()),
            _ => None,
        };
        let key = content_key(
            "on ground",
            &(own.to_string(), name, document.ground.water_m, &document.waters, beneath, blows),
        );
        let make = async {
            let (scene, ground) = (Document::clone(document), ground.clone());
            self.pool()
                .run(move |cancel| {
                    let beside =
                        Beside { land: land.as_ref().map(|model| &model.terrain), flow: wind.as_deref() };
                    let values = what
                        .compute(&scene, id, &ground.as_ref(), beside, cancel)
                        .map_err(GrowError::from)?;
                    let values = values.unwrap_or_default();
                    let bytes = size_of_val(values.as_slice());
                    Ok((values, bytes))
                })
                .await
        };
        self.readings.get_or_make(key, make).await
    }
}
