//! Changing a scene: commands, undo, redo.

use crate::app::App;
use crate::db::blobs;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use crate::scenes::{CommandAnswer, Request, Wish};
use axum::extract::State;
use axum::http::StatusCode;
use rookery_core::nursery::{Plan, Species};
use rookery_core::scene::{BlobId, Command, GroundEdit, GroundId, GroundSource, PlacedSource, Shape, apply};
use serde::Deserialize;
use uuid::Uuid;

/// A change, who sends it, and what they had seen.
#[derive(Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CommandRequest {
    /// The sender's own name for this change, made anew for each. Sent again with the same name it is not carried out again; it
    /// is answered as the first time.
    pub id: Uuid,
    /// Who changes: a name of 0 to 64 characters. Everybody takes back their own steps.
    #[serde(default)]
    pub author: String,
    /// The last edit of the scene that the sender has seen. Changes of the same by others since then are a conflict.
    pub seen_seq: i64,
    /// The change.
    pub command: Command,
    /// Commands of one drag share a name, 1 to 64 characters, and are undone together.
    #[serde(default)]
    pub gesture: Option<String>,
}

/// Who takes a step back, and what they had seen.
#[derive(Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct HistoryRequest {
    /// The sender's own name for this wish, made anew for each. Sent again with the same name it is not carried out again.
    pub id: Uuid,
    /// Who takes a step back: their own last one.
    #[serde(default)]
    pub author: String,
    /// The last edit of the scene that the sender has seen.
    pub seen_seq: i64,
}

/// A name of who changes, or of a drag, that can be kept.
fn checked(what: &str, name: String) -> Result<String, ApiError> {
    if name.chars().count() <= 64 && !name.chars().any(char::is_control) {
        return Ok(name);
    }
    let message = format!("the name of {what} must have at most 64 characters, all of them printable");
    Err(ApiError::BadRequest { status: StatusCode::UNPROCESSABLE_ENTITY, message })
}

/// Changes a scene, on top of what others did since the sender looked. The answer tells what is different now.
#[utoipa::path(post, path = "/api/scenes/{scene}/commands", tag = "scenes", params(("scene" = Uuid, Path)),
    request_body = CommandRequest,
    responses((status = 200, body = CommandAnswer), (status = 404, body = ErrorBody), (status = 409, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn run_command(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Json(request): Json<CommandRequest>,
) -> Result<Json<CommandAnswer>, ApiError> {
    let author = checked("the author", request.author)?;
    let gesture = request.gesture.filter(|g| !g.is_empty()).map(|g| checked("a drag", g)).transpose()?;
    // A ground that cannot be made must not get into the document: its plants would have nothing to stand on.
    let grounds = new_grounds(&request.command);
    if !grounds.is_empty() {
        let now = app.scenes.now(scene).await?;
        // What is refused is told further down.
        if let Ok(changed) = apply(&now.document, &request.command) {
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
    let request = Request { id: request.id, author, seen_seq: request.seen_seq, wish };
    Ok(Json(app.scenes.carry_out(scene, request).await?))
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

/// Takes the sender's last step back.
#[utoipa::path(post, path = "/api/scenes/{scene}/undo", tag = "scenes", params(("scene" = Uuid, Path)),
    request_body = HistoryRequest,
    responses((status = 200, body = CommandAnswer), (status = 404, body = ErrorBody), (status = 409, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn undo(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Json(request): Json<HistoryRequest>,
) -> Result<Json<CommandAnswer>, ApiError> {
    turn(&app, scene, request, Wish::Undo).await
}

/// Does the step that the sender took back last again.
#[utoipa::path(post, path = "/api/scenes/{scene}/redo", tag = "scenes", params(("scene" = Uuid, Path)),
    request_body = HistoryRequest,
    responses((status = 200, body = CommandAnswer), (status = 404, body = ErrorBody), (status = 409, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn redo(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Json(request): Json<HistoryRequest>,
) -> Result<Json<CommandAnswer>, ApiError> {
    turn(&app, scene, request, Wish::Redo).await
}

async fn turn(
    app: &App,
    scene: Uuid,
    request: HistoryRequest,
    wish: Wish,
) -> Result<Json<CommandAnswer>, ApiError> {
    let author = checked("the author", request.author)?;
    let request = Request { id: request.id, author, seen_seq: request.seen_seq, wish };
    Ok(Json(app.scenes.carry_out(scene, request).await?))
}
