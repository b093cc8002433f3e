//! The mean wind over the land and what stands on it.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use crate::reading::Kind;
use rookery_core::air::{Flow, heading};
use rookery_core::cancel::CancelToken;
use rookery_core::motion::{BodyMeshes, Moving};
use rookery_core::nursery::Mesh;
use rookery_core::scene::{Body, BodyForm, Document, GroundId, Keyed, content_key};
use rookery_formats::body_from_file;
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
            let mut meshes = BodyMeshes::new();
            for body in &document.bodies {
                let mesh = self.body_from_file(db, body).await?;
                meshes.extend(mesh.map(|m| (body.id, Mesh::clone(&m))));
            }
            let document = Document::clone(document);
            self.pool
                .run(move |cancel| {
                    let land = (!document.ground.absent).then_some(&land.terrain);
                    let solids: Vec<_> = solids.iter().collect();
                    let moving = Moving::with_meshes(&document, land, &solids, &meshes, cancel)
                        .map_err(|e| ApiError::Internal(e.to_string()))?;
                    let bytes = moving.bytes();
                    Ok((moving, bytes))
                })
                .await
        };
        self.movings.get_or_make(document.moving_key(), make).await
    }

    /// What a body looks like that comes from a file; none for others.
    ///
    /// # Errors
    /// When its file is missing or unreadable.
    pub async fn body_from_file(&self, db: &Db, body: &Body) -> Result<Option<Arc<Mesh>>, ApiError> {
        let BodyForm::Mesh { blob, .. } = &body.form else { return Ok(None) };
        let make = async {
            let file = self.stored(db, blob, Kind::Mesh).await?;
            let body = body.clone();
            let read = move |_: &CancelToken| {
                let mesh = body_from_file(&body, |_| file)?.unwrap_or_default();
                let bytes = mesh.positions.len() * 36 + mesh.indices.len() * 4;
                Ok((mesh, bytes))
            };
            self.pool.run(read).await
        };
        self.obstacles.get_or_make(content_key("body from a file", &body.form), make).await.map(Some)
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
