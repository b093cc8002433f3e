//! Long work as rows that workers lease.

use super::Db;
use super::schema::jobs;
use crate::error::ApiError;
use crate::events::{self, Event};
use chrono::{DateTime, TimeDelta, Utc};
use diesel::prelude::*;
use diesel_async::{AsyncConnection, AsyncPgConnection, RunQueryDsl};
use serde::Serialize;
use serde_json::Value;
use uuid::Uuid;

/// A worker that is not heard of for this long has lost its job.
const LEASE: TimeDelta = TimeDelta::seconds(15);
/// A job that lost this many workers is given up.
const MOST_ATTEMPTS: i32 = 3;

/// The rank of work that is asked for by the hundred: after what is asked for one by one.
const BEHIND: i16 = 1;

/// A piece of long work.
#[derive(Clone, Debug, Queryable, Selectable, Serialize, utoipa::ToSchema)]
#[diesel(table_name = jobs)]
pub struct Job {
    /// Which.
    pub id: Uuid,
    /// The scene it is for.
    pub scene_id: Uuid,
    /// What is to be done.
    #[serde(skip)]
    pub plan: Value,
    /// `waiting`, `working`, `done`, `failed` or `stopped`.
    pub state: String,
    /// Share done, 0 to 1.
    pub progress: f32,
    /// Why it failed.
    pub message: Option<String>,
    /// How many workers have taken it.
    pub attempts: i32,
    /// Whether someone asked for it to stop.
    pub stop_asked: bool,
    /// When it was asked for.
    pub created_at: DateTime<Utc>,
    /// Seconds that are likely left, once a worker has got far enough to tell.
    pub left_s: Option<f32>,
}

impl Job {
    pub(super) fn event(&self) -> Event {
        Event::Job { scene: self.scene_id, job: self.id, state: self.state.clone(), progress: self.progress }
    }
}

/// Adds a job. Runs inside the caller's transaction.
///
/// # Errors
/// When the database fails.
pub async fn add(conn: &mut AsyncPgConnection, scene: Uuid, plan: Value) -> Result<Job, ApiError> {
    let job: Job = diesel::insert_into(jobs::table)
        .values((jobs::id.eq(Uuid::now_v7()), jobs::scene_id.eq(scene), jobs::plan.eq(plan)))
        .returning(Job::as_select())
        .get_result(conn)
        .await?;
    events::tell(conn, &job.event()).await?;
    Ok(job)
}

/// Adds many jobs that wait behind all that is asked for one by one; answers who they are, in their order. Runs inside the caller's
/// transaction.
///
/// # Errors
/// When the database fails.
pub async fn add_many(
    conn: &mut AsyncPgConnection,
    scene: Uuid,
    plans: Vec<Value>,
) -> Result<Vec<Uuid>, ApiError> {
    let ids: Vec<Uuid> = plans.iter().map(|_| Uuid::now_v7()).collect();
    let rows: Vec<_> = ids
        .iter()
        .zip(plans)
        .map(|(id, plan)| {
            (jobs::id.eq(*id), jobs::scene_id.eq(scene), jobs::plan.eq(plan), jobs::rank.eq(BEHIND))
        })
        .collect();
    // As many as one statement can name.
    for some in rows.chunks(1000) {
        diesel::insert_into(jobs::table).values(some).execute(conn).await?;
    }
    if let [first, ..] = ids.as_slice() {
        let job: Job = jobs::table.find(first).select(Job::as_select()).first(conn).await?;
        events::tell(conn, &job.event()).await?;
    }
    Ok(ids)
}

/// A job as it stands.
///
/// # Errors
/// When there is no such job, or the database fails.
pub async fn fetch(db: &Db, id: Uuid) -> Result<Job, ApiError> {
    let found = jobs::table.find(id).select(Job::as_select()).first(&mut db.get().await?).await.optional()?;
    found.ok_or(ApiError::NotFound("job"))
}

