//! Growing again under a stroke gives what growing anew gives.

use proptest::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::sculpt::reach_on_plan;
use rookery_core::ground::{GroundModel, Surface, noise_terrain};
use rookery_core::planting::Rules;
use rookery_core::planting::{grow_with, regrow};
use rookery_core::scene::*;
use std::sync::LazyLock;

static GROUND: LazyLock<GroundModel> = LazyLock::new(|| {
    let settings =
        NoiseGround { size_m: 80.0, samples: 121, relief_m: 20.0, feature_m: 30.0, ..NoiseGround::default() };
    GroundModel::new(noise_terrain::build(&settings).unwrap(), Some(0.0), 1)
});

fn tool() -> impl Strategy<Value = SculptTool> {
    use SculptTool::{Flatten, Lower, Raise, Smooth};
    prop_oneof![Just(Raise), Just(Lower), Just(Smooth), Just(Flatten)]
}

fn amount() -> impl Strategy<Value = Amount> {
    prop_oneof![
        (0.2_f32..4.0).prop_map(|value| Amount::PerM2 { value }),
        (1_u32..9000).prop_map(|value| Amount::Total { value }),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn plants_under_a_stroke_are_those_of_the_sculpted_land(
        even: bool,
        amount in amount(),
        cap in prop_oneof![1_u32..6000, Just(1_000_000)],
        tool in tool(),
        radius_m in 0.5_f32..30.0,
        points in prop::collection::vec([-45.0_f32..45.0, -45.0_f32..45.0], 1..4),
        twice: bool,
    ) {
        let mut layer = kittiwake_head().layers.remove(0);
        layer.masks.retain(|m| m.zone.is_none());
        layer.pattern = if even { Pattern::Even } else { Pattern::Random };
        (layer.amount, layer.cap) = (amount, cap);
        let rules = Rules::plain(&layer.masks);
        let never = CancelToken::default();
        let mut places = GROUND.no_even_places(layer.seed);
        let mut land = GROUND.clone();
        let mut growth = grow_with(&land, &layer, &rules, &mut places, &never).unwrap();
        let stroke = Stroke { id: StrokeId(1), tool, radius_m, strength: 1.0, falloff: 0.5, points };
        for _ in 0..=usize::from(twice) {
            let changed = reach_on_plan(&land.terrain, &stroke);
            land = land.sculpted(&stroke);
            growth = regrow(&land, &layer, &rules, &mut places, &growth, &changed.into(), &never).unwrap();
            let anew = grow_with(&land, &layer, &rules, &mut land.no_even_places(layer.seed), &never).unwrap();
            prop_assert_eq!(&growth.tally, &anew.tally);
            prop_assert!(growth.plants == anew.plants);
        }
    }
}
