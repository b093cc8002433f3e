//! The mean wind over the land and what stands on it.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::air::{Flow, heading};
use rookery_core::motion::Moving;
use rookery_core::nursery::Mesh;
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
            let bodies = self.solids(db, document).await?;
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

    /// What moves by itself over the land, among what is shown beside it and stands on it.
    ///
    /// # Errors
    /// When a ground or an obstacle cannot be made.
    pub async fn moving(&self, db: &Db, document: &Keyed) -> Result<Arc<Moving>, ApiError> {
        if document.blowers.is_empty()
            && document.bodies.is_empty()
            && document.grounds.iter().all(|g| g.moves.is_none())
        {
            return Ok(Arc::default());
        }
        let make = async {
            let land = self.ground(db, document).await?;
            let solids = self.solids(db, document).await?;
            let document = Document::clone(document);
            self.pool
                .run(move |cancel| {
                    let land = (!document.ground.absent).then_some(&land.terrain);
                    let solids: Vec<_> = solids.iter().collect();
                    let moving = Moving::over(&document, land, &solids, cancel)
                        .map_err(|e| ApiError::Internal(e.to_string()))?;
                    let bytes = moving.bytes();
                    Ok((moving, bytes))
                })
                .await
        };
        self.movings.get_or_make(document.moving_key(), make).await
    }

    /// Grounds beside the land and obstacles that are shown, where they stand.
    async fn solids(&self, db: &Db, document: &Keyed) -> Result<Vec<Mesh>, ApiError> {
        let mut all = Vec::new();
        for id in document.ground_ids().into_iter().filter(|id| *id != GroundId::LAND) {
            if document.placed(id).is_none_or(|g| !g.hidden) {
                let ground = self.any(db, document, id).await?;
                all.push(ground.as_ref().mesh(&document.frame(id)));
            }
        }
        all.extend(self.standing(db, document).await?.into_iter().map(|(_, mesh)| mesh));
        Ok(all)
    }
}
