//! The loop that takes jobs and does them.

use super::doing::Doing;
use super::frame::{self, Held};
use super::still::Taken;
use super::{Order, still};
use crate::app::App;
use crate::db::jobs::{self, Job};
use crate::db::{runs, stills};
use crate::error::ApiError;
use crate::events::Event;
use crate::growth::{Pool, pool};
use diesel_async::AsyncConnection;
use rookery_core::cancel::CancelToken;
use rookery_formats::picture::png_srgb8;
use rookery_render::Film;
use std::sync::Arc;
use std::time::Duration;
use uuid::Uuid;

/// Between two signs of life.
const BEAT: Duration = Duration::from_millis(400);
/// Longest wait before looking for work again, should an event be missed.
const LOOK: Duration = Duration::from_secs(2);

/// Width of the picture that is shown while it is taken, pixels.
const DRAFT_PX: u32 = 480;

/// Takes jobs and does them, one at a time, for as long as it is polled.
pub async fn work(app: App) {
    let name = format!("{}-{}", std::process::id(), Uuid::new_v4().simple());
    let pool = pool("worker");
    let mut events = app.events.subscribe();
    let mut held = None;
    loop {
        match jobs::take(&app.db, &name).await {
            Ok(Some(job)) => {
                do_job(&app, &pool, &name, &job, &mut held).await;
                continue;
            }
            // A run that has no frame left to take is let go of.
            Ok(None) => held = None,
            Err(e) => tracing::warn!(error = %e, "no job could be taken"),
        }
        let waiting = async {
            loop {
                match events.recv().await {
                    Ok(Event::Job { state, .. }) if state == "waiting" => return,
                    Err(tokio::sync::broadcast::error::RecvError::Closed) => {
                        return std::future::pending().await;
                    }
                    _ => {}
                }
            }
        };
        let _ = tokio::time::timeout(LOOK, waiting).await;
    }
}

async fn do_job(app: &App, pool: &Pool, worker: &str, job: &Job, held: &mut Option<Held>) {
    let (cancel, doing) = (CancelToken::default(), Arc::new(Doing::default()));
    let draft = draft_of(&job.plan);
    let outcome = {
        let work = run(app, pool, (worker, job), held, cancel.clone(), doing.clone());
        tokio::pin!(work);
        let mut beat = tokio::time::interval(BEAT);
        loop {
            tokio::select! {
                outcome = &mut work => break outcome,
                _ = beat.tick() => {
                    let far = doing.progress();
                    if let Ok(true) = jobs::beat(&app.db, job.id, worker, far, doing.left_s()).await {
                        cancel.cancel();
                    }
                    if let (Some(still), Some(film)) = (draft, doing.film_anew(DRAFT_PX)) {
                        show(app, still, film).await;
                    }
                }
            }
        }
    };
    let (state, message) = match outcome {
        Ok(()) => return,
        Err(_) if cancel.is_cancelled() => ("stopped", None),
        // The job is no worse for it: its lease runs out, and it is taken again.
        Err(ApiError::DatabaseAway) => return,
        Err(e) => ("failed", Some(e.to_string())),
    };
    let ended = async {
        let mut conn = app.db.get_in_the_end().await;
        jobs::end(&mut conn, job.id, worker, state, message.as_deref()).await
    };
    if let Err(e) = ended.await {
        tracing::error!(error = %e, job = %job.id, "the end of a job could not be written down");
    }
}

/// The still whose picture can be shown while a job is done.
fn draft_of(plan: &serde_json::Value) -> Option<Uuid> {
    match serde_json::from_value(plan.clone()).ok()? {
        Order::Still { still, .. } => Some(still),
        Order::Frame { .. } => None,
    }
}

/// Shows how far a picture is. One that cannot be shown is no harm to the work.
async fn show(app: &App, still: Uuid, film: Film) {
    let png =
        tokio::task::spawn_blocking(move || png_srgb8(film.width_px, film.height_px, &film.to_srgb8()).ok());
    if let Ok(Some(png)) = png.await
        && let Err(e) = stills::keep_draft(&app.db, still, &png).await
    {
        tracing::warn!(error = %e, "the picture of a still so far is not shown");
    }
}

/// Does a job and writes its result and its end down together.
async fn run(
    app: &App,
    pool: &Pool,
    (worker, job): (&str, &Job),
    held: &mut Option<Held>,
    cancel: CancelToken,
    doing: Arc<Doing>,
) -> Result<(), ApiError> {
    let plan: Order = serde_json::from_value(job.plan.clone())
        .map_err(|e| ApiError::Internal(format!("this worker does not know such a job: {e}")))?;
    let Taken { png, seconds } = match &plan {
        Order::Still { still, shot, time_s } => {
            still::take(app, pool, *still, (shot.clone(), *time_s), cancel, doing).await?
        }
        Order::Frame { run, nth } => frame::take(app, pool, (*run, *nth), held, cancel, doing).await?,
    };
    let mut conn = app.db.get_in_the_end().await;
    let picture = crate::db::blobs::keep(&mut conn, "image/png", &png, None).await?;
    conn.transaction::<(), ApiError, _>(async |conn| {
        if jobs::end(conn, job.id, worker, "done", None).await? {
            match plan {
                Order::Still { still, .. } => stills::finish(conn, still, &picture, seconds).await?,
                Order::Frame { run, nth } => runs::finish(conn, run, nth, &picture, seconds).await?,
            }
        }
        Ok(())
    })
    .await
}
