//! The OpenAPI document of the HTTP interface.

use crate::routes::paths;
use utoipa::OpenApi;

#[derive(OpenApi)]
#[openapi(
    info(title = "Rookery", description = "Layered plants on any ground. Metres, Y up, +X east, -Z north."),
    paths(
        paths::health,
        paths::list_scenes,
        paths::create_scene,
        paths::get_scene,
        paths::get_changes,
        paths::delete_scene,
        paths::restore_scene,
        paths::list_deleted_scenes,
        paths::run_command,
        paths::undo,
        paths::redo,
        paths::get_ground,
        paths::get_reading,
        paths::get_obstacle,
        paths::get_plants,
        paths::get_findings,
        paths::get_fits,
        paths::get_responses,
        paths::picked,
        paths::measure,
        paths::probe_point,
        paths::cut_section,
        paths::create_still,
        paths::list_stills,
        paths::remove_still,
        paths::compare_stills,
        paths::get_job,
        paths::stop_job,
        paths::scene_events,
        paths::hand_off,
        paths::upload_heightmap,
        paths::upload_picture,
        paths::read_outline_file,
        paths::upload_mesh,
        paths::get_blob,
        paths::list_species,
        paths::get_forms,
        paths::list_stand_ins,
        paths::get_portrait,
        paths::list_communities,
        paths::keep_community,
        paths::remove_community,
        paths::take_community,
        paths::plan_drop,
        paths::get_form,
        paths::get_mask_quantity,
        paths::measure_import,
        paths::list_bending,
        paths::draft_portrait,
        paths::community_file,
    ),
    components(schemas(
        crate::routes::HandoffKind,
        rookery_core::measure::Beside,
        crate::events::Event,
        rookery_core::ground::Reading,
        rookery_core::ground::Scale
    ))
)]
struct Api;

/// The document, as served at `/api/openapi.json` and kept in `web/openapi.json`.
pub fn document() -> utoipa::openapi::OpenApi {
    Api::openapi()
}
