//! Server-sent events of one scene.

use crate::app::App;
use crate::extract::Path;
use axum::extract::State;
use axum::response::sse::{self, KeepAlive, Sse};
use futures::{Stream, StreamExt};
use std::convert::Infallible;
use tokio_stream::wrappers::BroadcastStream;
use uuid::Uuid;

/// Edits and the progress of jobs, as they happen: each message's data is an `Event` in JSON. A listener that fell
/// behind gets `lagged` and should read the scene again.
#[utoipa::path(get, path = "/api/scenes/{scene}/events", tag = "scenes", params(("scene" = Uuid, Path)),
    responses((status = 200, content_type = "text/event-stream", body = crate::events::Event)))]
pub async fn scene_events(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
) -> Sse<impl Stream<Item = Result<sse::Event, Infallible>>> {
    let heard = BroadcastStream::new(app.events.subscribe()).filter_map(move |event| {
        let out = match event {
            Ok(event) if event.scene() == scene => sse::Event::default().json_data(&event).ok(),
            Ok(_) => None,
            Err(_) => Some(sse::Event::default().data(r#"{"event":"lagged"}"#)),
        };
        std::future::ready(out.map(Ok))
    });
    Sse::new(heard).keep_alive(KeepAlive::default())
}
