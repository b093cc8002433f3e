//! Clearing away what nobody needs any more.

use super::{Db, scenes};
use crate::error::ApiError;
use diesel_async::RunQueryDsl;

/// Days for which a deleted scene can be restored.
pub const KEPT_DAYS: i32 = 30;

/// Files that nothing names. What a scene, its log, a still or a community names is found by its hash in their text, so that what can
/// be taken back or done again still has its files. Files of the last day are kept: someone may be about to use them.
const UNUSED_BLOBS: &str = r#"
    WITH named AS (
        SELECT DISTINCT (regexp_matches(text, '[0-9a-f]{64}', 'g'))[1] AS id FROM (
            SELECT document::text AS text FROM scenes
            UNION ALL SELECT command::text FROM scene_edits
            UNION ALL SELECT inverse::text FROM scene_edits
            UNION ALL SELECT document::text FROM stills
            UNION ALL SELECT picture FROM stills WHERE picture IS NOT NULL
            UNION ALL SELECT document::text FROM runs
            UNION ALL SELECT picture FROM frames WHERE picture IS NOT NULL
            UNION ALL SELECT body::text FROM communities
        ) AS texts
    )
    DELETE FROM blobs
    WHERE created_at < now() - interval '1 day' AND NOT EXISTS (SELECT 1 FROM named WHERE named.id = blobs.id)"#;

/// What was cleared away.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Tidied {
    /// Scenes that were deleted too long ago to be restored.
    pub scenes: usize,
    /// Answers nobody can be waiting for.
    pub answers: usize,
    /// Files that nothing names.
    pub blobs: usize,
}

/// Clears away scenes that were deleted long ago, old answers, and files that nothing names.
///
/// # Errors
/// When the database fails.
pub async fn tidy(db: &Db) -> Result<Tidied, ApiError> {
    let answers = scenes::forget_answers(db).await?;
    let mut conn = db.get().await?;
    let gone = format!("DELETE FROM scenes WHERE deleted_at < now() - interval '{KEPT_DAYS} days'");
    let scenes = diesel::sql_query(gone).execute(&mut conn).await?;
    let blobs = diesel::sql_query(UNUSED_BLOBS).execute(&mut conn).await?;
    Ok(Tidied { scenes, answers, blobs })
}
