//! What every request handler shares.

use crate::db::Db;
use crate::events::Events;
use crate::growth::Growths;
use crate::scenes::Scenes;
use std::sync::Arc;

/// Handles to the database, the cache of derived data and the stream of events. Cloning shares them.
#[derive(Clone)]
pub struct App {
    /// The database.
    pub db: Db,
    /// Scenes as they are worked on.
    pub scenes: Scenes,
    /// Grounds and plants, computed when asked for.
    pub growths: Arc<Growths>,
    /// Changes and progress, for browsers that listen.
    pub events: Events,
}

impl App {
    /// Connects to PostgreSQL, brings its tables up to date and starts listening for events.
    ///
    /// # Errors
    /// When the database cannot be reached or brought up to date.
    pub async fn start(database_url: &str) -> Result<Self, crate::db::StartError> {
        let db = Db::connect(database_url).await?;
        let events = Events::listen(database_url).await?;
        let scenes = Scenes::new(db.clone(), events.clone());
        Ok(Self { db, scenes, growths: Arc::default(), events })
    }
}
