//! Changing a scene: exactly once, on top of what others did meanwhile, or not at all.

use super::answer::{CommandAnswer, Conflict};
use super::live::{Live, Touched};
use super::{Scenes, Snapshot};
use crate::db::scenes as db;
use crate::db::scenes::{Answered, LogEntry};
use crate::error::ApiError;
use crate::events::{self, Event};
use diesel_async::{AsyncConnection, AsyncPgConnection};
use futures::try_join;
use rookery_core::scene::{
    Command, Document, Entry, EntryKind, Turn, apply, overlap, setting_at, to_json, touches, value_at,
    value_in_words,
};
use serde_json::Value;
use std::sync::Arc;
use uuid::Uuid;

/// Edits between two times that a scene is written down whole.
const KEEP_EVERY: i64 = 100;
/// Entries of the log that are looked through for who changed something, at most.
const LOOKED_THROUGH: i64 = 20_000;

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
    /// Take the sender's last step back.
    Undo,
    /// Do the last step that the sender took back again.
    Redo,
}

/// A wish and who has it.
#[derive(Clone, Debug)]
pub struct Request {
    /// The sender's own name for this wish. However often it is sent, it is carried out once.
    pub id: Uuid,
    /// Who sends it.
    pub author: String,
    /// The last edit that the sender has seen.
    pub seen_seq: i64,
    /// The wish.
    pub wish: Wish,
}

/// What a wish comes to.
enum Outcome {
    /// It was carried out before, or refused.
    Again(Answered),
    /// It changes nothing.
    Nothing,
    /// It is in the database.
    Made(Box<LogEntry>, Box<Document>),
}

impl Scenes {
    /// Carries out a wish on top of what others did since the sender looked, if that touches other things.
    ///
    /// # Errors
    /// [`ApiError::Conflict`] where another changed the same to another value; [`ApiError::Refused`] where the change breaks a
    /// rule; [`ApiError::NothingTo`]; [`ApiError::Overtaken`] where a step can no longer be taken back; or when the database fails.
    /// Nothing is changed then. A wish that is sent again is answered as before.
    pub async fn carry_out(&self, id: Uuid, request: Request) -> Result<CommandAnswer, ApiError> {
        let slot = self.slot(id);
        let mut held = slot.lock().await;
        let mut conn = self.db.get().await?;
        if held.is_none() {
            *held = Some(Live::load(&mut conn, id).await?);
        }
        let live = held.as_mut().expect("it was just loaded");
        let wished = &request;
        let done = conn
            .transaction::<Outcome, ApiError, _>(async |conn| carried_out(conn, live, wished).await)
            .await;
        let edit = match done {
            Ok(Outcome::Nothing) => None,
            Ok(Outcome::Made(edit, document)) => {
                let seq = edit.entry.seq;
                live.advance(*edit, *document);
                Some(seq)
            }
            Ok(Outcome::Again(Answered::Done(edit))) => edit,
            Ok(Outcome::Again(Answered::Refused(why))) => return Err(ApiError::Again(Box::new(why))),
            Err(e) => {
                if let Some(why) = e.as_answer() {
                    // The same words, should it be sent again: what it was refused for may be gone by then.
                    db::answer(&conn, id, request.id, &Answered::Refused(why)).await?;
                }
                if matches!(e, ApiError::NotFound("scene")) {
                    *held = None;
                }
                return Err(e);
            }
        };
        drop(conn);
        self.tell(live);
        self.keep_now_and_then(live);
        Ok(CommandAnswer { edit, changes: live.changes(request.seen_seq, &request.author) })
    }

    /// Writes the scene down whole when the log has grown long since the last time.
    fn keep_now_and_then(&self, live: &mut Live) {
        let now = live.snapshot().clone();
        if now.seq - live.kept < KEEP_EVERY {
            return;
        }
        live.kept = now.seq;
        let (db, history) = (self.db.clone(), live.history.clone());
        tokio::spawn(async move {
            if let Err(e) = db::keep(&db, now.scene, now.seq, &now.document, &history).await {
                // The log has it all; the next time will do.
                tracing::warn!(error = %e, "a scene was not written down whole");
            }
        });
    }
}

