//! The HTTP interface.

mod blobs;
mod communities;
mod crowd;
mod events;
mod guard;
pub(crate) mod handoff;
mod history;
mod masks;
mod motion;
mod nursery;
mod plants;
mod probe;
mod runs;
pub(crate) mod scenes;
mod section;
mod stills;
mod tend;
mod view;
mod water;
mod web;

pub use crowd::Crowd;
pub use guard::Door;
pub use handoff::HandoffKind;
pub use nursery::{NurseryView, SpeciesView};
pub use probe::ask;
pub use section::CutLine;
pub(crate) use section::in_scene;

pub(crate) mod paths {
    //! Handlers, for the OpenAPI document.
    pub use super::{
        blobs::*, communities::*, events::*, handoff::*, history::*, masks::*, motion::*, nursery::*,
        plants::*, probe::*, runs::*, scenes::*, section::*, stills::*, tend::*, view::*, water::*,
    };
}

use crate::app::App;
use axum::Router;
use axum::extract::DefaultBodyLimit;
use axum::middleware::{from_fn, from_fn_with_state};
use axum::routing::{delete, get, post};
use std::time::Duration;
use tower_http::compression::{
    CompressionLayer,
    predicate::{NotForContentType, Predicate, SizeAbove},
};
use tower_http::limit::RequestBodyLimitLayer;
use tower_http::request_id::{MakeRequestUuid, PropagateRequestIdLayer, SetRequestIdLayer};
use tower_http::timeout::TimeoutLayer;
use tower_http::trace::TraceLayer;

/// Largest upload, bytes.
pub const UPLOAD_BYTES: usize = 64 << 20;
/// Largest mesh, bytes.
pub const MESH_BYTES: usize = 256 << 20;
/// Largest other request, bytes.
const BODY_BYTES: usize = 1 << 20;
/// Longest time to an answer's first byte. Stills and the like are jobs and do not wait for it.
const PATIENCE: Duration = Duration::from_secs(60);

