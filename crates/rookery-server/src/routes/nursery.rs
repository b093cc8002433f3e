//! The nursery: species, the meshes of their forms and their portraits.

use super::view::FOR_EVER;
use crate::app::App;
use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path, Query};
use crate::growth::{FormSize, StandIn};
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use futures::future::try_join_all;
use rookery_core::nursery::{
    Bending, Detail, Imported, Kind, MostStance, Plan, Setting, Species, Sways, ready, ready_species,
};
use rookery_core::scene::{Document, Keyed, Layer, LayerId, SpeciesId, bare, check_species};
use rookery_formats::mesh::Measured;
use rookery_formats::view::encode_mesh;
use rookery_render::PortraitSettings;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use uuid::Uuid;

/// A species as the interface shows it.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct SpeciesView {
    /// All of it.
    pub species: Species,
    /// Names its meshes in the scene's season.
    pub key: String,
    /// Whether the scene has it of its own: edited, forked or brought in.
    pub own: bool,
    /// Whether there is a ready species of its id.
    pub ready: bool,
    /// Height at full size, metres, about.
    pub height_m: f32,
    /// Radius of what it covers seen from above, metres, about.
    pub radius_m: f32,
    /// Whether light goes through its leaves.
    pub leafy: bool,
    /// How it bends; none for what does not.
    pub bending: Option<Bending>,
    /// How it answers the wind and what presses it: its own way, or that of its kind.
    pub sways: Sways,
    /// The first form at full, light and far detail.
    pub sizes: [FormSize; 3],
    /// A layer of it as it usually stands: where a new one begins.
    pub usual: Layer,
    /// How far its kind leaves the upright, unless a layer goes beyond.
    pub most: MostStance,
    /// Why its file cannot be read, where it comes from one. A plain body stands in for it.
    pub problem: Option<String>,
    /// Layers that grow it.
    pub used_by: Vec<LayerId>,
}

/// All species that may grow in a scene, and what can be set on them.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct NurseryView {
    /// By kind, the scene's own among them.
    pub species: Vec<SpeciesView>,
    /// What may be set on a plan, by its `make`.
    pub settings: BTreeMap<String, Vec<Setting>>,
}

/// All species that may grow in a scene.
#[utoipa::path(get, path = "/api/scenes/{scene}/species", tag = "nursery", params(("scene" = Uuid, Path)),
    responses((status = 200, body = NurseryView), (status = 404, body = ErrorBody)))]
pub async fn list_species(
    State(app): State<App>,
    Path(scene): Path<Uuid>,
) -> Result<Json<NurseryView>, ApiError> {
    let mut document = Document::clone(&app.scenes.now(scene).await?.document);
    let problems = app.growths.hold(&app.db, &mut document.species).await;
    let view = async |s: &Species| -> Result<SpeciesView, ApiError> {
        Ok(SpeciesView {
            key: Keyed::looks(&document, s).to_string(),
            own: document.species.iter().any(|own| own.id == s.id),
            ready: ready_species(&s.id).is_some(),
            height_m: s.height_m(),
            radius_m: s.radius_m(),
            leafy: s.leafy(),
            bending: s.bending(),
            sways: s.sways_as(),
            sizes: *app.growths.form_sizes(&document, s).await?,
            usual: Layer::fresh(s, LayerId(0), &s.plural),
            used_by: document.layers.iter().filter(|l| l.grows(&s.id)).map(|l| l.id).collect(),
            most: s.kind.most(),
            problem: problems.iter().find(|(id, _)| *id == s.id).map(|(_, e)| e.to_string()),
            species: s.clone(),
        })
    };
    let species = try_join_all(document.nursery().into_iter().map(view)).await?;
    let imported = ("imported".to_owned(), Imported::SETTINGS.to_vec());
    let settings = ready()
        .iter()
        .map(|s| (s.plan.make().to_owned(), s.plan.settings().to_vec()))
        .chain([imported])
        .collect();
    Ok(Json(NurseryView { species, settings }))
}

