//! Scenes and their log, as the database keeps them. What is done with them is in [`crate::scenes`].

use super::Db;
use super::schema::{edit_answers, scene_edits, scenes};
use crate::error::ApiError;
use chrono::{DateTime, Utc};
use diesel::prelude::*;
use diesel_async::{AsyncPgConnection, RunQueryDsl};
use futures::try_join;
use rookery_core::scene::{
    Command, Document, Entry, EntryKind, History, SCHEMA, check_document, read_command, read_document,
    to_json,
};
use serde::Serialize;
use serde_json::Value;
use uuid::Uuid;

/// A line of the list of scenes.
#[derive(Clone, Debug, Queryable, Serialize, utoipa::ToSchema)]
pub struct SceneLine {
    /// Which.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// When it was last changed.
    pub updated_at: DateTime<Utc>,
}

/// A scene as it was when it was last written down whole; the log leads on from there.
pub struct Kept {
    /// The document after edit `seq`.
    pub document: Document,
    /// The number of the last edit in it.
    pub seq: i64,
    /// What could be taken back then; none where it was not kept.
    pub history: Option<History>,
}

/// An entry of the log.
#[derive(Clone, Debug)]
pub struct LogEntry {
    /// What history needs to know of it.
    pub entry: Entry,
    /// What it did.
    pub command: Command,
    /// What takes it back.
    pub inverse: Command,
    /// What takes that back; none in logs of earlier programs.
    pub forward: Option<Command>,
    /// The paths of what it set; empty in logs of earlier programs.
    pub touches: Vec<String>,
}

/// What a request was answered.
#[derive(Clone, Debug, PartialEq)]
pub enum Answered {
    /// It became this edit, or changed nothing.
    Done(Option<i64>),
    /// It was refused.
    Refused(Value),
}

/// All scenes, last changed first.
///
/// # Errors
/// When the database fails.
pub async fn list(db: &Db) -> Result<Vec<SceneLine>, ApiError> {
    let rows = scenes::table
        .filter(scenes::deleted_at.is_null())
        .select((scenes::id, scenes::name, scenes::updated_at))
        .order(scenes::updated_at.desc());
    Ok(rows.load(&mut db.get().await?).await?)
}

/// Deleted scenes that can still be restored, last deleted first; the time is that of the deletion.
///
/// # Errors
/// When the database fails.
pub async fn list_deleted(db: &Db) -> Result<Vec<SceneLine>, ApiError> {
    let rows = scenes::table
        .filter(scenes::deleted_at.is_not_null())
        .select((scenes::id, scenes::name, scenes::deleted_at.assume_not_null()))
        .order(scenes::deleted_at.desc());
    Ok(rows.load(&mut db.get().await?).await?)
}

/// Deletes a scene, or restores it. Its log, its stills and its files stay until it is cleared away.
///
/// # Errors
/// When there is no such scene to delete or restore, or the database fails.
pub async fn set_deleted(db: &Db, id: Uuid, deleted: bool) -> Result<(), ApiError> {
    let mut conn = db.get().await?;
    let found = if deleted {
        let open = scenes::table.find(id).filter(scenes::deleted_at.is_null());
        diesel::update(open).set(scenes::deleted_at.eq(Some(Utc::now()))).execute(&mut conn).await?
    } else {
        let gone = scenes::table.find(id).filter(scenes::deleted_at.is_not_null());
        diesel::update(gone).set(scenes::deleted_at.eq(None::<DateTime<Utc>>)).execute(&mut conn).await?
    };
    if found == 0 { Err(ApiError::NotFound("scene")) } else { Ok(()) }
}

/// Keeps a new scene and answers with its id.
///
/// # Errors
/// When the document breaks a rule, or the database fails.
pub async fn create(db: &Db, document: &Document) -> Result<Uuid, ApiError> {
    check_document(document)?;
    let id = Uuid::now_v7();
    diesel::insert_into(scenes::table)
        .values((
            scenes::id.eq(id),
            scenes::name.eq(&document.name),
            scenes::document.eq(to_json(document)),
            scenes::history.eq(to_json(&History::default())),
        ))
        .execute(&mut db.get().await?)
        .await?;
    Ok(id)
}

/// Reads a scene as it was last written down whole.
///
/// # Errors
/// When there is no such scene, it cannot be read, or the database fails.
pub async fn kept(conn: &mut AsyncPgConnection, id: Uuid) -> Result<Kept, ApiError> {
    let row = scenes::table
        .find(id)
        .filter(scenes::deleted_at.is_null())
        .select((scenes::document, scenes::document_seq, scenes::history))
        .first::<(Value, i64, Option<Value>)>(conn);
    let (document, seq, history) = row.await.optional()?.ok_or(ApiError::NotFound("scene"))?;
    let history = history.and_then(|h| serde_json::from_value(h).ok());
    Ok(Kept { document: read(document)?, seq, history })
}

