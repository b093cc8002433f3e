//! Plants as balls: crowns, and what layers claim.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::habitat::Crowns;
use rookery_core::planting::Plant;
use rookery_core::scene::{Document, Keyed, Layer, content_key};
use std::sync::Arc;

impl Growths {
    /// The plants of a layer as balls of some kind, by the name of that kind.
    pub(super) async fn balls(
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
}
