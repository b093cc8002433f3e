//! Extractors whose rejections are [`ApiError`].

use crate::error::ApiError;
use axum::body::Bytes;
use axum::extract::{FromRequest, FromRequestParts, Request};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use serde::de::{DeserializeOwned, IgnoredAny};

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
        read(&bytes).map(Self)
    }
}

/// What is not even JSON is a 400; what can be read and does not fit, a 422.
fn read<T: DeserializeOwned>(bytes: &[u8]) -> Result<T, ApiError> {
    axum::Json::from_bytes(bytes).map(|json| json.0).map_err(|why| {
        let fits_not = serde_json::from_slice::<IgnoredAny>(bytes).is_ok();
        let status = if fits_not { StatusCode::UNPROCESSABLE_ENTITY } else { StatusCode::BAD_REQUEST };
        ApiError::BadRequest { status, message: why.body_text() }
    })
}

/// Whether a JSON text writes the character NUL: `\u0000` after an even number of backslashes.
fn holds_nul(json: &[u8]) -> bool {
    let mut rest = json;
    while let Some(first) = rest.first() {
        if rest.starts_with(br"\u0000") {
            return true;
        }
        // What follows a backslash is written by it.
        rest = rest.get(if *first == b'\\' { 2 } else { 1 }..).unwrap_or_default();
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
    use super::{holds_nul, read};
    use crate::error::ApiError;

    /// Broke: lists that are too long and numbers beyond all bounds were called no JSON at all.
    #[test]
    fn what_fits_not_is_told_from_what_is_not_json() {
        let status = |text: &str| match read::<[f32; 3]>(text.as_bytes()) {
            Err(ApiError::BadRequest { status, .. }) => status.as_u16(),
            Err(_) => 500,
            Ok(_) => 200,
        };
        for fits_not in ["[1, 2, 3, 4]", "[1, 2]", "[1, 2, 1e999]", "{}", "7"] {
            assert_eq!(status(fits_not), 422, "{fits_not}");
        }
        for not_json in ["[1, 2, 3", "[1, 2, 3]]", "", "[1, 2, nan]"] {
            assert_eq!(status(not_json), 400, "{not_json}");
        }
        assert_eq!(status("[1, 2, 3]"), 200);
    }

    #[test]
    fn the_character_is_told_from_words_about_it() {
        assert!(holds_nul(br#"{"a": "x\u0000"}"#));
        assert!(holds_nul(br#"{"a": "\\\u0000"}"#));
        assert!(!holds_nul(br#"{"a": "\\u0000"}"#));
        assert!(!holds_nul(br#"{"a": "\u0001"}"#));
        assert!(!holds_nul(br#""\"#));
    }
}
