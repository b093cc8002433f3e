//! Telling browsers what changed. Events go through PostgreSQL, so that it does not matter which server made them.

use crate::db::StartError;
use crate::scenes::Told;
use diesel::sql_types::Text;
use diesel_async::{AsyncConnection, AsyncPgConnection, RunQueryDsl};
use futures::StreamExt;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use tokio::sync::broadcast;
use uuid::Uuid;

/// Something that happened to a scene.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(tag = "event", rename_all = "snake_case")]
pub enum Event {
    /// The document moved on.
    Edited {
        /// Which scene.
        scene: Uuid,
        /// Its new sequence number.
        seq: i64,
    },
    /// A job moved on.
    Job {
        /// Its scene.
        scene: Uuid,
        /// Which job.
        job: Uuid,
        /// `waiting`, `working`, `done`, `failed` or `stopped`.
        state: String,
        /// Share done, 0 to 1.
        progress: f32,
    },
}

impl Event {
    /// The scene it is about.
    pub fn scene(&self) -> Uuid {
        match self {
            Self::Edited { scene, .. } | Self::Job { scene, .. } => *scene,
        }
    }
}

const CHANNEL: &str = "rookery_events";
/// Messages that one who watches may fall behind.
const BEHIND: usize = 256;

/// Tells all servers. Within a transaction it is heard when that is committed.
///
/// # Errors
/// When the database cannot be reached.
pub async fn tell(mut conn: &AsyncPgConnection, event: &Event) -> diesel::QueryResult<()> {
    let text = serde_json::to_string(event).expect("events are plain data");
    diesel::sql_query("SELECT pg_notify($1, $2)")
        .bind::<Text, _>(CHANNEL)
        .bind::<Text, _>(text)
        .execute(&mut conn)
        .await?;
    Ok(())
}

/// Events as this server hears them, and messages to those who watch scenes here.
#[derive(Clone)]
pub struct Events {
    heard: broadcast::Sender<Event>,
    watched: Arc<Mutex<HashMap<Uuid, broadcast::Sender<Arc<str>>>>>,
}

impl Events {
    /// Opens a connection of its own that listens, and reopens it when it breaks.
    ///
    /// # Errors
    /// When the first connection fails.
    pub async fn listen(database_url: &str) -> Result<Self, StartError> {
        let (sender, _) = broadcast::channel(1024);
        let first = open(database_url).await?;
        let (url, out) = (database_url.to_owned(), sender.clone());
        tokio::spawn(async move {
            let mut conn = Some(first);
            loop {
                if let Some(mut conn) = conn.take() {
                    let mut heard = std::pin::pin!(conn.notifications_stream());
                    while let Some(Ok(note)) = heard.next().await {
                        if let Ok(event) = serde_json::from_str(&note.payload) {
                            // Nobody listening is no fault.
                            let _ = out.send(event);
                        }
                    }
                }
                tokio::time::sleep(Duration::from_secs(1)).await;
                conn = open(&url).await.ok();
            }
        });
        Ok(Self { heard: sender, watched: Arc::default() })
    }

    /// Events from now on.
    pub fn subscribe(&self) -> broadcast::Receiver<Event> {
        self.heard.subscribe()
    }

    /// Messages about a scene from now on.
    pub fn watch(&self, scene: Uuid) -> broadcast::Receiver<Arc<str>> {
        let mut watched = self.watched.lock().unwrap_or_else(PoisonError::into_inner);
        watched.retain(|_, sender| sender.receiver_count() > 0);
        watched.entry(scene).or_insert_with(|| broadcast::channel(BEHIND).0).subscribe()
    }

    /// Whether anyone watches a scene here.
    pub fn is_watched(&self, scene: Uuid) -> bool {
        let watched = self.watched.lock().unwrap_or_else(PoisonError::into_inner);
        watched.get(&scene).is_some_and(|sender| sender.receiver_count() > 0)
    }

    /// Gives a message to all who watch its scene here.
    pub fn say(&self, told: Told) {
        let watched = self.watched.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(sender) = watched.get(&told.scene) {
            let _ = sender.send(told.text);
        }
    }
}

async fn open(url: &str) -> Result<AsyncPgConnection, StartError> {
    let mut conn = AsyncPgConnection::establish(url).await?;
    diesel::sql_query(format!("LISTEN {CHANNEL}")).execute(&mut conn).await?;
    Ok(conn)
}
