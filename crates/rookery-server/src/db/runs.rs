//! Runs of frames: a shot over a length of time, each frame a job of its own.

use super::Db;
use super::jobs::{self, Job};
use super::scenes;
use super::schema::{frames, jobs as jobs_table, runs};
use crate::error::ApiError;
use crate::events;
use crate::jobs::Order;
use crate::scenes::Snapshot;
use chrono::{DateTime, Utc};
use diesel::prelude::*;
use diesel_async::{AsyncConnection, AsyncPgConnection, RunQueryDsl};
use rookery_core::scene::{BlobId, Document, Frames, Shot, to_json};
use serde::Serialize;
use serde_json::Value;
use std::collections::BTreeMap;
use uuid::Uuid;

/// A run of frames, finished or on its way.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct Run {
    /// Which.
    pub id: Uuid,
    /// The shot it is taken through.
    pub shot_name: String,
    /// The scene's edit it shows.
    pub seq: i64,
    /// Picture width, pixels.
    pub width_px: i32,
    /// Picture height, pixels.
    pub height_px: i32,
    /// Light paths per pixel.
    pub samples: i32,
    /// Number of its first frame.
    pub first: i32,
    /// Number of the frame after its last.
    pub last: i32,
    /// Frames a second.
    pub frame_rate: f32,
    /// When it was asked for.
    pub created_at: DateTime<Utc>,
    /// `waiting`, `working`, `done`, `failed` (frames are missing, and nobody takes them) or `stopped`.
    pub state: String,
    /// Share done, 0 to 1.
    pub progress: f32,
    /// Seconds that are likely left, once a frame is there.
    pub left_s: Option<f32>,
    /// Its frames, in their order.
    pub frames: Vec<Frame>,
}

/// A frame of a run.
#[derive(Clone, Debug, PartialEq, Queryable, Serialize, utoipa::ToSchema)]
pub struct Frame {
    /// Its number; at so many frames a second it shows the moment `nth / frame_rate`.
    pub nth: i32,
    /// The picture, as a file to fetch; none until it is done.
    pub picture: Option<String>,
    /// How long it took, seconds.
    pub seconds: Option<f32>,
    /// `waiting`, `working`, `done`, `failed` or `stopped`.
    pub state: String,
    /// Share done, 0 to 1.
    pub progress: f32,
    /// Why it failed.
    pub message: Option<String>,
}

/// A run as its row has it.
#[derive(Queryable, Selectable)]
#[diesel(table_name = runs)]
struct Row {
    id: Uuid,
    shot_name: String,
    seq: i64,
    width_px: i32,
    height_px: i32,
    samples: i32,
    first: i32,
    last: i32,
    frame_rate: f32,
    created_at: DateTime<Utc>,
}

impl Row {
    fn with(self, frames: Vec<Frame>) -> Run {
        let count = |state: &str| frames.iter().filter(|f| f.state == state).count();
        let [working, waiting, done] = ["working", "waiting", "done"].map(count);
        let state = match (working, waiting, done) {
            (1.., ..) => "working",
            (_, 1.., 0) => "waiting",
            (_, 1.., _) => "working",
            (.., n) if n == frames.len() => "done",
            _ if count("failed") > 0 => "failed",
            _ => "stopped",
        };
        let far: f32 = frames.iter().map(|f| if f.state == "done" { 1.0 } else { f.progress }).sum();
        let took: Vec<f32> = frames.iter().filter_map(|f| f.seconds).collect();
        let mean = took.iter().sum::<f32>() / took.len().max(1) as f32;
        let rest: f32 = frames
            .iter()
            .filter(|f| f.state == "waiting" || f.state == "working")
            .map(|f| 1.0 - f.progress)
            .sum();
        Run {
            id: self.id,
            shot_name: self.shot_name,
            seq: self.seq,
            width_px: self.width_px,
            height_px: self.height_px,
            samples: self.samples,
            first: self.first,
            last: self.last,
            frame_rate: self.frame_rate,
            created_at: self.created_at,
            state: state.to_owned(),
            progress: far / frames.len().max(1) as f32,
            left_s: (!took.is_empty() && rest > 0.0).then(|| rest * mean / working.max(1) as f32),
            frames,
        }
    }
}

