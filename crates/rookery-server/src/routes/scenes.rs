//! Scenes.

use crate::app::App;
use crate::db::scenes::{self, SceneLine};
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use crate::scenes::{Changes, SceneView};
use axum::extract::State;
use axum::http::StatusCode;
use rookery_core::scene::{Document, bare, kittiwake_head, needle_arch, tarn_moraine};
use serde::{Deserialize, Serialize};
use std::time::Duration;
use uuid::Uuid;

/// What a new scene begins with.
#[derive(Debug, Deserialize, utoipa::ToSchema)]
#[serde(tag = "from", rename_all = "snake_case", deny_unknown_fields)]
pub enum NewScene {
    /// A sea headland; the scene a first start opens.
    KittiwakeHead,
    /// A glacial boulder field about a tarn.
    TarnMoraine,
    /// A sea arch, a closed mesh with overhangs.
    NeedleArch,
    /// Ground and a shot, nothing planted.
    Bare,
    /// A copy of a scene as it stands, without its history.
    Scene {
        /// Which.
        scene: Uuid,
        /// What the copy is called; as the scene when left out.
        #[serde(default)]
        name: Option<String>,
    },
    /// A scene file.
    Document {
        /// All of it.
        document: Box<Document>,
    },
}

/// Less room than this is said, bytes.
const LITTLE_ROOM: u64 = 1 << 30;
/// Longest time that an answer about health takes.
const HEALTH_PATIENCE: Duration = Duration::from_millis(800);

/// How the server is.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct Health {
    /// `well`, or `away` when the database does not answer.
    pub database: &'static str,
    /// Room left where the database keeps its files, bytes; none where that cannot be told.
    pub room_bytes: Option<u64>,
    /// Whether so little room is left that it should be seen to.
    pub little_room: bool,
}

/// Whether the server and its database are well. Answers within a second.
#[utoipa::path(get, path = "/api/health", tag = "server",
    responses((status = 200, body = Health), (status = 503, body = Health, description = "The database is away")))]
pub async fn health(State(app): State<App>) -> (StatusCode, Json<Health>) {
    let found = tokio::time::timeout(HEALTH_PATIENCE, app.db.look()).await;
    let Ok(Ok(room_bytes)) = found else {
        let away = Health { database: "away", room_bytes: None, little_room: false };
        return (StatusCode::SERVICE_UNAVAILABLE, Json(away));
    };
    let little_room = room_bytes.is_some_and(|room| room < LITTLE_ROOM);
    (StatusCode::OK, Json(Health { database: "well", room_bytes, little_room }))
}

/// All scenes, last changed first.
#[utoipa::path(get, path = "/api/scenes", tag = "scenes", responses((status = 200, body = [SceneLine])))]
pub async fn list_scenes(State(app): State<App>) -> Result<Json<Vec<SceneLine>>, ApiError> {
    Ok(Json(scenes::list(&app.db).await?))
}

/// Makes a scene from the demo or from a scene file.
#[utoipa::path(post, path = "/api/scenes", tag = "scenes", request_body = NewScene,
    responses((status = 201, body = SceneView), (status = 404, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn create_scene(
    State(app): State<App>,
    Json(new): Json<NewScene>,
) -> Result<(StatusCode, Json<SceneView>), ApiError> {
    let document = match new {
        NewScene::KittiwakeHead => kittiwake_head(),
        NewScene::TarnMoraine => tarn_moraine(),
        NewScene::NeedleArch => needle_arch(),
        NewScene::Bare => bare(),
        NewScene::Document { document } => *document,
        NewScene::Scene { scene, name } => {
            let mut copy = app.scenes.now(scene).await?.document.clone();
            copy.name = name.unwrap_or(copy.name);
            copy
        }
    };
    let snapshot = app.scenes.create(&document).await?;
    Ok((StatusCode::CREATED, Json(SceneView::new(&snapshot, [0, 0]))))
}

/// Deletes a scene. It can be restored for 30 days; until then its stills and files stay.
#[utoipa::path(delete, path = "/api/scenes/{scene}", tag = "scenes", params(("scene" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ErrorBody)))]
pub async fn delete_scene(State(app): State<App>, Path(scene): Path<Uuid>) -> Result<StatusCode, ApiError> {
    app.scenes.delete(scene).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Restores a deleted scene with all its history.
#[utoipa::path(post, path = "/api/scenes/{scene}/restore", tag = "scenes", params(("scene" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ErrorBody)))]
pub async fn restore_scene(State(app): State<App>, Path(scene): Path<Uuid>) -> Result<StatusCode, ApiError> {
    scenes::set_deleted(&app.db, scene, false).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Deleted scenes that can still be restored, last deleted first; `updated_at` is when that was.
#[utoipa::path(get, path = "/api/deleted-scenes", tag = "scenes", responses((status = 200, body = [SceneLine])))]
pub async fn list_deleted_scenes(State(app): State<App>) -> Result<Json<Vec<SceneLine>>, ApiError> {
    Ok(Json(scenes::list_deleted(&app.db).await?))
}

/// Who asks.
#[derive(Debug, Default, Deserialize, utoipa::IntoParams)]
#[serde(default)]
pub struct Asker {
    /// The name under which the one who asks changes scenes; tells what they can take back.
    pub author: String,
}

/// A scene as it stands.
#[utoipa::path(get, path = "/api/scenes/{scene}", tag = "scenes", params(("scene" = Uuid, Path), Asker),
    responses((status = 200, body = SceneView), (status = 404, body = ErrorBody)))]
pub async fn get_scene(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Query(asker): Query<Asker>,
) -> Result<Json<SceneView>, ApiError> {
    let (snapshot, steps) = app.scenes.seen_by(scene, &asker.author).await?;
    Ok(Json(SceneView::new(&snapshot, steps)))
}

/// Since when.
#[derive(Debug, Default, Deserialize, utoipa::IntoParams)]
#[serde(default)]
pub struct Since {
    /// The last edit that the one who asks has seen.
    pub since: i64,
    /// The name under which the one who asks changes scenes; tells what they can take back.
    pub author: String,
}

/// What changed in a scene since an edit.
#[utoipa::path(get, path = "/api/scenes/{scene}/changes", tag = "scenes", params(("scene" = Uuid, Path), Since),
    responses((status = 200, body = Changes), (status = 404, body = ErrorBody)))]
pub async fn get_changes(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Query(Since { since, author }): Query<Since>,
) -> Result<Json<Changes>, ApiError> {
    Ok(Json(app.scenes.changes(scene, since, &author).await?))
}
