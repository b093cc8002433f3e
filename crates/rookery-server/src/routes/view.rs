//! The ground for the view, and what is read off it.

use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::Path;
use crate::scenes::Snapshot;
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use rookery_core::ground::{GroundRef, Reading};
use rookery_core::nap::{FORMS, Nap, form, tile};
use rookery_core::nursery::Detail;
use rookery_core::scene::{GroundId, ObstacleId, content_key};
use rookery_core::soils::{Soils, laid};
use rookery_formats::view::{
    encode_forms, encode_ground, encode_mesh, encode_mesh_ground, encode_nap, encode_reading, encode_soils,
    encode_textures,
};
use std::sync::Arc;
use uuid::Uuid;

/// What is named by its contents never changes.
pub(super) const FOR_EVER: &str = "private, max-age=31536000, immutable";

/// The newest state of a scene that has a ground of a name, and which ground that is.
pub(super) async fn ground_named(
    app: &App,
    scene: Uuid,
    key: &str,
) -> Result<(Arc<Snapshot>, GroundId), ApiError> {
    let named = |s: &Snapshot| {
        let placed = s.grounds.iter().find(|g| g.key == key).map(|g| g.id);
        placed.or((s.ground_key == key).then_some(GroundId::LAND))
    };
    let scene = app.scenes.newest_where(scene, "ground", |s| named(s).is_some()).await?;
    let id = named(&scene).ok_or(ApiError::Outdated("ground"))?;
    Ok((scene, id))
}

/// A ground as a compact buffer (`RKGR` of a terrain, `RKMG` of a mesh, see `rookery-formats/src/view`), in its own frame.
#[utoipa::path(get, path = "/api/scenes/{scene}/ground/{key}", tag = "view",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`ground_key` of the scene, or the key of a ground beside the land")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 410, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn get_ground(
    State(app): State<App>,
    Path((scene, key)): Path<(Uuid, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let (scene, id) = ground_named(&app, scene, &key).await?;
    let ground = app.growths.any(&app.db, &scene.document, id).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    let encode = move || match ground.as_ref() {
        GroundRef::Terrain(t) => encode_ground(t),
        GroundRef::Mesh(m) => encode_mesh_ground(m),
    };
    Ok((headers, app.growths.buffer(content_key("ground buffer", &key), encode).await?))
}

/// A quantity of a ground at the samples or vertices of its buffer, in its own frame (`RKRD`, see `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/scenes/{scene}/ground/{key}/readings/{reading}", tag = "view",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`ground_key` of the scene, or the key of a ground beside the land"),
        ("reading" = Reading, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody)))]
pub async fn get_reading(
    State(app): State<App>,
    Path((scene, key, reading)): Path<(Uuid, String, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let reading = Reading::from_id(&reading).ok_or(ApiError::NotFound("reading"))?;
    let (scene, id) = ground_named(&app, scene, &key).await?;
    let values = app.growths.reading(&app.db, &scene.document, id, reading).await?;
    let ground = app.growths.any(&app.db, &scene.document, id).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    let encode = move || encode_reading(&ground.as_ref(), reading, &values);
    Ok((headers, app.growths.buffer(content_key("reading buffer", &(&key, reading)), encode).await?))
}

/// The land beyond its edges, to the horizon, as a mesh (`RKME`, see `rookery-formats/src/view`); it is only seen. 404 where the land ends at its edges.
#[utoipa::path(get, path = "/api/scenes/{scene}/ground/{key}/beyond", tag = "view",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`ground_key` of the scene")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn get_beyond(
    State(app): State<App>,
    Path((scene, key)): Path<(Uuid, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let (scene, id) = ground_named(&app, scene, &key).await?;
    if id != GroundId::LAND {
        return Err(ApiError::NotFound("land beyond a ground beside it"));
    }
    let found = app.growths.beyond(&app.db, &scene.document).await?;
    let mesh = found.ok_or(ApiError::NotFound("land beyond its edges"))?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, app.growths.buffer(content_key("beyond buffer", &key), move || encode_mesh(&mesh)).await?))
}

/// Forms of the nap: kind after kind, of each its forms, of each its details from the finest on, each as `RKME` with its length before it. Colours are
/// relative, see `rookery-core/src/nap/forms.rs`.
#[utoipa::path(get, path = "/api/nap/forms", tag = "view",
    responses((status = 200, content_type = "application/octet-stream")))]
pub async fn get_nap_forms(State(app): State<App>) -> Result<impl IntoResponse, ApiError> {
    let encode = || {
        let all = Nap::ALL.iter().flat_map(|nap| (0..FORMS).map(move |n| (*nap, n)));
        let meshes: Vec<_> = all.flat_map(|(nap, n)| Detail::ALL.map(|d| form(nap, n, d))).collect();
        encode_forms(&meshes)
    };
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, "no-cache")];
    Ok((headers, app.growths.buffer(content_key("nap forms", &""), encode).await?))
}

