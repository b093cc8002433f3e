//! The plants of a layer, and the account of all layers.

use super::view::FOR_EVER;
use crate::app::App;
use crate::db::scenes;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use rookery_core::measure::Findings;
use rookery_core::planting::Tally;
use rookery_core::scene::{Keys, LayerId};
use rookery_formats::view::{encode_changes, encode_plants};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// What a reader has already.
#[derive(Debug, Default, Deserialize, utoipa::IntoParams)]
#[serde(default)]
pub struct Known {
    /// `plants_key`s of the same layer, with commas between them.
    pub since: String,
}

/// The plants as a compact buffer (`RKPL`, see `rookery-formats/src/view`), with the layer's account in its head. A reader that
/// has the plants these were made from is told only what changed since (`RKPD`).
#[utoipa::path(get, path = "/api/scenes/{scene}/layers/{layer}/plants/{key}", tag = "view",
    params(("scene" = Uuid, Path), ("layer" = u32, Path),
        ("key" = String, Path, description = "`plants_key` of the layer"), Known),
    responses((status = 200, content_type = "application/octet-stream"), (status = 410, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn get_plants(
    State(app): State<App>,
    Path((scene, layer, key)): Path<(Uuid, u32, String)>,
    Query(Known { since }): Query<Known>,
) -> Result<impl IntoResponse, ApiError> {
    let scene = scenes::fetch(&app.db, scene).await?;
    let layer = scene.document.layer(LayerId(layer)).ok_or(ApiError::NotFound("layer"))?;
    if Keys::of(&scene.document).layer(&scene.document, layer).to_string() != key {
        return Err(ApiError::Outdated("layer"));
    }
    let growth = app.growths.plants(&app.db, &scene.document, layer).await?;
    let from = growth.since.as_ref().map(|key| Keys::layer_on_land(key).to_string());
    let from = from.filter(|from| since.split(',').any(|known| known == from));
    let layer = layer.clone();
    let encode = move |_: &_| {
        let changes = from.and_then(|from| encode_changes(&layer, &growth, &from));
        Ok(changes.unwrap_or_else(|| encode_plants(&layer, &growth)))
    };
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, app.growths.pool().run(encode).await?))
}

/// What was measured of a layer's plants against the true ground and among themselves.
#[utoipa::path(get, path = "/api/scenes/{scene}/layers/{layer}/findings/{key}", tag = "view",
    params(("scene" = Uuid, Path), ("layer" = u32, Path),
        ("key" = String, Path, description = "`plants_key` of the layer")),
    responses((status = 200, body = Findings), (status = 410, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn get_findings(
    State(app): State<App>,
    Path((scene, layer, key)): Path<(Uuid, u32, String)>,
) -> Result<Json<Findings>, ApiError> {
    let scene = scenes::fetch(&app.db, scene).await?;
    let layer = scene.document.layer(LayerId(layer)).ok_or(ApiError::NotFound("layer"))?;
    if Keys::of(&scene.document).layer(&scene.document, layer).to_string() != key {
        return Err(ApiError::Outdated("layer"));
    }
    Ok(Json(app.growths.findings(&app.db, &scene.document, layer).await?))
}

/// The account of one layer.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct LayerMeasure {
    /// Which.
    pub id: LayerId,
    /// Its name.
    pub name: String,
    /// Asked, placed, refused.
    pub tally: Tally,
}

/// Grows every layer and accounts for it.
#[utoipa::path(get, path = "/api/scenes/{scene}/measure", tag = "view", params(("scene" = Uuid, Path)),
    responses((status = 200, body = [LayerMeasure]), (status = 404, body = ErrorBody)))]
pub async fn measure(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
) -> Result<Json<Vec<LayerMeasure>>, ApiError> {
    let scene = scenes::fetch(&app.db, scene).await?;
    let mut out = Vec::new();
    for layer in &scene.document.layers {
        let growth = app.growths.plants(&app.db, &scene.document, layer).await?;
        out.push(LayerMeasure { id: layer.id, name: layer.name.clone(), tally: growth.tally.clone() });
    }
    Ok(Json(out))
}
