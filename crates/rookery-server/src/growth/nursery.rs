//! Species as they are built: their sizes and their portraits.

use super::{Growths, Shelf};
use crate::error::ApiError;
use rayon::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::nursery::{Detail, Mesh, Season, Species};
use rookery_core::proxy::{box_of, hull_of};
use rookery_core::scene::{Document, Keyed, content_key};
use rookery_formats::picture::png_srgb8;
use rookery_formats::view::{encode_cards, encode_forms, encode_pictures};
use rookery_render::{PortraitSettings, StillError, card, outline_errors, portrait};
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

/// A stand-in for a form, and how far it is off.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct StandIn {
    /// `light`, `far`, `hull`, `box` or `card`.
    pub kind: &'static str,
    /// How heavy it is.
    pub size: FormSize,
    /// Pixels that only the stand-in or only the full form covers, against those of the form, seen from the side and from a
    /// corner, pictures 48 pixels high: 0 for none.
    pub outline_error: f32,
}

/// Rows of a card's picture.
const CARD_PX: u32 = 80;

fn size(mesh: &Mesh) -> FormSize {
    let bytes = mesh.positions.len() * 40 + mesh.indices.len() * 4;
    FormSize { triangles: mesh.triangles(), bytes }
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
            let measure = move |detail| size(&species.build(0, detail, season));
            self.pool().run(move |_| Ok((Detail::ALL.map(measure), 64))).await
        };
        self.forms.get_or_make(Keyed::looks(document, species), make).await
    }

    /// The stand-ins of the first form of a species, and how far each is off.
    ///
    /// # Errors
    /// When the work breaks off.
    pub async fn stand_ins(
        &self,
        document: &Document,
        species: &Species,
    ) -> Result<Arc<Vec<StandIn>>, ApiError> {
        let make = async {
            let (species, season) = (species.clone(), document.season);
            let measure = move || {
                let full = species.build(0, Detail::Full, season);
                let [light, far] = [Detail::Light, Detail::Far].map(|d| species.stand_in(0, d, season));
                let card = card(&full, CARD_PX);
                let meshes = [
                    ("light", light),
                    ("far", far),
                    ("hull", hull_of(&full)),
                    ("box", box_of(&full)),
                    ("card", card.mesh()),
                ];
                let errors = outline_errors(&full, &meshes.each_ref().map(|(_, mesh)| mesh));
                let rows = meshes.iter().zip(errors);
                let stand_in = |((kind, mesh), outline_error): (&(&'static str, Mesh), f32)| {
                    let pixels = if *kind == "card" { card.colours[0].len() * 16 } else { 0 };
                    let FormSize { triangles, bytes } = size(mesh);
                    StandIn { kind, size: FormSize { triangles, bytes: bytes + pixels }, outline_error }
                };
                let out: Vec<StandIn> = rows.map(stand_in).collect();
                out
            };
            self.pool().run(move |_| Ok((measure(), 400))).await
        };
        let key = content_key("stand-ins", &Keyed::looks(document, species).to_string());
        self.stand_ins.get_or_make(key, make).await
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
        self.pool().run(move |_| Ok(species.stand_in(form, detail, season))).await
    }

    /// All forms at all details, then their hulls, boxes, cards and pictures, encoded for the view.
    ///
    /// # Errors
    /// When the work breaks off.
    pub async fn all_forms(&self, document: &Document, species: &Species) -> Result<Vec<u8>, ApiError> {
        let (key, shelf) = (Keyed::looks(document, species), self.shelf.clone());
        let (species, season) = (species.clone(), document.season);
        let build = move || {
            let wanted = Detail::ALL.into_iter().flat_map(|d| (0..species.forms).map(move |f| (f, d)));
            let wanted: Vec<_> = wanted.collect();
            let meshes: Vec<Mesh> =
                wanted.into_par_iter().map(|(f, d)| species.stand_in(f, d, season)).collect();
            let full: Vec<Mesh> = meshes.iter().take(usize::from(species.forms)).cloned().collect();
            let stand_ins = full.par_iter().map(hull_of).chain(full.par_iter().map(box_of));
            let mut out = encode_forms(&meshes);
            out.extend(encode_forms(&stand_ins.collect::<Vec<_>>()));
            out.extend(encode_cards(&full.par_iter().map(|m| card(m, CARD_PX)).collect::<Vec<_>>()));
            if let Some(skin) = full.iter().find_map(|m| m.skin.as_ref()) {
                let pictures = encode_pictures(&skin.pictures);
                out.extend_from_slice(&(pictures.len() as u32).to_le_bytes());
                out.extend(pictures);
            }
            out
        };
        self.pool().run(move |_| Shelf::get_or_make(shelf.as_ref(), "forms", &key, || Ok(build()))).await
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
        let name = Keyed::looks(document, species).to_string();
        let key = content_key("portrait", &(name, &forms, width_px, height_px, samples, turn_deg, figure));
        let make = async {
            let (species, season, shelf) = (species.clone(), document.season, self.shelf.clone());
            let draw = move |cancel: &CancelToken| {
                let meshes: Vec<Mesh> =
                    forms.iter().map(|f| species.build(*f, Detail::Full, season)).collect();
                let film = portrait(&meshes, &settings, cancel).map_err(|StillError::Cancelled(c)| {
                    ApiError::from(rookery_core::planting::GrowError::from(c))
                })?;
                let png = png_srgb8(width_px, height_px, &film.to_srgb8());
                png.map_err(|e| ApiError::Internal(format!("the picture cannot be written: {e}")))
            };
            let kept = move |cancel: &CancelToken| {
                let png = Shelf::get_or_make(shelf.as_ref(), "portrait", &key, || draw(cancel))?;
                let bytes = png.len();
                Ok((png, bytes))
            };
            self.pool().run(kept).await
        };
        self.portraits.get_or_make(key, make).await
    }
}
