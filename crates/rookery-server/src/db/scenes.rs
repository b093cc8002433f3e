//! Scenes and their log. A change appends to the log and moves the document in one transaction, or does nothing.

use super::Db;
use super::schema::{scene_edits, scenes};
use crate::error::ApiError;
use crate::events::{self, Event};
use chrono::{DateTime, Utc};
use diesel::prelude::*;
use diesel_async::{AsyncConnection, AsyncPgConnection, RunQueryDsl};
use rookery_core::scene::{Command, Document, Entry, EntryKind, History, apply, check_document, to_json};
use serde::Serialize;
use serde_json::Value;
use uuid::Uuid;

/// A scene as it stands.
#[derive(Clone, Debug)]
pub struct Scene {
    /// Which.
    pub id: Uuid,
    /// The number of its last edit.
    pub seq: i64,
    /// The document after that edit.
    pub document: Document,
    /// How many steps can be taken back.
    pub undo_steps: usize,
    /// How many steps can be done again.
    pub redo_steps: usize,
}

/// A line of the list of scenes.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct SceneLine {
    /// Which.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// When it was last changed.
    pub updated_at: DateTime<Utc>,
}

/// An edit that a sender had not seen.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct MissedEdit {
    /// Its number.
    pub seq: i64,
    /// What it did.
    #[schema(value_type = Command)]
    pub command: Value,
}

/// What a sender wants.
#[derive(Clone, Debug)]
pub enum Wish {
    /// Change something.
    Do {
        /// The change.
        command: Box<Command>,
        /// Edits of one drag share a name.
        gesture: Option<String>,
    },
    /// Take the last step back.
    Undo,
    /// Do the last step that was taken back again.
    Redo,
}

/// All scenes, last changed first.
///
/// # Errors
/// When the database fails.
pub async fn list(db: &Db) -> Result<Vec<SceneLine>, ApiError> {
    let rows: Vec<(Uuid, Value, DateTime<Utc>)> = scenes::table
        .select((scenes::id, scenes::document, scenes::updated_at))
        .order(scenes::updated_at.desc())
        .load(&mut db.get().await?)
        .await?;
    let name = |d: &Value| d["name"].as_str().unwrap_or_default().to_owned();
    Ok(rows.into_iter().map(|(id, d, updated_at)| SceneLine { id, name: name(&d), updated_at }).collect())
}

/// Keeps a new scene.
///
/// # Errors
/// When the document breaks a rule, or the database fails.
pub async fn create(db: &Db, document: &Document) -> Result<Scene, ApiError> {
    check_document(document)?;
    let id = Uuid::now_v7();
    diesel::insert_into(scenes::table)
        .values((scenes::id.eq(id), scenes::document.eq(to_json(document))))
        .execute(&mut db.get().await?)
        .await?;
    Ok(Scene { id, seq: 0, document: document.clone(), undo_steps: 0, redo_steps: 0 })
}

/// A scene as it stands.
///
/// # Errors
/// When there is no such scene, or the database fails.
pub async fn fetch(db: &Db, id: Uuid) -> Result<Scene, ApiError> {
    let mut conn = db.get().await?;
    let row = scenes::table.find(id).select((scenes::document, scenes::seq)).first::<(Value, i64)>(&mut conn);
    let (document, seq) = row.await.optional()?.ok_or(ApiError::NotFound("scene"))?;
    let history = history(&mut conn, id).await?;
    scene(id, seq, document, &history)
}

/// Carries out a wish, guarded by the number of the last edit the sender has seen.
///
/// # Errors
/// [`ApiError::Stale`] when the scene has moved on; [`ApiError::Refused`] when the change breaks a rule;
/// [`ApiError::NothingTo`]; or when the database fails. Nothing is changed then.
pub async fn carry_out(db: &Db, id: Uuid, expected: i64, wish: Wish) -> Result<Scene, ApiError> {
    let mut conn = db.get().await?;
    conn.transaction::<Scene, ApiError, _>(async |conn| {
        let row = scenes::table
            .find(id)
            .select((scenes::document, scenes::seq))
            .for_update()
            .first::<(Value, i64)>(conn);
        let (document, seq) = row.await.optional()?.ok_or(ApiError::NotFound("scene"))?;
        if seq != expected {
            return Err(ApiError::Stale { expected, seq, missed: missed(conn, id, expected).await? });
        }
        let document = read(document)?;
        let past = history(conn, id).await?;
        let (kind, target, gesture, command) = plan(conn, id, &past, wish).await?;
        let applied = apply(&document, &command)?;
        if kind == "do" && applied.document == document {
            // Nothing would change: there is nothing to write down, and nothing to take back.
            return Ok(Scene {
                id,
                seq,
                document,
                undo_steps: past.undo_steps(),
                redo_steps: past.redo_steps(),
            });
        }
        let seq = seq + 1;
        diesel::insert_into(scene_edits::table)
            .values((
                scene_edits::scene_id.eq(id),
                scene_edits::seq.eq(seq),
                scene_edits::kind.eq(kind),
                scene_edits::target.eq(target),
                scene_edits::gesture.eq(gesture),
                scene_edits::command.eq(to_json(&command)),
                scene_edits::inverse.eq(to_json(&applied.inverse)),
            ))
            .execute(conn)
            .await?;
        let moved = to_json(&applied.document);
        diesel::update(scenes::table.find(id))
            .set((scenes::document.eq(&moved), scenes::seq.eq(seq), scenes::updated_at.eq(diesel::dsl::now)))
            .execute(conn)
            .await?;
        events::tell(conn, &Event::Edited { scene: id, seq }).await?;
        let after = history(conn, id).await?;
        scene(id, seq, moved, &after)
    })
    .await
}

