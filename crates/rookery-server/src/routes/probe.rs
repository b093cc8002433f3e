//! Asking the ground.

use crate::app::App;
use crate::db::scenes;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use axum::extract::State;
use rookery_core::planting::{Verdict, probe};
use rookery_core::scene::LayerId;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A point of the plan.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[serde(deny_unknown_fields)]
pub struct Point {
    /// East, metres.
    pub x: f32,
    /// South, metres.
    pub z: f32,
}

/// What a layer makes of a point.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct LayerVerdict {
    /// Which.
    pub id: LayerId,
    /// Its name.
    pub name: String,
    /// Why it grows there or does not.
    pub verdict: Verdict,
}

/// Why each layer grows at a point or does not.
#[utoipa::path(get, path = "/api/scenes/{scene}/probe", tag = "view", params(("scene" = Uuid, Path), Point),
    responses((status = 200, body = [LayerVerdict]), (status = 422, body = ErrorBody)))]
pub async fn probe_point(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Query(Point { x, z }): Query<Point>,
) -> Result<Json<Vec<LayerVerdict>>, ApiError> {
    let scene = scenes::fetch(&app.db, scene).await?;
    let ground = app.growths.ground(&app.db, &scene.document.ground).await?;
    let verdicts: Option<Vec<LayerVerdict>> = scene
        .document
        .layers
        .iter()
        .map(|l| Some(LayerVerdict { id: l.id, name: l.name.clone(), verdict: probe(&ground, l, x, z)? }))
        .collect();
    verdicts.map(Json).ok_or(ApiError::OffGround { x, z })
}