/// What a worker needs to take frames of a run.
pub struct Taking {
    /// The scene as it was when the run was asked for.
    pub document: Document,
    /// The shot, with the size and samples asked for.
    pub shot: Shot,
    /// Frames a second.
    pub frame_rate: f32,
}

/// Queues a run of frames of a shot with a copy of the whole scene.
///
/// # Errors
/// When the database fails.
pub async fn queue(db: &Db, scene: &Snapshot, shot: &Shot, asked: Frames) -> Result<Uuid, ApiError> {
    let id = Uuid::now_v7();
    let mut conn = db.get().await?;
    conn.transaction::<Uuid, ApiError, _>(async |conn| {
        diesel::insert_into(runs::table)
            .values((
                runs::id.eq(id),
                runs::scene_id.eq(scene.scene),
                runs::shot_name.eq(&shot.name),
                runs::shot.eq(serde_json::to_value(shot).expect("shots are plain data")),
                runs::document.eq(to_json(scene.document.document())),
                runs::seq.eq(scene.seq),
                runs::width_px.eq(shot.width_px as i32),
                runs::height_px.eq(shot.height_px as i32),
                runs::samples.eq(shot.samples as i32),
                runs::first.eq(asked.first as i32),
                runs::last.eq(asked.last as i32),
                runs::frame_rate.eq(asked.rate),
            ))
            .execute(conn)
            .await?;
        let numbers: Vec<i32> = (asked.first as i32..asked.last as i32).collect();
        let ids = jobs::add_many(conn, scene.scene, orders(id, &numbers)).await?;
        let rows: Vec<_> = numbers
            .iter()
            .zip(ids)
            .map(|(nth, job)| (frames::run_id.eq(id), frames::nth.eq(*nth), frames::job_id.eq(job)))
            .collect();
        for some in rows.chunks(1000) {
            diesel::insert_into(frames::table).values(some).execute(conn).await?;
        }
        Ok(id)
    })
    .await
}

fn orders(run: Uuid, numbers: &[i32]) -> Vec<Value> {
    let plan =
        |nth: &i32| serde_json::to_value(Order::Frame { run, nth: *nth }).expect("plans are plain data");
    numbers.iter().map(plan).collect()
}

/// A scene's runs, newest first.
///
/// # Errors
/// When the database fails.
pub async fn list(db: &Db, scene: Uuid) -> Result<Vec<Run>, ApiError> {
    let mut conn = db.get().await?;
    let rows: Vec<Row> = runs::table
        .filter(runs::scene_id.eq(scene))
        .order(runs::created_at.desc())
        .limit(20)
        .select(Row::as_select())
        .load(&mut conn)
        .await?;
    let ids: Vec<Uuid> = rows.iter().map(|r| r.id).collect();
    let mut of = frames_of(&mut conn, &ids).await?;
    Ok(rows
        .into_iter()
        .map(|r| {
            let frames = of.remove(&r.id).unwrap_or_default();
            r.with(frames)
        })
        .collect())
}

/// A run as it stands.
///
/// # Errors
/// When there is no such run, or the database fails.
pub async fn fetch(db: &Db, id: Uuid) -> Result<Run, ApiError> {
    let mut conn = db.get().await?;
    let row = runs::table.find(id).select(Row::as_select()).first(&mut conn).await.optional()?;
    let row: Row = row.ok_or(ApiError::NotFound("run of frames"))?;
    let frames = frames_of(&mut conn, &[id]).await?.remove(&id).unwrap_or_default();
    Ok(row.with(frames))
}

async fn frames_of(
    conn: &mut AsyncPgConnection,
    ids: &[Uuid],
) -> Result<BTreeMap<Uuid, Vec<Frame>>, ApiError> {
    let found: Vec<(Uuid, Frame)> = frames::table
        .inner_join(jobs_table::table)
        .filter(frames::run_id.eq_any(ids))
        .order(frames::nth)
        .select((
            frames::run_id,
            (
                frames::nth,
                frames::picture,
                frames::seconds,
                jobs_table::state,
                jobs_table::progress,
                jobs_table::message,
            ),
        ))
        .load(conn)
        .await?;
    let mut out = BTreeMap::<Uuid, Vec<Frame>>::new();
    found.into_iter().for_each(|(run, frame)| out.entry(run).or_default().push(frame));
    Ok(out)
}

