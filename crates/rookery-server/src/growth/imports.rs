//! Species from files: read once, then held beside the scenes that grow them.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use crate::reading::Kind;
use rookery_core::nursery::{Held, Imported, Mesh, Plan, Species};
use rookery_core::scene::{Document, SpeciesId, content_key};
use rookery_formats::GroundError;
use rookery_formats::mesh::{Measured, hold, measure};

fn bytes(mesh: &Mesh) -> usize {
    mesh.positions.len() * 56 + mesh.indices.len() * 4
}

impl Growths {
    /// Reads the meshes of imported species; says of which ones the file could not be read.
    pub async fn hold(&self, db: &Db, species: &mut [Species]) -> Vec<(SpeciesId, ApiError)> {
        let mut problems = Vec::new();
        for s in species {
            if let Plan::Imported(plan) = &mut s.plan {
                match self.held(db, plan).await {
                    Ok(held) => plan.held = held,
                    Err(e) => problems.push((s.id.clone(), e)),
                }
            }
        }
        problems
    }

    /// A document with the meshes of all its imported species.
    ///
    /// # Errors
    /// When a file is missing or cannot be read.
    pub async fn with_species(&self, db: &Db, mut document: Document) -> Result<Document, ApiError> {
        match self.hold(db, &mut document.species).await.into_iter().next() {
            Some((_, problem)) => Err(problem),
            None => Ok(document),
        }
    }

    async fn held(&self, db: &Db, plan: &Imported) -> Result<Held, ApiError> {
        let make = async {
            let (file, plan) = (self.file_of(db, plan).await?, plan.clone());
            self.pool
                .run(move |_| {
                    let forms = hold(&plan, &file)?;
                    let skin = forms.iter().flatten().next().and_then(|mesh| mesh.skin.as_ref());
                    let pictures = skin.map_or(0, |s| s.pictures.iter().map(|p| p.rgba.len() * 4).sum());
                    let bytes = forms.iter().flatten().map(bytes).sum::<usize>() + pictures;
                    Ok((forms, bytes))
                })
                .await
        };
        Ok(Held::new(self.imports.get_or_make(content_key("import", plan), make).await?))
    }

    /// What a species from a file would be.
    ///
    /// # Errors
    /// When the file is missing or cannot be read.
    pub async fn measure_import(&self, db: &Db, plan: &Imported) -> Result<Measured, ApiError> {
        let (file, plan) = (self.file_of(db, plan).await?, plan.clone());
        self.pool.run(move |_| Ok(measure(&plan, &file)?)).await
    }

    async fn file_of(&self, db: &Db, plan: &Imported) -> Result<Vec<u8>, ApiError> {
        let missing = || GroundError::MissingFile { name: plan.name.clone(), id: plan.blob.clone() };
        Ok(self.stored(db, &plan.blob, Kind::Looks).await?.ok_or_else(missing)?)
    }
}
