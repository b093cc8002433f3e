//! The loop that takes jobs and does them.

use super::{Order, still};
use crate::app::App;
use crate::db::jobs::{self, Job};
use crate::error::ApiError;
use crate::events::Event;
use crate::growth::{Pool, pool};
use diesel_async::AsyncConnection;
use rookery_core::cancel::CancelToken;
use std::sync::Arc;
use std::sync::atomic::{AtomicU32, Ordering};
use std::time::Duration;
use uuid::Uuid;

/// Between two signs of life.
const BEAT: Duration = Duration::from_millis(400);
/// Longest wait before looking for work again, should an event be missed.
const LOOK: Duration = Duration::from_secs(2);

/// How far a job is, shared between the work and the beats: `f32` as its bits.
#[derive(Clone, Default)]
pub(super) struct Progress(Arc<AtomicU32>);

impl Progress {
    pub fn set(&self, share: f32) {
        // Tiles end in any order on several threads; progress only rises.
        self.0.fetch_max(share.clamp(0.0, 1.0).to_bits(), Ordering::Relaxed);
    }

    fn get(&self) -> f32 {
        f32::from_bits(self.0.load(Ordering::Relaxed))
    }
}

/// Takes jobs and does them, one at a time, for as long as it is polled.
pub async fn work(app: App) {
    let name = format!("{}-{}", std::process::id(), Uuid::new_v4().simple());
    let pool = pool("worker");
    let mut events = app.events.subscribe();
    loop {
        match jobs::take(&app.db, &name).await {
            Ok(Some(job)) => {
                do_job(&app, &pool, &name, &job).await;
                continue;
            }
            Ok(None) => {}
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

async fn do_job(app: &App, pool: &Pool, worker: &str, job: &Job) {
    let (cancel, progress) = (CancelToken::default(), Progress::default());
    let outcome = {
        let doing = run(app, pool, worker, job, cancel.clone(), progress.clone());
        tokio::pin!(doing);
        let mut beat = tokio::time::interval(BEAT);
        loop {
            tokio::select! {
                outcome = &mut doing => break outcome,
                _ = beat.tick() => {
                    if let Ok(true) = jobs::beat(&app.db, job.id, worker, progress.get()).await {
                        cancel.cancel();
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

/// Does a job and writes its result and its end down together.
async fn run(
    app: &App,
    pool: &Pool,
    worker: &str,
    job: &Job,
    cancel: CancelToken,
    progress: Progress,
) -> Result<(), ApiError> {
    let plan: Order = serde_json::from_value(job.plan.clone())
        .map_err(|e| ApiError::Internal(format!("this worker does not know such a job: {e}")))?;
    match plan {
        Order::Still { still, shot } => {
            let taken = still::take(app, pool, still, shot, cancel, progress).await?;
            let mut conn = app.db.get_in_the_end().await;
            let picture = crate::db::blobs::keep(&mut conn, "image/png", &taken.png, None).await?;
            let (id, seconds) = (job.id, taken.seconds);
            conn.transaction::<(), ApiError, _>(async |conn| {
                if jobs::end(conn, id, worker, "done", None).await? {
                    crate::db::stills::finish(conn, still, &picture, seconds).await?;
                }
                Ok(())
            })
            .await
        }
    }
}
