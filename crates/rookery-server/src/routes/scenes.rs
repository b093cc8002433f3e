//! Scenes.

use crate::app::App;
use crate::db::scenes::{self, Scene, SceneLine};
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use axum::extract::State;
use axum::http::StatusCode;
use rookery_core::ground::outline::OutlineLine;
use rookery_core::measure::{Part, sentence};
use rookery_core::scene::{
    Document, GroundId, Keys, Layer, LayerId, Obstacle, ObstacleId, Outline, OutlineId, PlacedGround, bare,
    kittiwake_head, needle_arch, tarn_moraine,
};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A scene as it stands, with the names of what is derived from it.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct SceneView {
    /// Which.
    pub id: Uuid,
    /// The number of its last edit; a command must name it.
    pub seq: i64,
    /// The document.
    pub document: Document,
    /// How many steps can be taken back.
    pub undo_steps: usize,
    /// How many steps can be done again.
    pub redo_steps: usize,
    /// Names the land's buffer; another name, another land.
    pub ground_key: String,
    /// One for each ground beside the land, in the document's order.
    pub grounds: Vec<GroundView>,
    /// One for each outline, in the document's order.
    pub outlines: Vec<OutlineView>,
    /// One for each obstacle, in the document's order.
    pub obstacles: Vec<ObstacleView>,
    /// One for each layer, in the document's order.
    pub layers: Vec<LayerView>,
}

/// What is derived from an outline.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct OutlineView {
    /// Which.
    pub id: OutlineId,
    /// The line through its nodes in straight pieces: x, z in metres; a closed one ends where it begins.
    #[schema(value_type = Vec<Vec<f32>>)]
    pub line: Vec<[f32; 2]>,
    /// Length of the line, metres.
    pub length_m: f32,
    /// Plan area, m2.
    pub area_m2: f32,
}

impl From<&Outline> for OutlineView {
    fn from(outline: &Outline) -> Self {
        let line = OutlineLine::new(outline);
        let (length_m, area_m2) = (line.length_m(), line.area_m2());
        Self { id: outline.id, line: line.points.iter().map(|p| p.to_array()).collect(), length_m, area_m2 }
    }
}

/// What is derived from a ground beside the land.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct GroundView {
    /// Which.
    pub id: GroundId,
    /// Names its buffer; another name, another surface. Where it stands is not part of it.
    pub key: String,
}

/// What is derived from an obstacle.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct ObstacleView {
    /// Which.
    pub id: ObstacleId,
    /// Names the buffer of its mesh; another name, another mesh.
    pub mesh_key: String,
}

/// What the core says of a layer.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct LayerView {
    /// Which.
    pub id: LayerId,
    /// Names the buffer of its plants; another name, other plants.
    pub plants_key: String,
    /// Names the buffer of plants with forms of their own; none where none are bent or trimmed.
    pub fits_key: Option<String>,
    /// Layers whose plants claim their ground first.
    pub yields_to: Vec<LayerId>,
    /// How soon it claims ground by the profile: 0 before all others.
    pub claims_at: u32,
    /// Its specification sentence.
    pub sentence: Vec<Part>,
}

impl From<Scene> for SceneView {
    fn from(scene: Scene) -> Self {
        let document = &scene.document;
        let keys = Keys::of(document);
        let claims = document.claims();
        let layer = |l: &Layer| LayerView {
            id: l.id,
            plants_key: keys.layer(document, l).to_string(),
            fits_key: keys.fits(document, l).map(|key| key.to_string()),
            yields_to: claims.over(l.id).to_vec(),
            claims_at: claims.order().position(|id| id == l.id).unwrap_or_default() as u32,
            sentence: sentence(document, l),
        };
        let ground = |g: &PlacedGround| {
            let key = keys.ground(g.id).expect("the keys are of this document");
            GroundView { id: g.id, key: key.to_string() }
        };
        let obstacle = |o: &Obstacle| ObstacleView { id: o.id, mesh_key: keys.obstacle(o).to_string() };
        Self {
            id: scene.id,
            seq: scene.seq,
            undo_steps: scene.undo_steps,
            redo_steps: scene.redo_steps,
            ground_key: keys.land().to_string(),
            grounds: document.grounds.iter().map(ground).collect(),
            outlines: document.outlines.iter().map(OutlineView::from).collect(),
            obstacles: document.obstacles.iter().map(obstacle).collect(),
            layers: document.layers.iter().map(layer).collect(),
            document: scene.document,
        }
    }
}

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
    let scene = scenes::create(&app.db, &document).await?;
    Ok((StatusCode::CREATED, Json(scene.into())))
}

/// A scene as it stands.
#[utoipa::path(get, path = "/api/scenes/{scene}", tag = "scenes", params(("scene" = Uuid, Path)),
    responses((status = 200, body = SceneView), (status = 404, body = ErrorBody)))]
pub async fn get_scene(State(app): State<App>, Path(scene): Path<Uuid>) -> Result<Json<SceneView>, ApiError> {
    Ok(Json(scenes::fetch(&app.db, scene).await?.into()))
}
