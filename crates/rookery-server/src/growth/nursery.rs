//! Species as they are built: their sizes and their portraits.

use super::Growths;
use crate::error::ApiError;
use rayon::prelude::*;
use rookery_core::nursery::{Detail, Mesh, Season, Species};
use rookery_core::scene::{Document, Keys, content_key};
use rookery_formats::picture::png_srgb8;
use rookery_formats::view::encode_forms;
use rookery_render::{PortraitSettings, StillError, portrait};
use serde::Serialize;
use std::sync::Arc;

/// How heavy one form is at one level of detail.
#[derive(Clone, Copy, Debug, Serialize, utoipa::ToSchema)]
pub struct FormSize {
    /// Triangles.
    pub triangles: usize,
    /// Bytes of its mesh as the view gets it.
    pub bytes: usize,
}

fn bytes(mesh: &Mesh) -> usize {
    mesh.positions.len() * 40 + mesh.indices.len() * 4
}

impl Growths {
    /// How heavy the first form of a species is at full, light and far detail.
    ///
    /// # Errors
    /// When the work breaks off.
    pub async fn form_sizes(
        &self,
        document: &Document,
        species: &Species,
    ) -> Result<Arc<[FormSize; 3]>, ApiError> {
        let make = async {
            let (species, season) = (species.clone(), document.season);
            let measure = move |detail| {
                let mesh = species.build(0, detail, season);
                FormSize { triangles: mesh.triangles(), bytes: bytes(&mesh) }
            };
            self.pool().run(move |_| Ok((Detail::ALL.map(measure), 64))).await
        };
        self.forms.get_or_make(Keys::species(document, species), make).await
    }

    /// One form's mesh.
    ///
    /// # Errors
    /// When the work breaks off.
    pub async fn form(
        &self,
        species: &Species,
        season: Season,
        form: u16,
        detail: Detail,
    ) -> Result<Mesh, ApiError> {
        let species = species.clone();
        self.pool().run(move |_| Ok(species.build(form, detail, season))).await
    }

    /// All forms at all details, encoded for the view.
    ///
    /// # Errors
    /// When the work breaks off.
    pub async fn all_forms(&self, species: &Species, season: Season) -> Result<Vec<u8>, ApiError> {
        let species = species.clone();
        let build = move || {
            let wanted = Detail::ALL.into_iter().flat_map(|d| (0..species.forms).map(move |f| (f, d)));
            let wanted: Vec<_> = wanted.collect();
            let meshes: Vec<Mesh> =
                wanted.into_par_iter().map(|(f, d)| species.build(f, d, season)).collect();
            encode_forms(&meshes)
        };
        self.pool().run(move |_| Ok(build())).await
    }

    /// A picture of forms of a species side by side, as PNG. `forms` names them by their numbers.
    ///
    /// # Errors
    /// When the work breaks off.
    pub async fn portrait(
        &self,
        document: &Document,
        species: &Species,
        forms: Vec<u16>,
        settings: PortraitSettings,
    ) -> Result<Arc<Vec<u8>>, ApiError> {
        let PortraitSettings { width_px, height_px, samples, turn_deg, figure } = settings;
        let name = Keys::species(document, species).to_string();
        let key = content_key("portrait", &(name, &forms, width_px, height_px, samples, turn_deg, figure));
        let make = async {
            let (species, season) = (species.clone(), document.season);
            let draw = move |cancel: &_| {
                let meshes: Vec<Mesh> =
                    forms.iter().map(|f| species.build(*f, Detail::Full, season)).collect();
                let film = portrait(&meshes, &settings, cancel).map_err(|StillError::Cancelled(c)| {
                    ApiError::from(rookery_core::planting::GrowError::from(c))
                })?;
                let png = png_srgb8(width_px, height_px, &film.to_srgb8());
                let png =
                    png.map_err(|e| ApiError::Internal(format!("the picture cannot be written: {e}")))?;
                let bytes = png.len();
                Ok((png, bytes))
            };
            self.pool().run(draw).await
        };
        self.portraits.get_or_make(key, make).await
    }
}
