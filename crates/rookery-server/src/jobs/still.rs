//! Taking a still.

use super::doing::Doing;
use super::ready::Ready;
use crate::app::App;
use crate::db::stills;
use crate::error::ApiError;
use crate::growth::Pool;
use rookery_core::cancel::CancelToken;
use rookery_core::scene::Shot;
use std::sync::Arc;
use std::time::Instant;
use uuid::Uuid;

pub(super) struct Taken {
    pub png: Vec<u8>,
    pub seconds: f32,
}

pub(super) async fn take(
    app: &App,
    pool: &Pool,
    still: Uuid,
    (shot, time_s): (Shot, Option<f64>),
    cancel: CancelToken,
    doing: Arc<Doing>,
) -> Result<Taken, ApiError> {
    let start = Instant::now();
    let mut ready = Ready::new(app, pool, stills::document(&app.db, still).await?, shot).await?;
    pool.run(move |_| {
        let png = ready.picture(time_s, &cancel, &doing.developing, |share| doing.set(share))?;
        Ok(Taken { png, seconds: start.elapsed().as_secs_f32() })
    })
    .await
}
