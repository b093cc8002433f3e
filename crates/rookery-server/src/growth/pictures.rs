//! Pictures over the plan, for masks; pictures that earths wear.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use crate::reading::Kind;
use rookery_core::scene::{BlobId, ContentKey, Document, HeldPixels, Layer, content_key, sheets_of};
use rookery_core::textures::{SIDE, Sheets};
use rookery_formats::GroundError;
use rookery_formats::picture::{EARTH_PX, read_pixels, read_pixels_within};
use std::sync::Arc;

/// Names what the earths of a document show in.
pub fn textures_key(document: &Document) -> ContentKey {
    content_key("textures", &document.earth_pictures)
}

/// What a picture is read for.
#[derive(Clone, Copy)]
enum For {
    Masks,
    /// No more of it is held than an earth shows; `light` for colours.
    Earth {
        light: bool,
    },
}

impl For {
    /// As the files of a set come: first its colour, then its height and its roughness.
    const EARTH: [Self; 3] =
        [Self::Earth { light: true }, Self::Earth { light: false }, Self::Earth { light: false }];
}

impl Growths {
    /// A document with the pixels of the pictures that a layer looks at.
    pub(super) async fn with_pictures(
        &self,
        db: &Db,
        mut document: Document,
        layer: &Layer,
    ) -> Result<Document, ApiError> {
        for picture in &mut document.pictures {
            if !layer.masks.iter().any(|m| m.picture.is_some_and(|look| look.id == picture.id)) {
                continue;
            }
            picture.held = self.pixels(db, &picture.blob, &picture.file, For::Masks).await?;
        }
        Ok(document)
    }

    /// A document with the pixels of what its earths wear.
    ///
    /// # Errors
    /// When a file is missing or unreadable, with its name.
    pub async fn with_earth_pictures(&self, db: &Db, mut document: Document) -> Result<Document, ApiError> {
        for set in &mut document.earth_pictures {
            for (file, own) in set.files_mut().zip(For::EARTH) {
                file.held = self.pixels(db, &file.blob, &file.file, own).await?;
            }
        }
        Ok(document)
    }

    /// What the earths of a scene show in, and what is wrong with pictures that are missing or unreadable: their earths go without.
    ///
    /// # Errors
    /// When the database cannot be asked.
    pub async fn sheets(&self, db: &Db, document: &Document) -> Result<(Arc<Sheets>, Vec<String>), ApiError> {
        let (mut sets, mut amiss) = (Vec::new(), Vec::new());
        for mut set in document.earth_pictures.iter().cloned() {
            let mut whole = true;
            for (file, own) in set.files_mut().zip(For::EARTH) {
                match self.pixels(db, &file.blob, &file.file, own).await {
                    Ok(held) => file.held = held,
                    Err(why @ (ApiError::BadPicture { .. } | ApiError::Ground(_))) => {
                        amiss.push(why.to_string());
                        whole = false;
                    }
                    Err(why) => return Err(why),
                }
            }
            if whole {
                sets.push(set);
            }
        }
        let key = content_key("sheets", &sets);
        let make =
            async { self.pool().run(move |_| Ok((sheets_of(&sets), sets.len() * SIDE * SIDE * 8))).await };
        Ok((self.sheets.get_or_make(key, make).await?, amiss))
    }

    async fn pixels(&self, db: &Db, blob: &BlobId, name: &str, own: For) -> Result<HeldPixels, ApiError> {
        let make = async {
            let missing = || GroundError::MissingFile { name: name.to_owned(), id: blob.clone() };
            let file = self.stored(db, blob, Kind::Picture).await?.ok_or_else(missing)?;
            let name = name.to_owned();
            self.pool()
                .run(move |_| {
                    let read = match own {
                        For::Masks => read_pixels(&file),
                        For::Earth { light } => read_pixels_within(&file, EARTH_PX, light),
                    };
                    let pixels = read.map_err(|why| ApiError::BadPicture { name, why })?;
                    let bytes = size_of_val(pixels.rgba.as_slice());
                    Ok((pixels, bytes))
                })
                .await
        };
        let key = match own {
            For::Masks => content_key("picture", blob),
            For::Earth { light } => content_key("earth picture", &(blob, light)),
        };
        Ok(HeldPixels(Some(self.pictures.get_or_make(key, make).await?)))
    }
}
