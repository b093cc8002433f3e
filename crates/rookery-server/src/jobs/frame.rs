//! Taking frames of a run.

use super::doing::Doing;
use super::ready::Ready;
use super::still::Taken;
use crate::app::App;
use crate::db::runs;
use crate::error::ApiError;
use crate::growth::Pool;
use rookery_core::cancel::CancelToken;
use rookery_core::scene::Frames;
use std::sync::Arc;
use std::time::Instant;
use uuid::Uuid;

/// The run whose frames a worker takes, made ready: the next frame need not begin from nothing.
pub(super) struct Held {
    run: Uuid,
    frame_rate: f32,
    ready: Ready,
}

pub(super) async fn take(
    app: &App,
    pool: &Pool,
    (run, nth): (Uuid, i32),
    held: &mut Option<Held>,
    cancel: CancelToken,
    doing: Arc<Doing>,
) -> Result<Taken, ApiError> {
    let start = Instant::now();
    let mut held_now = match held.take().filter(|h| h.run == run) {
        Some(same) => same,
        None => {
            let taking = runs::taking(&app.db, run).await?;
            let ready = Ready::new(app, pool, taking.document, taking.shot).await?;
            Held { run, frame_rate: taking.frame_rate, ready }
        }
    };
    let time_s = Frames::time_s(nth as u32, held_now.frame_rate);
    let (kept, png) = pool
        .run(move |_| {
            let png =
                held_now.ready.picture(Some(time_s), &cancel, &doing.developing, |share| doing.set(share));
            Ok((held_now, png))
        })
        .await?;
    *held = Some(kept);
    Ok(Taken { png: png?, seconds: start.elapsed().as_secs_f32() })
}