/// Writes a scene down whole, unless that was done for a later edit already.
///
/// # Errors
/// When the database fails.
pub async fn keep(
    db: &Db,
    id: Uuid,
    seq: i64,
    document: &Document,
    history: &History,
) -> Result<(), ApiError> {
    diesel::update(scenes::table.find(id).filter(scenes::document_seq.lt(seq)))
        .set((
            scenes::document.eq(to_json(document)),
            scenes::document_seq.eq(seq),
            scenes::history.eq(to_json(history)),
        ))
        .execute(&mut db.get().await?)
        .await?;
    Ok(())
}

/// The number of a scene's last edit.
///
/// # Errors
/// When there is no such scene, or the database fails.
pub async fn last(conn: &mut AsyncPgConnection, id: Uuid) -> Result<i64, ApiError> {
    let row = scenes::table.find(id).filter(scenes::deleted_at.is_null()).select(scenes::seq).first(conn);
    row.await.optional()?.ok_or(ApiError::NotFound("scene"))
}

/// The number of a scene's last edit; no other edit can be made until the transaction ends.
///
/// # Errors
/// When there is no such scene, or the database fails.
pub async fn lock(mut conn: &AsyncPgConnection, id: Uuid) -> Result<i64, ApiError> {
    let row = scenes::table
        .find(id)
        .filter(scenes::deleted_at.is_null())
        .select(scenes::seq)
        .for_update()
        .first(&mut conn);
    row.await.optional()?.ok_or(ApiError::NotFound("scene"))
}

type Row = (
    (i64, i64, String, Option<i64>, String, Option<String>),
    (Value, Value, Option<Value>, i32, Vec<String>),
);

/// Entries of the log after `after`, oldest first, `most` of them at most.
///
/// # Errors
/// When the database fails or an entry cannot be read.
pub async fn entries_after(
    conn: &mut AsyncPgConnection,
    id: Uuid,
    after: i64,
    most: i64,
) -> Result<Vec<LogEntry>, ApiError> {
    let wanted = scene_edits::scene_id.eq(id).and(scene_edits::seq.gt(after));
    load(scene_edits::table.filter(wanted).order(scene_edits::seq).limit(most).into_boxed(), conn).await
}

/// Some entries of the log, in no order.
///
/// # Errors
/// When the database fails or an entry cannot be read.
pub async fn entries(
    conn: &mut AsyncPgConnection,
    id: Uuid,
    seqs: &[i64],
) -> Result<Vec<LogEntry>, ApiError> {
    let wanted = scene_edits::scene_id.eq(id).and(scene_edits::seq.eq_any(seqs.to_vec()));
    load(scene_edits::table.filter(wanted).into_boxed(), conn).await
}

async fn load<'a>(
    rows: scene_edits::BoxedQuery<'a, diesel::pg::Pg>,
    conn: &mut AsyncPgConnection,
) -> Result<Vec<LogEntry>, ApiError> {
    let columns = (
        (
            scene_edits::seq,
            scene_edits::since,
            scene_edits::kind,
            scene_edits::target,
            scene_edits::author,
            scene_edits::gesture,
        ),
        (
            scene_edits::command,
            scene_edits::inverse,
            scene_edits::forward,
            scene_edits::layout,
            scene_edits::touches,
        ),
    );
    let rows: Vec<Row> = rows.select(columns).load(conn).await?;
    rows.into_iter().map(read_entry).collect()
}

fn read_entry((entry, (command, inverse, forward, layout, touches)): Row) -> Result<LogEntry, ApiError> {
    let entry = as_entry(entry);
    let read = |value: Value| {
        read_command(layout as u32, value)
            .map_err(|e| ApiError::Internal(format!("edit {} cannot be read: {e}", entry.seq)))
    };
    let (command, inverse, forward) = (read(command)?, read(inverse)?, forward.map(read).transpose()?);
    Ok(LogEntry { entry, command, inverse, forward, touches })
}

fn as_entry(
    (seq, since, kind, target, author, gesture): (i64, i64, String, Option<i64>, String, Option<String>),
) -> Entry {
    let target = target.unwrap_or_default();
    let kind = match kind.as_str() {
        "undo" => EntryKind::Undo { target },
        "redo" => EntryKind::Redo { target },
        _ => EntryKind::Do,
    };
    Entry { seq, since, kind, author, gesture }
}