type Plan = (&'static str, Option<i64>, Option<String>, Command);

async fn plan(
    conn: &mut AsyncPgConnection,
    id: Uuid,
    history: &History,
    wish: Wish,
) -> Result<Plan, ApiError> {
    let (kind, seqs) = match wish {
        Wish::Do { command, gesture } => return Ok(("do", None, gesture, *command)),
        Wish::Undo => ("undo", history.next_undo()),
        Wish::Redo => ("redo", history.next_redo()),
    };
    let target = seqs.iter().copied().max().ok_or(ApiError::NothingTo(kind))?;
    let rows: Vec<(i64, Value, Value)> = scene_edits::table
        .filter(scene_edits::scene_id.eq(id).and(scene_edits::seq.eq_any(&seqs)))
        .select((scene_edits::seq, scene_edits::command, scene_edits::inverse))
        .load(conn)
        .await?;
    let commands: Result<Vec<Command>, ApiError> = seqs
        .iter()
        .map(|seq| {
            let row = rows.iter().find(|r| r.0 == *seq);
            let (_, command, inverse) =
                row.ok_or_else(|| ApiError::Internal(format!("edit {seq} is missing")))?;
            let value = if kind == "undo" { inverse } else { command };
            serde_json::from_value(value.clone()).map_err(|e| ApiError::Internal(format!("edit {seq}: {e}")))
        })
        .collect();
    let mut commands = commands?;
    let command = if commands.len() == 1 { commands.remove(0) } else { Command::All { commands } };
    Ok((kind, Some(target), None, command))
}

async fn missed(conn: &mut AsyncPgConnection, id: Uuid, after: i64) -> Result<Vec<MissedEdit>, ApiError> {
    let rows: Vec<(i64, Value)> = scene_edits::table
        .filter(scene_edits::scene_id.eq(id).and(scene_edits::seq.gt(after)))
        .select((scene_edits::seq, scene_edits::command))
        .order(scene_edits::seq)
        .limit(500)
        .load(conn)
        .await?;
    Ok(rows.into_iter().map(|(seq, command)| MissedEdit { seq, command }).collect())
}

async fn history(conn: &mut AsyncPgConnection, id: Uuid) -> Result<History, ApiError> {
    let rows: Vec<(i64, String, Option<i64>, Option<String>)> = scene_edits::table
        .filter(scene_edits::scene_id.eq(id))
        .select((scene_edits::seq, scene_edits::kind, scene_edits::target, scene_edits::gesture))
        .order(scene_edits::seq)
        .load(conn)
        .await?;
    let entries: Vec<Entry> = rows
        .into_iter()
        .map(|(seq, kind, target, gesture)| {
            let target = target.unwrap_or_default();
            let kind = match kind.as_str() {
                "undo" => EntryKind::Undo { target },
                "redo" => EntryKind::Redo { target },
                _ => EntryKind::Do,
            };
            Entry { seq, kind, gesture }
        })
        .collect();
    Ok(History::replay(&entries))
}

/// Reads a document as the database keeps it.
///
/// # Errors
/// When it is not a document of a known layout.
pub fn read(document: Value) -> Result<Document, ApiError> {
    serde_json::from_value(document)
        .map_err(|e| ApiError::Internal(format!("the stored scene cannot be read: {e}")))
}

fn scene(id: Uuid, seq: i64, document: Value, history: &History) -> Result<Scene, ApiError> {
    let document = read(document)?;
    Ok(Scene { id, seq, document, undo_steps: history.undo_steps(), redo_steps: history.redo_steps() })
}
