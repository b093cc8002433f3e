//! The web client, built into the binary.

use crate::extract::Json;
use crate::openapi::document;
use axum::http::{StatusCode, Uri, header};
use axum::response::{IntoResponse, Response};
use rust_embed::RustEmbed;

#[derive(RustEmbed)]
#[folder = "$CARGO_MANIFEST_DIR/../../web/dist"]
#[allow_missing = true]
struct Assets;

pub(super) async fn openapi() -> Json<serde_json::Value> {
    Json(document())
}

/// A file of the client; any other path is the client itself, which reads the address.
pub(super) async fn asset(uri: Uri) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path.starts_with("api/") {
        return crate::error::ApiError::NotFound("address").into_response();
    }
    let (path, file) = match Assets::get(path) {
        Some(file) => (path, file),
        None => match Assets::get("index.html") {
            Some(file) => ("index.html", file),
            None => {
                let say = "The web client is not built. Run: cargo xtask demo";
                return (StatusCode::NOT_FOUND, say).into_response();
            }
        },
    };
    let media = match path.rsplit('.').next() {
        Some("html") => "text/html; charset=utf-8",
        Some("js") => "text/javascript; charset=utf-8",
        Some("css") => "text/css; charset=utf-8",
        Some("svg") => "image/svg+xml",
        Some("woff2") => "font/woff2",
        Some("json") => "application/json",
        _ => "application/octet-stream",
    };
    // Names under assets/ hold a hash of their contents.
    let keep = if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    ([(header::CONTENT_TYPE, media), (header::CACHE_CONTROL, keep)], file.data).into_response()
}
