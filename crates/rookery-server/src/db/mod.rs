//! PostgreSQL through Diesel.

pub mod blobs;
pub mod communities;
mod health;
pub mod housekeeping;
pub mod jobs;
pub mod runs;
pub mod scenes;
pub(crate) mod schema;
pub mod stills;

use crate::error::ApiError;
use diesel_async::pooled_connection::bb8::{Pool, PooledConnection};
use diesel_async::pooled_connection::{AsyncDieselConnectionManager, PoolError};
use diesel_async::{AsyncConnection, AsyncMigrationHarness, AsyncPgConnection};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use std::sync::Arc;
use std::sync::atomic::{AtomicU64, Ordering};
use std::time::{Duration, Instant};
use thiserror::Error;

const MIGRATIONS: EmbeddedMigrations = embed_migrations!("../../migrations");

/// Why the database cannot be used.
#[derive(Debug, Error)]
pub enum StartError {
    /// It cannot be reached.
    #[error("PostgreSQL cannot be reached: {0}")]
    Connect(#[from] diesel::ConnectionError),
    /// Its tables cannot be brought up to date.
    #[error("the tables cannot be brought up to date: {0}")]
    Migrate(String),
    /// A query failed.
    #[error("PostgreSQL failed: {0}")]
    Query(#[from] diesel::result::Error),
    /// The pool failed.
    #[error("PostgreSQL cannot be reached: {0}")]
    Pool(#[from] PoolError),
}

/// Longest wait for a connection.
const PATIENCE: Duration = Duration::from_millis(3000);
/// After a connection was not to be had, nobody waits for one for this long: all are told so at once.
const AWAY: Duration = Duration::from_millis(500);
/// Connections at once.
const MOST: u32 = 16;

/// A pool of connections. Cloning shares it.
#[derive(Clone)]
pub struct Db {
    pool: Pool<AsyncPgConnection>,
    /// Milliseconds after `start` until which the database is held to be away.
    away_until: Arc<AtomicU64>,
    start: Instant,
}

/// A connection lent by the pool.
pub type Lent<'a> = PooledConnection<'a, AsyncPgConnection>;

impl Db {
    /// Connects and runs the migrations that are still to be run.
    ///
    /// # Errors
    /// [`StartError`].
    pub async fn connect(url: &str) -> Result<Self, StartError> {
        let conn = AsyncPgConnection::establish(url).await?;
        tokio::task::block_in_place(|| {
            let mut harness = AsyncMigrationHarness::new(conn);
            harness
                .run_pending_migrations(MIGRATIONS)
                .map(|_| ())
                .map_err(|e| StartError::Migrate(e.to_string()))
        })?;
        let manager = AsyncDieselConnectionManager::<AsyncPgConnection>::new(url);
        let pool = Pool::builder().max_size(MOST).connection_timeout(PATIENCE).build(manager).await?;
        Ok(Self { pool, away_until: Arc::default(), start: Instant::now() })
    }

    /// Borrows a connection, and waits for the database to come back where it is away: for work that took long and must not be lost.
    pub async fn get_in_the_end(&self) -> Lent<'_> {
        loop {
            match self.get().await {
                Ok(conn) => return conn,
                Err(_) => tokio::time::sleep(AWAY).await,
            }
        }
    }

    /// Borrows a connection. While the database is away this fails at once but for one try now and then.
    ///
    /// # Errors
    /// When none is to be had.
    pub async fn get(&self) -> Result<Lent<'_>, ApiError> {
        let now = || self.start.elapsed().as_millis() as u64;
        if now() < self.away_until.load(Ordering::Relaxed) {
            return Err(ApiError::DatabaseAway);
        }
        match self.pool.get().await {
            Ok(conn) => Ok(conn),
            Err(e) => {
                tracing::warn!(error = %e, "no connection to the database is to be had");
                self.away_until.store(now() + AWAY.as_millis() as u64, Ordering::Relaxed);
                Err(ApiError::DatabaseAway)
            }
        }
    }
}
