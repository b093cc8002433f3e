//! Waves on the water and clouds in the sky, for the view.

use super::view::{FOR_EVER, ground_named};
use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::Path;
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use rookery_core::clouds::table;
use rookery_core::scene::{GroundId, content_key};
use rookery_core::water::Sea;
use rookery_formats::view::encode_waves;
use uuid::Uuid;

/// Waves on the water of a scene, and where its land shelters them (`RKWV`, see `rookery-formats/src/view`): in the wind that the scene has now.
#[utoipa::path(get, path = "/api/scenes/{scene}/ground/{key}/waves", tag = "view",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`ground_key` of the scene")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn get_waves(
    State(app): State<App>,
    Path((scene, key)): Path<(Uuid, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let (scene, id) = ground_named(&app, scene, &key).await?;
    let document = &scene.document;
    if id != GroundId::LAND {
        return Err(ApiError::NotFound("waves on a ground beside the land"));
    }
    let land = match document.ground.absent {
        true => None,
        false => Some(app.growths.ground(&app.db, document).await?),
    };
    let (wind, ground) = (&document.motion.wind, &document.ground);
    let name = content_key(
        "waves",
        &(&key, wind.speed_m_per_s, wind.from_deg, ground.absent, ground.ends, ground.water_m),
    );
    let whole = scene.clone();
    let encode = move || encode_waves(&Sea::of(&whole.document, land.as_deref()));
    // Its name in the path says nothing of the wind.
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, "no-store")];
    Ok((headers, app.growths.buffer(name, encode).await?))
}

/// The billows that clouds are made of: 256 rows of 256 bytes, see `rookery-core/src/clouds.rs`.
#[utoipa::path(get, path = "/api/sky/clouds", tag = "view",
    responses((status = 200, content_type = "application/octet-stream")))]
pub async fn get_clouds() -> impl IntoResponse {
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    (headers, table())
}
