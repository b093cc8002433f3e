//! The ground for the view, and what is read off it.

use crate::app::App;
use crate::db::scenes;
use crate::error::{ApiError, ErrorBody};
use crate::extract::Path;
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use rookery_core::ground::Reading;
use rookery_core::scene::{ObstacleId, ground_key, obstacle_key};
use rookery_formats::view::{encode_ground, encode_mesh, encode_reading};
use uuid::Uuid;

/// What is named by its contents never changes.
pub(super) const FOR_EVER: &str = "private, max-age=31536000, immutable";

/// The ground as a compact buffer (`RKGR`, see `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/scenes/{scene}/ground/{key}", tag = "view",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`ground_key` of the scene")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 410, body = ErrorBody)))]
pub async fn get_ground(
    State(app): State<App>,
    Path((scene, key)): Path<(Uuid, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let scene = scenes::fetch(&app.db, scene).await?;
    if ground_key(&scene.document.ground).to_string() != key {
        return Err(ApiError::Outdated("ground"));
    }
    let ground = app.growths.ground(&app.db, &scene.document.ground).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, encode_ground(&ground)))
}

/// A quantity of the ground at the samples of its buffer (`RKRD`, see `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/scenes/{scene}/ground/{key}/readings/{reading}", tag = "view",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`ground_key` of the scene"),
        ("reading" = Reading, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody)))]
pub async fn get_reading(
    State(app): State<App>,
    Path((scene, key, reading)): Path<(Uuid, String, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let reading = Reading::from_id(&reading).ok_or(ApiError::NotFound("reading"))?;
    let scene = scenes::fetch(&app.db, scene).await?;
    if ground_key(&scene.document.ground).to_string() != key {
        return Err(ApiError::Outdated("ground"));
    }
    let values = app.growths.reading(&app.db, &scene.document.ground, reading).await?;
    let ground = app.growths.ground(&app.db, &scene.document.ground).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, encode_reading(&ground.terrain, reading, &values)))
}

/// An obstacle's mesh where it stands (`RKME`, see `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/scenes/{scene}/obstacles/{obstacle}/mesh/{key}", tag = "view",
    params(("scene" = Uuid, Path), ("obstacle" = u32, Path),
        ("key" = String, Path, description = "`mesh_key` of the obstacle")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody)))]
pub async fn get_obstacle(
    State(app): State<App>,
    Path((scene, id, key)): Path<(Uuid, u32, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let document = scenes::fetch(&app.db, scene).await?.document;
    let found =
        document.obstacles.iter().find(|o| o.id == ObstacleId(id)).ok_or(ApiError::NotFound("obstacle"))?;
    if obstacle_key(ground_key(&document.ground), found).to_string() != key {
        return Err(ApiError::Outdated("obstacle"));
    }
    let mesh = app.growths.obstacle(&app.db, &document.ground, found).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, encode_mesh(&mesh)))
}