async fn opened(app: &App, scene: Uuid) -> Result<Document, ApiError> {
    app.growths.with_species(&app.db, Document::clone(&app.scenes.now(scene).await?.document)).await
}

fn named<'a>(document: &'a Document, id: &str, key: &str) -> Result<&'a Species, ApiError> {
    let species = document.species(&SpeciesId(id.to_owned())).ok_or(ApiError::NotFound("species"))?;
    if Keyed::looks(document, species).to_string() != key {
        return Err(ApiError::Outdated("species"));
    }
    Ok(species)
}

/// One form's mesh as a compact buffer (`RKME`, see `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/scenes/{scene}/species/{species}/{key}/forms/{form}/{detail}", tag = "nursery",
    params(("scene" = Uuid, Path), ("species" = String, Path), ("key" = String, Path, description = "`key` of the species"),
        ("form" = u16, Path), ("detail" = String, Path, description = "`full`, `light` or `far`")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody)))]
pub async fn get_form(
    State(app): State<App>,
    Path((scene, id, key, form, detail)): Path<(Uuid, String, String, u16, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let document = opened(&app, scene).await?;
    let species = named(&document, &id, &key)?;
    let detail = match detail.as_str() {
        "full" => Detail::Full,
        "light" => Detail::Light,
        "far" => Detail::Far,
        _ => return Err(ApiError::NotFound("detail")),
    };
    if form >= species.forms {
        return Err(ApiError::NotFound("form"));
    }
    let mesh = app.growths.form(species, document.season, form, detail).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, encode_mesh(&mesh)))
}

/// All forms of a species at full, then light, then far detail, then as hulls, as boxes and as cards, then
/// pictures where there are any (see `encode_forms`, `encode_cards` and `encode_pictures` in `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/scenes/{scene}/species/{species}/{key}/forms", tag = "nursery",
    params(("scene" = Uuid, Path), ("species" = String, Path), ("key" = String, Path, description = "`key` of the species")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody),
        (status = 410, body = ErrorBody)))]
pub async fn get_forms(
    State(app): State<App>,
    Path((scene, id, key)): Path<(Uuid, String, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let document = opened(&app, scene).await?;
    let bytes = app.growths.all_forms(&document, named(&document, &id, &key)?).await?;
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, bytes))
}

/// The stand-ins of a species' first form, and how far each is off.
#[utoipa::path(get, path = "/api/scenes/{scene}/species/{species}/{key}/stand-ins", tag = "nursery",
    params(("scene" = Uuid, Path), ("species" = String, Path), ("key" = String, Path, description = "`key` of the species")),
    responses((status = 200, body = [StandIn]), (status = 404, body = ErrorBody), (status = 410, body = ErrorBody)))]
pub async fn list_stand_ins(
    State(app): State<App>,
    Path((scene, id, key)): Path<(Uuid, String, String)>,
) -> Result<Json<Vec<StandIn>>, ApiError> {
    let document = opened(&app, scene).await?;
    let found = app.growths.stand_ins(&document, named(&document, &id, &key)?).await?;
    Ok(Json(Vec::clone(&found)))
}

/// How each form of a species bends; empty for what does not.
#[utoipa::path(get, path = "/api/scenes/{scene}/species/{species}/{key}/bending", tag = "nursery",
    params(("scene" = Uuid, Path), ("species" = String, Path), ("key" = String, Path, description = "`key` of the species")),
    responses((status = 200, body = [Bending]), (status = 404, body = ErrorBody), (status = 410, body = ErrorBody)))]
pub async fn list_bending(
    State(app): State<App>,
    Path((scene, id, key)): Path<(Uuid, String, String)>,
) -> Result<Json<Vec<Bending>>, ApiError> {
    let document = opened(&app, scene).await?;
    let (species, season) = (named(&document, &id, &key)?.clone(), document.season);
    Ok(Json(app.growths.pool().run(move |_| Ok(species.bending_of_forms(season))).await?))
}

