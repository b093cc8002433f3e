//! How a scene moves.

use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use axum::extract::State;
use rookery_core::motion::{MotionFacts, Standing};
use uuid::Uuid;

/// The wind over the scene, the waves of its gusts, and how the plants of each layer that is shown answer it: all that is needed to tell
/// how any plant stands at any time.
#[utoipa::path(get, path = "/api/scenes/{scene}/motion", tag = "motion", params(("scene" = Uuid, Path)),
    responses((status = 200, body = MotionFacts), (status = 404, body = ErrorBody)))]
pub async fn get_motion(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
) -> Result<Json<MotionFacts>, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let document = &scene.document;
    let mut grown = Vec::new();
    for layer in document.layers.iter().filter(|l| l.visible) {
        grown.push((layer.clone(), app.growths.plants(&app.db, document, layer).await?));
    }
    let document = document.document().clone();
    let facts = app.growths.pool().run(move |_| {
        let standing: Vec<Standing> =
            grown.iter().map(|(l, g)| (l, g.plants.as_slice(), g.tally.covered())).collect();
        Ok(MotionFacts::of(&document, &standing))
    });
    Ok(Json(facts.await?))
}
