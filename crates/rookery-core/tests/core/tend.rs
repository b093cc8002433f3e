//! Plants set and spots cleared by hand stay through every other change.

use glam::{Vec2, Vec3};
use proptest::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, GroundRef, PlanBox, Surface, Terrain, noise_terrain};
use rookery_core::habitat::Given;
use rookery_core::planting::Rules;
use rookery_core::planting::{
    Growth, Plant, Reason, grow_everywhere, grow_with, pose_in, regrow, tended_number,
};
use rookery_core::scene::*;
use std::sync::LazyLock;

static HILLS: LazyLock<GroundModel> = LazyLock::new(|| {
    let noise = NoiseGround { size_m: 60.0, samples: 61, relief_m: 25.0, ..NoiseGround::default() };
    GroundModel::new(noise_terrain::build(&noise).unwrap(), None, 1)
});

fn scene() -> Document {
    let mut document = bare();
    let thrift = document.species(&SpeciesId("thrift".into())).unwrap().clone();
    let mut layer = Layer::usual(&thrift, LayerId(1), "Thrift");
    (layer.masks, layer.pattern, layer.amount) = (Vec::new(), Pattern::Random, Amount::PerM2 { value: 2.0 });
    layer.clearance.own.by = Reach::Crown;
    document.layers = vec![layer];
    document
}

fn grown(document: &Document, ground: &GroundModel) -> Growth {
    let model = |_| Some(GroundRef::Terrain(ground));
    grow_everywhere(document, &document.layers[0], &model, &|_| None, &CancelToken::default()).unwrap()
}

fn tend(document: &Document, put: Vec<Tended>, let_go: Vec<TendedId>) -> Applied {
    let edit = LayerEdit::Tend { put, let_go };
    apply(document, &Command::EditLayer { id: LayerId(1), edit }).unwrap()
}

/// A plant as it stands, set by hand.
fn taken(document: &Document, ground: &GroundModel, plant: &Plant, id: u32) -> Tended {
    let layer = &document.layers[0];
    let (at_m, pose) = pose_in(&GroundRef::Terrain(ground), &document.frame(GroundId::LAND), layer, plant);
    let from = Some(Origin::new(layer.seed, plant.id));
    Tended {
        id: TendedId(id),
        ground: GroundId::LAND,
        at_m: at_m.into(),
        from,
        plant: Some(pose),
        room_m: 0.0,
    }
}

fn by_hand(growth: &Growth) -> Vec<&Plant> {
    growth.plants.iter().filter(|p| tended_number(p.id).is_some()).collect()
}

#[test]
fn a_plant_that_is_taken_in_hand_stands_exactly_as_it_stood_and_only_once() {
    let (document, ground) = (scene(), &*HILLS);
    let before = grown(&document, ground);
    for plant in before.plants.iter().step_by(97) {
        let applied = tend(&document, vec![taken(&document, ground, plant, 1)], Vec::new());
        let after = grown(&applied.document, ground);
        assert_eq!((after.plants.len(), after.tally.by_hand), (before.plants.len(), 1));
        let now = by_hand(&after)[0];
        assert!(
            now.position_m.distance(plant.position_m) < 2e-3,
            "{} for {}",
            now.position_m,
            plant.position_m
        );
        for v in [Vec3::X, Vec3::Y] {
            assert!((now.rotation * v).distance(plant.rotation * v) < 5e-3);
        }
        assert_eq!(
            (now.size, now.form, now.tint, now.colour),
            (plant.size, plant.form, plant.tint, plant.colour)
        );
        assert!(after.plants.iter().all(|p| p.id != plant.id));
        assert_eq!(after.tally.refused.iter().find(|r| r.reason == Reason::Tended).unwrap().count, 1);
        assert_eq!(apply(&applied.document, &applied.inverse).unwrap().document, document);
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(16))]

    /// New seeds, amounts, masks and patterns come and go: what was set stands, what was cleared is clear, and neighbours keep away.
    #[test]
    fn tending_survives_every_other_change(
        seed: u32, per_m2 in 0.2_f32..6.0, slope in 5.0_f32..60.0, even: bool, x in -20.0_f32..20.0, z in -20.0_f32..20.0,
        size in 0.5_f32..3.0,
    ) {
        let (document, ground) = (scene(), &*HILLS);
        let first = grown(&document, ground);
        let mut moved = taken(&document, ground, &first.plants[5], 3);
        moved.at_m = [x, 0.0, z];
        moved.plant.as_mut().unwrap().size = size;
        let spot = first.plants.iter().find(|p| Vec2::new(p.position_m.x - x, p.position_m.z - z).length() > 12.0).unwrap();
        let mut cleared = taken(&document, ground, spot, 8);
        (cleared.plant, cleared.room_m) = (None, 2.5);
        let mut document = tend(&document, vec![moved, cleared], Vec::new()).document;
        let set = *by_hand(&grown(&document, ground))[0];
        prop_assert!((set.position_m.x - x).abs() < 1e-3 && (set.position_m.z - z).abs() < 1e-3);
        let layer = &mut document.layers[0];
        (layer.seed, layer.amount) = (seed, Amount::PerM2 { value: per_m2 });
        layer.masks = vec![Mask::band(MaskId(1), Quantity::Slope, [0.0, 0.0, slope, slope + 5.0])];
        layer.pattern = if even { Pattern::Even } else { Pattern::Random };
        let after = grown(&document, ground);
        prop_assert_eq!(by_hand(&after), vec![&set]);
        let radius = document.species(&SpeciesId("thrift".into())).unwrap().radius_m();
        for p in after.plants.iter().filter(|p| p.id != set.id) {
            let apart = Vec2::new(p.position_m.x - spot.position_m.x, p.position_m.z - spot.position_m.z).length();
            prop_assert!(apart >= 2.5 - 1e-3, "one stands {apart} m from the middle of the cleared spot");
            let foot = |q: &Plant| Vec3::new(q.position_m.x, ground.terrain.height_at(q.position_m.x, q.position_m.z), q.position_m.z);
            let room = (p.size + set.size) * radius;
            prop_assert!(foot(p).distance(set.position_m) >= room - 0.05, "{} for {room}", foot(p).distance(set.position_m));
        }
        prop_assert_eq!(after.tally.placed as usize, after.plants.len());
    }

    #[test]
    fn putting_and_letting_go_is_taken_back_exactly(ids in prop::collection::vec((1_u32..12, -20.0_f32..20.0), 1..20), gone in prop::collection::vec(1_u32..12, 0..4)) {
        let (document, ground) = (scene(), &*HILLS);
        let plant = grown(&document, ground).plants[0];
        let one = |id: u32, x: f32| Tended { at_m: [x, 0.0, 1.0], ..taken(&document, ground, &plant, id) };
        let mut now = tend(&document, (1..12).step_by(3).map(|id| one(id, 0.0)).collect(), Vec::new()).document;
        for chunk in ids.chunks(3) {
            let let_go: Vec<TendedId> = gone.iter().map(|id| TendedId(*id)).filter(|id| now.layers[0].tended.iter().any(|t| t.id == *id)).collect();
            let mut unique = let_go.clone();
            unique.sort_unstable();
            unique.dedup();
            let chunk: std::collections::BTreeMap<u32, f32> = chunk.iter().copied().collect();
            let applied = tend(&now, chunk.into_iter().map(|(id, x)| one(id, x)).collect(), unique);
            prop_assert_eq!(&apply(&applied.document, &applied.inverse).unwrap().document, &now);
            now = applied.document;
        }
    }
}

