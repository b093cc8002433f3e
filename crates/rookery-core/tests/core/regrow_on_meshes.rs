//! Growing again within a part of the plan is growing anew, on a mesh that stands turned somewhere in the scene.

use glam::Vec3;
use proptest::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundRef, MeshModel, MeshStanding, PlanBoxes, made};
use rookery_core::habitat::{Given, reach_of_stroke};
use rookery_core::planting::Growth;
use rookery_core::planting::Rules;
use rookery_core::scene::*;
use std::sync::LazyLock;

const PLANET: PlanetGround = PlanetGround { radius_m: 14.0, relief: 0.25, seed: 5, faces: 24 };
const ID: GroundId = GroundId(1);

static MODEL: LazyLock<MeshModel> = LazyLock::new(|| {
    let standing = MeshStanding {
        base_m: 0.0,
        upright: Upright::Centre,
        earths: Earths::default(),
        water_m: None,
        seed: 1,
    };
    MeshModel::new(&made::planet(&PLANET), &standing).unwrap()
});

/// A painted layer on the planet, whose plants keep clear of one another where that is asked for.
fn painted(strokes: Vec<PaintStroke>, pattern: Pattern, crowded: bool) -> Document {
    let mut document = kittiwake_head();
    document.grounds = vec![PlacedGround {
        id: ID,
        name: "Pebble".into(),
        source: PlacedSource::Planet(PLANET),
        x_m: 40.0,
        y_m: 20.0,
        z_m: -25.0,
        turn_deg: 35.0,
        scale: 1.0,
        upright: Upright::Centre,
        earths: Earths::default(),
        strokes: Vec::new(),
        hidden: false,
        moves: None,
    }];
    document.paints = vec![Paint { id: PaintId(1), name: "Turf".into(), bare: 0.3, strokes }];
    let layer = &mut document.layers[0];
    layer.grounds = vec![ID];
    layer.masks = vec![
        Mask { paint: Some(PaintId(1)), ..Mask::band(MaskId(1), Quantity::Painted, [0.0, 1.0, 1.0, 1.0]) },
        Mask::band(MaskId(2), Quantity::Slope, [0.0, 0.0, 40.0, 60.0]),
    ];
    let own = Keep { by: Reach::Crown, ..Keep::FOOTPRINT };
    layer.clearance = if crowded { Clearance { own, ..Clearance::default() } } else { Clearance::default() };
    (layer.pattern, layer.amount, layer.cap) = (pattern, Amount::PerM2 { value: 1.5 }, 100_000);
    document
}

fn rules(document: &Document) -> Rules {
    Rules::on(document, &document.layers[0], ID, &[], &Given::default())
}

fn stroke(id: u32) -> impl Strategy<Value = PaintStroke> {
    let tools = [PaintTool::Add, PaintTool::Erase, PaintTool::Soften];
    let ways = prop::collection::vec(prop::array::uniform3(-1.0_f32..1.0), 1..3);
    (prop::sample::select(tools.to_vec()), 1.0_f32..8.0, ways).prop_map(move |(tool, radius_m, ways)| {
        // Points about the planet where it stands.
        let at = |way: [f32; 3]| {
            (Vec3::from(way).normalize_or(Vec3::Y) * PLANET.radius_m + Vec3::new(40.0, 20.0, -25.0))
                .to_array()
        };
        PaintStroke {
            id: PaintStrokeId(id),
            tool,
            radius_m,
            strength: 0.9,
            falloff: 0.5,
            ragged: 0.3,
            points: ways.into_iter().map(at).collect(),
            pressures: Vec::new(),
        }
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn a_stroke_of_the_brush_changes_plants_within_its_reach_only(
        first in stroke(1), last in stroke(2), crowded: bool,
        pattern in prop::sample::select(vec![Pattern::Random, Pattern::Even, Pattern::Clumped, Pattern::Vertices])
    ) {
        let never = CancelToken::default();
        let ground = GroundRef::Mesh(&MODEL);
        let (was, now) = (painted(vec![first.clone()], pattern, crowded), painted(vec![first, last.clone()], pattern, crowded));
        let mut even = ground.no_even_places(was.layers[0].seed);
        let before = ground.grow(&was.layers[0], &rules(&was), &mut even, &never).unwrap();
        let reach = PlanBoxes::from(reach_of_stroke(&last));
        let again: Growth =
            ground.regrow(&now.layers[0], &rules(&now), &mut even, &before, &reach, &never).unwrap();
        let anew = ground.grow(&now.layers[0], &rules(&now), &mut ground.no_even_places(now.layers[0].seed), &never).unwrap();
        prop_assert_eq!(&again.tally, &anew.tally);
        prop_assert_eq!(&again.plants, &anew.plants);
        prop_assert!(again.spans().is_some(), "it was grown from what was there");
    }
}

#[test]
fn what_lies_beyond_the_reach_is_kept() {
    let never = CancelToken::default();
    let ground = GroundRef::Mesh(&MODEL);
    let dab = PaintStroke {
        id: PaintStrokeId(1),
        tool: PaintTool::Erase,
        radius_m: 4.0,
        strength: 1.0,
        falloff: 0.5,
        ragged: 0.0,
        points: vec![[54.0, 20.0, -25.0]],
        pressures: Vec::new(),
    };
    let (was, now) =
        (painted(vec![], Pattern::Even, false), painted(vec![dab.clone()], Pattern::Even, false));
    let mut even = ground.no_even_places(was.layers[0].seed);
    let before = ground.grow(&was.layers[0], &rules(&was), &mut even, &never).unwrap();
    let reach = PlanBoxes::from(reach_of_stroke(&dab));
    let again = ground.regrow(&now.layers[0], &rules(&now), &mut even, &before, &reach, &never).unwrap();
    let kept: usize = again.spans().unwrap().iter().map(|s| s.kept.len()).sum();
    assert!(again.plants.len() < before.plants.len(), "some fell");
    assert!(kept * 10 > again.plants.len() * 8, "{kept} of {} are kept", again.plants.len());
}
