//! Obstacles where they stand, and as distances are asked of them.

use super::Growths;
use super::land::land_alone;
use crate::db::Db;
use crate::error::ApiError;
use crate::reading::Kind;
use rookery_core::math::mesh_distance::MeshDistance;
use rookery_core::nursery::Mesh;
use rookery_core::scene::{Keyed, Obstacle, Shape, content_key};
use rookery_formats::obstacle_mesh;
use std::sync::Arc;

impl Growths {
    /// An obstacle where it stands. A file it names is read from the database when the mesh is not at hand.
    ///
    /// # Errors
    /// When the ground cannot be made, or its file is missing or unreadable.
    pub async fn obstacle(
        &self,
        db: &Db,
        document: &Keyed,
        obstacle: &Obstacle,
    ) -> Result<Arc<Mesh>, ApiError> {
        let make = async {
            let model = self.ground(db, document).await?;
            let file = match &obstacle.shape {
                Shape::Mesh { blob, .. } => self.stored(db, blob, Kind::Mesh).await?,
                _ => None,
            };
            let (land, obstacle) = (land_alone(document), obstacle.clone());
            self.pool
                .run(move |_| {
                    let mesh = obstacle_mesh(&land, &obstacle, &model.terrain, |_| file)?;
                    let bytes = mesh.positions.len() * 36 + mesh.indices.len() * 4;
                    Ok((mesh, bytes))
                })
                .await
        };
        self.obstacles.get_or_make(document.obstacle_key(obstacle), make).await
    }

    /// The obstacles of a scene that are not hidden, by name, where they stand.
    ///
    /// # Errors
    /// When one of them cannot be made.
    pub async fn standing(&self, db: &Db, document: &Keyed) -> Result<Vec<(String, Mesh)>, ApiError> {
        let mut out = Vec::new();
        for o in document.obstacles.iter().filter(|o| !o.hidden) {
            let mesh = self.obstacle(db, document, o).await?;
            out.push((o.name.clone(), Mesh::clone(&mesh)));
        }
        Ok(out)
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
