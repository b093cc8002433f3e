//! One scene that is held: its last state, a few states before it, and what can be taken back.

use super::answer::Changes;
use super::snapshot::Snapshot;
use crate::db::scenes as db;
use crate::db::scenes::LogEntry;
use crate::error::ApiError;
use diesel_async::AsyncPgConnection;
use rookery_core::scene::{Document, History, apply, touches};
use std::collections::VecDeque;
use std::sync::Arc;
use uuid::Uuid;

/// Earlier states that are held, so that what changed since can be told.
const STATES: usize = 24;
/// Earlier edits whose authors and touches are held.
const EDITS: usize = 1024;
/// Entries read of the log at once.
const PAGE: i64 = 1000;
/// Steps of each author that are held; older ones are read off the log when they are wanted.
const STEPS: usize = 2000;

/// Who touched what.
#[derive(Clone, Debug)]
pub(super) struct Touched {
    pub seq: i64,
    pub author: String,
    pub paths: Vec<String>,
}

/// A scene that is held.
pub(super) struct Live {
    pub id: Uuid,
    /// The last state at the end.
    states: VecDeque<Arc<Snapshot>>,
    pub history: History,
    /// All edits after `edits_from`, oldest first.
    pub edits: VecDeque<Touched>,
    edits_from: i64,
    /// The last entry of the log, where it is at hand.
    pub last: Option<LogEntry>,
    /// The last edit that listeners were told of.
    pub told: i64,
    /// The last edit in what was written down whole.
    pub kept: i64,
}

impl Live {
    /// Reads a scene from the database.
    pub async fn load(conn: &mut AsyncPgConnection, id: Uuid) -> Result<Self, ApiError> {
        let kept = db::kept(conn, id).await?;
        let history = match kept.history {
            Some(history) => history,
            None => db::replayed(conn, id, kept.seq).await?,
        };
        let seq = kept.seq;
        let snapshot = tokio::task::block_in_place(|| Snapshot::new(id, seq, kept.document));
        let mut live = Self {
            id,
            states: VecDeque::from([Arc::new(snapshot)]),
            history,
            edits: VecDeque::new(),
            edits_from: seq,
            last: None,
            told: seq,
            kept: seq,
        };
        let last = db::last(conn, id).await?;
        live.catch_up(conn, last).await?;
        live.told = live.snapshot().seq;
        Ok(live)
    }

    /// The last state.
    pub fn snapshot(&self) -> &Arc<Snapshot> {
        self.states.back().expect("a scene has a state")
    }

    /// The newest state that fits.
    pub fn newest(&self, fits: &impl Fn(&Snapshot) -> bool) -> Option<Arc<Snapshot>> {
        self.states.iter().rev().find(|s| fits(s)).cloned()
    }

    /// The state after an edit, where it is still held.
    pub fn state_at(&self, seq: i64) -> Option<&Arc<Snapshot>> {
        self.states.iter().rev().find(|s| s.seq == seq)
    }

    /// How many steps an author can take back and do again.
    pub fn steps(&self, author: &str) -> [usize; 2] {
        [self.history.undo_steps(author), self.history.redo_steps(author)]
    }

    /// What changed after edit `since`, or all of the scene where that cannot be told any more.
    pub fn changes(&self, since: i64, author: &str) -> Changes {
        let [undo_steps, redo_steps] = self.steps(author);
        let now = self.snapshot();
        let patch = self.state_at(since).map(|before| now.since(before));
        Changes::new(now, since, patch, undo_steps, redo_steps)
    }

    /// Follows the log up to edit `seq`, which another server may have made.
    pub async fn catch_up(&mut self, conn: &mut AsyncPgConnection, seq: i64) -> Result<(), ApiError> {
        while self.snapshot().seq < seq {
            let from = self.snapshot().seq;
            let entries = db::entries_after(conn, self.id, from, PAGE).await?;
            if entries.is_empty() {
                return Err(ApiError::Internal(format!("the log of scene {} ends at {from}", self.id)));
            }
            let last = entries.last().map(|e| e.entry.seq);
            let mut document = self.snapshot().document.clone();
            let mut understood = true;
            for mut edit in entries {
                if edit.touches.is_empty() {
                    edit.touches = touches(&document, &edit.command);
                }
                let done = apply(&document, &edit.command);
                let done = done.map_err(|e| {
                    ApiError::Internal(format!(
                        "edit {} of scene {} does not apply: {e}",
                        edit.entry.seq, self.id
                    ))
                })?;
                document = done.document;
                understood &= self.history.push(&edit.entry);
                self.note(edit);
            }
            let last = last.unwrap_or(from);
            if !understood {
                self.history = db::replayed(conn, self.id, last).await?;
            }
            self.show(last, document);
        }
        Ok(())
    }

    /// Takes account of an edit of this server's own that is in the database.
    pub fn advance(&mut self, edit: LogEntry, document: Document) {
        self.history.push(&edit.entry);
        let seq = edit.entry.seq;
        self.note(edit);
        self.show(seq, document);
    }

    fn note(&mut self, edit: LogEntry) {
        let touched =
            Touched { seq: edit.entry.seq, author: edit.entry.author.clone(), paths: edit.touches.clone() };
        // The values of a drag take one another's place.
        while self.edits.back().is_some_and(|e| e.seq >= edit.entry.since) {
            self.edits.pop_back();
        }
        self.edits.push_back(touched);
        if self.edits.len() > EDITS
            && let Some(gone) = self.edits.pop_front()
        {
            self.edits_from = gone.seq;
        }
        self.last = Some(edit);
        self.history.forget_but(STEPS);
    }

    fn show(&mut self, seq: i64, document: Document) {
        let next = tokio::task::block_in_place(|| self.snapshot().after(seq, document));
        if self.states.len() >= STATES {
            self.states.pop_front();
        }
        self.states.push_back(Arc::new(next));
    }

    /// Edits after `since`, oldest first; none where they are no longer at hand.
    pub fn edits_after(&self, since: i64) -> Option<impl Iterator<Item = &Touched>> {
        (since >= self.edits_from).then(|| self.edits.iter().filter(move |e| e.seq > since))
    }
}
