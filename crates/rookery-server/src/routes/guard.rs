//! The door: who is let in, and what their browsers are told.
//!
//! A browser says which page a request came from and by which name it reached this server. A page of another site that has its name
//! resolve to this machine is known by that name; one that only sends requests here by `Sec-Fetch-Site` and `Origin`.

use crate::app::App;
use crate::error::ApiError;
use axum::extract::{Request, State};
use axum::http::{HeaderMap, HeaderName, HeaderValue, Method, StatusCode, Uri, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use sha2::{Digest, Sha256};

/// Holds the token of those who are let in from beyond this machine.
const COOKIE: &str = "rookery_token";

/// Who is let in.
#[derive(Clone, Debug)]
pub struct Door {
    /// Names this server goes by, without ports.
    hosts: Vec<String>,
    /// What scripts show, so that they may change something. Beyond this machine everyone shows it.
    token: String,
    /// Whether all must show it.
    everyone: bool,
}

impl Door {
    /// A door for this machine alone, with more names by which it may be reached.
    pub fn of_this_machine(token: String, more_hosts: impl IntoIterator<Item = String>) -> Self {
        let own = ["localhost", "127.0.0.1", "[::1]"].map(str::to_owned);
        let more = more_hosts.into_iter().map(|h| h.to_ascii_lowercase());
        Self { hosts: own.into_iter().chain(more).collect(), token, everyone: false }
    }

    /// The same for all who reach it, but each must show the token.
    pub fn for_everyone_with_token(self) -> Self {
        Self { everyone: true, ..self }
    }

    /// What those who are let in show.
    pub fn token(&self) -> &str {
        &self.token
    }

    fn knows(&self, host: &str) -> bool {
        let name = match host.rsplit_once(':') {
            Some((name, port)) if !port.ends_with(']') => name,
            _ => host,
        };
        self.hosts.iter().any(|h| h.eq_ignore_ascii_case(name))
    }

    fn shown(&self, headers: &HeaderMap) -> bool {
        let bearer = text(headers, header::AUTHORIZATION).and_then(|v| v.strip_prefix("Bearer "));
        let mut cookies = text(headers, header::COOKIE).unwrap_or_default().split(';');
        let cookie = cookies.find_map(|c| c.trim().strip_prefix(COOKIE)?.strip_prefix('='));
        [bearer, cookie].into_iter().flatten().any(|shown| self.fits(shown))
    }

    /// Compares hashes, so that the time it takes tells nothing of the token.
    fn fits(&self, shown: &str) -> bool {
        Sha256::digest(shown) == Sha256::digest(&self.token)
    }
}

fn text(headers: &HeaderMap, name: HeaderName) -> Option<&str> {
    headers.get(name).and_then(|v| v.to_str().ok())
}

/// Lets a request in, or says why not.
pub(super) async fn at_the_door(
    State(app): State<App>,
    request: Request,
    next: Next,
) -> Result<Response, ApiError> {
    let door = &app.door;
    let headers = request.headers();
    let host = text(headers, header::HOST).or(request.uri().authority().map(|a| a.as_str()));
    let host = host.unwrap_or_default();
    if !door.knows(host) {
        return Err(ApiError::StrangeHost(host.chars().take(80).collect()));
    }
    let shown = door.shown(headers);
    if door.everyone && !shown {
        return match offered(request.uri()).filter(|token| door.fits(token)) {
            Some(token) => Ok(let_in(token)),
            None => Err(ApiError::NotLetIn),
        };
    }
    let fetch = |what| text(headers, HeaderName::from_static(what)).unwrap_or_default();
    let looks = matches!(*request.method(), Method::GET | Method::HEAD);
    let opens_a_page =
        looks && fetch("sec-fetch-mode") == "navigate" && fetch("sec-fetch-dest") == "document";
    if matches!(fetch("sec-fetch-site"), "cross-site" | "same-site") && !opens_a_page {
        return Err(ApiError::ForeignOrigin);
    }
    match text(headers, header::ORIGIN) {
        Some(origin) if origin.split_once("://").map(|(_, from)| from) != Some(host) => {
            return Err(ApiError::ForeignOrigin);
        }
        None if !looks && !shown => return Err(ApiError::NoToken),
        _ => {}
    }
    Ok(next.run(request).await)
}

/// The token in an address that was opened.
fn offered(uri: &Uri) -> Option<&str> {
    uri.query()?.split('&').find_map(|part| part.strip_prefix("token="))
}

/// Keeps the token in the browser and takes it out of the address.
fn let_in(token: &str) -> Response {
    let cookie = format!("{COOKIE}={token}; HttpOnly; SameSite=Strict; Path=/; Max-Age=31536000");
    (StatusCode::SEE_OTHER, [(header::SET_COOKIE, cookie), (header::LOCATION, "/".to_owned())])
        .into_response()
}

/// What browsers are told of every answer: nothing from elsewhere is loaded, and nobody frames or reads it.
pub(super) async fn told_to_browsers(request: Request, next: Next) -> Response {
    // Radix sets styles of its own while a menu or a dialog is open.
    const POLICY: &str = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' blob: data:; \
        worker-src 'self' blob:; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";
    let mut response = next.run(request).await;
    let headers = response.headers_mut();
    for (name, value) in [
        (header::CONTENT_SECURITY_POLICY, POLICY),
        (header::REFERRER_POLICY, "no-referrer"),
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::X_FRAME_OPTIONS, "DENY"),
        // What is named by its contents says that it may be kept; all else is as it is now.
        (header::CACHE_CONTROL, "no-store"),
        (HeaderName::from_static("cross-origin-opener-policy"), "same-origin"),
        (HeaderName::from_static("cross-origin-resource-policy"), "same-origin"),
        (HeaderName::from_static("permissions-policy"), "camera=(), microphone=(), geolocation=()"),
    ] {
        headers.entry(name).or_insert(HeaderValue::from_static(value));
    }
    response
}
