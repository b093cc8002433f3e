//! What is measured of plants.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::measure::{Findings, crossings, findings};
use rookery_core::planting::grown_on;
use rookery_core::scene::{Document, Keyed, Layer};

impl Growths {
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
}
