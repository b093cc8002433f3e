//! PostgreSQL through Diesel.

pub mod blobs;
pub mod communities;
pub mod jobs;
pub mod scenes;
pub(crate) mod schema;
pub mod stills;

use diesel_async::pooled_connection::bb8::{Pool, PooledConnection, RunError};
use diesel_async::pooled_connection::{AsyncDieselConnectionManager, PoolError};
use diesel_async::{AsyncConnection, AsyncMigrationHarness, AsyncPgConnection};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
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

/// A pool of connections. Cloning shares it.
#[derive(Clone)]
pub struct Db(Pool<AsyncPgConnection>);

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
        Ok(Self(Pool::builder().max_size(12).build(manager).await?))
    }

    /// Borrows a connection.
    ///
    /// # Errors
    /// When none is to be had.
    pub async fn get(&self) -> Result<Lent<'_>, RunError> {
        self.0.get().await
    }
}
