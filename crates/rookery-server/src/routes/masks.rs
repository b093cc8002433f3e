//! What masks look at, over the ground.

use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Path, Query};
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use rookery_core::scene::{GroundId, LayerId, MaskId};
use rookery_formats::view::encode_mask;
use serde::Deserialize;
use uuid::Uuid;

/// Which ground.
#[derive(Debug, Default, Deserialize, utoipa::IntoParams)]
#[serde(default)]
pub struct OnGround {
    /// The number of a ground; the land when left out, 4294967295 for the plants of another layer that it grows on.
    pub ground: u32,
}

/// The quantity of a mask over a ground, with how the ground is spread over it (`RKMK`, see `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/scenes/{scene}/layers/{layer}/masks/{mask}/quantity", tag = "view",
    params(("scene" = Uuid, Path), ("layer" = u32, Path), ("mask" = u32, Path), OnGround),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody)))]
pub async fn get_mask_quantity(
    State(app): State<App>,
    Path((scene, layer, mask)): Path<(Uuid, u32, u32)>,
    Query(OnGround { ground }): Query<OnGround>,
) -> Result<impl IntoResponse, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let document = &scene.document;
    let id = GroundId(ground);
    let layer = document.layer(LayerId(layer)).ok_or(ApiError::NotFound("layer"))?;
    if !document.has_ground(id) && id != GroundId::PLANTS {
        return Err(ApiError::NotFound("ground"));
    }
    let place = layer.masks.iter().position(|m| m.id == MaskId(mask)).ok_or(ApiError::NotFound("mask"))?;
    let ground = app.growths.ground_of(&app.db, document, layer, id).await?;
    let ground = ground.ok_or(ApiError::NotFound("ground"))?;
    let rules = app.growths.rules(&app.db, document, layer, id, &ground).await?;
    let encode = move |_: &_| Ok(encode_mask(&ground.as_ref(), &rules, place));
    Ok(([(header::CONTENT_TYPE, "application/octet-stream")], app.growths.pool().run(encode).await?))
}
