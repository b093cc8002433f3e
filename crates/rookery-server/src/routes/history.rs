//! Changing a scene: commands, undo, redo.

use crate::app::App;
use crate::db::blobs;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use crate::scenes::{CommandAnswer, Request, Wish};
use axum::extract::State;
use axum::http::StatusCode;
use rookery_core::nursery::{Plan, Species};
use rookery_core::scene::{
    BodyId, Command, Fields, GroundEdit, GroundId, GroundSource, Keyed, ObstacleId, PlacedSource, Shape,
    SpeciesId, Thing, apply,
};
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
    let files = NewFiles::named_by(&request.command);
    if !files.is_empty() {
        let now = app.scenes.now(scene).await?;
        // What is refused is told further down.
        if let Ok(changed) = apply(&now.document, &request.command) {
            files.check(&app, &now.document.after(changed.document)).await?;
        }
    }
    let wish = Wish::Do { command: Box::new(request.command), gesture };
    let request = Request { id: request.id, author, seen_seq: request.seen_seq, wish };
    Ok(Json(app.scenes.carry_out(scene, request).await?))
}

/// The things of a command that may come from files. What cannot be made must not get into the document: plants would have nothing to
/// stand on, or would be nothing.
#[derive(Default)]
struct NewFiles {
    grounds: Vec<GroundId>,
    obstacles: Vec<ObstacleId>,
    species: Vec<SpeciesId>,
    bodies: Vec<BodyId>,
}

impl NewFiles {
    fn named_by(command: &Command) -> Self {
        let mut files = Self::default();
        files.add(command);
        files
    }

    fn is_empty(&self) -> bool {
        self.grounds.is_empty()
            && self.obstacles.is_empty()
            && self.species.is_empty()
            && self.bodies.is_empty()
    }

    fn add(&mut self, command: &Command) {
        let names = |fields: &Fields, field: &str| fields.0.contains_key(field);
        match command {
            Command::EditGround { edit: GroundEdit::Source { value: GroundSource::Heightmap(_) } } => {
                self.grounds.push(GroundId::LAND);
            }
            Command::Change { what: Thing::Land {}, fields } if names(fields, "source") => {
                self.grounds.push(GroundId::LAND);
            }
            Command::Change { what: Thing::Ground { id }, fields } if names(fields, "source") => {
                self.grounds.push(*id);
            }
            Command::Change { what: Thing::Obstacle { id }, fields } if names(fields, "shape") => {
                self.obstacles.push(*id);
            }
            Command::Change { what: Thing::Species { id }, fields } if names(fields, "plan") => {
                self.species.push(id.clone());
            }
            Command::Change { what: Thing::Body { id }, fields } if names(fields, "form") => {
                self.bodies.push(*id);
            }
            Command::PutBody { value, .. } => self.bodies.push(value.id),
            Command::PutGround { value, .. } => self.grounds.push(value.id),
            Command::PutObstacle { value, .. } => self.obstacles.push(value.id),
            Command::PutSpecies { value, .. } => self.species.push(value.id.clone()),
            Command::All { commands } | Command::EachAlone { commands } => {
                commands.iter().for_each(|c| self.add(c));
            }
            _ => {}
        }
    }

    /// Whether all of them can be made, in the document they are to be part of.
    async fn check(self, app: &App, document: &Keyed) -> Result<(), ApiError> {
        for id in self.grounds {
            let land = matches!(document.ground.source, GroundSource::Heightmap(_));
            let from_file = match document.placed(id) {
                Some(g) => matches!(g.source, PlacedSource::Mesh(_) | PlacedSource::Heightmap(_)),
                None => id == GroundId::LAND && land,
            };
            if from_file {
                app.growths.any(&app.db, document, id).await?;
            }
        }
        for obstacle in document.obstacles.iter().filter(|o| self.obstacles.contains(&o.id)) {
            if let Shape::Mesh { blob, .. } = &obstacle.shape {
                blobs::fetch(&mut app.db.get().await?, blob).await?;
            }
        }
        for body in document.bodies.iter().filter(|b| self.bodies.contains(&b.id)) {
            app.growths.body_from_file(&app.db, body).await?;
        }
        let imported = |s: &&Species| self.species.contains(&s.id) && matches!(s.plan, Plan::Imported(_));
        let mut imports: Vec<Species> = document.species.iter().filter(imported).cloned().collect();
        if let Some((_, problem)) = app.growths.hold(&app.db, &mut imports).await.into_iter().next() {
            return Err(problem);
        }
        Ok(())
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
