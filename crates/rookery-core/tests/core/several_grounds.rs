//! A layer on several grounds: amounts are shared out, plants go with a ground that moves, and each ground keeps its own.

use proptest::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::made::{arch, planet};
use rookery_core::ground::{AnyGround, GroundModel, GroundRef, MeshModel, MeshStanding, noise_terrain};
use rookery_core::planting::{Growth, grow_everywhere};
use rookery_core::scene::*;
use std::collections::BTreeSet;
use std::sync::LazyLock;

const BALL: GroundId = GroundId(4);

fn placed(id: GroundId, source: PlacedSource) -> PlacedGround {
    PlacedGround {
        id,
        name: "Ground".into(),
        source,
        x_m: 30.0,
        y_m: 20.0,
        z_m: -10.0,
        turn_deg: 40.0,
        scale: 1.0,
        upright: Upright::Gravity,
        earths: Earths::default(),
        strokes: Vec::new(),
        hidden: false,
        moves: None,
    }
}

fn document() -> Document {
    let mut d = bare();
    let planet = PlanetGround { radius_m: 8.0, faces: 24, ..PlanetGround::default() };
    d.grounds.push(placed(BALL, PlacedSource::Planet(planet)));
    let mut layer = kittiwake_head().layers.remove(0);
    layer.masks = Vec::new();
    layer.amount = Amount::PerM2 { value: 0.4 };
    d.layers.push(layer);
    d
}

static LAND: LazyLock<GroundModel> = LazyLock::new(|| {
    let noise = NoiseGround { size_m: 40.0, samples: 41, ..NoiseGround::default() };
    GroundModel::new(noise_terrain::build(&noise).unwrap(), None, 1)
});

static MESH: LazyLock<AnyGround> = LazyLock::new(|| {
    let standing = MeshStanding {
        base_m: 20.0,
        upright: Upright::Gravity,
        earths: Earths::default(),
        water_m: None,
        seed: 1,
    };
    let surface = planet(&PlanetGround { radius_m: 8.0, faces: 24, ..PlanetGround::default() });
    AnyGround::Mesh(MeshModel::new(&surface, &standing).unwrap())
});

fn model(id: GroundId) -> Option<GroundRef<'static>> {
    match id {
        GroundId::LAND => Some((&*LAND).into()),
        BALL => Some(MESH.as_ref()),
        _ => None,
    }
}

fn grow(d: &Document) -> Growth {
    grow_everywhere(d, &d.layers[0], &model, &|_| None, &CancelToken::default()).unwrap()
}

fn on(growth: &Growth, id: GroundId) -> usize {
    growth.plants.iter().filter(|p| p.ground == id).count()
}

#[test]
fn a_layer_grows_on_every_ground_or_on_those_it_chooses() {
    let mut d = document();
    let all = grow(&d);
    let ball_m2 = match &*MESH {
        AnyGround::Mesh(m) => m.true_area_m2(),
        AnyGround::Terrain(_) => unreachable!("it is a mesh"),
    };
    assert_eq!((on(&all, GroundId::LAND), on(&all, BALL)), (640, (ball_m2 * 0.4).round() as usize));
    assert_eq!(all.tally.placed, all.plants.len() as u64);
    assert!((all.tally.ground_m2 - 1600.0 - ball_m2).abs() < 1e-6);
    d.layers[0].grounds = vec![BALL];
    assert_eq!((on(&grow(&d), GroundId::LAND), on(&grow(&d), BALL)), (0, on(&all, BALL)));
    d.layers[0].grounds = vec![GroundId(77)];
    assert_eq!(grow(&d).plants.len(), 0, "a ground that is not there grows nothing");
    d.layers[0].grounds.clear();
    d.grounds[0].hidden = true;
    assert_eq!(on(&grow(&d), BALL), 0, "nothing is seen on a hidden ground");
    d.ground.absent = true;
    assert_eq!(grow(&d).plants.len(), 0);
}

#[test]
fn plants_go_with_a_ground_that_moves_and_turns() {
    let mut d = document();
    d.layers[0].grounds = vec![BALL];
    let before = grow(&d);
    let there = d.frame(BALL);
    (d.grounds[0].x_m, d.grounds[0].turn_deg) = (-4.0, -75.0);
    let (after, here) = (grow(&d), d.frame(BALL));
    assert_eq!(before.plants.len(), after.plants.len());
    for (old, new) in before.plants.iter().zip(&after.plants) {
        assert_eq!((old.id, old.size, old.form), (new.id, new.size, new.form));
        assert!(there.local(old.position_m).distance(here.local(new.position_m)) < 1e-4);
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]

    #[test]
    fn a_total_over_several_grounds_is_met_and_more_only_adds(total in 1_u32..900, seed: u32) {
        let mut d = document();
        d.layers[0].seed = seed;
        let names = |d: &Document| -> BTreeSet<_> {
            grow(d).plants.iter().map(|p| (p.ground, p.id)).collect()
        };
        d.layers[0].amount = Amount::Total { value: total };
        let few = names(&d);
        prop_assert_eq!(few.len(), total as usize);
        d.layers[0].amount = Amount::Total { value: total + 37 };
        prop_assert!(few.is_subset(&names(&d)));
        d.layers[0].cap = total;
        prop_assert_eq!(names(&d), few, "a cap keeps the first of each ground");
    }
}

#[test]
fn the_needle_arch_grows_on_its_back_and_not_under_it() {
    let d = needle_arch();
    let PlacedSource::Arch(settings) = &d.grounds[0].source else { panic!("it is an arch") };
    let standing = MeshStanding {
        base_m: d.grounds[0].y_m,
        upright: Upright::Gravity,
        earths: Earths::default(),
        water_m: d.ground.water_m,
        seed: 1,
    };
    let m = MeshModel::new(&arch(&ArchGround { detail_m: 0.8, ..*settings }), &standing).unwrap();
    let grown =
        grow_everywhere(&d, &d.layers[0], &|_| Some(GroundRef::Mesh(&m)), &|_| None, &CancelToken::default())
            .unwrap();
    assert!(grown.plants.len() > 300, "{} plants", grown.plants.len());
    let frame = d.frame(d.grounds[0].id);
    for p in &grown.plants {
        let (spot, _) = m.nearest(frame.local(p.position_m));
        assert!(spot.normal.y > 0.5, "a plant at {} stands on a wall", p.position_m);
    }
}