/// Takes the next job that nobody holds, and gives up those that lost too many workers.
///
/// # Errors
/// When the database fails.
pub async fn take(db: &Db, worker: &str) -> Result<Option<Job>, ApiError> {
    let mut conn = db.get().await?;
    let lost = jobs::state.eq("working").and(jobs::leased_until.lt(diesel::dsl::now));
    let given_up: Vec<Job> = diesel::update(jobs::table.filter(lost.and(jobs::attempts.ge(MOST_ATTEMPTS))))
        .set((jobs::state.eq("failed"), jobs::message.eq("three workers were lost while doing this")))
        .returning(Job::as_select())
        .get_results(&mut conn)
        .await?;
    for job in &given_up {
        events::tell(&conn, &job.event()).await?;
    }
    conn.transaction::<Option<Job>, ApiError, _>(async |conn| {
        let next = jobs::table
            .filter(jobs::state.eq("waiting").or(lost))
            .order((jobs::rank, jobs::created_at, jobs::id))
            .select(jobs::id)
            .for_update()
            .skip_locked()
            .first::<Uuid>(conn)
            .await
            .optional()?;
        let Some(id) = next else { return Ok(None) };
        let job: Job = diesel::update(jobs::table.find(id))
            .set((
                jobs::state.eq("working"),
                jobs::worker.eq(worker),
                jobs::attempts.eq(jobs::attempts + 1),
                jobs::leased_until.eq(Utc::now() + LEASE),
                jobs::updated_at.eq(diesel::dsl::now),
            ))
            .returning(Job::as_select())
            .get_result(conn)
            .await?;
        events::tell(conn, &job.event()).await?;
        Ok(Some(job))
    })
    .await
}

/// Work that is not ended, in the order in which it is taken.
///
/// # Errors
/// When the database fails.
pub async fn open(db: &Db) -> Result<Vec<Uuid>, ApiError> {
    let open = jobs::state.eq("waiting").or(jobs::state.eq("working"));
    let first = (jobs::rank, jobs::created_at, jobs::id);
    Ok(jobs::table.filter(open).order(first).select(jobs::id).load(&mut db.get().await?).await?)
}

/// Renews a worker's lease and tells how far it is, and how many seconds are likely left; answers whether it should stop, which is also the case when the
/// job is no longer its own.
///
/// # Errors
/// When the database fails.
pub async fn beat(
    db: &Db,
    id: Uuid,
    worker: &str,
    progress: f32,
    left_s: Option<f32>,
) -> Result<bool, ApiError> {
    let mut conn = db.get().await?;
    let held =
        jobs::table.filter(jobs::id.eq(id).and(jobs::worker.eq(worker)).and(jobs::state.eq("working")));
    let job: Option<Job> = diesel::update(held)
        .set((
            jobs::progress.eq(progress),
            jobs::left_s.eq(left_s),
            jobs::leased_until.eq(Utc::now() + LEASE),
            jobs::updated_at.eq(diesel::dsl::now),
        ))
        .returning(Job::as_select())
        .get_result(&mut conn)
        .await
        .optional()?;
    let Some(job) = job else { return Ok(true) };
    events::tell(&conn, &job.event()).await?;
    Ok(job.stop_asked)
}

/// Ends a job that a worker holds. Runs inside the caller's transaction; answers whether the job was still its own.
///
/// # Errors
/// When the database fails.
pub async fn end(
    conn: &mut AsyncPgConnection,
    id: Uuid,
    worker: &str,
    state: &str,
    message: Option<&str>,
) -> Result<bool, ApiError> {
    let held =
        jobs::table.filter(jobs::id.eq(id).and(jobs::worker.eq(worker)).and(jobs::state.eq("working")));
    let job: Option<Job> = diesel::update(held)
        .set((
            jobs::state.eq(state),
            jobs::message.eq(message),
            jobs::leased_until.eq(None::<DateTime<Utc>>),
            jobs::updated_at.eq(diesel::dsl::now),
        ))
        .returning(Job::as_select())
        .get_result(conn)
        .await
        .optional()?;
    if let Some(job) = &job {
        events::tell(conn, &job.event()).await?;
    }
    Ok(job.is_some())
}

/// Asks a job to stop: at once when nobody has taken it, at its worker's next beat otherwise.
///
/// # Errors
/// When there is no such job, or the database fails.
pub async fn ask_to_stop(db: &Db, id: Uuid) -> Result<Job, ApiError> {
    let mut conn = db.get().await?;
    diesel::update(jobs::table.filter(jobs::id.eq(id).and(jobs::state.eq("waiting"))))
        .set((jobs::state.eq("stopped"), jobs::stop_asked.eq(true)))
        .execute(&mut conn)
        .await?;
    diesel::update(jobs::table.filter(jobs::id.eq(id).and(jobs::state.eq("working"))))
        .set(jobs::stop_asked.eq(true))
        .execute(&mut conn)
        .await?;
    let job = jobs::table.find(id).select(Job::as_select()).first(&mut conn).await.optional()?;
    let job = job.ok_or(ApiError::NotFound("job"))?;
    events::tell(&conn, &job.event()).await?;
    Ok(job)
}
