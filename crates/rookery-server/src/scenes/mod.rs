//! Scenes as they are worked on: each is held once, after its last edit, with what led there lately.
//!
//! The database has the last word: an edit counts when its transaction has ended there, and every edit looks there first whether
//! another server made one meanwhile.

mod answer;
mod edit;
mod live;
mod snapshot;
mod told;

pub use answer::{Changes, CommandAnswer, Conflict, SceneView};
pub use edit::{Request, Wish};
pub use snapshot::{GroundView, LayerView, ObstacleView, OutlineView, Snapshot};
pub use told::Told;

use crate::db::{Db, scenes as db};
use crate::error::ApiError;
use crate::events::Events;
use live::Live;
use rookery_core::scene::Document;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use uuid::Uuid;

/// Scenes held at once; the longest unused go first.
const MOST_HELD: usize = 32;

/// A scene that is held. Whoever wants to change it waits here, first come, first served.
type Held = Arc<tokio::sync::Mutex<Option<Live>>>;

/// All scenes. Cloning shares them.
#[derive(Clone)]
pub struct Scenes {
    db: Db,
    events: Events,
    held: Arc<Mutex<HashMap<Uuid, (u64, Held)>>>,
}

impl Scenes {
    /// Scenes of a database, told about by `events`.
    pub fn new(db: Db, events: Events) -> Self {
        let scenes = Self { db, events, held: Arc::default() };
        scenes.listen();
        scenes
    }

    fn slot(&self, id: Uuid) -> Held {
        let mut held = self.held.lock().unwrap_or_else(PoisonError::into_inner);
        let now = 1 + held.values().map(|(used, _)| *used).max().unwrap_or(0);
        if held.len() >= MOST_HELD && !held.contains_key(&id) {
            // One that is being changed right now is held by whoever changes it.
            let idle = held.iter().filter(|(_, (_, h))| Arc::strong_count(h) == 1);
            if let Some(oldest) = idle.min_by_key(|(_, (used, _))| *used).map(|(id, _)| *id) {
                held.remove(&oldest);
            }
        }
        let slot = held.entry(id).or_insert_with(|| (now, Held::default()));
        slot.0 = now;
        slot.1.clone()
    }

    fn forget(&self, id: Uuid) {
        self.held.lock().unwrap_or_else(PoisonError::into_inner).remove(&id);
    }

    /// Keeps a new scene.
    ///
    /// # Errors
    /// When the document breaks a rule, or the database fails.
    pub async fn create(&self, document: &Document) -> Result<Arc<Snapshot>, ApiError> {
        let id = db::create(&self.db, document).await?;
        self.now(id).await
    }

    /// Deletes a scene. It can be restored for [`housekeeping::KEPT_DAYS`](crate::db::housekeeping::KEPT_DAYS).
    ///
    /// # Errors
    /// When there is no such scene, or the database fails.
    pub async fn delete(&self, id: Uuid) -> Result<(), ApiError> {
        db::set_deleted(&self.db, id, true).await?;
        self.forget(id);
        Ok(())
    }

    /// A scene after its last edit.
    ///
    /// # Errors
    /// When there is no such scene, or the database fails.
    pub async fn now(&self, id: Uuid) -> Result<Arc<Snapshot>, ApiError> {
        let slot = self.slot(id);
        let mut held = slot.lock().await;
        let live = self.caught_up(&mut held, id).await?;
        Ok(live.snapshot().clone())
    }

    /// A scene as one who looks at it sees it.
    ///
    /// # Errors
    /// As [`Scenes::now`].
    pub async fn seen_by(&self, id: Uuid, author: &str) -> Result<(Arc<Snapshot>, [usize; 2]), ApiError> {
        let slot = self.slot(id);
        let mut held = slot.lock().await;
        let live = self.caught_up(&mut held, id).await?;
        Ok((live.snapshot().clone(), live.steps(author)))
    }

    /// What changed in a scene after edit `since`.
    ///
    /// # Errors
    /// As [`Scenes::now`].
    pub async fn changes(&self, id: Uuid, since: i64, author: &str) -> Result<Changes, ApiError> {
        let slot = self.slot(id);
        let mut held = slot.lock().await;
        let live = self.caught_up(&mut held, id).await?;
        Ok(live.changes(since, author))
    }

    /// A scene after its last or one of its latest edits: the newest of those held that `fits`. The database is asked only when none
    /// does, so that what is derived from a scene is to be had while it is away.
    ///
    /// # Errors
    /// `missing` when none fits; or as [`Scenes::now`].
    pub async fn newest_where(
        &self,
        id: Uuid,
        missing: &'static str,
        fits: impl Fn(&Snapshot) -> bool,
    ) -> Result<Arc<Snapshot>, ApiError> {
        let slot = self.slot(id);
        let mut held = slot.lock().await;
        if let Some(found) = held.as_ref().and_then(|live| live.newest(&fits)) {
            return Ok(found);
        }
        let live = self.caught_up(&mut held, id).await?;
        live.newest(&fits).ok_or(ApiError::Outdated(missing))
    }

    /// Brings what is held of a scene up to the database.
    async fn caught_up<'l>(&self, held: &'l mut Option<Live>, id: Uuid) -> Result<&'l mut Live, ApiError> {
        let mut conn = self.db.get().await?;
        let seq = match db::last(&mut conn, id).await {
            Ok(seq) => seq,
            Err(e) => {
                if matches!(e, ApiError::NotFound(_)) {
                    *held = None;
                    self.forget(id);
                }
                return Err(e);
            }
        };
        let live = match held.take() {
            Some(live) => live,
            None => Live::load(&mut conn, id).await?,
        };
        let live = held.insert(live);
        live.catch_up(&mut conn, seq).await?;
        Ok(live)
    }
}
