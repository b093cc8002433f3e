//! Scenes.

use crate::app::App;
use crate::db::scenes::{self, SceneLine};
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use crate::scenes::{Changes, SceneView};
use axum::extract::State;
use axum::http::StatusCode;
use rookery_core::scene::{Document, bare, kittiwake_head, needle_arch, tarn_moraine};
use serde::Deserialize;
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
    /// A scene file.
    Document {
        /// All of it.
        document: Box<Document>,
    },
}

/// Whether the server and its database are well.
#[utoipa::path(get, path = "/api/health", tag = "server", responses((status = 200, body = String)))]
pub async fn health(State(app): State<App>) -> Result<&'static str, ApiError> {
    drop(app.db.get().await?);
    Ok("well")
}

/// All scenes, last changed first.
#[utoipa::path(get, path = "/api/scenes", tag = "scenes", responses((status = 200, body = [SceneLine])))]
pub async fn list_scenes(State(app): State<App>) -> Result<Json<Vec<SceneLine>>, ApiError> {
    Ok(Json(scenes::list(&app.db).await?))
}

/// Makes a scene from the demo or from a scene file.
#[utoipa::path(post, path = "/api/scenes", tag = "scenes", request_body = NewScene,
    responses((status = 201, body = SceneView), (status = 422, body = ErrorBody)))]
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
    };
    let snapshot = app.scenes.create(&document).await?;
    Ok((StatusCode::CREATED, Json(SceneView::new(&snapshot, [0, 0]))))
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
