//! How the database is.

use super::Db;
use crate::error::ApiError;
use diesel_async::RunQueryDsl;

impl Db {
    /// Whether the database answers, and how much room is left where it keeps its files: known only on the same machine.
    ///
    /// # Errors
    /// When it does not answer.
    pub async fn look(&self) -> Result<Option<u64>, ApiError> {
        #[derive(diesel::QueryableByName)]
        struct Folder {
            #[diesel(sql_type = diesel::sql_types::Nullable<diesel::sql_types::Text>)]
            folder: Option<String>,
        }
        let mut conn = self.get().await?;
        // Told only to those who may know it; for others it is none.
        let ask = "SELECT CASE WHEN pg_has_role('pg_read_all_settings', 'MEMBER') \
                   THEN current_setting('data_directory', true) END AS folder";
        let found: Folder = diesel::sql_query(ask).get_result(&mut conn).await?;
        let room = found.folder.and_then(|folder| rustix::fs::statvfs(folder.as_str()).ok());
        Ok(room.map(|r| r.f_bavail * r.f_frsize))
    }
}