/// Pictures of what the grounds and built things of a scene are made of, its earths in what they wear (`RKTX`, see `rookery-formats/src/view`). An earth
/// whose pictures are missing or cannot be read goes without, and the head of the buffer says why.
#[utoipa::path(get, path = "/api/scenes/{scene}/textures/{key}", tag = "view",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`textures_key` of the scene")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody)))]
pub async fn get_textures(
    State(app): State<App>,
    Path((scene, key)): Path<(Uuid, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let scene = app.scenes.newest_where(scene, "earth", |s| s.textures_key == key).await?;
    let (sheets, amiss) = app.growths.sheets(&app.db, &scene.document).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, "no-cache")];
    let name = content_key("textures buffer", &(&key, &amiss));
    Ok((headers, app.growths.buffer(name, move || encode_textures(&sheets, &amiss)).await?))
}

/// The nap of a square of the land, so many times 16 m from the middle of the scene (`RKNP`, see `rookery-formats/src/view`): as the scene's outlines and bare earths are now.
/// Empty beyond the land; 404 where there is none.
#[utoipa::path(get, path = "/api/scenes/{scene}/ground/{key}/nap/{x}/{z}", tag = "view",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`ground_key` of the scene"),
        ("x" = i32, Path, description = "which square from west to east"), ("z" = i32, Path, description = "which from north to south")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn get_nap(
    State(app): State<App>,
    Path((scene, key, x, z)): Path<(Uuid, String, i32, i32)>,
) -> Result<impl IntoResponse, ApiError> {
    let (scene, id) = ground_named(&app, scene, &key).await?;
    let document = &scene.document;
    if id != GroundId::LAND || document.ground.absent {
        return Err(ApiError::NotFound("nap of a ground beside the land"));
    }
    let land = app.growths.ground(&app.db, document).await?;
    // Of what lies beyond the land there is none, however far.
    let [x, z] = [x, z].map(|v| v.clamp(-10_000, 10_000));
    let (sheets, amiss) = app.growths.sheets(&app.db, document).await?;
    let shown = (&document.earth_pictures, amiss);
    let name = content_key("nap", &(&key, &document.outlines, &document.ground.bare, shown, x, z));
    let (laid, bare) = (laid(&document.outlines), document.ground.bare.clone());
    let encode = move || encode_nap(&tile(&land, &laid, &bare, &sheets, [x, z]));
    // Its name in the path says nothing of outlines.
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, "no-store")];
    Ok((headers, app.growths.buffer(name, encode).await?))
}

/// What outlines lay over the land (`RKSO`, see `rookery-formats/src/view`): as they are now. 404 where there is no land.
#[utoipa::path(get, path = "/api/scenes/{scene}/ground/{key}/soils", tag = "view",
    params(("scene" = Uuid, Path), ("key" = String, Path, description = "`ground_key` of the scene")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn get_soils(
    State(app): State<App>,
    Path((scene, key)): Path<(Uuid, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let (scene, id) = ground_named(&app, scene, &key).await?;
    let document = &scene.document;
    if id != GroundId::LAND || document.ground.absent {
        return Err(ApiError::NotFound("soils of a ground beside the land"));
    }
    let land = app.growths.ground(&app.db, document).await?;
    let name = content_key("soils", &(&key, &document.outlines));
    let outlines = document.outlines.clone();
    let encode = move || encode_soils(Soils::of(&outlines, &land).as_ref());
    // Its name in the path says nothing of outlines.
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, "no-store")];
    Ok((headers, app.growths.buffer(name, encode).await?))
}

/// An obstacle's mesh where it stands (`RKME`, see `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/scenes/{scene}/obstacles/{obstacle}/mesh/{key}", tag = "view",
    params(("scene" = Uuid, Path), ("obstacle" = u32, Path),
        ("key" = String, Path, description = "`mesh_key` of the obstacle")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody)))]
pub async fn get_obstacle(
    State(app): State<App>,
    Path((scene, id, key)): Path<(Uuid, u32, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let id = ObstacleId(id);
    let named = |s: &Snapshot| s.obstacles.iter().any(|o| o.id == id && o.mesh_key == key);
    let scene = app.scenes.newest_where(scene, "obstacle", named).await?;
    let found = scene.document.obstacles.iter().find(|o| o.id == id).ok_or(ApiError::NotFound("obstacle"))?;
    let mesh = app.growths.obstacle(&app.db, &scene.document, found).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, app.growths.buffer(content_key("mesh buffer", &key), move || encode_mesh(&mesh)).await?))
}