/// What a worker needs of a run.
///
/// # Errors
/// When there is no such run, or the database fails.
pub async fn taking(db: &Db, id: Uuid) -> Result<Taking, ApiError> {
    let row = runs::table
        .find(id)
        .select((runs::document, runs::shot, runs::frame_rate))
        .first::<(Value, Value, f32)>(&mut db.get().await?)
        .await
        .optional()?;
    let (document, shot, frame_rate) = row.ok_or(ApiError::NotFound("run of frames"))?;
    let shot = serde_json::from_value(shot).map_err(|e| ApiError::Internal(format!("a kept shot: {e}")))?;
    Ok(Taking { document: scenes::read(document)?, shot, frame_rate })
}

/// Keeps a finished frame. Runs inside the caller's transaction.
///
/// # Errors
/// When the database fails.
pub async fn finish(
    conn: &mut AsyncPgConnection,
    run: Uuid,
    nth: i32,
    picture: &BlobId,
    seconds: f32,
) -> Result<(), ApiError> {
    diesel::update(frames::table.find((run, nth)))
        .set((frames::picture.eq(&picture.0), frames::seconds.eq(seconds)))
        .execute(conn)
        .await?;
    Ok(())
}

/// Stops what is not done of a run. What is done stays, and the rest can be filled later.
///
/// # Errors
/// When there is no such run, or the database fails.
pub async fn stop(db: &Db, id: Uuid) -> Result<(), ApiError> {
    let mut conn = db.get().await?;
    let theirs = || frames::table.filter(frames::run_id.eq(id)).select(frames::job_id);
    diesel::update(
        jobs_table::table.filter(jobs_table::id.eq_any(theirs()).and(jobs_table::state.eq("waiting"))),
    )
    .set((jobs_table::state.eq("stopped"), jobs_table::stop_asked.eq(true)))
    .execute(&mut conn)
    .await?;
    diesel::update(
        jobs_table::table.filter(jobs_table::id.eq_any(theirs()).and(jobs_table::state.eq("working"))),
    )
    .set(jobs_table::stop_asked.eq(true))
    .execute(&mut conn)
    .await?;
    let one: Option<Job> = jobs_table::table
        .filter(jobs_table::id.eq_any(theirs()))
        .select(Job::as_select())
        .first(&mut conn)
        .await
        .optional()?;
    let one = one.ok_or(ApiError::NotFound("run of frames"))?;
    events::tell(&conn, &one.event()).await?;
    Ok(())
}

/// Queues again what failed or was stopped of a run; answers how many frames that are.
///
/// # Errors
/// When there is no such run, or the database fails.
pub async fn fill(db: &Db, id: Uuid) -> Result<usize, ApiError> {
    let mut conn = db.get().await?;
    conn.transaction::<usize, ApiError, _>(async |conn| {
        // Two who fill at once: the second finds nothing left to fill.
        let scene =
            runs::table.find(id).select(runs::scene_id).for_update().first::<Uuid>(conn).await.optional()?;
        let scene = scene.ok_or(ApiError::NotFound("run of frames"))?;
        let missing: Vec<i32> = frames::table
            .inner_join(jobs_table::table)
            .filter(frames::run_id.eq(id).and(jobs_table::state.eq_any(["failed", "stopped"])))
            .order(frames::nth)
            .select(frames::nth)
            .load(conn)
            .await?;
        let ids = jobs::add_many(conn, scene, orders(id, &missing)).await?;
        for (nth, job) in missing.iter().zip(ids) {
            diesel::update(frames::table.find((id, *nth))).set(frames::job_id.eq(job)).execute(conn).await?;
        }
        Ok(missing.len())
    })
    .await
}

/// Deletes a run with its frames. Who works on one of them hears it at the next beat.
///
/// # Errors
/// When there is no such run, or the database fails.
pub async fn remove(db: &Db, id: Uuid) -> Result<(), ApiError> {
    stop(db, id).await?;
    let mut conn = db.get().await?;
    let theirs = frames::table.filter(frames::run_id.eq(id)).select(frames::job_id);
    let ids: Vec<Uuid> = theirs.load(&mut conn).await?;
    conn.transaction::<(), ApiError, _>(async |conn| {
        diesel::delete(runs::table.find(id)).execute(conn).await?;
        diesel::delete(jobs_table::table.filter(jobs_table::id.eq_any(&ids))).execute(conn).await?;
        Ok(())
    })
    .await
}
