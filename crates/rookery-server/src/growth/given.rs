//! What masks look at beside the document, from the cache where it is there.

use super::{Growths, SharedGround};
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::ground::GroundRef;
use rookery_core::habitat::{Given, Needs, Rules, crowns, water_distance_m};
use rookery_core::math::mesh_distance::MeshDistance;
use rookery_core::planting::GrowError;
use rookery_core::scene::{Document, GroundId, Keys, Layer, Obstacle, content_key};
use std::sync::Arc;

impl Growths {
    /// The masks of a layer on one ground, with all they look at.
    ///
    /// # Errors
    /// When something they look at cannot be made.
    pub async fn rules(
        &self,
        db: &Db,
        document: &Document,
        layer: &Layer,
        id: GroundId,
        ground: &SharedGround,
    ) -> Result<Rules, ApiError> {
        let given = self.given(db, document, layer, id, ground).await?;
        Ok(Rules::of(document, layer, id, ground.as_ref().groups(), &given))
    }

    async fn given(
        &self,
        db: &Db,
        document: &Document,
        layer: &Layer,
        id: GroundId,
        ground: &SharedGround,
    ) -> Result<Given, ApiError> {
        let needs = Needs::of(document, layer);
        let mut given = Given::default();
        let on_terrain = matches!(ground.as_ref(), GroundRef::Terrain(_));
        for reading in needs.readings.iter().copied().filter(|_| on_terrain) {
            let values = if id == GroundId::LAND {
                self.reading(db, document, reading).await?
            } else {
                self.on_terrain(document, id, ground, reading.id(), move |t, cancel| {
                    Ok(reading.of(&t.terrain, cancel).map_err(GrowError::from)?)
                })
                .await?
            };
            given.readings.push((reading, values));
        }
        if needs.water && on_terrain {
            let scene = document.clone();
            let work =
                move |t: &rookery_core::ground::GroundModel, _: &_| Ok(water_distance_m(&scene, &t.terrain));
            given.water = Some(self.on_terrain(document, id, ground, "water distance", work).await?);
        }
        for o in document.obstacles.iter().filter(|o| needs.obstacles.contains(&o.id)) {
            given.obstacles.push((o.id, self.distance_to(db, document, o).await?));
        }
        for other in document.layers.iter().filter(|l| needs.layers.contains(&l.id)) {
            // One layer looks at another, that at a third: documents hold no cycles, so this ends.
            let grown = Box::pin(self.plants(db, document, other)).await?;
            let (scene, layer) = (document.clone(), other.clone());
            let found = self.pool().run(move |_| Ok(crowns(&scene, &layer, &grown.plants))).await?;
            given.crowns.push((other.id, Arc::new(found)));
        }
        Ok(given)
    }

    /// Values at the samples of a terrain, by name.
    async fn on_terrain(
        &self,
        document: &Document,
        id: GroundId,
        ground: &SharedGround,
        name: &str,
        work: impl FnOnce(
            &rookery_core::ground::GroundModel,
            &rookery_core::cancel::CancelToken,
        ) -> Result<Vec<f32>, ApiError>
        + Send
        + 'static,
    ) -> Result<Arc<Vec<f32>>, ApiError> {
        let own = Keys::of(document).ground(id).ok_or(ApiError::NotFound("ground"))?;
        let key =
            content_key("on terrain", &(own.to_string(), name, document.ground.water_m, &document.waters));
        let make = async {
            let ground = ground.clone();
            self.pool()
                .run(move |cancel| {
                    let values = match ground.as_ref() {
                        GroundRef::Terrain(t) => work(t, cancel)?,
                        GroundRef::Mesh(_) => Vec::new(),
                    };
                    let bytes = size_of_val(values.as_slice());
                    Ok((values, bytes))
                })
                .await
        };
        self.readings.get_or_make(key, make).await
    }

    /// An obstacle as distances are asked of it.
    async fn distance_to(
        &self,
        db: &Db,
        document: &Document,
        obstacle: &Obstacle,
    ) -> Result<Arc<MeshDistance>, ApiError> {
        let key = content_key("distance", &Keys::of(document).obstacle(obstacle).to_string());
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
