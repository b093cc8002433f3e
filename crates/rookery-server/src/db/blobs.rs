//! Files by the hash of their bytes.

use super::Lent;
use super::schema::blobs;
use crate::error::ApiError;
use crate::reading::Kind;
use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use rookery_core::scene::{BlobId, blob_id};

/// Keeps a file; one that is already there is not kept twice. `read_as` is as what it was read without harm.
///
/// # Errors
/// When the database fails.
pub async fn keep(
    conn: &mut Lent<'_>,
    media: &str,
    bytes: &[u8],
    read_as: Option<Kind>,
) -> Result<BlobId, ApiError> {
    let id = blob_id(bytes);
    let kinds: Vec<&str> = read_as.map(Kind::name).into_iter().collect();
    diesel::insert_into(blobs::table)
        .values((
            blobs::id.eq(&id.0),
            blobs::media.eq(media),
            blobs::bytes.eq(bytes),
            blobs::read_as.eq(kinds),
        ))
        // Kept anew: someone is about to use it.
        .on_conflict(blobs::id)
        .do_update()
        .set(blobs::created_at.eq(diesel::dsl::now))
        .execute(&mut *conn)
        .await?;
    if let Some(kind) = read_as {
        was_read(conn, &id, kind).await?;
    }
    Ok(id)
}

/// A file's media type and bytes.
///
/// # Errors
/// When there is no such file, or the database fails.
pub async fn fetch(conn: &mut Lent<'_>, id: &BlobId) -> Result<(String, Vec<u8>), ApiError> {
    if id.0.len() != 64 || !id.0.bytes().all(|b| b.is_ascii_hexdigit()) {
        return Err(ApiError::NotFound("file"));
    }
    let found = blobs::table.find(&id.0).select((blobs::media, blobs::bytes)).first(conn).await.optional()?;
    found.ok_or(ApiError::NotFound("file"))
}

/// Writes down as what a file was read without harm.
///
/// # Errors
/// When the database fails.
pub async fn was_read(conn: &mut Lent<'_>, id: &BlobId, kind: Kind) -> Result<(), ApiError> {
    diesel::sql_query(
        "UPDATE blobs SET read_as = array_append(read_as, $2) WHERE id = $1 AND NOT $2 = ANY (read_as)",
    )
    .bind::<diesel::sql_types::Text, _>(&id.0)
    .bind::<diesel::sql_types::Text, _>(kind.name())
    .execute(conn)
    .await?;
    Ok(())
}

/// A file's bytes, and whether it was read as this before.
///
/// # Errors
/// When there is no such file, or the database fails.
pub async fn fetch_to_read(
    conn: &mut Lent<'_>,
    id: &BlobId,
    kind: Kind,
) -> Result<(Vec<u8>, bool), ApiError> {
    let row = blobs::table.find(&id.0).select((blobs::bytes, blobs::read_as));
    let found = row.first::<(Vec<u8>, Vec<String>)>(conn).await.optional()?;
    let (bytes, kinds) = found.ok_or(ApiError::NotFound("file"))?;
    Ok((bytes, kinds.iter().any(|k| k == kind.name())))
}