/// What can be taken back after edit `up_to`, read off the whole log.
///
/// # Errors
/// When the database fails.
pub async fn replayed(conn: &mut AsyncPgConnection, id: Uuid, up_to: i64) -> Result<History, ApiError> {
    let rows = scene_edits::table
        .filter(scene_edits::scene_id.eq(id).and(scene_edits::seq.le(up_to)))
        .order(scene_edits::seq)
        .select((
            scene_edits::seq,
            scene_edits::since,
            scene_edits::kind,
            scene_edits::target,
            scene_edits::author,
            scene_edits::gesture,
        ))
        .load(conn)
        .await?;
    let entries: Vec<Entry> = rows.into_iter().map(as_entry).collect();
    Ok(History::replay(&entries))
}

/// Appends an entry to the log and moves the scene on to it. Where the entry stands for earlier values of the same drag, those go.
/// Runs inside the caller's transaction. All is sent at once, and can be sent along with other queries on the connection.
///
/// # Errors
/// When the database fails.
pub async fn append(
    mut conn: &AsyncPgConnection,
    id: Uuid,
    name: &str,
    edit: &LogEntry,
) -> Result<(), ApiError> {
    let Entry { seq, since, kind, author, gesture } = &edit.entry;
    let earlier = scene_edits::scene_id.eq(id).and(scene_edits::seq.ge(since)).and(scene_edits::seq.lt(seq));
    let clear = diesel::delete(scene_edits::table.filter(earlier));
    let mut clearing = conn;
    let clear = async { if since < seq { clear.execute(&mut clearing).await } else { Ok(0) } };
    let (kind, target) = match kind {
        EntryKind::Do => ("do", None),
        EntryKind::Undo { target } => ("undo", Some(*target)),
        EntryKind::Redo { target } => ("redo", Some(*target)),
    };
    let put = diesel::insert_into(scene_edits::table)
        .values((
            scene_edits::scene_id.eq(id),
            scene_edits::seq.eq(seq),
            scene_edits::since.eq(since),
            scene_edits::kind.eq(kind),
            scene_edits::target.eq(target),
            scene_edits::author.eq(author),
            scene_edits::gesture.eq(gesture),
            scene_edits::command.eq(to_json(&edit.command)),
            scene_edits::inverse.eq(to_json(&edit.inverse)),
            scene_edits::forward.eq(edit.forward.as_ref().map(to_json)),
            scene_edits::layout.eq(SCHEMA as i32),
            scene_edits::touches.eq(&edit.touches),
        ))
        .execute(&mut conn);
    let move_on = diesel::update(scenes::table.find(id))
        .set((scenes::seq.eq(seq), scenes::name.eq(name), scenes::updated_at.eq(diesel::dsl::now)))
        .execute(&mut conn);
    try_join!(clear, put, move_on)?;
    Ok(())
}

/// What a request was answered before; none for a new one.
///
/// # Errors
/// When the database fails.
pub async fn answered(
    mut conn: &AsyncPgConnection,
    scene: Uuid,
    request: Uuid,
) -> Result<Option<Answered>, ApiError> {
    let row = edit_answers::table
        .find((scene, request))
        .select((edit_answers::seq, edit_answers::refusal))
        .first::<(Option<i64>, Option<Value>)>(&mut conn)
        .await
        .optional()?;
    Ok(row.map(|(seq, refusal)| refusal.map_or(Answered::Done(seq), Answered::Refused)))
}

/// Writes down what a request was answered. The first answer stays.
///
/// # Errors
/// When the database fails.
pub async fn answer(
    mut conn: &AsyncPgConnection,
    scene: Uuid,
    request: Uuid,
    answer: &Answered,
) -> Result<(), ApiError> {
    let (seq, refusal) = match answer {
        Answered::Done(seq) => (*seq, None),
        Answered::Refused(why) => (None, Some(why)),
    };
    diesel::insert_into(edit_answers::table)
        .values((
            edit_answers::scene_id.eq(scene),
            edit_answers::request_id.eq(request),
            edit_answers::seq.eq(seq),
            edit_answers::refusal.eq(refusal),
        ))
        .on_conflict_do_nothing()
        .execute(&mut conn)
        .await?;
    Ok(())
}

/// Forgets answers that nobody can be waiting for any more.
///
/// # Errors
/// When the database fails.
pub async fn forget_answers(db: &Db) -> Result<usize, ApiError> {
    let old = Utc::now() - chrono::TimeDelta::days(30);
    let gone = diesel::delete(edit_answers::table.filter(edit_answers::made_at.lt(old)));
    Ok(gone.execute(&mut db.get().await?).await?)
}

/// Reads a document as the database keeps it.
///
/// # Errors
/// When it is not a document of a known layout.
pub fn read(document: Value) -> Result<Document, ApiError> {
    read_document(document).map_err(|e| ApiError::Internal(format!("the stored scene cannot be read: {e}")))
}
