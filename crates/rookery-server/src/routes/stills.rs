//! Stills and the jobs that take them.

use crate::app::App;
use crate::db::jobs::{self, Job};
use crate::db::stills::{self, Still};
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::IntoResponse;
use rookery_core::scene::{Difference, Document, Shot, ShotId, check_shot, check_time, differences};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// Which shot to take, and how.
#[derive(Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StillRequest {
    /// The shot to take it through.
    pub shot: ShotId,
    /// Picture width, pixels; the shot's own when left out.
    #[serde(default)]
    pub width_px: Option<u32>,
    /// Picture height, pixels; the shot's own when left out.
    #[serde(default)]
    pub height_px: Option<u32>,
    /// Light paths per pixel; the shot's own when left out.
    #[serde(default)]
    pub samples: Option<u32>,
    /// The moment it shows, seconds from the start, 0 to 3600; plants stand at rest when left out.
    #[serde(default)]
    pub time_s: Option<f64>,
}

/// A still that was queued.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct StillQueued {
    /// Its row on the contact sheet.
    pub still: Uuid,
    /// The work.
    pub job: Job,
}

/// A shot with the width, the height and the samples asked for; its own where nothing is asked.
pub(super) fn as_asked(
    document: &Document,
    id: ShotId,
    [width_px, height_px, samples]: [Option<u32>; 3],
) -> Result<Shot, ApiError> {
    let saved = document.shot(id).ok_or(ApiError::NotFound("shot"))?;
    let shot = Shot {
        width_px: width_px.unwrap_or(saved.width_px),
        height_px: height_px.unwrap_or(saved.height_px),
        samples: samples.unwrap_or(saved.samples),
        ..saved.clone()
    };
    check_shot(&shot)?;
    Ok(shot)
}

/// Queues a still of the scene as it stands; answers at once.
#[utoipa::path(post, path = "/api/scenes/{scene}/stills", tag = "stills", params(("scene" = Uuid, Path)),
    request_body = StillRequest,
    responses((status = 202, body = StillQueued), (status = 404, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn create_still(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Json(request): Json<StillRequest>,
) -> Result<(StatusCode, Json<StillQueued>), ApiError> {
    let scene = app.scenes.now(scene).await?;
    let size = [request.width_px, request.height_px, request.samples];
    let shot = as_asked(&scene.document, request.shot, size)?;
    request.time_s.map_or(Ok(()), check_time)?;
    let (still, job) = stills::queue(&app.db, &scene, &shot, request.time_s).await?;
    Ok((StatusCode::ACCEPTED, Json(StillQueued { still, job })))
}

/// The contact sheet, newest first.
#[utoipa::path(get, path = "/api/scenes/{scene}/stills", tag = "stills", params(("scene" = Uuid, Path)),
    responses((status = 200, body = [Still])))]
pub async fn list_stills(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
) -> Result<Json<Vec<Still>>, ApiError> {
    Ok(Json(stills::list(&app.db, scene).await?))
}

/// The picture of a still so far: small, coarse, and gone once the whole one is there.
#[utoipa::path(get, path = "/api/stills/{still}/draft", tag = "stills", params(("still" = Uuid, Path)),
    responses((status = 200, content_type = "image/png"), (status = 404, body = ErrorBody)))]
pub async fn still_draft(
    State(app): State<App>,
    Path(still): Path<Uuid>,
) -> Result<impl IntoResponse, ApiError> {
    let headers = [(header::CONTENT_TYPE, "image/png"), (header::CACHE_CONTROL, "no-store")];
    Ok((headers, stills::draft(&app.db, still).await?))
}

/// Takes a still off the contact sheet.
#[utoipa::path(delete, path = "/api/stills/{still}", tag = "stills", params(("still" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ErrorBody)))]
pub async fn remove_still(State(app): State<App>, Path(still): Path<Uuid>) -> Result<StatusCode, ApiError> {
    stills::remove(&app.db, still).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The settings that differ between two stills.
#[utoipa::path(get, path = "/api/stills/{still}/differences/{other}", tag = "stills",
    params(("still" = Uuid, Path), ("other" = Uuid, Path)),
    responses((status = 200, body = [Difference]), (status = 404, body = ErrorBody)))]
pub async fn compare_stills(
    State(app): State<App>,
    Path((still, other)): Path<(Uuid, Uuid)>,
) -> Result<Json<Vec<Difference>>, ApiError> {
    let (a, b) = (stills::document(&app.db, still).await?, stills::document(&app.db, other).await?);
    Ok(Json(differences(&a, &b)))
}

/// A job as it stands.
#[utoipa::path(get, path = "/api/jobs/{job}", tag = "stills", params(("job" = Uuid, Path)),
    responses((status = 200, body = Job), (status = 404, body = ErrorBody)))]
pub async fn get_job(State(app): State<App>, Path(job): Path<Uuid>) -> Result<Json<Job>, ApiError> {
    Ok(Json(jobs::fetch(&app.db, job).await?))
}

/// Asks a job to stop. One that has ended stays as it is.
#[utoipa::path(post, path = "/api/jobs/{job}/stop", tag = "stills", params(("job" = Uuid, Path)),
    responses((status = 200, body = Job), (status = 404, body = ErrorBody)))]
pub async fn stop_job(State(app): State<App>, Path(job): Path<Uuid>) -> Result<Json<Job>, ApiError> {
    Ok(Json(jobs::ask_to_stop(&app.db, job).await?))
}
