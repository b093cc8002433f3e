//! Files by the hash of their bytes.

use super::Lent;
use super::schema::blobs;
use crate::error::ApiError;
use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use rookery_core::scene::{BlobId, blob_id};

/// Keeps a file; one that is already there is not kept twice.
///
/// # Errors
/// When the database fails.
pub async fn keep(conn: &mut Lent<'_>, media: &str, bytes: &[u8]) -> Result<BlobId, ApiError> {
    let id = blob_id(bytes);
    diesel::insert_into(blobs::table)
        .values((blobs::id.eq(&id.0), blobs::media.eq(media), blobs::bytes.eq(bytes)))
        .on_conflict_do_nothing()
        .execute(conn)
        .await?;
    Ok(id)
}

/// A file's media type and bytes.
///
/// # Errors
/// When there is no such file, or the database fails.
pub async fn fetch(conn: &mut Lent<'_>, id: &BlobId) -> Result<(String, Vec<u8>), ApiError> {
    let found = blobs::table.find(&id.0).select((blobs::media, blobs::bytes)).first(conn).await.optional()?;
    found.ok_or(ApiError::NotFound("file"))
}
