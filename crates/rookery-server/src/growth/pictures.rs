//! Pictures over the plan, for masks.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use crate::reading::Kind;
use rookery_core::scene::{Document, HeldPixels, Layer, content_key};
use rookery_formats::GroundError;
use rookery_formats::picture::read_pixels;

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
            let make = async {
                let missing =
                    || GroundError::MissingFile { name: picture.file.clone(), id: picture.blob.clone() };
                let file = self.stored(db, &picture.blob, Kind::Picture).await?.ok_or_else(missing)?;
                let name = picture.file.clone();
                self.pool()
                    .run(move |_| {
                        let pixels = read_pixels(&file).map_err(|why| ApiError::BadPicture { name, why })?;
                        let bytes = size_of_val(pixels.rgba.as_slice());
                        Ok((pixels, bytes))
                    })
                    .await
            };
            let key = content_key("picture", &picture.blob);
            picture.held = HeldPixels(Some(self.pictures.get_or_make(key, make).await?));
        }
        Ok(document)
    }
}
