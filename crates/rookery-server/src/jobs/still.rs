//! Taking a still.

use super::doing::Doing;
use crate::app::App;
use crate::db::stills;
use crate::error::ApiError;
use crate::growth::Pool;
use rookery_core::cancel::CancelToken;
use rookery_core::planting::clearance::fit::FINE;
use rookery_core::scene::{Document, Keyed, Shot};
use rookery_formats::picture::png_srgb8;
use rookery_render::light::Light;
use rookery_render::{RenderScene, StillSettings, Water, take_shot};
use std::sync::Arc;
use std::time::Instant;
use uuid::Uuid;

pub(super) struct Taken {
    pub png: Vec<u8>,
    pub seconds: f32,
}

pub(super) async fn take(
    app: &App,
    pool: &Pool,
    still: Uuid,
    shot: Shot,
    cancel: CancelToken,
    doing: Arc<Doing>,
) -> Result<Taken, ApiError> {
    let start = Instant::now();
    let scene = Keyed::new(stills::document(&app.db, still).await?);
    let grounds = app.growths.lying(&app.db, &scene).await?.into_iter().map(|(_, m)| m).collect();
    let obstacles = app.growths.standing(&app.db, &scene).await?.into_iter().map(|(_, m)| m).collect();
    let mut grown = Vec::new();
    for layer in scene.layers.iter().filter(|l| l.visible) {
        let fits = app.growths.fits(&app.db, &scene, layer, FINE).await?;
        grown.push((layer.clone(), app.growths.plants(&app.db, &scene, layer).await?, fits));
    }
    let document = app.growths.with_species(&app.db, Document::clone(&scene)).await?;
    pool.run(move |_| {
        let layers: Vec<_> =
            grown.iter().map(|(l, g, fits)| (l, g.plants.as_slice(), fits.as_ref())).collect();
        let scene = RenderScene::new(
            grounds,
            Water::all_in(&document),
            obstacles,
            &document,
            &layers,
            Light::new(&shot),
        );
        let film = take_shot(&scene, &shot, StillSettings::new(&shot), &cancel, &doing.developing, |share| {
            doing.set(share)
        })
        .map_err(|e| ApiError::Internal(e.to_string()))?;
        let png = png_srgb8(film.width_px, film.height_px, &film.to_srgb8())
            .map_err(|e| ApiError::Internal(format!("the picture cannot be written: {e}")))?;
        Ok(Taken { png, seconds: start.elapsed().as_secs_f32() })
    })
    .await
}
