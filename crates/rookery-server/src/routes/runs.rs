//! Runs of frames.

use super::handoff::file_stem;
use super::stills::as_asked;
use crate::app::App;
use crate::db::{blobs, runs, runs::Run};
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use axum::body::{Body, Bytes};
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::IntoResponse;
use rookery_core::scene::{BlobId, Frames, ShotId, check_frames};
use rookery_formats::frames::{FramesZip, MovingPng};
use serde::{Deserialize, Serialize};
use std::io::{Seek, SeekFrom, Write};
use tokio::sync::mpsc;
use tokio_stream::wrappers::ReceiverStream;
use uuid::Uuid;

/// Which frames to take through which shot.
#[derive(Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RunRequest {
    /// The shot to take them through.
    pub shot: ShotId,
    /// Number of the first frame; 0 when left out.
    #[serde(default)]
    pub first: u32,
    /// Number of the frame after the last; the end of the scene's length of time when left out.
    #[serde(default)]
    pub last: Option<u32>,
    /// Frames a second, 1 to 120; the scene's own when left out.
    #[serde(default)]
    pub frame_rate: Option<f32>,
    /// Picture width, pixels; the shot's own when left out.
    #[serde(default)]
    pub width_px: Option<u32>,
    /// Picture height, pixels; the shot's own when left out.
    #[serde(default)]
    pub height_px: Option<u32>,
    /// Light paths per pixel; the shot's own when left out.
    #[serde(default)]
    pub samples: Option<u32>,
}

/// How many frames were queued again.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct Filled {
    /// Frames.
    pub frames: usize,
}

/// Queues a run of frames of the scene as it stands; answers at once. Each frame is taken by whichever worker is free, and is the same
/// whoever takes it.
#[utoipa::path(post, path = "/api/scenes/{scene}/runs", tag = "stills", params(("scene" = Uuid, Path)),
    request_body = RunRequest,
    responses((status = 202, body = Run), (status = 404, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn create_run(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Json(request): Json<RunRequest>,
) -> Result<(StatusCode, Json<Run>), ApiError> {
    let scene = app.scenes.now(scene).await?;
    let size = [request.width_px, request.height_px, request.samples];
    let shot = as_asked(&scene.document, request.shot, size)?;
    let clock = &scene.document.motion.clock;
    let rate = request.frame_rate.unwrap_or(clock.frame_rate);
    let whole = (clock.length_s * rate).round().max(1.0) as u32;
    let frames = Frames { first: request.first, last: request.last.unwrap_or(whole), rate };
    check_frames(&frames)?;
    let run = runs::queue(&app.db, &scene, &shot, frames).await?;
    Ok((StatusCode::ACCEPTED, Json(runs::fetch(&app.db, run).await?)))
}

/// The newest runs of a scene, newest first, with their frames so far.
#[utoipa::path(get, path = "/api/scenes/{scene}/runs", tag = "stills", params(("scene" = Uuid, Path)),
    responses((status = 200, body = [Run])))]
pub async fn list_runs(State(app): State<App>, Path(scene): Path<Uuid>) -> Result<Json<Vec<Run>>, ApiError> {
    Ok(Json(runs::list(&app.db, scene).await?))
}

/// A run as it stands.
#[utoipa::path(get, path = "/api/runs/{run}", tag = "stills", params(("run" = Uuid, Path)),
    responses((status = 200, body = Run), (status = 404, body = ErrorBody)))]
pub async fn get_run(State(app): State<App>, Path(run): Path<Uuid>) -> Result<Json<Run>, ApiError> {
    Ok(Json(runs::fetch(&app.db, run).await?))
}

/// Stops what is not done of a run. What is done stays.
#[utoipa::path(post, path = "/api/runs/{run}/stop", tag = "stills", params(("run" = Uuid, Path)),
    responses((status = 200, body = Run), (status = 404, body = ErrorBody)))]
pub async fn stop_run(State(app): State<App>, Path(run): Path<Uuid>) -> Result<Json<Run>, ApiError> {
    runs::stop(&app.db, run).await?;
    Ok(Json(runs::fetch(&app.db, run).await?))
}

/// Queues again the frames of a run that failed or were stopped.
#[utoipa::path(post, path = "/api/runs/{run}/fill", tag = "stills", params(("run" = Uuid, Path)),
    responses((status = 202, body = Filled), (status = 404, body = ErrorBody)))]
pub async fn fill_run(
    State(app): State<App>,
    Path(run): Path<Uuid>,
) -> Result<(StatusCode, Json<Filled>), ApiError> {
    let frames = runs::fill(&app.db, run).await?;
    Ok((StatusCode::ACCEPTED, Json(Filled { frames })))
}

