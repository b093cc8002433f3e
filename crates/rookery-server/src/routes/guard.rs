//! Keeping other web pages out: a browser says which page a request came from.

use crate::error::ApiError;
use axum::extract::Request;
use axum::http::{HeaderValue, header};
use axum::middleware::Next;
use axum::response::Response;

pub(super) async fn own_pages_only(request: Request, next: Next) -> Result<Response, ApiError> {
    if is_foreign(&request) {
        return Err(ApiError::ForeignOrigin);
    }
    Ok(next.run(request).await)
}

fn is_foreign(request: &Request) -> bool {
    let text = |name| request.headers().get(name).and_then(|v: &HeaderValue| v.to_str().ok());
    let Some(origin) = text(header::ORIGIN) else { return false };
    let host = text(header::HOST).or(request.uri().authority().map(|a| a.as_str()));
    let from = origin.split_once("://").map(|(_, rest)| rest);
    from.is_none() || from != host
}
