//! Asking the ground.

use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use axum::extract::State;
use glam::Vec3;
use rookery_core::ground::GroundRef;
use rookery_core::planting::Rules;
use rookery_core::planting::Verdict;
use rookery_core::scene::{Document, GroundId, Layer, LayerId};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A point of a ground.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[serde(deny_unknown_fields)]
pub struct Point {
    /// East, metres.
    pub x: f32,
    /// South, metres.
    pub z: f32,
    /// Height, metres; only needed on a ground beside the land.
    #[serde(default)]
    pub y: f32,
    /// Which ground; the land when left out.
    #[serde(default)]
    pub ground: u32,
}

/// What a layer makes of a point.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct LayerVerdict {
    /// Which.
    pub id: LayerId,
    /// Its name.
    pub name: String,
    /// Why it grows there or does not.
    pub verdict: Verdict,
}

/// Why each layer grows at a point or does not.
#[utoipa::path(get, path = "/api/scenes/{scene}/probe", tag = "view", params(("scene" = Uuid, Path), Point),
    responses((status = 200, body = [LayerVerdict]), (status = 422, body = ErrorBody)))]
pub async fn probe_point(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Query(Point { x, y, z, ground }): Query<Point>,
) -> Result<Json<Vec<LayerVerdict>>, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let (document, id) = (&scene.document, GroundId(ground));
    if !document.has_ground(id) {
        return Err(if id == GroundId::LAND {
            ApiError::OffGround { x, z }
        } else {
            ApiError::NotFound("ground")
        });
    }
    let ground = app.growths.any(&app.db, document, id).await?;
    let mut rules = Vec::new();
    for layer in &document.layers {
        rules.push(app.growths.rules(&app.db, document, layer, id, &ground).await?);
    }
    let work = move |_: &_| {
        let document = &scene.document;
        let point = Vec3::new(x, y, z);
        let verdicts = document.layers.iter().zip(&rules).map(|(l, rules)| {
            let verdict = ask(document, l, id, rules, ground.as_ref(), point)?;
            Some(LayerVerdict { id: l.id, name: l.name.clone(), verdict })
        });
        verdicts.collect::<Option<Vec<_>>>().ok_or(ApiError::OffGround { x, z })
    };
    Ok(Json(app.growths.pool().run(work).await?))
}

/// Why a layer grows at a point of the scene or does not; none beside the ground.
pub fn ask(
    document: &Document,
    layer: &Layer,
    id: GroundId,
    rules: &Rules,
    ground: GroundRef<'_>,
    point: Vec3,
) -> Option<Verdict> {
    let verdict = ground.probe(rules, document.frame(id).local(point), REACH_M)?;
    if document.grounds_of(layer).contains(&id) {
        return Some(verdict);
    }
    Some(Verdict { share: 0.0, words: "it does not grow on this ground".to_owned(), ..verdict })
}

/// How far beside a mesh a point may lie and still be on it, metres; pointers are not exact.
const REACH_M: f32 = 0.5;
