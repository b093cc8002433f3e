//! Layers that grow on the plants of another.

use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, GroundRef, noise_terrain};
use rookery_core::planting::{GrowError, Growth, grow_everywhere, host_model};
use rookery_core::scene::*;

fn land() -> GroundModel {
    let noise = NoiseGround { coast: 0.0, size_m: 60.0, samples: 121, ..NoiseGround::default() };
    GroundModel::new(noise_terrain::build(&noise).unwrap(), None, 1)
}

/// Forty boulders with moss on them.
fn scene() -> Document {
    let mut document = bare();
    let layer = |document: &Document, id: u32, species: &str| {
        let own = document.species(&SpeciesId(species.into())).unwrap().clone();
        Layer { masks: Vec::new(), clearance: Clearance::default(), ..Layer::of(&own, LayerId(id), species) }
    };
    let mut boulders = layer(&document, 1, "boulder");
    boulders.amount = Amount::Total { value: 40 };
    let mut moss = layer(&document, 2, "moss");
    (moss.amount, moss.pattern) = (Amount::PerM2 { value: 60.0 }, Pattern::Random);
    (moss.on_plants, moss.stance) = (Some(LayerId(1)), Stance { upright: 1.0, ..Stance::default() });
    document.layers = vec![boulders, moss];
    document
}

fn grow(document: &Document, ground: &GroundModel, id: u32) -> Growth {
    let model = |_| Some(GroundRef::Terrain(ground));
    let layer = document.layer(LayerId(id)).unwrap();
    grow_everywhere(document, layer, &model, &|_| None, &CancelToken::default()).unwrap()
}

#[test]
fn moss_lies_on_the_boulders_by_their_true_area() {
    let (document, ground) = (scene(), land());
    check_document(&document).unwrap();
    let boulders = grow(&document, &ground, 1);
    let host = host_model(&document, &document.layers[0], &boulders.plants).unwrap().unwrap();
    let moss = grow(&document, &ground, 2);
    // A Poisson number about 60 to the square metre.
    let expected = host.true_area_m2() * 60.0;
    assert!(
        (moss.plants.len() as f64 - expected).abs() < 4.0 * expected.sqrt(),
        "{} for {expected}",
        moss.plants.len()
    );
    for p in moss.plants.iter().step_by(41) {
        let (spot, away) = host.nearest(p.position_m);
        assert!(away < 1e-3, "{}", p.position_m);
        assert!((p.rotation * glam::Vec3::Y).dot(spot.normal) > 0.6, "it stands off the stone");
    }
}

#[test]
fn where_it_faces_up_is_asked_of_the_stone() {
    let (mut document, ground) = (scene(), land());
    let all = grow(&document, &ground, 2).plants.len();
    document.layers[1].masks = vec![Mask::band(MaskId(1), Quantity::Facing, [0.5, 0.5, 1.0, 1.0])];
    let tops = grow(&document, &ground, 2);
    assert!(tops.plants.len() * 2 < all && tops.plants.len() * 10 > all, "{} of {all}", tops.plants.len());
    assert!(tops.plants.iter().all(|p| (p.rotation * glam::Vec3::Y).y > 0.49));
}

#[test]
fn other_boulders_are_another_ground_and_layers_do_not_grow_on_one_another() {
    let document = scene();
    let key = |d: &Document| Keyed::new(d.clone()).layer_key(d.layer(LayerId(2)).unwrap());
    let mut other = document.clone();
    other.layers[0].seed += 1;
    assert_ne!(key(&document), key(&other));
    let mut named = document.clone();
    named.layers[0].name = "Stones".into();
    assert_eq!(key(&document), key(&named));
    let edit = LayerEdit::OnPlants { value: Some(LayerId(2)) };
    let refused = apply(&document, &Command::EditLayer { id: LayerId(1), edit });
    assert!(matches!(refused, Err(Refusal::Cycle { .. })), "{refused:?}");
    // Without the boulders nothing grows, and nothing is lost.
    let gone = apply(&document, &Command::RemoveLayer { id: LayerId(1) }).unwrap();
    assert_eq!(grow(&gone.document, &land(), 2).plants.len(), 0);
    let back = apply(&gone.document, &gone.inverse).unwrap().document;
    assert_eq!(key(&back), key(&document));
}

#[test]
fn too_many_plants_to_grow_on_are_refused_with_their_number() {
    let mut document = scene();
    let one = grow(&document, &land(), 1).plants[0];
    document.layers[0].mix = all_of(SpeciesId("boulder".into()));
    let many = vec![one; 400_000];
    let refused = host_model(&document, &document.layers[0], &many);
    assert!(matches!(refused, Err(GrowError::TooManyHosts { triangles, .. }) if triangles > 3_000_000));
}
