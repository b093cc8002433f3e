//! Cutting the ground along a line.

use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use axum::extract::State;
use glam::Vec2;
use rookery_core::ground::{Frame, Reading};
use rookery_core::measure::{Cut, CutLand, CutSolid, Section, section};
use rookery_core::scene::GroundId;
use serde::Deserialize;
use uuid::Uuid;

/// A line on the plan, metres.
#[derive(Clone, Debug, Deserialize, utoipa::IntoParams)]
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
    /// What is read off the grounds along the line, if anything.
    #[serde(default)]
    pub reading: Option<Reading>,
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

/// What was read off a ground in its own frame, as the scene sees it.
pub(crate) fn in_scene(reading: Option<Reading>, frame: &Frame, values: &[f32]) -> Vec<f32> {
    match reading {
        Some(Reading::Aspect) => values.iter().map(|v| frame.bearing_deg(*v)).collect(),
        _ => values.to_vec(),
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
    let reading = line.reading;
    let cut = Cut::try_from(line)?;
    let app = &app;
    let scene = app.scenes.now(scene).await?;
    let document = &scene.document;
    let land = app.growths.ground(&app.db, document).await?;
    let read = |id: GroundId| async move {
        let Some(reading) = reading else { return Ok::<_, ApiError>(None) };
        Ok(Some(app.growths.reading(&app.db, document, id, reading).await?))
    };
    let land_read = read(GroundId::LAND).await?;
    let standing = app.growths.standing(&app.db, document).await?;
    let mut solids: Vec<_> = standing.into_iter().map(|(_, mesh)| (mesh, None)).collect();
    for id in document.ground_ids().into_iter().filter(|id| *id != GroundId::LAND) {
        if document.placed(id).is_some_and(|g| !g.hidden) {
            let ground = app.growths.any(&app.db, document, id).await?;
            let frame = document.frame(id);
            let values = read(id).await?.map(|values| in_scene(reading, &frame, &values));
            solids.push((ground.as_ref().mesh(&frame), values));
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
        let values = land_read.as_ref().map(|values| values.as_slice());
        let land = (!document.ground.absent).then_some(CutLand { ground: &land, values });
        let solids: Vec<_> =
            solids.iter().map(|(mesh, values)| CutSolid { mesh, values: values.as_deref() }).collect();
        Ok(section(land, &solids, document, &layers, &cut, reading))
    };
    Ok(Json(app.growths.pool().run(work).await?))
}
