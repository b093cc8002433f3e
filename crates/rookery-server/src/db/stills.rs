//! The contact sheet.

use super::Db;
use super::jobs::{self, Job};
use super::scenes;
use super::schema::{jobs as jobs_table, stills};
use crate::error::ApiError;
use crate::jobs::Order;
use crate::scenes::Snapshot;
use chrono::{DateTime, Utc};
use diesel::prelude::*;
use diesel::sql_types::{BigInt, Nullable};
use diesel_async::{AsyncConnection, AsyncPgConnection, RunQueryDsl};
use rookery_core::scene::{BlobId, Document, Shot, to_json};
use serde::Serialize;
use serde_json::Value;
use uuid::Uuid;

/// A still, finished or on its way.
#[derive(Clone, Debug, Queryable, Serialize, utoipa::ToSchema)]
pub struct Still {
    /// Which.
    pub id: Uuid,
    /// The job that takes it.
    pub job_id: Uuid,
    /// The shot it was taken through.
    pub shot_name: String,
    /// The scene's edit it shows.
    pub seq: i64,
    /// What was asked for.
    #[serde(flatten)]
    #[diesel(embed)]
    pub asked: Asked,
    /// The picture, as a file to fetch; none until it is done.
    pub picture: Option<String>,
    /// How long it took, seconds.
    pub seconds: Option<f32>,
    /// When it was asked for.
    pub created_at: DateTime<Utc>,
    /// `waiting`, `working`, `done`, `failed` or `stopped`.
    pub state: String,
    /// Share done, 0 to 1.
    pub progress: f32,
    /// Why it failed.
    pub message: Option<String>,
    /// Seconds that are likely left, once its worker has got far enough to tell.
    pub left_s: Option<f32>,
    /// How often its picture so far came anew; 0 while there is none.
    pub drafts: i32,
    /// Work that is taken before it; none once it is being taken or has ended.
    pub ahead: Option<i64>,
}

/// How large and how fine a still was asked for, and of when.
#[derive(Clone, Debug, Queryable, Serialize, utoipa::ToSchema)]
pub struct Asked {
    /// Picture width, pixels.
    pub width_px: i32,
    /// Picture height, pixels.
    pub height_px: i32,
    /// Light paths per pixel.
    pub samples: i32,
    /// The moment it shows, seconds; none for one at rest.
    pub time_s: Option<f64>,
}

/// Queues a still of a shot, at a moment or at rest, with a copy of the whole scene.
///
/// # Errors
/// When the database fails.
pub async fn queue(
    db: &Db,
    scene: &Snapshot,
    shot: &Shot,
    time_s: Option<f64>,
) -> Result<(Uuid, Job), ApiError> {
    let id = Uuid::now_v7();
    let plan = serde_json::to_value(Order::Still { still: id, shot: shot.clone(), time_s })
        .expect("plans are plain data");
    let mut conn = db.get().await?;
    conn.transaction::<(Uuid, Job), ApiError, _>(async |conn| {
        let job = jobs::add(conn, scene.scene, plan.clone()).await?;
        diesel::insert_into(stills::table)
            .values((
                stills::id.eq(id),
                stills::scene_id.eq(scene.scene),
                stills::job_id.eq(job.id),
                stills::shot_name.eq(&shot.name),
                stills::document.eq(to_json(scene.document.document())),
                stills::seq.eq(scene.seq),
                stills::width_px.eq(shot.width_px as i32),
                stills::height_px.eq(shot.height_px as i32),
                stills::samples.eq(shot.samples as i32),
                stills::time_s.eq(time_s),
            ))
            .execute(conn)
            .await?;
        Ok((id, job))
    })
    .await
}

/// A scene's stills, newest first. Stopped ones are left out.
///
/// # Errors
/// When the database fails.
pub async fn list(db: &Db, scene: Uuid) -> Result<Vec<Still>, ApiError> {
    let mut rows: Vec<Still> = stills::table
        .inner_join(jobs_table::table)
        .filter(stills::scene_id.eq(scene).and(jobs_table::state.ne("stopped")))
        .order(stills::created_at.desc())
        .select((
            stills::id,
            stills::job_id,
            stills::shot_name,
            stills::seq,
            (stills::width_px, stills::height_px, stills::samples, stills::time_s),
            stills::picture,
            stills::seconds,
            stills::created_at,
            jobs_table::state,
            jobs_table::progress,
            jobs_table::message,
            jobs_table::left_s,
            stills::drafts,
            None::<i64>.into_sql::<Nullable<BigInt>>(),
        ))
        .limit(200)
        .load(&mut db.get().await?)
        .await?;
    if rows.iter().any(|s| s.state == "waiting") {
        let open = jobs::open(db).await?;
        for still in rows.iter_mut().filter(|s| s.state == "waiting") {
            still.ahead = open.iter().position(|&job| job == still.job_id).map(|place| place as i64);
        }
    }
    Ok(rows)
}

/// The scene as it was when a still was asked for.
///
/// # Errors
/// When there is no such still, or the database fails.
pub async fn document(db: &Db, id: Uuid) -> Result<Document, ApiError> {
    let row = stills::table
        .find(id)
        .select(stills::document)
        .first::<Value>(&mut db.get().await?)
        .await
        .optional()?;
    scenes::read(row.ok_or(ApiError::NotFound("still"))?)
}

/// Keeps the picture of a still so far, a small PNG.
///
/// # Errors
/// When the database fails.
pub async fn keep_draft(db: &Db, id: Uuid, png: &[u8]) -> Result<(), ApiError> {
    diesel::update(stills::table.find(id))
        .set((stills::draft.eq(png), stills::drafts.eq(stills::drafts + 1)))
        .execute(&mut db.get().await?)
        .await?;
    Ok(())
}

/// The picture of a still so far.
///
/// # Errors
/// When there is no such still, none of its picture yet, or the whole one already; or when the database fails.
pub async fn draft(db: &Db, id: Uuid) -> Result<Vec<u8>, ApiError> {
    let row =
        stills::table.find(id).select(stills::draft).first::<Option<Vec<u8>>>(&mut db.get().await?).await;
    row.optional()?.flatten().ok_or(ApiError::NotFound("picture of this still so far"))
}

/// Keeps a finished picture. Runs inside the caller's transaction.
///
/// # Errors
/// When the database fails.
pub async fn finish(
    conn: &mut AsyncPgConnection,
    id: Uuid,
    picture: &BlobId,
    seconds: f32,
) -> Result<(), ApiError> {
    diesel::update(stills::table.find(id))
        .set((stills::picture.eq(&picture.0), stills::seconds.eq(seconds), stills::draft.eq(None::<Vec<u8>>)))
        .execute(conn)
        .await?;
    Ok(())
}

/// Takes a still off the contact sheet. Its job ends with it.
///
/// # Errors
/// When there is no such still, or the database fails.
pub async fn remove(db: &Db, id: Uuid) -> Result<(), ApiError> {
    let mut conn = db.get().await?;
    let job = stills::table.find(id).select(stills::job_id).first::<Uuid>(&mut conn).await.optional()?;
    let job = job.ok_or(ApiError::NotFound("still"))?;
    drop(conn);
    // A worker hears that at its next beat; until then the row of the job tells it to stop.
    jobs::ask_to_stop(db, job).await?;
    diesel::delete(stills::table.find(id)).execute(&mut db.get().await?).await?;
    Ok(())
}
