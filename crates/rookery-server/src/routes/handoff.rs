//! Handing a scene to other programs.

use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Path, Query};
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::GroundModel;
use rookery_core::ground::colour::means;
use rookery_core::motion::{MotionFacts, Standing as MotionStanding};
use rookery_core::nursery::{Mesh, worn};
use rookery_core::planting::Growth;
use rookery_core::planting::clearance::fit::{FINE, Fits};
use rookery_core::scene::{Document, Layer, sheets_of};
use rookery_core::soils::{FromAbove, Soils};
use rookery_formats::gltf::write_glb;
use rookery_formats::outlines::write_geojson;
use rookery_formats::table::write_csv;
use rookery_formats::{GrownLayer, Handoff, Textured};
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

/// What plants stand on, where it stands.
#[derive(Default)]
pub struct Standing {
    /// By name, the land first where it is shown.
    pub grounds: Vec<(String, Mesh)>,
    /// By name.
    pub obstacles: Vec<(String, Mesh)>,
    /// The land, where its picture is wanted.
    pub land: Option<Arc<GroundModel>>,
}

/// Pixels of the picture of the land along its longer side, unless it is said.
pub const GROUND_PX: u32 = 1024;
/// As many at most.
pub const MOST_GROUND_PX: u32 = 4096;

/// Writes the visible layers and what they stand on. `ground_px` are pixels of the picture of the land along its longer side; with 0 all surfaces have
/// the colours of their corners alone.
///
/// # Errors
/// When the handoff does not fit the format.
pub fn write(
    kind: HandoffKind,
    document: &Document,
    standing: Standing,
    grown: &[GrownWhole],
    ground_px: u32,
) -> Result<Vec<u8>, ApiError> {
    let Standing { grounds, obstacles, land } = standing;
    let (sheets, means) = (sheets_of(&document.earth_pictures), means());
    let grounds = grounds.into_iter().map(|(name, mesh)| (name, worn(mesh, &sheets, &means))).collect();
    let never = CancelToken::default();
    let seen = land.filter(|_| ground_px > 0).map(|land| {
        let soils = Soils::of(&document.outlines, &land);
        FromAbove::of(&land, soils.as_ref(), &sheets, &means, ground_px as usize, &never)
            .expect("nobody stops it")
    });
    let textures = (ground_px > 0).then_some(Textured { land: seen.as_ref(), sheets: &sheets });
    let layers = grown.iter().map(|(layer, g, fits)| GrownLayer { layer, plants: &g.plants, fits }).collect();
    let blows = kind == HandoffKind::Glb && document.motion.wind.speed_m_per_s > 0.0;
    let motion = blows.then(|| {
        let standing: Vec<MotionStanding> =
            grown.iter().map(|(l, g, _)| (l, g.plants.as_slice(), g.tally.covered())).collect();
        MotionFacts::of(document, &standing)
    });
    let handoff = Handoff { document, grounds, obstacles, layers, motion, textures };
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

/// How fine a GLB is.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct HandoffQuery {
    /// Pixels of the picture of the land in a GLB, along its longer side, 0 to 4096; 1024 when left out. With 0 there are no pictures of surfaces.
    ground_px: Option<u32>,
}

/// The scene as a file to keep. Hidden layers are left out of GLB and CSV.
#[utoipa::path(get, path = "/api/scenes/{scene}/handoff/{kind}", tag = "handoff",
    params(("scene" = Uuid, Path), ("kind" = HandoffKind, Path), HandoffQuery),
    responses((status = 200, description = "In the format of its kind",
        content((Vec<u8> = "model/gltf-binary"), (String = "text/csv"), (Object = "application/json"), (Object = "application/geo+json"))), (status = 404, body = ErrorBody),
        (status = 422, body = ErrorBody)))]
pub async fn hand_off(
    State(app): State<App>,
    Path((scene, kind)): Path<(Uuid, HandoffKind)>,
    Query(HandoffQuery { ground_px }): Query<HandoffQuery>,
) -> Result<impl IntoResponse, ApiError> {
    let scene = app.scenes.now(scene).await?;
    let ground_px = ground_px.unwrap_or(GROUND_PX);
    if ground_px > MOST_GROUND_PX {
        return Err(ApiError::TooFine { asked: ground_px, most: MOST_GROUND_PX });
    }
    let mut standing = Standing::default();
    if kind == HandoffKind::Glb {
        let lying = app.growths.lying(&app.db, &scene.document).await?.into_iter();
        standing.grounds = lying.map(|(id, mesh)| (scene.document.ground_name(id), mesh)).collect();
        if !scene.document.ground.absent {
            standing.land = Some(app.growths.ground(&app.db, &scene.document).await?);
        }
        standing.obstacles = app.growths.standing(&app.db, &scene.document).await?;
        standing
            .obstacles
            .extend(app.growths.moving(&app.db, &scene.document).await?.at_rest(&scene.document));
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
        document = app.growths.with_earth_pictures(&app.db, document).await?;
    }
    let (media, ending) = match kind {
        HandoffKind::Glb => ("model/gltf-binary", "glb"),
        HandoffKind::Csv => ("text/csv; charset=utf-8", "csv"),
        HandoffKind::Json => ("application/json", "json"),
        HandoffKind::Geojson => ("application/geo+json", "geojson"),
    };
    let name = format!("attachment; filename=\"{}.{ending}\"", file_stem(&document.name));
    let bytes = app.growths.pool().run(move |_| write(kind, &document, standing, &grown, ground_px)).await?;
    Ok(([(header::CONTENT_TYPE, media.to_owned()), (header::CONTENT_DISPOSITION, name)], bytes))
}

/// A scene's name as a plain file name.
pub(super) fn file_stem(name: &str) -> String {
    let plain: String =
        name.chars().map(|c| if c.is_ascii_alphanumeric() { c.to_ascii_lowercase() } else { '-' }).collect();
    let parts: Vec<&str> = plain.split('-').filter(|p| !p.is_empty()).collect();
    if parts.is_empty() { "scene".to_owned() } else { parts.join("-") }
}
