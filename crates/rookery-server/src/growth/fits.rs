//! Plants that have forms of their own, because they are bent aside or trimmed.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::planting::clearance::fit::{Details, Fits, fits};
use rookery_core::planting::{GrowError, grown_on};
use rookery_core::scene::{Document, Keyed, Layer, content_key};
use std::sync::Arc;

impl Growths {
    /// The plants of a layer that have forms of their own. When the caller goes away, so does the work.
    ///
    /// # Errors
    /// When the layer cannot grow.
    pub async fn fits(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        details: Details,
    ) -> Result<Arc<Fits>, ApiError> {
        let Some(key) = document.fits_key(layer) else { return Ok(Arc::default()) };
        let key = content_key("fits at", &(key.to_string(), details.iter().map(|d| d.1).collect::<Vec<_>>()));
        // On the heap: this waits for all that growing waits for, and others wait for this.
        let make = Box::pin(async {
            let growth = self.plants(db, document, layer).await?;
            let mut on = Vec::new();
            for id in grown_on(document, layer) {
                if let Some(ground) = self.ground_of(db, document, layer, id).await? {
                    on.push((id, self.rules(db, document, layer, id, &ground).await?));
                }
            }
            let (document, layer) = (self.with_species(db, Document::clone(document)).await?, layer.clone());
            self.pool
                .run(move |cancel| {
                    let on: Vec<_> = on.iter().map(|(id, rules)| (*id, rules.clear())).collect();
                    let found = fits(&document, &layer, &on, &growth.plants, details, cancel);
                    let found = found.map_err(GrowError::from)?;
                    let bytes = found.bytes();
                    Ok((found, bytes))
                })
                .await
        });
        self.fits.get_or_make(key, make).await
    }
}
