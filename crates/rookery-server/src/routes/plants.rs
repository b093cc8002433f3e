//! The plants of a layer, and the account of all layers.

use super::view::FOR_EVER;
use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use crate::scenes::Snapshot;
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use rookery_core::measure::{Beside, Findings, ResponseCount, response_count, with_responses};
use rookery_core::planting::Tally;
use rookery_core::planting::clearance::fit::SHOWN;
use rookery_core::scene::{LayerId, content_key};
use rookery_formats::view::{encode_changes, encode_fits, encode_plants};
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
    let id = LayerId(layer);
    let scene = app.scenes.newest_where(scene, "layer", |s| s.layer_named(id, &key).is_ok()).await?;
    let layer = scene.layer_named(id, &key)?;
    let growth = app.growths.plants(&app.db, &scene.document, layer).await?;
    let from = growth.since.as_ref().and_then(|key| scene.document.layer_from(layer, key));
    let from = from.map(|key| key.to_string()).filter(|from| since.split(',').any(|known| known == from));
    let layer = layer.clone();
    // What changed is told to one who asks and is small; the whole is kept for the next one.
    let of = content_key("plants buffer", &(&key, &from));
    let encode = move || {
        let changes = from.and_then(|from| encode_changes(&layer, &growth, &from));
        changes.unwrap_or_else(|| encode_plants(&layer, &growth))
    };
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, app.growths.buffer(of, encode).await?))
}

/// The plants that have forms of their own, because they are bent aside or trimmed (`RKFT`). Full detail where that is not too much for
/// a view, light otherwise: the head tells.
#[utoipa::path(get, path = "/api/scenes/{scene}/layers/{layer}/fits/{key}", tag = "view",
    params(("scene" = Uuid, Path), ("layer" = u32, Path),
        ("key" = String, Path, description = "`fits_key` of the layer")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 410, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn get_fits(
    State(app): State<App>,
    Path((scene, layer, key)): Path<(Uuid, u32, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let id = LayerId(layer);
    let named = |s: &Snapshot| s.layers.iter().any(|l| l.id == id && l.fits_key.as_ref() == Some(&key));
    let scene = app.scenes.newest_where(scene, "layer", named).await?;
    let document = &scene.document;
    let layer = document.layer(id).ok_or(ApiError::NotFound("layer"))?;
    let view = scene.layers.iter().find(|l| l.id == id).ok_or(ApiError::NotFound("layer"))?;
    let plants_key = view.plants_key.clone();
    let growth = app.growths.plants(&app.db, document, layer).await?;
    let fits = app.growths.fits(&app.db, document, layer, SHOWN).await?;
    let encode = move || encode_fits(&growth.plants, &fits, &plants_key);
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, app.growths.buffer(content_key("fits buffer", &key), encode).await?))
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
    let id = LayerId(layer);
    let scene = app.scenes.newest_where(scene, "layer", |s| s.layer_named(id, &key).is_ok()).await?;
    let layer = scene.layer_named(id, &key)?;
    Ok(Json(app.growths.findings(&app.db, &scene.document, layer).await?))
}

/// What each response to what is too near would come to for a layer, on the same spot; the first is that of keeping no distance.
#[utoipa::path(get, path = "/api/scenes/{scene}/layers/{layer}/responses/{beside}", tag = "view",
    params(("scene" = Uuid, Path), ("layer" = u32, Path), ("beside" = Beside, Path)),
    responses((status = 200, body = [ResponseCount]), (status = 404, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn get_responses(
    State(app): State<App>,
    Path((scene, layer, beside)): Path<(Uuid, u32, Beside)>,
) -> Result<Json<Vec<ResponseCount>>, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let (document, id) = (&scene.document, LayerId(layer));
    document.layer(id).ok_or(ApiError::NotFound("layer"))?;
    let mut grown = Vec::new();
    for (response, other) in with_responses(document, id, beside) {
        let other = document.after(other);
        let layer = other.layer(id).ok_or(ApiError::NotFound("layer"))?;
        let growth = app.growths.plants(&app.db, &other, layer).await?;
        let fits = app.growths.fits(&app.db, &other, layer, SHOWN).await?;
        grown.push((response, growth, fits));
    }
    let count = move |_: &_| {
        // The first is that of keeping no distance.
        let count =
            |free| grown.iter().map(|(r, g, fits)| response_count(beside, *r, free, g, fits)).collect();
        Ok(grown.first().map(|(_, growth, _)| count(growth)).unwrap_or_default())
    };
    Ok(Json(app.growths.pool().run(count).await?))
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
    let scene = app.scenes.now(scene).await?;
    let mut out = Vec::new();
    for layer in &scene.document.layers {
        let growth = app.growths.plants(&app.db, &scene.document, layer).await?;
        out.push(LayerMeasure { id: layer.id, name: layer.name.clone(), tally: growth.tally.clone() });
    }
    Ok(Json(out))
}
