//! Communities: ready ones and those that were kept.

use crate::app::App;
use crate::db::{blobs, communities};
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use crate::growth::SharedGround;
use crate::reading::Kind;
use axum::extract::State;
use axum::http::StatusCode;
use base64::prelude::{BASE64_STANDARD, Engine};
use rookery_core::community::{Community, Forecast, forecast, of_layers, ready_communities};
use rookery_core::ground::GroundRef;
use rookery_core::scene::{BlobId, Command, GroundId, LayerId, SpeciesId, blob_id};
use rookery_formats::GroundError;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A community as the interface lists it.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct CommunityView {
    /// `ready-1` and so on for ready ones, a UUID for those that were kept.
    pub id: String,
    /// Whether it came with the program.
    pub ready: bool,
    /// All of it.
    pub community: Community,
}

/// All communities, ready ones first.
#[utoipa::path(get, path = "/api/communities", tag = "nursery", responses((status = 200, body = [CommunityView])))]
pub async fn list_communities(State(app): State<App>) -> Result<Json<Vec<CommunityView>>, ApiError> {
    let ready = ready_communities().iter().enumerate().map(|(i, c)| CommunityView {
        id: format!("ready-{}", i + 1),
        ready: true,
        community: c.clone(),
    });
    let kept = communities::all(&mut app.db.get().await?).await?;
    let kept =
        kept.into_iter().map(|(id, community)| CommunityView { id: id.to_string(), ready: false, community });
    Ok(Json(ready.chain(kept).collect()))
}

/// Keeps a community, for instance one read from a file.
#[utoipa::path(post, path = "/api/communities", tag = "nursery", request_body = Community,
    responses((status = 201, body = CommunityView), (status = 422, body = ErrorBody)))]
pub async fn keep_community(
    State(app): State<App>,
    Json(mut community): Json<Community>,
) -> Result<(StatusCode, Json<CommunityView>), ApiError> {
    community.check()?;
    let files = std::mem::take(&mut community.files);
    for (blob, name) in community.needs() {
        let mut conn = app.db.get().await?;
        let Some(text) = files.get(&blob.0) else {
            let missing = |_| GroundError::MissingFile { name: name.to_owned(), id: blob.clone() };
            blobs::fetch(&mut conn, blob).await.map_err(missing)?;
            continue;
        };
        let bad = |why: &str| ApiError::BadRequest {
            status: StatusCode::UNPROCESSABLE_ENTITY,
            message: format!("the file \u{201c}{name}\u{201d} in it {why}"),
        };
        let bytes = BASE64_STANDARD.decode(text).map_err(|_| bad("is not in base64"))?;
        if blob_id(&bytes) != *blob {
            return Err(bad("is not the one its species names"));
        }
        app.growths.readers().read(Kind::Looks, &bytes).await?;
        blobs::keep(&mut conn, "application/octet-stream", &bytes, Some(Kind::Looks)).await?;
    }
    let id = communities::keep(&mut app.db.get().await?, &community).await?;
    Ok((StatusCode::CREATED, Json(CommunityView { id: id.to_string(), ready: false, community })))
}

/// Throws a kept community away. What was dropped from it stays in its scenes.
#[utoipa::path(delete, path = "/api/communities/{community}", tag = "nursery", params(("community" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ErrorBody)))]
pub async fn remove_community(State(app): State<App>, Path(id): Path<Uuid>) -> Result<StatusCode, ApiError> {
    communities::drop(&mut app.db.get().await?, id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A kept community as a file, with the files its species are read from.
#[utoipa::path(get, path = "/api/communities/{community}/file", tag = "nursery", params(("community" = Uuid, Path)),
    responses((status = 200, body = Community), (status = 404, body = ErrorBody)))]
