//! The ready communities. What stands together is common knowledge of field guides, from memory; amounts are by eye.

use super::Community;
use crate::document::{Amount, Layer, LayerId, Mask, MaskId, Quantity, SpeciesId};
use crate::nursery::ready_species;
use std::sync::LazyLock;

static READY: LazyLock<Vec<Community>> = LazyLock::new(|| {
    vec![
        community(
            "Sea-cliff turf",
            "Short turf at the edge of sea cliffs, with thrift and campion where it steepens.",
            &[
                ("Cliff turf", "fescue", 2.6, 38.0),
                ("Thrift in the turf", "thrift", 0.12, 52.0),
                ("Campion", "campion", 0.035, 60.0),
                ("Plantain", "plantain", 0.25, 40.0),
                ("Wild carrot", "wild-carrot", 0.02, 34.0),
            ],
        ),
        community(
            "Dune",
            "Marram on blown sand, with ragwort and creeping willow in its lee.",
            &[
                ("Dune marram", "marram", 1.6, 36.0),
                ("Creeping willow", "creeping-willow", 0.03, 24.0),
                ("Ragwort", "ragwort", 0.02, 26.0),
                ("Mayweed", "sea-mayweed", 0.03, 24.0),
            ],
        ),
        community(
            "Hollow with bracken",
            "A sheltered hollow: bracken, foxgloves and ferns over moss.",
            &[
                ("Bracken in the hollow", "bracken", 0.35, 34.0),
                ("Foxgloves", "foxglove", 0.012, 36.0),
                ("Ferns", "male-fern", 0.03, 40.0),
                ("Moss", "moss", 0.4, 46.0),
                ("Twigs", "twigs", 0.08, 30.0),
            ],
        ),
        community(
            "Scrub",
            "Gorse and hawthorn closing over old pasture.",
            &[
                ("Hawthorn", "hawthorn", 0.003, 26.0),
                ("Gorse scrub", "gorse", 0.035, 34.0),
                ("Bracken between", "bracken", 0.06, 30.0),
                ("Rough turf", "fescue", 1.6, 34.0),
                ("Leaf litter", "leaf-litter", 0.12, 24.0),
            ],
        ),
        community(
            "Scree and moss",
            "Broken stone with moss, polypody and lichen between.",
            &[
                ("Scree stones", "scree", 0.9, 55.0),
                ("Fallen boulders", "boulder", 0.012, 50.0),
                ("Moss on the scree", "moss", 0.5, 56.0),
                ("Polypody", "polypody", 0.08, 54.0),
                ("Lichens", "grey-lichen", 0.5, 60.0),
            ],
        ),
        community(
            "Tarn edge",
            "Wet ground about still water: cotton-grass, rush, bog moss and reed.",
            &[
                ("Reed bed", "reed", 0.35, 7.0),
                ("Cotton-grass", "cotton-grass", 0.5, 10.0),
                ("Rushes", "soft-rush", 0.18, 12.0),
                ("Bog moss", "bog-moss", 0.6, 10.0),
            ],
        ),
        community(
            "Birch wood",
            "Open birch with rowan over bilberry, fern and moss.",
            &[
                ("Birch", "downy-birch", 0.012, 34.0),
                ("Rowan", "rowan", 0.0012, 34.0),
                ("Bilberry", "bilberry", 0.25, 36.0),
                ("Wood fern", "male-fern", 0.04, 38.0),
                ("Wood moss", "moss", 0.5, 40.0),
                ("Fallen leaves", "leaf-litter", 0.3, 28.0),
            ],
        ),
        community(
            "Heather moor",
            "Heather and moor grass, with a few junipers.",
            &[
                ("Juniper", "juniper", 0.0015, 30.0),
                ("Heather on the moor", "heather", 0.5, 34.0),
                ("Moor grass", "moor-grass", 0.5, 30.0),
                ("Harebells", "harebell", 0.03, 30.0),
            ],
        ),
    ]
});

/// All ready communities.
pub fn ready_communities() -> &'static [Community] {
    &READY
}

/// Layers by name, species, plants a square metre and the slope, degrees, they go up to.
fn community(name: &str, about: &str, layers: &[(&str, &str, f32, f32)]) -> Community {
    let layers = layers
        .iter()
        .enumerate()
        .map(|(i, (name, species, per_m2, steepest))| layer(i as u32 + 1, name, species, *per_m2, *steepest));
    Community {
        name: name.to_owned(),
        about: about.to_owned(),
        species: Vec::new(),
        layers: layers.collect(),
        files: Default::default(),
    }
}

fn layer(id: u32, name: &str, species: &str, per_m2: f32, steepest: f32) -> Layer {
    let found = ready_species(&SpeciesId(species.to_owned())).expect("ready communities grow ready species");
    Layer {
        seed: 900 + id * 13,
        amount: Amount::PerM2 { value: per_m2 },
        masks: vec![Mask::band(MaskId(1), Quantity::Slope, [0.0, 0.0, steepest * 0.75, steepest])],
        ..Layer::usual(found, LayerId(id), name)
    }
}
