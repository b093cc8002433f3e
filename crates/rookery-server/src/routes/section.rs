//! Cutting the ground along a line.

use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use axum::extract::State;
use glam::Vec2;
use rookery_core::measure::{Cut, Section, section};
use rookery_core::scene::GroundId;
use serde::Deserialize;
use uuid::Uuid;

/// A line on the plan, metres.
#[derive(Clone, Copy, Debug, Deserialize, utoipa::IntoParams)]
#[serde(deny_unknown_fields)]
pub struct CutLine {
    /// Where it starts, east.
    pub from_x: f32,
    /// Where it starts, south.
    pub from_z: f32,
    /// Where it ends, east.
    pub to_x: f32,
    /// Where it ends, south.
    pub to_z: f32,
    /// Plants within half of this to either side are shown; 0.1 to 200.
    pub width_m: f32,
}

impl TryFrom<CutLine> for Cut {
    type Error = ApiError;

    fn try_from(l: CutLine) -> Result<Self, ApiError> {
        let cut =
            Self { from: Vec2::new(l.from_x, l.from_z), to: Vec2::new(l.to_x, l.to_z), width_m: l.width_m };
        let length = cut.from.distance(cut.to);
        if !(0.1..=50_000.0).contains(&length) || !(0.1..=200.0).contains(&cut.width_m) {
            return Err(ApiError::BadSection { length_m: length, width_m: cut.width_m });
        }
        Ok(cut)
    }
}

/// The grounds and obstacles along a line, with the plants of the visible layers near it.
#[utoipa::path(get, path = "/api/scenes/{scene}/section", tag = "view", params(("scene" = Uuid, Path), CutLine),
    responses((status = 200, body = Section), (status = 422, body = ErrorBody)))]
pub async fn cut_section(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
    Query(line): Query<CutLine>,
) -> Result<Json<Section>, ApiError> {
    let cut = Cut::try_from(line)?;
    let scene = app.scenes.now(scene).await?;
    let document = &scene.document;
    let land = app.growths.ground(&app.db, document).await?;
    let mut solids = app.growths.standing(&app.db, document).await?;
    for id in document.ground_ids().into_iter().filter(|id| *id != GroundId::LAND) {
        if document.placed(id).is_some_and(|g| !g.hidden) {
            let ground = app.growths.any(&app.db, document, id).await?;
            solids.push((String::new(), ground.as_ref().mesh(&document.frame(id))));
        }
    }
    let mut grown = Vec::new();
    for layer in document.layers.iter().filter(|l| l.visible) {
        // A layer that cannot grow stands nowhere.
        if let Ok(growth) = app.growths.plants(&app.db, document, layer).await {
            grown.push((layer.clone(), growth));
        }
    }
    let work = move |_: &_| {
        let document = &scene.document;
        let layers: Vec<_> = grown.iter().map(|(l, g)| (l, g.plants.as_slice())).collect();
        let terrain = (!document.ground.absent).then_some(&land.terrain);
        let solids: Vec<_> = solids.iter().map(|(_, mesh)| mesh).collect();
        Ok(section(terrain, &solids, document, &layers, &cut))
    };
    Ok(Json(app.growths.pool().run(work).await?))
}