/// The wish within a transaction that holds the scene.
async fn carried_out(
    conn: &mut AsyncPgConnection,
    live: &mut Live,
    request: &Request,
) -> Result<Outcome, ApiError> {
    // Both are sent at once; whoever waits for the lock looks for an answer after that.
    let (seq, answered) = try_join!(db::lock(conn, live.id), db::answered(conn, live.id, request.id))?;
    if let Some(answered) = answered {
        live.catch_up(conn, seq).await?;
        return Ok(Outcome::Again(answered));
    }
    live.catch_up(conn, seq).await?;
    let now = live.snapshot().clone();
    let (kind, gesture, command, turn) = match &request.wish {
        Wish::Do { command, gesture } => (EntryKind::Do, gesture.clone(), Command::clone(command), None),
        Wish::Undo | Wish::Redo => {
            let turn = next_turn(conn, live, request).await?;
            let entries = db::entries(conn, live.id, &turn.entries).await?;
            let target = turn.target;
            let undo = matches!(request.wish, Wish::Undo);
            let kind = if undo { EntryKind::Undo { target } } else { EntryKind::Redo { target } };
            let (command, back) = turned(&turn, entries)?;
            (kind, None, command, Some((turn, back)))
        }
    };
    let touched = touches(&now.document, &command);
    let applied = tokio::task::block_in_place(|| apply(&now.document, &command))?;
    match &turn {
        None => {
            if let Some(conflict) = conflict(conn, live, request, &touched, &applied.document).await? {
                return Err(ApiError::Conflict { seq, conflict: Box::new(conflict) });
            }
            if applied.document == *now.document {
                db::answer(conn, live.id, request.id, &Answered::Done(None)).await?;
                return Ok(Outcome::Nothing);
            }
        }
        Some((turn, Some(back))) if !same(&applied.inverse, back) => {
            overtaken(conn, live, request, turn, &touched, &now).await?;
        }
        Some(_) => {}
    }
    let mut inverse = applied.inverse;
    let mut since = seq + 1;
    if let (EntryKind::Do, Some(last)) = (kind, &live.last)
        && gesture.is_some()
        && last.entry.kind == EntryKind::Do
        && (&last.entry.gesture, &last.entry.author, last.entry.seq) == (&gesture, &request.author, seq)
        && last.touches == touched
    {
        // One more value of the same drag: it takes the place of the one before, and is taken back to where the drag began.
        (inverse, since) = (last.inverse.clone(), last.entry.since);
    }
    let forward = tokio::task::block_in_place(|| apply(&applied.document, &inverse))?.inverse;
    let entry = Entry { seq: seq + 1, since, kind, author: request.author.clone(), gesture };
    let edit = LogEntry { entry, command, inverse, forward: Some(forward), touches: touched };
    let (answer, event) = (Answered::Done(Some(seq + 1)), Event::Edited { scene: live.id, seq: seq + 1 });
    let tell = async { Ok(events::tell(conn, &event).await?) };
    try_join!(
        db::append(conn, live.id, &applied.document.name, &edit),
        db::answer(conn, live.id, request.id, &answer),
        tell
    )?;
    Ok(Outcome::Made(Box::new(edit), Box::new(applied.document)))
}

/// The gesture that is to be taken back or done again.
async fn next_turn(
    conn: &mut AsyncPgConnection,
    live: &mut Live,
    request: &Request,
) -> Result<Turn, ApiError> {
    let undo = matches!(request.wish, Wish::Undo);
    if undo && live.history.needs_the_log(&request.author) {
        live.history = db::replayed(conn, live.id, live.snapshot().seq).await?;
    }
    let history = &live.history;
    let next = if undo { history.next_undo(&request.author) } else { history.next_redo(&request.author) };
    next.ok_or(ApiError::NothingTo(if undo { "undo" } else { "redo" }))
}