#[test]
fn a_set_plant_follows_the_ground_when_it_is_sculpted() {
    let document = scene();
    let level =
        |y: f32| GroundModel::new(Terrain::new(61, 61, Vec2::ONE, vec![y; 61 * 61]).unwrap(), None, 1);
    let (low, high) = (level(0.0), level(7.0));
    let plant = grown(&document, &low).plants[3];
    let mut set = taken(&document, &low, &plant, 1);
    set.plant.as_mut().unwrap().lift_m = 0.25;
    let document = tend(&document, vec![set], Vec::new()).document;
    let heights = [&low, &high].map(|g| by_hand(&grown(&document, g))[0].position_m.y);
    assert!((heights[0] - 0.25).abs() < 1e-4 && (heights[1] - 7.25).abs() < 1e-4, "{heights:?}");
}

/// A plant set large is made small: more grow around it than stood before, and what is told of the change holds.
#[test]
fn what_changed_is_told_when_more_grow_around_a_smaller_plant() {
    let (document, ground) = (scene(), &*HILLS);
    let mut set = taken(&document, ground, &grown(&document, ground).plants[5], 1);
    let rules = |d: &Document| Rules::on(d, &d.layers[0], GroundId::LAND, &[], &Given::default());
    let with = |size: f32, set: &mut Tended| {
        set.plant.as_mut().unwrap().size = size;
        tend(&document, vec![set.clone()], Vec::new()).document
    };
    let (large, small) = (with(40.0, &mut set), with(0.5, &mut set));
    let (never, mut even) = (CancelToken::default(), ground.no_even_places(1));
    let before = grow_with(ground, &large.layers[0], &rules(&large), &mut even, &never).unwrap();
    let at = Vec2::new(set.at_m[0], set.at_m[2]);
    let reach = PlanBox { low: at - 30.0, high: at + 30.0 };
    let layer = &small.layers[0];
    let after = regrow(ground, layer, &rules(&small), &mut even, &before, &reach.into(), &never).unwrap();
    assert_eq!(after.plants, grow_with(ground, layer, &rules(&small), &mut even, &never).unwrap().plants);
    assert!(after.plants.len() > before.plants.len() + 5);
    let mut told = Vec::new();
    for span in after.spans().unwrap() {
        told.extend_from_slice(&before.plants[span.kept.clone()]);
        told.extend_from_slice(&after.plants[told.len()..told.len() + span.grown]);
    }
    assert_eq!(told, after.plants);
}

#[test]
fn what_cannot_be_is_refused() {
    let (document, ground) = (scene(), &*HILLS);
    let plant = grown(&document, ground).plants[0];
    let good = taken(&document, ground, &plant, 1);
    let refused = |change: &dyn Fn(&mut Tended)| {
        let mut bad = good.clone();
        change(&mut bad);
        let edit = LayerEdit::Tend { put: vec![bad], let_go: Vec::new() };
        apply(&document, &Command::EditLayer { id: LayerId(1), edit }).unwrap_err().to_string()
    };
    assert!(refused(&|t| t.plant.as_mut().unwrap().size = 0.0).contains("the size of a tended plant"));
    assert!(refused(&|t| t.from.as_mut().unwrap().name = "marram".into()).contains("16 hexadecimal digits"));
    assert!(refused(&|t| t.room_m = f32::NAN).contains("stays clear"));
    let edit = LayerEdit::Tend { put: vec![good.clone(), good.clone()], let_go: Vec::new() };
    let twice = apply(&document, &Command::EditLayer { id: LayerId(1), edit }).unwrap_err().to_string();
    assert!(twice.contains("tended plant"), "{twice}");
    let edit = LayerEdit::Tend { put: Vec::new(), let_go: vec![TendedId(4)] };
    let missing = apply(&document, &Command::EditLayer { id: LayerId(1), edit }).unwrap_err().to_string();
    assert!(missing.contains("tended plant"), "{missing}");
}
