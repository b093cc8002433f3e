//! How a scene moves.

use super::probe::Point;
use super::view::FOR_EVER;
use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use glam::Vec3;
use rookery_core::motion::{MotionFacts, Moving, Standing, WindAt};
use rookery_core::scene::{BodyForm, BodyId, GroundId, content_key};
use rookery_formats::view::{encode_flow, encode_mesh};
use serde::Serialize;
use uuid::Uuid;

/// How a scene moves, and the name of the mean wind over its land.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct MotionView {
    /// The wind and what it does to plants over level ground.
    #[serde(flatten)]
    pub facts: MotionFacts,
    /// Names the mean wind over the land and its obstacles.
    pub flow_key: String,
    /// Names the mesh of each body that is shown.
    pub body_meshes: Vec<BodyMesh>,
}

/// The mesh of a body.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct BodyMesh {
    /// Which body.
    pub id: BodyId,
    /// Names its mesh.
    pub mesh_key: String,
}

fn mesh_key(form: &BodyForm) -> String {
    content_key("body", form).to_string()
}

/// The wind over the scene, the waves of its gusts, and how the plants of each layer that is shown answer it: with the mean wind over the land, all that is
/// needed to tell how any plant stands at any time.
#[utoipa::path(get, path = "/api/scenes/{scene}/motion", tag = "motion", params(("scene" = Uuid, Path)),
    responses((status = 200, body = MotionView), (status = 404, body = ErrorBody)))]
pub async fn get_motion(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
) -> Result<Json<MotionView>, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let document = &scene.document;
    let mut grown = Vec::new();
    for layer in document.layers.iter().filter(|l| l.visible) {
        grown.push((layer.clone(), app.growths.plants(&app.db, document, layer).await?));
    }
    let flow_key = document.flow_key(document.motion.wind.from_deg).to_string();
    let moving = app.growths.moving(&app.db, document).await?;
    let document = document.document().clone();
    let shown = document.bodies.iter().filter(|b| !b.hidden);
    let body_meshes = shown.map(|b| BodyMesh { id: b.id, mesh_key: mesh_key(&b.form) }).collect();
    let facts = app.growths.pool().run(move |_| {
        let standing: Vec<Standing> =
            grown.iter().map(|(l, g)| (l, g.plants.as_slice(), g.tally.covered())).collect();
        Ok(MotionFacts::of(&document, &standing).with(&document, &standing, Moving::clone(&moving)))
    });
    Ok(Json(MotionView { facts: facts.await?, flow_key, body_meshes }))
}

/// The mesh of a body about its own middle (`RKME`, see `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/scenes/{scene}/bodies/{body}/mesh/{key}", tag = "motion",
    params(("scene" = Uuid, Path), ("body" = u32, Path),
        ("key" = String, Path, description = "`mesh_key` of the body")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody)))]
pub async fn get_body(
    State(app): State<App>,
    Path((scene, id, key)): Path<(Uuid, u32, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let found =
        scene.document.bodies.iter().find(|b| b.id == BodyId(id)).ok_or(ApiError::NotFound("body"))?;
    if mesh_key(&found.form) != key {
        return Err(ApiError::Outdated("body"));
    }
    let moving = app.growths.moving(&app.db, &scene.document).await?;
    let track = moving.bodies.iter().find(|b| b.id == found.id).ok_or(ApiError::NotFound("body"))?;
    let mesh = track.mesh.clone();
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    let buffer = content_key("mesh buffer", &key);
    Ok((headers, app.growths.buffer(buffer, move || encode_mesh(&mesh)).await?))
}

/// The mean wind over a point of the ground, at half a metre, two and ten above it.
#[utoipa::path(get, path = "/api/scenes/{scene}/wind", tag = "motion", params(("scene" = Uuid, Path), Point),
    responses((status = 200, body = WindAt), (status = 404, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn get_wind(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Query(point): Query<Point>,
) -> Result<Json<WindAt>, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let document = &scene.document;
    let id = GroundId(point.ground);
    let mut at = Vec3::new(point.x, point.y, point.z);
    if id == GroundId::LAND {
        let land = app.growths.ground(&app.db, document).await?;
        let half = land.terrain.size_m() * 0.5;
        if document.ground.absent || !(point.x.abs() <= half.x && point.z.abs() <= half.y) {
            return Err(ApiError::OffGround { x: point.x, z: point.z });
        }
        at.y = land.terrain.height_at(point.x, point.z);
    } else if !document.has_ground(id) || !at.is_finite() {
        return Err(ApiError::NotFound("ground"));
    }
    let mut grown = Vec::new();
    for layer in document.layers.iter().filter(|l| l.visible) {
        grown.push((layer.clone(), app.growths.plants(&app.db, document, layer).await?));
    }
    let flow = app.growths.flow(&app.db, document, document.motion.wind.from_deg).await?;
    let document = document.document().clone();
    let told = app.growths.pool().run(move |_| {
        let standing: Vec<Standing> =
            grown.iter().map(|(l, g)| (l, g.plants.as_slice(), g.tally.covered())).collect();
        Ok(MotionFacts::of(&document, &standing).over(flow).over_point(at))
    });
    Ok(Json(told.await?))
}

/// The mean wind over the land and its obstacles (`RKFL`, see `rookery-formats/src/view`): how many times the wind over level ground it is, and where it
/// turns to.
#[utoipa::path(get, path = "/api/scenes/{scene}/flow/{key}", tag = "motion",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`flow_key` of the scene's motion")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody)))]
pub async fn get_flow(
    State(app): State<App>,
    Path((scene, key)): Path<(Uuid, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let from_deg = scene.document.motion.wind.from_deg;
    if scene.document.flow_key(from_deg).to_string() != key {
        return Err(ApiError::Outdated("wind"));
    }
    let flow = app.growths.flow(&app.db, &scene.document, from_deg).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, app.growths.buffer(content_key("flow buffer", &key), move || encode_flow(&flow)).await?))
}
