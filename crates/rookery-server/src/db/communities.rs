//! Communities and sets of species that were kept.

use super::Lent;
use super::schema::communities;
use crate::error::ApiError;
use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use rookery_core::community::Community;
use rookery_core::scene::to_json;
use uuid::Uuid;

fn parsed(body: serde_json::Value) -> Result<Community, ApiError> {
    serde_json::from_value(body)
        .map_err(|e| ApiError::Internal(format!("a kept community cannot be read: {e}")))
}

/// Keeps a community.
///
/// # Errors
/// When the database fails.
pub async fn keep(conn: &mut Lent<'_>, community: &Community) -> Result<Uuid, ApiError> {
    let id = Uuid::now_v7();
    diesel::insert_into(communities::table)
        .values((communities::id.eq(id), communities::body.eq(to_json(community))))
        .execute(conn)
        .await?;
    Ok(id)
}

/// All that were kept, the latest first.
///
/// # Errors
/// When the database fails.
pub async fn all(conn: &mut Lent<'_>) -> Result<Vec<(Uuid, Community)>, ApiError> {
    let rows: Vec<(Uuid, serde_json::Value)> = communities::table
        .order(communities::created_at.desc())
        .select((communities::id, communities::body))
        .load(conn)
        .await?;
    rows.into_iter().map(|(id, body)| Ok((id, parsed(body)?))).collect()
}

/// One that was kept.
///
/// # Errors
/// When there is none of that id, or the database fails.
pub async fn fetch(conn: &mut Lent<'_>, id: Uuid) -> Result<Community, ApiError> {
    let body = communities::table.find(id).select(communities::body).first(conn).await.optional()?;
    parsed(body.ok_or(ApiError::NotFound("community"))?)
}

/// Throws one away.
///
/// # Errors
/// When there is none of that id, or the database fails.
pub async fn drop(conn: &mut Lent<'_>, id: Uuid) -> Result<(), ApiError> {
    match diesel::delete(communities::table.find(id)).execute(conn).await? {
        0 => Err(ApiError::NotFound("community")),
        _ => Ok(()),
    }
}
