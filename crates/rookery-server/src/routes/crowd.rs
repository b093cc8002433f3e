//! No more at once than can be done.

use crate::app::App;
use crate::error::ApiError;
use axum::extract::{Request, State};
use axum::http::header;
use axum::middleware::Next;
use axum::response::Response;
use std::sync::{Mutex, PoisonError};
use std::time::{Duration, Instant};
use tokio::sync::Semaphore;

/// Requests that are answered at once, at most; streams of events do not count once they have begun.
const AT_ONCE: usize = 256;
/// Requests a second, over time.
const A_SECOND: f64 = 2000.0;
/// Requests that may come all at once.
const IN_A_BURST: f64 = 4000.0;

/// All uploads under way together, megabytes.
const UPLOADS_MEGABYTES: u32 = 512;
/// Longest time that an upload waits for room.
const UPLOAD_QUEUE: Duration = Duration::from_secs(20);

/// How many requests are being answered, and how many came lately.
pub struct Crowd {
    room: Semaphore,
    /// Megabytes of uploads that there is room for.
    uploads: Semaphore,
    /// Requests that may still come, and when that was counted.
    allowed: Mutex<(f64, Instant)>,
}

impl Default for Crowd {
    fn default() -> Self {
        Self {
            room: Semaphore::new(AT_ONCE),
            uploads: Semaphore::new(UPLOADS_MEGABYTES as usize),
            allowed: Mutex::new((IN_A_BURST, Instant::now())),
        }
    }
}

impl Crowd {
    fn one_more(&self, now: Instant) -> bool {
        let mut allowed = self.allowed.lock().unwrap_or_else(PoisonError::into_inner);
        let since = now.saturating_duration_since(allowed.1).as_secs_f64();
        *allowed = ((allowed.0 + since * A_SECOND).min(IN_A_BURST), now);
        let may = allowed.0 >= 1.0;
        if may {
            allowed.0 -= 1.0;
        }
        may
    }
}

/// Lets an upload in where there is room for it among those under way; otherwise it waits, and is told so in the end.
pub(super) async fn with_room_for_upload(
    State(app): State<App>,
    request: Request,
    next: Next,
) -> Result<Response, ApiError> {
    let stated =
        request.headers().get(header::CONTENT_LENGTH).and_then(|v| v.to_str().ok()?.parse::<u64>().ok());
    // One that does not say how long it is may be as long as any.
    let megabytes =
        stated.map_or(UPLOADS_MEGABYTES / 2, |bytes| (bytes >> 20) as u32 + 1).min(UPLOADS_MEGABYTES);
    let room = tokio::time::timeout(UPLOAD_QUEUE, app.crowd.uploads.acquire_many(megabytes)).await;
    let Ok(Ok(_room)) = room else { return Err(ApiError::Busy) };
    Ok(next.run(request).await)
}

/// Answers a request where there is room, and says so at once where there is none.
pub(super) async fn with_room(
    State(app): State<App>,
    request: Request,
    next: Next,
) -> Result<Response, ApiError> {
    if !app.crowd.one_more(Instant::now()) {
        return Err(ApiError::TooOften);
    }
    let Ok(_room) = app.crowd.room.try_acquire() else { return Err(ApiError::Busy) };
    Ok(next.run(request).await)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_burst_is_let_through_and_then_so_many_a_second() {
        let (crowd, start) = (Crowd::default(), Instant::now());
        let through = |at: Duration, sent: usize| (0..sent).filter(|_| crowd.one_more(start + at)).count();
        assert_eq!(through(Duration::ZERO, 5000), 4000);
        assert_eq!(through(Duration::from_millis(500), 5000), 1000);
        assert_eq!(through(Duration::from_secs(60), 5000), 4000);
    }
}