/// The command that turns a gesture, and what takes that back if all is still as the gesture left it; none where the log does not
/// tell.
fn turned(turn: &Turn, mut entries: Vec<LogEntry>) -> Result<(Command, Option<Command>), ApiError> {
    let place = |e: &LogEntry| turn.entries.iter().position(|seq| *seq == e.entry.seq);
    entries.sort_by_key(place);
    if entries.len() != turn.entries.len() {
        return Err(ApiError::Internal(format!("edits {:?} are not all in the log", turn.entries)));
    }
    let forwards: Option<Vec<Command>> = entries.iter().rev().map(|e| e.forward.clone()).collect();
    let mut inverses: Vec<Command> = entries.into_iter().map(|e| e.inverse).collect();
    if inverses.len() == 1 {
        return Ok((inverses.remove(0), forwards.map(|mut f| f.remove(0))));
    }
    Ok((Command::All { commands: inverses }, forwards.map(|commands| Command::All { commands })))
}

/// Whether two commands do the same, wherever in a list they put things.
fn same(a: &Command, b: &Command) -> bool {
    fn placeless(value: &mut Value) {
        match value {
            Value::Object(fields) => {
                if fields.contains_key("do") || fields.contains_key("set") {
                    fields.remove("place");
                }
                fields.values_mut().for_each(placeless);
            }
            Value::Array(items) => items.iter_mut().for_each(placeless),
            _ => {}
        }
    }
    let [mut x, mut y] = [to_json(a), to_json(b)];
    placeless(&mut x);
    placeless(&mut y);
    x == y
}

/// Edits of others after `since` that touch some of the paths, oldest first, each with the longer of the two paths.
async fn others_at(
    conn: &mut AsyncPgConnection,
    live: &Live,
    author: &str,
    since: i64,
    touched: &[String],
) -> Result<Vec<(String, String)>, ApiError> {
    let read: Vec<Touched>;
    let near: Vec<&Touched> = match live.edits_after(since) {
        Some(edits) => edits.collect(),
        None => {
            let document = &live.snapshot().document;
            let entries = db::entries_after(conn, live.id, since, LOOKED_THROUGH).await?;
            let as_touched = |e: LogEntry| Touched {
                seq: e.entry.seq,
                author: e.entry.author,
                paths: if e.touches.is_empty() { touches(document, &e.command) } else { e.touches },
            };
            read = entries.into_iter().map(as_touched).collect();
            read.iter().collect()
        }
    };
    let mut out = Vec::new();
    for edit in near.into_iter().filter(|e| e.author != author) {
        for theirs in &edit.paths {
            for mine in touched.iter().filter(|mine| overlap(mine, theirs)) {
                let path = if mine.len() > theirs.len() { mine } else { theirs };
                out.push((edit.author.clone(), path.clone()));
            }
        }
    }
    Ok(out)
}

/// What another changed to another value since the sender looked; none where all the sender touches is as it was seen, or is
/// now what the sender wants.
async fn conflict(
    conn: &mut AsyncPgConnection,
    live: &Live,
    request: &Request,
    touched: &[String],
    wanted: &Document,
) -> Result<Option<Conflict>, ApiError> {
    let now = live.snapshot().clone();
    let others = others_at(conn, live, &request.author, request.seen_seq, touched).await?;
    for (author, path) in others.into_iter().rev() {
        let (theirs, yours) = (value_at(&now.document, &path), value_at(wanted, &path));
        if theirs != yours {
            // What is gone is named as it was.
            let named = live.state_at(request.seen_seq).map_or(&now.document, |s| &s.document);
            return Ok(Some(Conflict {
                setting: setting_at(named, &path),
                author,
                theirs_in_words: value_in_words(&theirs),
                yours_in_words: value_in_words(&yours),
                theirs,
                yours,
            }));
        }
    }
    Ok(None)
}

/// Refuses to turn a gesture of which another has changed something since.
async fn overtaken(
    conn: &mut AsyncPgConnection,
    live: &Live,
    request: &Request,
    turn: &Turn,
    touched: &[String],
    now: &Arc<Snapshot>,
) -> Result<(), ApiError> {
    let since = turn.entries.iter().copied().min().unwrap_or(turn.target);
    let others = others_at(conn, live, &request.author, since, touched).await?;
    let Some((author, path)) = others.into_iter().next_back() else { return Ok(()) };
    let verb = if matches!(request.wish, Wish::Undo) { "undo" } else { "redo" };
    Err(ApiError::Overtaken { verb, author, setting: setting_at(&now.document, &path) })
}