pub async fn community_file(
    State(app): State<App>,
    Path(id): Path<Uuid>,
) -> Result<Json<Community>, ApiError> {
    let mut conn = app.db.get().await?;
    let mut community = communities::fetch(&mut conn, id).await?;
    let needed: Vec<BlobId> = community.needs().into_iter().map(|(blob, _)| blob.clone()).collect();
    for blob in needed {
        let (_, bytes) = blobs::fetch(&mut conn, &blob).await?;
        community.files.insert(blob.0, BASE64_STANDARD.encode(bytes));
    }
    Ok(Json(community))
}

/// What is taken from a scene.
#[derive(Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TakeRequest {
    /// What it is to be called, 1 to 80 characters.
    pub name: String,
    /// Where it belongs, at most 400 characters.
    #[serde(default)]
    pub about: String,
    /// Layers, with the species they need.
    #[serde(default)]
    pub layers: Vec<LayerId>,
    /// Species by themselves.
    #[serde(default)]
    pub species: Vec<SpeciesId>,
}

/// Keeps layers or species of a scene for other scenes.
#[utoipa::path(post, path = "/api/scenes/{scene}/communities", tag = "nursery", params(("scene" = Uuid, Path)),
    request_body = TakeRequest,
    responses((status = 201, body = CommunityView), (status = 404, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn take_community(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Json(request): Json<TakeRequest>,
) -> Result<(StatusCode, Json<CommunityView>), ApiError> {
    let scene = app.scenes.now(scene).await?;
    let document = &scene.document;
    let mut community = of_layers(document, &request.layers, &request.name, &request.about);
    for id in &request.species {
        let species = document.species(id).ok_or(ApiError::NotFound("species"))?;
        if community.species.iter().all(|s| s.id != *id) {
            community.species.push(species.clone());
        }
    }
    keep_community(State(app), Json(community)).await
}

/// Where a community is to be dropped.
#[derive(Debug, Default, Deserialize, utoipa::IntoParams)]
#[serde(default)]
pub struct DropQuery {
    /// The number of a ground; all grounds when left out.
    pub ground: Option<u32>,
}

/// What dropping a community means.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct Drop {
    /// The change that drops it; it is carried out like any other.
    pub command: Command,
    /// How heavy it will be.
    pub forecast: Forecast,
}

/// The change that drops a community on a scene, and how heavy it will be. Changes nothing.
#[utoipa::path(get, path = "/api/scenes/{scene}/communities/{community}", tag = "nursery",
    params(("scene" = Uuid, Path), ("community" = String, Path), DropQuery),
    responses((status = 200, body = Drop), (status = 404, body = ErrorBody), (status = 422, body = ErrorBody)))]
pub async fn plan_drop(
    State(app): State<App>,
    Path((scene, id)): Path<(Uuid, String)>,
    Query(query): Query<DropQuery>,
) -> Result<Json<Drop>, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let document = &scene.document;
    let community = match id.strip_prefix("ready-").and_then(|n| n.parse::<usize>().ok()) {
        Some(n) => {
            ready_communities().get(n.wrapping_sub(1)).cloned().ok_or(ApiError::NotFound("community"))?
        }
        None => {
            let id = id.parse().map_err(|_| ApiError::NotFound("community"))?;
            communities::fetch(&mut app.db.get().await?, id).await?
        }
    };
    // What cannot be read is foretold by its plain body.
    let mut community = community;
    app.growths.hold(&app.db, &mut community.species).await;
    let ground = query.ground.map(GroundId);
    if ground.is_some_and(|g| !document.has_ground(g)) {
        return Err(ApiError::NotFound("ground"));
    }
    let mut grounds = Vec::new();
    for id in document.ground_ids().into_iter().chain(document.water_ids()) {
        grounds.push((id, app.growths.any(&app.db, &scene.document, id).await?));
    }
    let command = community.dropped(document, ground);
    let told = app
        .growths
        .pool()
        .run(move |_| {
            let model = |id: GroundId| -> Option<GroundRef<'_>> {
                grounds.iter().find(|(g, _)| *g == id).map(|(_, model)| SharedGround::as_ref(model))
            };
            Ok(forecast(&scene.document, &community, ground, model)?)
        })
        .await?;
    Ok(Json(Drop { command, forecast: told }))
}
