//! Handing a scene to other programs.

use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::Path;
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use rookery_core::motion::{MotionFacts, Standing};
use rookery_core::nursery::Mesh;
use rookery_core::planting::Growth;
use rookery_core::planting::clearance::fit::{FINE, Fits};
use rookery_core::scene::{Document, Layer};
use rookery_formats::gltf::write_glb;
use rookery_formats::outlines::write_geojson;
use rookery_formats::table::write_csv;
use rookery_formats::{GrownLayer, Handoff};
use serde::Deserialize;
use std::sync::Arc;
use uuid::Uuid;

/// What a scene is handed off as.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum HandoffKind {
    /// Binary glTF 2.0 with `EXT_mesh_gpu_instancing`.
    Glb,
    /// The plant table.
    Csv,
    /// The scene file.
    Json,
    /// The outlines.
    Geojson,
}

/// A layer, its plants, and those of them with forms of their own.
pub type GrownWhole = (Layer, Arc<Growth>, Arc<Fits>);

/// Writes the visible layers and what they stand on.
///
/// # Errors
/// When the handoff does not fit the format.
pub fn write(
    kind: HandoffKind,
    document: &Document,
    grounds: Vec<(String, Mesh)>,
    obstacles: Vec<(String, Mesh)>,
    grown: &[GrownWhole],
) -> Result<Vec<u8>, ApiError> {
    let layers = grown.iter().map(|(layer, g, fits)| GrownLayer { layer, plants: &g.plants, fits }).collect();
    let blows = kind == HandoffKind::Glb && document.motion.wind.speed_m_per_s > 0.0;
    let motion = blows.then(|| {
        let standing: Vec<Standing> =
            grown.iter().map(|(l, g, _)| (l, g.plants.as_slice(), g.tally.covered())).collect();
        MotionFacts::of(document, &standing)
    });
    let handoff = Handoff { document, grounds, obstacles, layers, motion };
    match kind {
        HandoffKind::Glb => Ok(write_glb(&handoff)?),
        HandoffKind::Csv => {
            let mut out = Vec::new();
            write_csv(&handoff, &mut out).map_err(|e| ApiError::Internal(e.to_string()))?;
            Ok(out)
        }
        HandoffKind::Geojson => Ok(write_geojson(&document.outlines, document.map_middle_m())),
        HandoffKind::Json => {
            serde_json::to_vec_pretty(document).map_err(|e| ApiError::Internal(e.to_string()))
        }
    }
}

/// The scene as a file to keep. Hidden layers are left out of GLB and CSV.
#[utoipa::path(get, path = "/api/scenes/{scene}/handoff/{kind}", tag = "handoff",
    params(("scene" = Uuid, Path), ("kind" = HandoffKind, Path)),
    responses((status = 200, description = "In the format of its kind",
        content((Vec<u8> = "model/gltf-binary"), (String = "text/csv"), (Object = "application/json"), (Object = "application/geo+json"))), (status = 404, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn hand_off(
    State(app): State<App>,
    Path((scene, kind)): Path<(Uuid, HandoffKind)>,
) -> Result<impl IntoResponse, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let (mut grounds, mut obstacles) = (Vec::new(), Vec::new());
    if kind == HandoffKind::Glb {
        let lying = app.growths.lying(&app.db, &scene.document).await?.into_iter();
        grounds = lying.map(|(id, mesh)| (scene.document.ground_name(id), mesh)).collect();
        obstacles = app.growths.standing(&app.db, &scene.document).await?;
        obstacles.extend(app.growths.moving(&app.db, &scene.document).await?.at_rest(&scene.document));
    }
    let mut grown = Vec::new();
    if matches!(kind, HandoffKind::Glb | HandoffKind::Csv) {
        for layer in scene.document.layers.iter().filter(|l| l.visible) {
            let fits = match kind {
                HandoffKind::Glb => app.growths.fits(&app.db, &scene.document, layer, FINE).await?,
                _ => Arc::default(),
            };
            grown.push((layer.clone(), app.growths.plants(&app.db, &scene.document, layer).await?, fits));
        }
    }
    let mut document = Document::clone(&scene.document);
    if kind == HandoffKind::Glb {
        document = app.growths.with_species(&app.db, document).await?;
    }
    let (media, ending) = match kind {
        HandoffKind::Glb => ("model/gltf-binary", "glb"),
        HandoffKind::Csv => ("text/csv; charset=utf-8", "csv"),
        HandoffKind::Json => ("application/json", "json"),
        HandoffKind::Geojson => ("application/geo+json", "geojson"),
    };
    let name = format!("attachment; filename=\"{}.{ending}\"", file_stem(&document.name));
    let bytes = app.growths.pool().run(move |_| write(kind, &document, grounds, obstacles, &grown)).await?;
    Ok(([(header::CONTENT_TYPE, media.to_owned()), (header::CONTENT_DISPOSITION, name)], bytes))
}

/// A scene's name as a plain file name.
pub(super) fn file_stem(name: &str) -> String {
    let plain: String =
        name.chars().map(|c| if c.is_ascii_alphanumeric() { c.to_ascii_lowercase() } else { '-' }).collect();
    let parts: Vec<&str> = plain.split('-').filter(|p| !p.is_empty()).collect();
    if parts.is_empty() { "scene".to_owned() } else { parts.join("-") }
}
