//! Server-sent events of one scene.

use crate::app::App;
use crate::extract::Path;
use axum::extract::State;
use axum::response::sse::{self, KeepAlive, Sse};
use futures::{Stream, StreamExt};
use std::convert::Infallible;
use tokio_stream::wrappers::BroadcastStream;
use uuid::Uuid;

/// Edits and the progress of jobs, as they happen: each message's data is an `Event` in JSON. That of an edit has `base_seq`, `authors` and
/// `patch` as well, see `Changes`; the patch is null where it is too long to be told. A listener that fell behind gets `lagged`
/// and should ask for the changes.
#[utoipa::path(get, path = "/api/scenes/{scene}/events", tag = "scenes", params(("scene" = Uuid, Path)),
    responses((status = 200, content_type = "text/event-stream", body = crate::events::Event)))]
pub async fn scene_events(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
) -> Sse<impl Stream<Item = Result<sse::Event, Infallible>>> {
    let heard = BroadcastStream::new(app.events.watch(scene)).map(|text| {
        Ok(match text {
            Ok(text) => sse::Event::default().data(text),
            Err(_) => sse::Event::default().data(r#"{"event":"lagged"}"#),
        })
    });
    Sse::new(heard).keep_alive(KeepAlive::default())
}
