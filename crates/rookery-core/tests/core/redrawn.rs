//! A curve drawn anew: growing again is growing anew, on every ground and with every pattern.

use proptest::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, MeshModel, MeshStanding, Surface, made, noise_terrain};
use rookery_core::habitat::Given;
use rookery_core::planting::Rules;
use rookery_core::planting::{Growth, grow_with, regrow_curves};
use rookery_core::scene::*;
use std::sync::LazyLock;

static LAND: LazyLock<GroundModel> = LazyLock::new(|| {
    let settings =
        NoiseGround { size_m: 60.0, samples: 61, relief_m: 20.0, feature_m: 30.0, ..NoiseGround::default() };
    GroundModel::new(noise_terrain::build(&settings).unwrap(), Some(0.0), 1)
});

static PLANET: LazyLock<MeshModel> = LazyLock::new(|| {
    let surface =
        made::planet(&PlanetGround { radius_m: 12.0, relief: 0.3, faces: 12, ..PlanetGround::default() });
    let standing = MeshStanding {
        base_m: 0.0,
        upright: Upright::Centre,
        earths: Earths::default(),
        water_m: None,
        seed: 1,
    };
    MeshModel::new(&surface, &standing).unwrap()
});

const PATTERNS: [Pattern; 6] =
    [Pattern::Random, Pattern::Even, Pattern::Clumped, Pattern::Rows, Pattern::Vertices, Pattern::Faces];

/// A band of slopes, one of noise, one beside a ball, and one of altitude that drives the size.
fn document(curves: [[f32; 4]; 4], pattern: Pattern, seed: u32, amount: Amount, crowded: bool) -> Document {
    let mut document = kittiwake_head();
    let layer = &mut document.layers[0];
    let mask = |id: u32, quantity, curve| Mask::band(MaskId(id), quantity, curve);
    let ball = Near::Ball { at_m: [3.0, 2.0, -4.0], radius_m: 5.0 };
    layer.masks = vec![
        mask(1, Quantity::Slope, curves[0].map(|v| v * 60.0)),
        Mask { noise: Some(NoiseMask::default()), ..mask(2, Quantity::Noise, curves[1]) },
        Mask {
            near: Some(ball),
            combine: Combine::Highest,
            ..mask(3, Quantity::Distance, curves[2].map(|v| v * 30.0))
        },
        Mask {
            drives: Drives::Size { low: 0.4, high: 1.6 },
            ..mask(4, Quantity::Altitude, curves[3].map(|v| v * 15.0))
        },
    ];
    let own = Keep { by: Reach::Crown, ..Keep::FOOTPRINT };
    layer.clearance = if crowded { Clearance { own, ..Clearance::default() } } else { Clearance::default() };
    (layer.pattern, layer.seed, layer.amount, layer.cap) = (pattern, seed, amount, 900);
    document
}

fn curve() -> impl Strategy<Value = [f32; 4]> {
    prop::array::uniform4(0.0_f32..1.0).prop_map(|mut ends| {
        ends.sort_by(f32::total_cmp);
        ends
    })
}

fn amount() -> impl Strategy<Value = Amount> {
    prop_oneof![
        (0.05_f32..1.5).prop_map(|value| Amount::PerM2 { value }),
        (1_u32..1500).prop_map(|value| Amount::Total { value }),
    ]
}

fn again_and_anew<S: Surface>(ground: &S, before: &Document, after: &Document) -> [Growth; 2] {
    let never = CancelToken::default();
    let rules = |d: &Document| Rules::on(d, &d.layers[0], GroundId::LAND, &[], &Given::default());
    let (was, now) = (rules(before), rules(after));
    let layer = &after.layers[0];
    let mut even = ground.no_even_places(layer.seed);
    let old = grow_with(ground, &before.layers[0], &was, &mut even, &never).unwrap();
    let again = regrow_curves(ground, layer, &now, &mut even, (&old, &was), &never).unwrap();
    [again, grow_with(ground, layer, &now, &mut ground.no_even_places(layer.seed), &never).unwrap()]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    #[test]
    fn growing_again_is_growing_anew(
        before in prop::array::uniform4(curve()), after in prop::array::uniform4(curve()),
        drawn in prop::array::uniform4(any::<bool>()),
        pattern in prop::sample::select(PATTERNS.to_vec()), seed: u32, amount in amount(),
        crowded: bool, on_planet: bool,
    ) {
        let mut curves = before;
        for i in (0..4).filter(|i| drawn[*i]) {
            curves[i] = after[i];
        }
        let scene = |curves| document(curves, pattern, seed, amount, crowded);
        let (before, after) = (scene(before), scene(curves));
        let [again, anew] = if on_planet {
            again_and_anew(&*PLANET, &before, &after)
        } else {
            again_and_anew(&*LAND, &before, &after)
        };
        prop_assert_eq!(&again.tally, &anew.tally);
        prop_assert_eq!(&again.plants, &anew.plants);
    }
}

#[test]
fn what_stands_between_neither_curve_is_kept_as_it_is() {
    let full = [0.0, 0.0, 1.0, 1.0];
    let scene = |to: f32| {
        document(
            [[0.0, 0.0, to, to], full, full, full],
            Pattern::Even,
            7,
            Amount::PerM2 { value: 0.5 },
            false,
        )
    };
    let mut wide = scene(0.5);
    wide.layers[0].masks.truncate(1);
    wide.layers[0].cap = 100_000;
    let mut narrow = scene(0.45);
    narrow.layers[0].masks.truncate(1);
    narrow.layers[0].cap = 100_000;
    let [again, _] = again_and_anew(&*LAND, &wide, &narrow);
    let spans = again.spans().expect("it is known where its plants come from");
    let kept: usize = spans.iter().map(|s| s.kept.len()).sum();
    assert_eq!(kept, again.plants.len(), "a narrower band adds none");
    assert!(kept > 100 && spans.len() > 3, "{kept} kept in {} runs", spans.len());
}
