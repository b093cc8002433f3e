//! Changing a scene: commands, undo, redo.

use super::scenes::SceneView;
use crate::app::App;
use crate::db::blobs;
use crate::db::scenes::{self, Wish, carry_out};
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use axum::extract::State;
use rookery_core::nursery::{Plan, Species};
use rookery_core::scene::{BlobId, Command, GroundEdit, GroundId, GroundSource, PlacedSource, Shape, apply};
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
    let grounds = new_grounds(&request.command);
    if !grounds.is_empty() {
        let document = scenes::fetch(&app.db, scene).await?.document;
        // What is refused or comes too late is told further down.
        if let Ok(changed) = apply(&document, &request.command) {
            for id in grounds {
                app.growths.any(&app.db, &changed.document, id).await?;
            }
        }
    }
    for file in new_meshes(&request.command) {
        blobs::fetch(&mut app.db.get().await?, file).await?;
    }
    let mut imports = new_imports(&request.command);
    if let Some((_, problem)) = app.growths.hold(&app.db, &mut imports).await.into_iter().next() {
        return Err(problem);
    }
    let wish = Wish::Do { command: Box::new(request.command), gesture };
    Ok(Json(carry_out(&app.db, scene, request.expected_seq, wish).await?.into()))
}

/// The grounds that a command makes from files.
fn new_grounds(command: &Command) -> Vec<GroundId> {
    match command {
        Command::EditGround { edit: GroundEdit::Source { value: GroundSource::Heightmap(_) } } => {
            vec![GroundId::LAND]
        }
        Command::PutGround { value, .. } => match &value.source {
            PlacedSource::Mesh(_) | PlacedSource::Heightmap(_) => vec![value.id],
            _ => Vec::new(),
        },
        Command::All { commands } => commands.iter().flat_map(new_grounds).collect(),
        _ => Vec::new(),
    }
}

/// The species from files that a command brings.
fn new_imports(command: &Command) -> Vec<Species> {
    match command {
        Command::PutSpecies { value, .. } if matches!(value.plan, Plan::Imported(_)) => {
            vec![(**value).clone()]
        }
        Command::All { commands } => commands.iter().flat_map(new_imports).collect(),
        _ => Vec::new(),
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
