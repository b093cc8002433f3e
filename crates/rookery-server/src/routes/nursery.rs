//! The nursery: ready species and the meshes of their forms.

use crate::error::{ApiError, ErrorBody};
use crate::extract::{Json, Path};
use axum::http::header;
use axum::response::IntoResponse;
use rookery_core::nursery::{Detail, Kind, SPECIES, build, species};
use rookery_core::scene::SpeciesId;
use rookery_formats::view::encode_mesh;
use serde::Serialize;

/// A species as the interface shows it.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct SpeciesView {
    /// Which.
    pub id: String,
    /// Singular.
    pub name: String,
    /// Plural.
    pub plural: String,
    /// `grass` or `rock`.
    pub kind: &'static str,
    /// Height at full size, metres.
    pub height_m: f32,
    /// Radius of what it covers seen from above, metres.
    pub radius_m: f32,
    /// Different individuals.
    pub forms: u16,
    /// Leaves are thin: lit from both sides.
    pub thin: bool,
    /// Triangles of the first form at full, light and far detail.
    pub triangles: [usize; 3],
}

/// All ready species.
pub fn species_views() -> Vec<SpeciesView> {
    SPECIES
        .iter()
        .map(|s| SpeciesView {
            id: s.id.to_owned(),
            name: s.name.to_owned(),
            plural: s.plural.to_owned(),
            kind: match s.kind {
                Kind::Grass => "grass",
                Kind::Rock => "rock",
            },
            height_m: s.height_m,
            radius_m: s.radius_m,
            forms: s.forms,
            thin: s.thin,
            triangles: Detail::ALL.map(|d| build(s, 0, d).triangles()),
        })
        .collect()
}

/// All ready species.
#[utoipa::path(get, path = "/api/species", tag = "nursery", responses((status = 200, body = [SpeciesView])))]
pub async fn list_species() -> Json<Vec<SpeciesView>> {
    Json(species_views())
}

/// One form's mesh as a compact buffer (`RKME`, see `rookery-formats/src/view`).
#[utoipa::path(get, path = "/api/species/{species}/forms/{form}/{detail}", tag = "nursery",
    params(("species" = String, Path), ("form" = u16, Path), ("detail" = String, Path, description = "`full`, `light` or `far`")),
    responses((status = 200, content_type = "application/octet-stream"), (status = 404, body = ErrorBody)))]
pub async fn get_form(
    Path((id, form, detail)): Path<(String, u16, String)>,
) -> Result<impl IntoResponse, ApiError> {
    let species = species(&SpeciesId(id)).ok_or(ApiError::NotFound("species"))?;
    let detail = match detail.as_str() {
        "full" => Detail::Full,
        "light" => Detail::Light,
        "far" => Detail::Far,
        _ => return Err(ApiError::NotFound("detail")),
    };
    if form >= species.forms {
        return Err(ApiError::NotFound("form"));
    }
    let headers = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CACHE_CONTROL, "no-cache")];
    Ok((headers, encode_mesh(&build(species, form, detail))))
}
