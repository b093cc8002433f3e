//! How heavy layers will be, before they are grown.

use super::Community;
use crate::document::{Amount, Document, GroundId, LayerId};
use crate::ground::GroundRef;
use crate::habitat::Given;
use crate::nursery::Detail;
use crate::planting::Rules;
use crate::planting::{MeanCrown, grown_on, per_m2};
use crate::scene::{Refusal, apply};
use serde::Serialize;

/// Memory a plant takes here and in the view, bytes.
const PLANT_BYTES: u64 = 56 + 28 + 26;
/// Memory a triangle of a form takes, bytes, about: its corners are shared.
const TRIANGLE_BYTES: u64 = 52;

/// What one layer will come to.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct LayerForecast {
    /// Its name.
    pub name: String,
    /// Plants, about: its amount on the area its masks allow. Those that will find too little room are still among them.
    pub plants: u64,
    /// Triangles of one plant at full detail.
    pub triangles: u64,
}

/// What a community will come to on the grounds of a scene.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Forecast {
    /// Layer by layer.
    pub layers: Vec<LayerForecast>,
    /// Plants in all.
    pub plants: u64,
    /// Triangles once every plant is drawn at full detail.
    pub triangles: u64,
    /// Memory, bytes, for plants and the forms of their species; forms count once.
    pub bytes: u64,
}

/// Foretells what a community comes to when it is dropped. `model` gives the ground of an id.
///
/// # Errors
/// When it cannot be dropped here.
pub fn forecast<'a>(
    document: &Document,
    community: &Community,
    ground: Option<GroundId>,
    model: impl Fn(GroundId) -> Option<GroundRef<'a>>,
) -> Result<Forecast, Refusal> {
    let after = apply(document, &community.dropped(document, ground))?.document;
    let known = |id: LayerId| document.layer(id).is_some();
    let mut out = Forecast { layers: Vec::new(), plants: 0, triangles: 0, bytes: 0 };
    for layer in after.layers.iter().filter(|l| !known(l.id)) {
        let plants = match layer.amount {
            Amount::Total { value } => u64::from(value),
            _ => {
                let crown = MeanCrown::new(&after, layer);
                let value = per_m2(layer, &crown).unwrap_or(0.0);
                let on = grown_on(&after, layer).into_iter().filter_map(|id| Some((id, model(id)?)));
                let allowed = on.map(|(id, g)| {
                    g.shares(&Rules::on(&after, layer, id, g.groups(), &Given::default())).allowed_m2
                });
                (f64::from(value) * allowed.sum::<f64>()).round() as u64
            }
        }
        .min(u64::from(layer.cap));
        let (mut full, mut shares) = (0.0, 0.0);
        for (part, species) in after.mix_of(layer) {
            let details = Detail::ALL.map(|d| species.build(0, d, after.season).triangles() as u64);
            full += part.share * details[0] as f32;
            shares += part.share;
            out.bytes += u64::from(species.forms) * details.iter().sum::<u64>() * TRIANGLE_BYTES;
        }
        let full = (full / shares.max(1e-6)).round() as u64;
        out.plants += plants;
        out.triangles += plants * full;
        out.bytes += plants * PLANT_BYTES;
        out.layers.push(LayerForecast { name: layer.name.clone(), plants, triangles: full });
    }
    Ok(out)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::cancel::CancelToken;
    use crate::community::ready_communities;
    use crate::document::{Clearance, GroundSource, bare};
    use crate::ground::{GroundModel, noise_terrain};
    use crate::planting::grow_everywhere;

    fn grown(document: &Document, model: &dyn Fn(GroundId) -> Option<GroundRef<'static>>) -> u64 {
        let placed = |l: &crate::scene::Layer| {
            grow_everywhere(document, l, model, &|_| None, &CancelToken::default()).unwrap().tally.placed
        };
        document.layers.iter().map(placed).sum()
    }

    #[test]
    fn what_is_foretold_is_what_grows_where_all_find_room() {
        let scene = bare();
        let GroundSource::Noise(noise) = &scene.ground.source else { panic!("noise") };
        let land = GroundModel::new(noise_terrain::build(noise).unwrap(), None, noise.seed);
        let land: &'static GroundModel = Box::leak(Box::new(land));
        let model = |_| Some(GroundRef::Terrain(land));
        for c in ready_communities() {
            let told = forecast(&scene, c, None, model).unwrap();
            let mut after = apply(&scene, &c.dropped(&scene, None)).unwrap().document;
            let crowded = grown(&after, &model);
            after.layers.iter_mut().for_each(|l| l.clearance = Clearance::default());
            let free = grown(&after, &model);
            let off = (told.plants as f64 - free as f64).abs();
            // Random places scatter by the root of their number.
            let scatter = 4.0 * (free as f64).sqrt() + 2.0;
            assert!(off < scatter, "{}: {} told, {free} grown", c.name, told.plants);
            assert!(crowded <= free && crowded * 5 > free * 4, "{}: {crowded} of {free} find room", c.name);
        }
    }
}
