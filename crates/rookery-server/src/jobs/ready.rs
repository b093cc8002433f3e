//! A scene made ready to be looked at through a shot, at one moment after another.

use crate::app::App;
use crate::error::ApiError;
use crate::growth::Pool;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::GroundModel;
use rookery_core::motion::{MotionFacts, Moving, Standing};
use rookery_core::nap::{Tuft, about};
use rookery_core::nursery::Mesh;
use rookery_core::planting::clearance::fit::{FINE, Fits};
use rookery_core::planting::{Growth, Plant};
use rookery_core::scene::{Document, GroundId, Keyed, Layer, Shot};
use rookery_core::soils::{Soils, laid};
use rookery_core::textures::Sheets;
use rookery_core::water::Sea;
use rookery_formats::picture::png_srgb8;
use rookery_render::light::Light;
use rookery_render::{Developing, Moment, RenderScene, StillSettings, Water, take_shot};
use std::sync::Arc;

pub(super) struct Ready {
    document: Document,
    grown: Vec<(Layer, Arc<Growth>, Arc<Fits>)>,
    scene: RenderScene,
    shot: Shot,
    /// How it moves.
    facts: MotionFacts,
}

impl Ready {
    /// Grows all that is shown and builds what rays meet.
    pub async fn new(app: &App, pool: &Pool, document: Document, shot: Shot) -> Result<Self, ApiError> {
        let scene = Keyed::new(document);
        let mut grounds = app.growths.lying(&app.db, &scene).await?;
        if let Some(mesh) = app.growths.beyond(&app.db, &scene).await? {
            grounds.push((GroundId::LAND, Mesh::clone(&mesh)));
        }
        let land = match scene.ground.absent {
            true => None,
            false => Some(app.growths.ground(&app.db, &scene).await?),
        };
        let obstacles = app.growths.standing(&app.db, &scene).await?.into_iter().map(|(_, m)| m).collect();
        let mut grown = Vec::new();
        for layer in scene.layers.iter().filter(|l| l.visible) {
            let fits = app.growths.fits(&app.db, &scene, layer, FINE).await?;
            grown.push((layer.clone(), app.growths.plants(&app.db, &scene, layer).await?, fits));
        }
        let wind = scene.motion.wind;
        let flow = match wind.speed_m_per_s > 0.0 {
            true => Some(app.growths.flow(&app.db, &scene, wind.from_deg).await?),
            false => None,
        };
        let moving = app.growths.moving(&app.db, &scene).await?;
        let document = app.growths.with_species(&app.db, Document::clone(&scene)).await?;
        let document = app.growths.with_earth_pictures(&app.db, document).await?;
        pool.run(move |_| {
            let light = Light::new(&shot);
            let waters = Water::all_in(&document);
            let mut scene = RenderScene::new(grounds, waters, obstacles, &document, &layers(&grown), light);
            scene.sea = Sea::of(&document, land.as_deref()).at(0.0);
            scene.put_in(&moving);
            if let Some(land) = land {
                scene.soils = Soils::of(&document.outlines, &land);
                let nap = nap_of(&land, &document, scene.sheets(), &shot);
                scene.lay(&nap);
            }
            let standing: Vec<Standing> =
                grown.iter().map(|(l, g, _)| (l, g.plants.as_slice(), g.tally.covered())).collect();
            let facts = MotionFacts::of(&document, &standing);
            let facts = MotionFacts { flow, moving: Moving::clone(&moving), ..facts };
            Ok(Self { document, grown, scene, shot, facts })
        })
        .await
    }

    /// Takes the picture of a moment, seconds, as a PNG; without one, of all at rest.
    pub fn picture(
        &mut self,
        time_s: Option<f64>,
        cancel: &CancelToken,
        developing: &Developing,
        progress: impl Fn(f32) + Sync,
    ) -> Result<Vec<u8>, ApiError> {
        if let Some(time_s) = time_s {
            let moment = Moment::new(&self.document, &self.facts, time_s, &self.shot);
            self.scene.bend(&self.document, &layers(&self.grown), &moment);
        }
        let settings = StillSettings::new(&self.shot);
        let film = take_shot(&self.scene, &self.shot, settings, cancel, developing, progress)
            .map_err(|e| ApiError::Internal(e.to_string()))?;
        png_srgb8(film.width_px, film.height_px, &film.to_srgb8())
            .map_err(|e| ApiError::Internal(format!("the picture cannot be written: {e}")))
    }
}

/// The nap of the land that a shot sees.
fn nap_of(land: &GroundModel, document: &Document, sheets: &Sheets, shot: &Shot) -> Vec<(Tuft, f32)> {
    about(land, &laid(&document.outlines), &document.ground.bare, sheets, shot.eye_m.into())
}

fn layers(grown: &[(Layer, Arc<Growth>, Arc<Fits>)]) -> Vec<(&Layer, &[Plant], &Fits)> {
    grown.iter().map(|(l, g, fits)| (l, g.plants.as_slice(), fits.as_ref())).collect()
}
