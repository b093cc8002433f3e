//! The mean wind over the land and what stands on it.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::air::{Flow, heading};
use rookery_core::scene::{Document, GroundId, Keyed};
use std::sync::Arc;

impl Growths {
    /// The mean wind from a side, degrees clockwise from north, over what is shown of a scene but for what grows. When the last one who waits goes
    /// away, so does the work.
    ///
    /// # Errors
    /// When a ground or an obstacle cannot be made.
    pub async fn flow(&self, db: &Db, document: &Keyed, from_deg: f32) -> Result<Arc<Flow>, ApiError> {
        let make = async {
            let land = self.ground(db, document).await?;
            let mut bodies = Vec::new();
            for id in document.ground_ids().into_iter().filter(|id| *id != GroundId::LAND) {
                if document.placed(id).is_none_or(|g| !g.hidden) {
                    let ground = self.any(db, document, id).await?;
                    bodies.push(ground.as_ref().mesh(&document.frame(id)));
                }
            }
            bodies.extend(self.standing(db, document).await?.into_iter().map(|(_, mesh)| mesh));
            let document = Document::clone(document);
            self.pool
                .run(move |cancel| {
                    let bodies: Vec<_> = bodies.iter().collect();
                    let flow = Flow::over_scene(&document, &land.terrain, &bodies, heading(from_deg), cancel)
                        .map_err(|e| ApiError::Internal(e.to_string()))?;
                    let bytes = flow.bytes();
                    Ok((flow, bytes))
                })
                .await
        };
        self.flows.get_or_make(document.flow_key(from_deg), make).await
    }
}
