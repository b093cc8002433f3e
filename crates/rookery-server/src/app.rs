//! What every request handler shares.

use crate::db::{Db, StartError};
use crate::events::Events;
use crate::growth::{Growths, USUAL_CEILING};
use crate::reading::Readers;
use crate::routes::{Crowd, Door};
use crate::scenes::Scenes;
use std::sync::Arc;
use uuid::Uuid;

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
    /// Who is let in.
    pub door: Arc<Door>,
    /// How many are being answered.
    pub crowd: Arc<Crowd>,
}

impl App {
    /// Connects to PostgreSQL, brings its tables up to date and starts listening for events. Lets in whoever is on this machine;
    /// scripts show the door's token, which is made up here.
    ///
    /// # Errors
    /// When the database cannot be reached or brought up to date.
    pub async fn start(database_url: &str) -> Result<Self, StartError> {
        Self::start_with(database_url, Readers::default()).await
    }

    /// The same with other readers of files.
    ///
    /// # Errors
    /// As [`App::start`].
    pub async fn start_with(database_url: &str, readers: Readers) -> Result<Self, StartError> {
        let db = Db::connect(database_url).await?;
        let events = Events::listen(database_url).await?;
        let scenes = Scenes::new(db.clone(), events.clone());
        let token = format!("{}{}", Uuid::new_v4().simple(), Uuid::new_v4().simple());
        let door = Arc::new(Door::of_this_machine(token, []));
        Ok(Self {
            db,
            scenes,
            growths: Arc::new(Growths::new(readers, USUAL_CEILING, None)),
            events,
            door,
            crowd: Arc::default(),
        })
    }
}
