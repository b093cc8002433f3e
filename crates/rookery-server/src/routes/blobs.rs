//! Files: uploads in, pictures out.

use super::view::FOR_EVER;
use crate::app::App;
use crate::db::blobs;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query, Upload};
use crate::reading::Kind;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::IntoResponse;
use rookery_core::scene::{BlobId, HeightmapFormat, Outline};
use rookery_formats::heightmap::Inspection;
use rookery_formats::mesh::MeshInspection;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// An uploaded heightmap.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct HeightmapView {
    /// Its name, for a ground's source.
    pub blob: BlobId,
    /// What it holds.
    pub inspection: Inspection,
}

/// An uploaded picture.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct PictureView {
    /// Its name, for a picture over the plan.
    pub blob: BlobId,
    /// Pixels from left to right.
    pub width_px: usize,
    /// Pixels from top to bottom.
    pub height_px: usize,
    /// Its most frequent flat colours, sRGB, each 0 to 1, the most frequent first; none in a photograph.
    pub colours: Vec<[f32; 3]>,
}

/// What a picture was read as, apart from the server.
#[derive(Deserialize)]
struct PictureRead {
    width_px: usize,
    height_px: usize,
    colours: Vec<[f32; 3]>,
}

/// What the reader of a file answered.
fn found<T: DeserializeOwned>(value: Value) -> Result<T, ApiError> {
    serde_json::from_value(value)
        .map_err(|e| ApiError::Internal(format!("what a file holds is unclear: {e}")))
}

/// Reads a picture for masks (PNG or JPEG, 8 or 16 bits a channel), says what it holds and keeps it. No scene is changed.
#[utoipa::path(post, path = "/api/pictures", tag = "files",
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 201, body = PictureView), (status = 413, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn upload_picture(
    State(app): State<App>,
    Upload(bytes): Upload,
) -> Result<(StatusCode, Json<PictureView>), ApiError> {
    let read: PictureRead = found(app.growths.readers().read(Kind::Picture, &bytes).await?)?;
    let media = if bytes.starts_with(&[0xFF, 0xD8]) { "image/jpeg" } else { "image/png" };
    let blob = blobs::keep(&mut app.db.get().await?, media, &bytes, Some(Kind::Picture)).await?;
    let PictureRead { width_px, height_px, colours } = read;
    Ok((StatusCode::CREATED, Json(PictureView { blob, width_px, height_px, colours })))
}

/// Reads a heightmap (PNG, TIFF, GeoTIFF, OpenEXR or ESRI ASCII grid), says what it holds and keeps it. No scene is changed.
#[utoipa::path(post, path = "/api/heightmaps", tag = "files",
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 201, body = HeightmapView), (status = 413, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn upload_heightmap(
    State(app): State<App>,
    Upload(bytes): Upload,
) -> Result<(StatusCode, Json<HeightmapView>), ApiError> {
    let inspection: Inspection = found(app.growths.readers().read(Kind::Heights, &bytes).await?)?;
    let media = match inspection.format {
        HeightmapFormat::Png => "image/png",
        HeightmapFormat::AsciiGrid => "text/plain",
        HeightmapFormat::Tiff => "image/tiff",
        HeightmapFormat::Exr => "image/x-exr",
    };
    let blob = blobs::keep(&mut app.db.get().await?, media, &bytes, Some(Kind::Heights)).await?;
    Ok((StatusCode::CREATED, Json(HeightmapView { blob, inspection })))
}

/// An uploaded mesh.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct MeshView {
    /// Its name, for an obstacle's shape.
    pub blob: BlobId,
    /// What it holds.
    pub inspection: MeshInspection,
}

/// Reads a mesh (OBJ, PLY or GLB), says what it holds and what is odd about it, and keeps it. No scene is changed.
#[utoipa::path(post, path = "/api/meshes", tag = "files",
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 201, body = MeshView), (status = 413, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn upload_mesh(
    State(app): State<App>,
    Upload(bytes): Upload,
) -> Result<(StatusCode, Json<MeshView>), ApiError> {
    let inspection: MeshInspection = found(app.growths.readers().read(Kind::Mesh, &bytes).await?)?;
    let media = "application/octet-stream";
    let blob = blobs::keep(&mut app.db.get().await?, media, &bytes, Some(Kind::Mesh)).await?;
    Ok((StatusCode::CREATED, Json(MeshView { blob, inspection })))
}

/// The map that GeoJSON is read on.
#[derive(Clone, Copy, Debug, Deserialize, utoipa::IntoParams)]
#[serde(deny_unknown_fields)]
pub struct MapMiddle {
    /// Where the middle of the land lies, east, metres; 0 when left out.
    #[serde(default)]
    pub east_m: f64,
    /// Where the middle of the land lies, north, metres; 0 when left out.
    #[serde(default)]
    pub north_m: f64,
}

/// Reads the lines of a GeoJSON file or an SVG drawing as outlines, numbered from 1. No scene is changed and nothing is kept.
#[utoipa::path(post, path = "/api/outlines", tag = "files", params(MapMiddle),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = [Outline]), (status = 413, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn read_outline_file(
    State(app): State<App>,
    Query(map): Query<MapMiddle>,
    Upload(bytes): Upload,
) -> Result<Json<Vec<Outline>>, ApiError> {
    let kind = Kind::Outlines([map.east_m, map.north_m]);
    Ok(Json(found(app.growths.readers().read(kind, &bytes).await?)?))
}

/// A file by its hash.
#[utoipa::path(get, path = "/api/blobs/{blob}", tag = "files", params(("blob" = String, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody)))]
pub async fn get_blob(
    State(app): State<App>,
    Path(blob): Path<String>,
) -> Result<impl IntoResponse, ApiError> {
    let (media, bytes) = blobs::fetch(&mut app.db.get().await?, &BlobId(blob)).await?;
    Ok(([(header::CONTENT_TYPE, media), (header::CACHE_CONTROL, FOR_EVER.to_owned())], bytes))
}
