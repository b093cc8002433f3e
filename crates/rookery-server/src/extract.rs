//! Extractors whose rejections are [`ApiError`].

use crate::error::ApiError;
use axum::body::Bytes;
use axum::extract::{FromRequest, FromRequestParts, Request};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use serde::de::DeserializeOwned;

/// A JSON body, in or out. Text in it may not hold the character NUL, which PostgreSQL cannot keep.
pub struct Json<T>(pub T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequest<S> for Json<T> {
    type Rejection = ApiError;

    async fn from_request(request: Request, state: &S) -> Result<Self, ApiError> {
        let is_json =
            request.headers().get(header::CONTENT_TYPE).and_then(|v| v.to_str().ok()).is_some_and(|v| {
                let media = v.split(';').next().unwrap_or_default().trim();
                media.eq_ignore_ascii_case("application/json") || media.ends_with("+json")
            });
        if !is_json {
            let message = "what is sent here must be JSON, with the content type application/json".to_owned();
            return Err(ApiError::BadRequest { status: StatusCode::UNSUPPORTED_MEDIA_TYPE, message });
        }
        let bytes = Bytes::from_request(request, state).await?;
        if holds_nul(&bytes) {
            let message = "a text holds the character NUL, which cannot be kept".to_owned();
            return Err(ApiError::BadRequest { status: StatusCode::UNPROCESSABLE_ENTITY, message });
        }
        Ok(Self(axum::Json::from_bytes(&bytes)?.0))
    }
}

/// Whether a JSON text writes the character NUL: `\u0000` after an even number of backslashes.
fn holds_nul(json: &[u8]) -> bool {
    let found = |at: &usize| json[*at..].starts_with(br"\u0000");
    let mut at = 0;
    while at < json.len() {
        if json[at] != b'\\' {
            at += 1;
        } else if found(&at) {
            return true;
        } else {
            at += 2;
        }
    }
    false
}

/// Parts of the path.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Path), rejection(ApiError))]
pub struct Path<T>(pub T);

/// What follows the question mark.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Query), rejection(ApiError))]
pub struct Query<T>(pub T);

/// The body as it came, held to the upload limit.
pub struct Upload(pub axum::body::Bytes);

impl<T: Serialize> IntoResponse for Json<T> {
    fn into_response(self) -> Response {
        axum::Json(self.0).into_response()
    }
}

impl<S: Send + Sync> FromRequest<S> for Upload {
    type Rejection = ApiError;

    async fn from_request(request: Request, state: &S) -> Result<Self, ApiError> {
        Ok(Self(axum::body::Bytes::from_request(request, state).await?))
    }
}

#[cfg(test)]
mod tests {
    use super::holds_nul;

    #[test]
    fn the_character_is_told_from_words_about_it() {
        assert!(holds_nul(br#"{"a": "x\u0000"}"#));
        assert!(holds_nul(br#"{"a": "\\\u0000"}"#));
        assert!(!holds_nul(br#"{"a": "\\u0000"}"#));
        assert!(!holds_nul(br#"{"a": "\u0001"}"#));
        assert!(!holds_nul(br#""\"#));
    }
}