/// What a portrait shows.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[serde(default)]
pub struct PortraitQuery {
    /// Width, pixels, 16 to 1024.
    pub width: u32,
    /// Height, pixels, 16 to 1024.
    pub height: u32,
    /// Light paths per pixel, 1 to 256.
    pub samples: u32,
    /// First form.
    pub form: u16,
    /// Forms side by side from there on, 1 to 8.
    pub forms: u16,
    /// Whether a figure of 1.75 m stands beside them.
    pub figure: bool,
}

impl Default for PortraitQuery {
    fn default() -> Self {
        Self { width: 200, height: 200, samples: 16, form: 0, forms: 1, figure: false }
    }
}

/// A picture of a species, taken by the tracer that takes stills.
#[utoipa::path(get, path = "/api/scenes/{scene}/species/{species}/{key}/portrait", tag = "nursery",
    params(("scene" = Uuid, Path), ("species" = String, Path), ("key" = String, Path, description = "`key` of the species"), PortraitQuery),
    responses((status = 200, content_type = "image/png"), (status = 404, body = ErrorBody), (status = 410, body = ErrorBody)))]
pub async fn get_portrait(
    State(app): State<App>,
    Path((scene, id, key)): Path<(Uuid, String, String)>,
    Query(q): Query<PortraitQuery>,
) -> Result<impl IntoResponse, ApiError> {
    let document = opened(&app, scene).await?;
    let species = named(&document, &id, &key)?;
    let png = portrait(&app, &document, species, &q, species.forms).await?;
    let headers = [(header::CONTENT_TYPE, "image/png"), (header::CACHE_CONTROL, FOR_EVER)];
    Ok((headers, png))
}

async fn portrait(
    app: &App,
    document: &Document,
    species: &Species,
    q: &PortraitQuery,
    known: u16,
) -> Result<Vec<u8>, ApiError> {
    let forms = (q.form..q.form.saturating_add(q.forms.clamp(1, 8))).map(|f| f % known).collect();
    let settings = PortraitSettings {
        width_px: q.width.clamp(16, 1024),
        height_px: q.height.clamp(16, 1024),
        samples: q.samples.clamp(1, 256),
        figure: q.figure,
        ..PortraitSettings::default()
    };
    Ok(Vec::clone(&*app.growths.portrait(document, species, forms, settings).await?))
}

/// What a species from an uploaded mesh file would be, before it is taken. No scene is changed.
#[utoipa::path(post, path = "/api/imports/measure", tag = "nursery", request_body = Imported,
    responses((status = 200, body = Measured), (status = 422, body = ErrorBody)))]
pub async fn measure_import(
    State(app): State<App>,
    Json(plan): Json<Imported>,
) -> Result<Json<Measured>, ApiError> {
    // A plan is held to all that a species is before work is spent on it.
    check_species(&Species::imported(plan.clone(), Kind::Rock, "Draft", 1, |_| false))?;
    Ok(Json(app.growths.measure_import(&app.db, &plan).await?))
}

/// A picture of a species that no scene has yet, for instance one about to be imported. No scene is changed.
#[utoipa::path(post, path = "/api/imports/portrait", tag = "nursery", request_body = Species, params(PortraitQuery),
    responses((status = 200, content_type = "image/png"), (status = 422, body = ErrorBody)))]
pub async fn draft_portrait(
    State(app): State<App>,
    Query(q): Query<PortraitQuery>,
    Json(species): Json<Species>,
) -> Result<impl IntoResponse, ApiError> {
    check_species(&species)?;
    let mut document = bare();
    document.species = vec![species];
    let document = app.growths.with_species(&app.db, document).await?;
    let species = document.species.first().ok_or(ApiError::NotFound("species"))?;
    let held = match &species.plan {
        Plan::Imported(i) => i.held.forms() as u16,
        _ => species.forms,
    };
    let png = portrait(&app, &document, species, &q, held.max(1)).await?;
    Ok(([(header::CONTENT_TYPE, "image/png")], png))
}
