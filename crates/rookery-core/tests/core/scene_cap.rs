//! The most plants that all layers of a scene may have together.

use glam::Vec2;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, GroundRef, Terrain};
use rookery_core::planting::{Growth, Plant, Reason, grow_everywhere};
use rookery_core::scene::*;

/// A level square of 40 m. Fescue is the lowest and listed first, then hawthorns and boulders.
fn scene() -> Document {
    let mut document = bare();
    for (i, (id, per_m2)) in [("fescue", 3.0), ("hawthorn", 0.05), ("boulder", 0.1)].into_iter().enumerate() {
        let own = document.species(&SpeciesId(id.into())).unwrap().clone();
        let mut layer = Layer::usual(&own, LayerId(i as u32 + 1), id);
        (layer.masks, layer.pattern) = (Vec::new(), Pattern::Random);
        layer.amount = Amount::PerM2 { value: per_m2 };
        layer.clearance = Clearance::default();
        document.layers.push(layer);
    }
    document
}

fn grown(document: &Document) -> [Growth; 3] {
    check_document(document).unwrap();
    let ground = GroundModel::new(Terrain::new(41, 41, Vec2::ONE, vec![0.0; 41 * 41]).unwrap(), None, 1);
    let model = |_| Some(GroundRef::Terrain(&ground));
    [1, 2, 3].map(|id| {
        let layer = document.layer(LayerId(id)).unwrap();
        grow_everywhere(document, layer, &model, &|_| None, &CancelToken::default()).unwrap()
    })
}

fn counts(grown: &[Growth; 3]) -> [u64; 3] {
    grown.each_ref().map(|g| g.tally.placed)
}

#[test]
fn stones_and_the_upper_profile_are_served_first_and_the_rest_is_counted() {
    let free = grown(&scene());
    let [turf, trees, stones] = counts(&free);
    assert_eq!([turf, trees, stones], [4800, 80, 160]);
    for (cap, expected) in [
        (10_000, [4800, 80, 160]),
        (5040, [4800, 80, 160]),
        (1000, [760, 80, 160]),
        (200, [0, 40, 160]),
        (100, [0, 0, 100]),
    ] {
        let capped = grown(&Document { cap: Some(cap), ..scene() });
        assert_eq!(counts(&capped), expected, "cap {cap}");
        for (own, free) in capped.iter().zip(&free) {
            // Those that stand stood there before, and the others are accounted for.
            assert!(own.plants.iter().all(|p: &Plant| free.plants.contains(p)));
            let cut = own.tally.refused.iter().find(|r| r.reason == Reason::Cap).unwrap().count;
            assert_eq!(own.tally.placed + cut, free.tally.placed);
            assert_eq!(cut > 0, u64::from(own.tally.cap) < free.tally.placed);
        }
    }
}

#[test]
fn what_was_set_by_hand_stands_and_is_counted() {
    let mut document = Document { cap: Some(50), ..scene() };
    document.layers[2].amount = Amount::Total { value: 0 };
    let by_hand = serde_json::json!({"id": 1, "at_m": [1.0, 0.0, 2.0], "plant": {"species": "boulder", "size": 1.0, "turn_deg": 0.0}});
    document.layers[2].tended = vec![serde_json::from_value(by_hand).unwrap()];
    assert_eq!(counts(&grown(&document)), [0, 49, 1]);
}

#[test]
fn a_name_of_plants_changes_with_whatever_may_cut_them_and_nothing_else() {
    let keys =
        |d: &Document| [1, 2, 3].map(|id| Keyed::new(d.clone()).layer_key(d.layer(LayerId(id)).unwrap()));
    let differ = |a: &Document, b: &Document| {
        let (a, b) = (keys(a), keys(b));
        [0, 1, 2].map(|i| a[i] != b[i])
    };
    let capped = Document { cap: Some(100), ..scene() };
    assert_eq!(differ(&scene(), &capped), [true; 3]);
    // The hawthorns are served before the turf and after the stones.
    let mut more = capped.clone();
    more.layers[1].amount = Amount::PerM2 { value: 0.2 };
    assert_eq!(differ(&capped, &more), [true, true, false]);
    let mut more = capped.clone();
    more.layers[0].amount = Amount::PerM2 { value: 0.2 };
    assert_eq!(differ(&capped, &more), [true, false, false]);
}

#[test]
fn a_cap_is_set_and_taken_back_and_none_of_nothing_is_allowed() {
    let set = apply(&scene(), &Command::CapScene { value: Some(7) }).unwrap();
    assert_eq!(set.document.cap, Some(7));
    assert_eq!(apply(&set.document, &set.inverse).unwrap().document, scene());
    let refusal = apply(&scene(), &Command::CapScene { value: Some(0) }).unwrap_err();
    assert_eq!(
        refusal.to_string(),
        "the cap of the scene is 0 plants; it must be from 1 to 100000000 plants"
    );
}