/// Everything the server answers.
pub fn router(app: App) -> Router {
    let uploads = Router::new()
        .route("/api/heightmaps", post(blobs::upload_heightmap))
        .route("/api/pictures", post(blobs::upload_picture))
        .route("/api/outlines", post(blobs::read_outline_file))
        .layer(DefaultBodyLimit::disable())
        .layer(RequestBodyLimitLayer::new(UPLOAD_BYTES))
        .layer(from_fn_with_state(app.clone(), crowd::with_room_for_upload));
    let meshes = Router::new()
        .route("/api/meshes", post(blobs::upload_mesh))
        .route("/api/communities", post(communities::keep_community))
        .route("/api/scenes", post(scenes::create_scene))
        .layer(DefaultBodyLimit::disable())
        .layer(RequestBodyLimitLayer::new(MESH_BYTES))
        .layer(from_fn_with_state(app.clone(), crowd::with_room_for_upload));
    let api = Router::new()
        .route("/api/health", get(scenes::health))
        .route("/api/openapi.json", get(web::openapi))
        .route("/api/scenes", get(scenes::list_scenes))
        .route("/api/deleted-scenes", get(scenes::list_deleted_scenes))
        .route("/api/scenes/{scene}", get(scenes::get_scene).delete(scenes::delete_scene))
        .route("/api/scenes/{scene}/restore", post(scenes::restore_scene))
        .route("/api/scenes/{scene}/changes", get(scenes::get_changes))
        .route("/api/scenes/{scene}/commands", post(history::run_command))
        .route("/api/scenes/{scene}/undo", post(history::undo))
        .route("/api/scenes/{scene}/redo", post(history::redo))
        .route("/api/scenes/{scene}/ground/{key}", get(view::get_ground))
        .route("/api/scenes/{scene}/ground/{key}/beyond", get(view::get_beyond))
        .route("/api/scenes/{scene}/ground/{key}/nap/{x}/{z}", get(view::get_nap))
        .route("/api/scenes/{scene}/ground/{key}/soils", get(view::get_soils))
        .route("/api/scenes/{scene}/ground/{key}/waves", get(water::get_waves))
        .route("/api/sky/clouds", get(water::get_clouds))
        .route("/api/nap/forms", get(view::get_nap_forms))
        .route("/api/scenes/{scene}/textures/{key}", get(view::get_textures))
        .route("/api/scenes/{scene}/ground/{key}/readings/{reading}", get(view::get_reading))
        .route("/api/scenes/{scene}/obstacles/{obstacle}/mesh/{key}", get(view::get_obstacle))
        .route("/api/scenes/{scene}/layers/{layer}/plants/{key}", get(plants::get_plants))
        .route("/api/scenes/{scene}/layers/{layer}/findings/{key}", get(plants::get_findings))
        .route("/api/scenes/{scene}/layers/{layer}/fits/{key}", get(plants::get_fits))
        .route("/api/scenes/{scene}/layers/{layer}/responses/{beside}", get(plants::get_responses))
        .route("/api/scenes/{scene}/layers/{layer}/masks/{mask}/quantity", get(masks::get_mask_quantity))
        .route("/api/scenes/{scene}/layers/{layer}/picked", post(tend::picked))
        .route("/api/scenes/{scene}/measure", get(plants::measure))
        .route("/api/scenes/{scene}/motion", get(motion::get_motion))
        .route("/api/scenes/{scene}/wind", get(motion::get_wind))
        .route("/api/scenes/{scene}/flow/{key}", get(motion::get_flow))
        .route("/api/scenes/{scene}/bodies/{body}/mesh/{key}", get(motion::get_body))
        .route("/api/scenes/{scene}/probe", get(probe::probe_point))
        .route("/api/scenes/{scene}/section", get(section::cut_section))
        .route("/api/scenes/{scene}/stills", get(stills::list_stills).post(stills::create_still))
        .route("/api/scenes/{scene}/events", get(events::scene_events))
        .route("/api/scenes/{scene}/handoff/{kind}", get(handoff::hand_off))
        .route("/api/stills/{still}", delete(stills::remove_still))
        .route("/api/stills/{still}/draft", get(stills::still_draft))
        .route("/api/stills/{still}/differences/{other}", get(stills::compare_stills))
        .route("/api/scenes/{scene}/runs", get(runs::list_runs).post(runs::create_run))
        .route("/api/runs/{run}", get(runs::get_run).delete(runs::remove_run))
        .route("/api/runs/{run}/stop", post(runs::stop_run))
        .route("/api/runs/{run}/fill", post(runs::fill_run))
        .route("/api/runs/{run}/frames.zip", get(runs::run_zip))
        .route("/api/runs/{run}/animation.png", get(runs::run_animation))
        .route("/api/jobs/{job}", get(stills::get_job))
        .route("/api/jobs/{job}/stop", post(stills::stop_job))
        .route("/api/blobs/{blob}", get(blobs::get_blob))
        .route("/api/communities", get(communities::list_communities))
        .route("/api/communities/{community}/file", get(communities::community_file))
        .route("/api/communities/{community}", delete(communities::remove_community))
        .route("/api/scenes/{scene}/communities", post(communities::take_community))
        .route("/api/scenes/{scene}/communities/{community}", get(communities::plan_drop))
        .route("/api/scenes/{scene}/species", get(nursery::list_species))
        .route("/api/scenes/{scene}/species/{species}/{key}/forms/{form}/{detail}", get(nursery::get_form))
        .route("/api/scenes/{scene}/species/{species}/{key}/forms", get(nursery::get_forms))
        .route("/api/scenes/{scene}/species/{species}/{key}/stand-ins", get(nursery::list_stand_ins))
        .route("/api/scenes/{scene}/species/{species}/{key}/bending", get(nursery::list_bending))
        .route("/api/scenes/{scene}/species/{species}/{key}/portrait", get(nursery::get_portrait))
        .route("/api/imports/measure", post(nursery::measure_import))
        .route("/api/imports/portrait", post(nursery::draft_portrait))
        .layer(DefaultBodyLimit::max(BODY_BYTES));
    // Buffers barely shrink and are wanted at once; the rest is worth packing.
    let packing = SizeAbove::new(1024)
        .and(NotForContentType::const_new("application/octet-stream"))
        .and(NotForContentType::const_new("model/gltf-binary"))
        .and(NotForContentType::IMAGES)
        .and(NotForContentType::SSE);
    uploads
        .merge(meshes)
        .merge(api)
        .fallback(web::asset)
        .layer(CompressionLayer::new().compress_when(packing))
        .layer(TimeoutLayer::with_status_code(axum::http::StatusCode::GATEWAY_TIMEOUT, PATIENCE))
        .layer(from_fn_with_state(app.clone(), crowd::with_room))
        .layer(from_fn_with_state(app.clone(), guard::at_the_door))
        .layer(from_fn(guard::told_to_browsers))
        .layer(PropagateRequestIdLayer::x_request_id())
        .layer(TraceLayer::new_for_http())
        .layer(SetRequestIdLayer::x_request_id(MakeRequestUuid))
        .with_state(app)
}
