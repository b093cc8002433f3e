//! Taking plants in hand.

use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use axum::extract::State;
use rookery_core::planting::{grown_on, pose_in, tended_number};
use rookery_core::scene::{Document, GroundId, LayerId, Origin, Pose, TendedId};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// Plants asked about at once, at most.
const MOST: usize = 3000;

/// Which plants of a layer are asked about.
#[derive(Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Picks {
    /// `plants_key` of the layer.
    pub plants_key: String,
    /// Their places in the buffer of plants, 3000 at most.
    pub places: Vec<u32>,
}

/// A plant as it would have to be set by hand to stand exactly as it does.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct Picked {
    /// Its place in the buffer of plants.
    pub place: u32,
    /// What it is among the tended ones; none where it grew by itself.
    pub tended: Option<TendedId>,
    /// Names it where it grew by itself.
    pub from: Option<Origin>,
    /// The ground it stands on.
    pub ground: GroundId,
    /// Where it meets that ground, in the ground's own frame, metres.
    pub at_m: [f32; 3],
    /// How it stands.
    pub plant: Pose,
    /// How far what stands on the ground reaches, metres.
    pub footprint_m: f32,
}

/// How plants stand, so that they can be set by hand.
#[utoipa::path(post, path = "/api/scenes/{scene}/layers/{layer}/picked", tag = "view",
    params(("scene" = Uuid, Path), ("layer" = u32, Path)), request_body = Picks,
    responses((status = 200, body = [Picked]), (status = 404, body = ErrorBody), (status = 410, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn picked(
    State(app): State<App>,
    Path((scene, layer)): Path<(Uuid, u32)>,
    Json(Picks { plants_key, places }): Json<Picks>,
) -> Result<Json<Vec<Picked>>, ApiError> {
    let id = LayerId(layer);
    let scene = app.scenes.newest_where(scene, "layer", |s| s.layer_named(id, &plants_key).is_ok()).await?;
    let document = &scene.document;
    let layer = scene.layer_named(id, &plants_key)?.clone();
    if places.len() > MOST {
        return Err(ApiError::TooManyPicked { count: places.len(), most: MOST });
    }
    let growth = app.growths.plants(&app.db, document, &layer).await?;
    let mut grounds = Vec::new();
    for id in grown_on(document, &layer) {
        if let Some(ground) = app.growths.ground_of(&app.db, document, &layer, id).await? {
            grounds.push((id, ground));
        }
    }
    let document = app.growths.with_species(&app.db, Document::clone(document)).await?;
    let work = move |_: &_| {
        let footprints: Vec<f32> = document.mix_of(&layer).map(|(_, s)| s.footprint_m()).collect();
        let found = places.into_iter().map(|place| {
            let plant = growth.plants.get(place as usize).ok_or(ApiError::NotFound("plant"))?;
            // What grows on a single ground may not say on which.
            let ground = grounds.iter().find(|(id, _)| *id == plant.ground || grounds.len() == 1);
            let (id, ground) = ground.ok_or(ApiError::NotFound("ground"))?;
            let (at_m, pose) = pose_in(&ground.as_ref(), &document.frame(*id), &layer, plant);
            let tended = tended_number(plant.id).map(TendedId);
            let from = match tended {
                Some(t) => layer.tended.iter().find(|o| o.id == t).and_then(|o| o.from.clone()),
                None => layer.seed_of(plant.id).map(|seed| Origin::new(seed, plant.id)),
            };
            let footprint_m = footprints.get(usize::from(plant.species)).copied().unwrap_or(0.0) * plant.size;
            Ok(Picked { place, tended, from, ground: *id, at_m: at_m.into(), plant: pose, footprint_m })
        });
        found.collect::<Result<Vec<_>, ApiError>>()
    };
    Ok(Json(app.growths.pool().run(work).await?))
}