/// Deletes a run with its frames.
#[utoipa::path(delete, path = "/api/runs/{run}", tag = "stills", params(("run" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ErrorBody)))]
pub async fn remove_run(State(app): State<App>, Path(run): Path<Uuid>) -> Result<StatusCode, ApiError> {
    runs::remove(&app.db, run).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The frames that are done as numbered PNGs in a zip.
#[utoipa::path(get, path = "/api/runs/{run}/frames.zip", tag = "stills", params(("run" = Uuid, Path)),
    responses((status = 200, content_type = "application/zip"), (status = 404, body = ErrorBody)))]
pub async fn run_zip(State(app): State<App>, Path(run): Path<Uuid>) -> Result<impl IntoResponse, ApiError> {
    let run = runs::fetch(&app.db, run).await?;
    let stem = file_stem(&run.shot_name);
    let file = tempfile::tempfile().map_err(not_written)?;
    let mut zip = FramesZip::new(file, &stem);
    for (nth, picture) in done(&run)? {
        let (_, png) = blobs::fetch(&mut app.db.get().await?, &picture).await?;
        zip.add(nth, &png).map_err(not_written)?;
    }
    let mut file = zip.finish().map_err(not_written)?;
    let length = file.seek(SeekFrom::End(0)).map_err(not_written)?;
    file.rewind().map_err(not_written)?;
    let headers = [
        (header::CONTENT_TYPE, "application/zip".to_owned()),
        (header::CONTENT_LENGTH, length.to_string()),
        (header::CONTENT_DISPOSITION, format!("attachment; filename=\"{stem}.zip\"")),
    ];
    let body = Body::from_stream(pieces(move |out| {
        let mut file = file;
        std::io::copy(&mut file, out).map(|_| ())
    }));
    Ok((headers, body))
}

/// The frames that are done as one animated PNG.
#[utoipa::path(get, path = "/api/runs/{run}/animation.png", tag = "stills", params(("run" = Uuid, Path)),
    responses((status = 200, content_type = "image/apng"), (status = 404, body = ErrorBody)))]
pub async fn run_animation(
    State(app): State<App>,
    Path(run): Path<Uuid>,
) -> Result<impl IntoResponse, ApiError> {
    let run = runs::fetch(&app.db, run).await?;
    let frames = done(&run)?;
    let headers = [
        (header::CONTENT_TYPE, "image/apng".to_owned()),
        (header::CONTENT_DISPOSITION, format!("attachment; filename=\"{}.png\"", file_stem(&run.shot_name))),
    ];
    let runtime = tokio::runtime::Handle::current();
    // It is made while it is sent: nobody waits for the last frame to see the first byte.
    let body = Body::from_stream(pieces(move |out| {
        let size = (run.width_px as u32, run.height_px as u32);
        let mut moving = MovingPng::new(out, size, frames.len() as u32, run.frame_rate)?;
        for (_, picture) in &frames {
            let fetched = runtime.block_on(async { blobs::fetch(&mut app.db.get().await?, picture).await });
            moving.add(&fetched.map_err(std::io::Error::other)?.1)?;
        }
        moving.finish()
    }));
    Ok((headers, body))
}

/// Numbers and pictures of what is done of a run.
fn done(run: &Run) -> Result<Vec<(u32, BlobId)>, ApiError> {
    let each = run.frames.iter().filter_map(|f| Some((f.nth as u32, BlobId(f.picture.clone()?))));
    let done: Vec<(u32, BlobId)> = each.collect();
    if done.is_empty() { Err(ApiError::NotFound("frame of this run yet")) } else { Ok(done) }
}

fn not_written(e: std::io::Error) -> ApiError {
    ApiError::Internal(format!("the file cannot be written: {e}"))
}

/// What some work writes, piece by piece. The work ends when nobody reads any more.
fn pieces(
    work: impl FnOnce(&mut Sending) -> std::io::Result<()> + Send + 'static,
) -> ReceiverStream<std::io::Result<Bytes>> {
    let (sender, receiver) = mpsc::channel(4);
    tokio::task::spawn_blocking(move || {
        let mut out = Sending { sender: sender.clone(), kept: Vec::new() };
        if let Err(e) = work(&mut out).and_then(|()| out.flush()) {
            // The reader learns of it by a file that is cut short.
            let _ = sender.blocking_send(Err(e));
        }
    });
    ReceiverStream::new(receiver)
}

/// Bytes of a piece.
const PIECE: usize = 256 << 10;

struct Sending {
    sender: mpsc::Sender<std::io::Result<Bytes>>,
    kept: Vec<u8>,
}

impl Write for Sending {
    fn write(&mut self, bytes: &[u8]) -> std::io::Result<usize> {
        self.kept.extend_from_slice(bytes);
        if self.kept.len() >= PIECE {
            self.flush()?;
        }
        Ok(bytes.len())
    }

    fn flush(&mut self) -> std::io::Result<()> {
        let piece = std::mem::take(&mut self.kept);
        if piece.is_empty() {
            return Ok(());
        }
        let sent = self.sender.blocking_send(Ok(piece.into()));
        sent.map_err(|_| std::io::Error::from(std::io::ErrorKind::BrokenPipe))
    }
}
