//! Changing a scene: commands, undo, redo.

use super::scenes::SceneView;
use crate::app::App;
use crate::db::blobs;
use crate::db::scenes::{Wish, carry_out};
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use axum::extract::State;
use rookery_core::scene::{BlobId, Command, GroundEdit, GroundSource, Shape};
use serde::Deserialize;
use uuid::Uuid;

/// A change, and what the sender had seen.
#[derive(Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CommandRequest {
    /// The scene's sequence number as the sender knows it.
    pub expected_seq: i64,
    /// The change.
    pub command: Command,
    /// Commands of one drag share a name, at most 64 characters, and are undone together.
    #[serde(default)]
    pub gesture: Option<String>,
}

/// What the sender had seen.
#[derive(Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct HistoryRequest {
    /// The scene's sequence number as the sender knows it.
    pub expected_seq: i64,
}

/// Changes a scene. The answer is the scene after the change.
#[utoipa::path(post, path = "/api/scenes/{scene}/commands", tag = "scenes", params(("scene" = Uuid, Path)),
    request_body = CommandRequest,
    responses((status = 200, body = SceneView), (status = 404, body = ErrorBody), (status = 409, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn run_command(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Json(request): Json<CommandRequest>,
) -> Result<Json<SceneView>, ApiError> {
    let gesture = request.gesture.filter(|g| (1..=64).contains(&g.len()));
    // A ground that cannot be made must not get into the document: its plants would have nothing to stand on.
    if let Some(source) = new_ground(&request.command) {
        let ground = rookery_core::scene::Ground {
            source: source.clone(),
            water_m: None,
            earths: Default::default(),
            strokes: Vec::new(),
        };
        rookery_core::scene::check_ground(&ground)?;
        app.growths.ground(&app.db, &ground).await?;
    }
    for file in new_meshes(&request.command) {
        blobs::fetch(&mut app.db.get().await?, file).await?;
    }
    let wish = Wish::Do { command: request.command, gesture };
    Ok(Json(carry_out(&app.db, scene, request.expected_seq, wish).await?.into()))
}

/// The last new ground a command brings, if it brings one from a file.
fn new_ground(command: &Command) -> Option<&GroundSource> {
    match command {
        Command::EditGround { edit: GroundEdit::Source { value: value @ GroundSource::Heightmap(_) } } => {
            Some(value)
        }
        Command::All { commands } => commands.iter().rev().find_map(new_ground),
        _ => None,
    }
}

/// The files of the meshes that a command sets up.
fn new_meshes(command: &Command) -> Vec<&BlobId> {
    match command {
        Command::PutObstacle { value, .. } => match &value.shape {
            Shape::Mesh { blob, .. } => vec![blob],
            _ => Vec::new(),
        },
        Command::All { commands } => commands.iter().flat_map(new_meshes).collect(),
        _ => Vec::new(),
    }
}

/// Takes the last step back.
#[utoipa::path(post, path = "/api/scenes/{scene}/undo", tag = "scenes", params(("scene" = Uuid, Path)),
    request_body = HistoryRequest, responses((status = 200, body = SceneView), (status = 409, body = ErrorBody)))]
pub async fn undo(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Json(request): Json<HistoryRequest>,
) -> Result<Json<SceneView>, ApiError> {
    Ok(Json(carry_out(&app.db, scene, request.expected_seq, Wish::Undo).await?.into()))
}

/// Does the last step that was taken back again.
#[utoipa::path(post, path = "/api/scenes/{scene}/redo", tag = "scenes", params(("scene" = Uuid, Path)),
    request_body = HistoryRequest, responses((status = 200, body = SceneView), (status = 409, body = ErrorBody)))]
pub async fn redo(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Json(request): Json<HistoryRequest>,
) -> Result<Json<SceneView>, ApiError> {
    Ok(Json(carry_out(&app.db, scene, request.expected_seq, Wish::Redo).await?.into()))
}
