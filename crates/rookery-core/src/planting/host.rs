//! The plants of a layer as a ground for another: moss on boulders.

use super::{GrowError, Plant};
use crate::document::{Document, Earths, Layer, Upright};
use crate::ground::{BodyName, Frame, MeshModel, MeshStanding, MeshSurface};
use crate::math::hash::pcg4d;
use crate::nursery::{Detail, Mesh};
use std::collections::BTreeMap;

/// Triangles of all plants together, at most.
pub const MOST_HOST_TRIANGLES: usize = 3_000_000;

/// The lasting number of a plant as a body of such a ground: by the ground it stands on and its name there.
fn body_key(plant: &Plant) -> u64 {
    let id = plant.id.0;
    let [low, high, ..] = pcg4d([plant.ground.0, id as u32, (id >> 32) as u32, 0xB0D0]);
    u64::from(high) << 32 | u64::from(low)
}

/// What a layer's plants are as a ground, where they stand in the scene: their light meshes, the far ones where those are too
/// many. None where nothing stands.
///
/// # Errors
/// [`GrowError::TooManyHosts`].
pub fn host_model(
    document: &Document,
    host: &Layer,
    plants: &[Plant],
) -> Result<Option<MeshModel>, GrowError> {
    let mut last = 0;
    for detail in [Detail::Light, Detail::Far] {
        let mut forms = BTreeMap::<(u8, u16), Mesh>::new();
        for p in plants {
            let Some(species) = document.species_of(host, p) else { continue };
            forms
                .entry((p.species, p.form))
                .or_insert_with(|| species.build(p.form, detail, document.season));
        }
        let form = |p: &Plant| forms.get(&(p.species, p.form));
        last = plants.iter().filter_map(form).map(Mesh::triangles).sum();
        if last > MOST_HOST_TRIANGLES {
            continue;
        }
        let mut surface = MeshSurface::default();
        for p in plants {
            let Some(mesh) = form(p) else { continue };
            let first = surface.positions.len() as u32;
            let scale = p.scale();
            surface.positions.extend(mesh.positions.iter().map(|v| p.position_m + p.rotation * (*v * scale)));
            surface.indices.extend(mesh.indices.iter().map(|i| first + i));
            let body = surface.bodies.len() as u32;
            surface.body_of.extend(std::iter::repeat_n(body, mesh.triangles()));
            let frame = Frame { origin_m: p.position_m, turn: p.rotation };
            surface.bodies.push(BodyName { key: body_key(p), frame, carrier: p.carrier });
        }
        let standing = MeshStanding {
            base_m: 0.0,
            upright: Upright::Gravity,
            earths: Earths::default(),
            water_m: None,
            seed: host.seed,
        };
        // Without any face with an area there is nothing to grow on.
        return Ok(MeshModel::new(&surface, &standing).ok());
    }
    Err(GrowError::TooManyHosts { triangles: last as u64, limit: MOST_HOST_TRIANGLES as u64 })
}
