//! Nothing reshuffles that was not touched: the promises of hashed randomness, for every pattern.

use proptest::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, noise_terrain};
use rookery_core::planting::Rules;
use rookery_core::planting::{Plant, PlantId, grow};
use rookery_core::scene::*;
use std::collections::BTreeMap;
use std::sync::LazyLock;

static GROUND: LazyLock<GroundModel> = LazyLock::new(|| {
    let settings =
        NoiseGround { size_m: 60.0, samples: 61, relief_m: 20.0, feature_m: 30.0, ..NoiseGround::default() };
    GroundModel::new(noise_terrain::build(&settings).unwrap(), Some(0.0), 1)
});

fn layer(pattern: Pattern, seed: u32, per_m2: f32) -> Layer {
    let mut layer = kittiwake_head().layers.remove(0);
    layer.pattern = pattern;
    layer.seed = seed;
    layer.amount = Amount::PerM2 { value: per_m2 };
    layer.masks.retain(|m| m.zone.is_none());
    layer.clearance = Clearance::default();
    layer
}

/// One whose plants keep clear of one another, many of which fall.
fn crowded(pattern: Pattern, seed: u32, per_m2: f32) -> Layer {
    let own = Keep { by: Reach::Crown, ..Keep::FOOTPRINT };
    Layer { clearance: Clearance { own, ..Clearance::default() }, ..layer(pattern, seed, per_m2) }
}

fn plants(layer: &Layer) -> Vec<Plant> {
    grow(&GROUND, layer, &CancelToken::default()).unwrap().plants
}

fn by_id(plants: Vec<Plant>) -> BTreeMap<PlantId, Plant> {
    let count = plants.len();
    let map: BTreeMap<_, _> = plants.into_iter().map(|p| (p.id, p)).collect();
    assert_eq!(map.len(), count, "two plants share an id");
    map
}

fn pattern() -> impl Strategy<Value = Pattern> {
    prop_oneof![Just(Pattern::Random), Just(Pattern::Even)]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn one_thread_and_many_grow_the_same_plants(p in pattern(), seed: u32, per_m2 in 0.1_f32..6.0, clear: bool) {
        let layer = if clear { crowded(p, seed, per_m2) } else { layer(p, seed, per_m2) };
        let on = |threads| {
            let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
            pool.install(|| plants(&layer))
        };
        let one = on(1);
        prop_assert!(!one.is_empty());
        prop_assert_eq!(&one, &on(4));
    }

    #[test]
    fn a_larger_amount_only_adds_plants(p in pattern(), seed: u32, per_m2 in 0.05_f32..4.0, more in 1.01_f32..3.0, total: bool, clear: bool) {
        let amount = |v: f32| if total { Amount::Total { value: (v * 1000.0) as u32 } } else { Amount::PerM2 { value: v } };
        let own = if clear { crowded } else { layer };
        let few = by_id(plants(&Layer { amount: amount(per_m2), ..own(p, seed, 1.0) }));
        let many = by_id(plants(&Layer { amount: amount(per_m2 * more), ..own(p, seed, 1.0) }));
        prop_assert!(many.len() >= few.len());
        for (id, plant) in &few {
            prop_assert_eq!(Some(plant), many.get(id));
        }
    }

    #[test]
    fn size_turn_and_tilt_move_nothing_and_leave_each_other_alone(p in pattern(), seed: u32, size in 0.1_f32..5.0, turn in -90.0_f32..90.0, tilt in 0.0_f32..40.0) {
        let before = layer(p, seed, 2.0);
        let base = plants(&before);
        let with = |change: &dyn Fn(&mut Stance)| {
            let mut changed = before.clone();
            change(&mut changed.stance);
            plants(&changed)
        };
        let sized = with(&|s| s.size = Range { min: size, max: size * 1.5 });
        let turned = with(&|s| s.turn_deg = Range { min: turn, max: turn + 20.0 });
        let tilted = with(&|s| s.tilt_deg = tilt);
        prop_assert_eq!(base.len(), sized.len());
        for (((b, s), t), l) in base.iter().zip(&sized).zip(&turned).zip(&tilted) {
            for other in [s, t, l] {
                prop_assert_eq!((b.id, b.position_m, b.form, b.tint), (other.id, other.position_m, other.form, other.tint));
            }
            prop_assert_eq!(b.rotation, s.rotation);
            prop_assert_eq!((b.size, b.size), (t.size, l.size));
        }
    }

    #[test]
    fn moving_one_end_of_a_slope_curve_changes_only_plants_whose_mask_value_changed(p in pattern(), seed: u32, end in 5.0_f32..60.0) {
        let mut before = layer(p, seed, 3.0);
        // So that each stands exactly where its masks were read.
        before.stance.sink_m = 0.0;
        let mut after = before.clone();
        let r = &mut after.masks[0].response;
        r.full_to = r.full_to.min(end);
        r.end = end;
        let (old, new) = (by_id(plants(&before)), by_id(plants(&after)));
        for (id, plant) in old.iter().chain(&new) {
            let at = GROUND.spot_at(plant.position_m.x, plant.position_m.z);
            let value = |l: &Layer| Rules::plain(&l.masks).response(0, &*GROUND, &at);
            let same = value(&before) == value(&after);
            if same {
                prop_assert_eq!(old.get(id), new.get(id));
            }
        }
    }

    #[test]
    fn ids_last_through_a_change_of_masks_and_back(p in pattern(), seed: u32) {
        let before = layer(p, seed, 1.5);
        let after = Layer { masks: Vec::new(), ..before.clone() };
        let (old, all) = (by_id(plants(&before)), by_id(plants(&after)));
        prop_assert!(old.iter().all(|(id, plant)| all.get(id) == Some(plant)));
    }

    #[test]
    fn every_place_that_was_looked_at_is_accounted_for(p in pattern(), seed: u32, per_m2 in 0.1_f32..4.0, cap in 1_u32..4000, clear: bool) {
        let own = if clear { crowded } else { layer };
        let layer = Layer { cap, ..own(p, seed, per_m2) };
        let growth = grow(&GROUND, &layer, &CancelToken::default()).unwrap();
        let refused: u64 = growth.tally.refused.iter().map(|r| r.count).sum();
        prop_assert_eq!(growth.tally.placed + refused, growth.tally.candidates);
        prop_assert_eq!(growth.tally.per_species.iter().sum::<u64>(), growth.tally.placed);
        prop_assert_eq!(growth.tally.candidates, (f64::from(per_m2) * 3600.0).round() as u64);
        prop_assert!(growth.tally.placed <= u64::from(cap));
        prop_assert_eq!(growth.tally.placed as usize, growth.plants.len());
    }

    #[test]
    fn turn_tilt_and_sink_move_nothing_where_plants_keep_clear(p in pattern(), seed: u32, sink in -0.5_f32..0.5, tilt in 0.0_f32..40.0) {
        let before = crowded(p, seed, 3.0);
        let mut after = before.clone();
        (after.stance.sink_m, after.stance.tilt_deg, after.stance.turn_deg) = (sink, tilt, Range { min: 3.0, max: 9.0 });
        let (old, new) = (plants(&before), plants(&after));
        let free = plants(&Layer { clearance: Clearance::default(), ..before.clone() });
        prop_assert!(old.len() < free.len());
        prop_assert_eq!(old.iter().map(|p| p.id).collect::<Vec<_>>(), new.iter().map(|p| p.id).collect::<Vec<_>>());
    }

    #[test]
    fn a_total_is_met_exactly_where_the_ground_allows_it(p in pattern(), seed: u32, total in 0_u32..3000) {
        let layer = Layer { amount: Amount::Total { value: total }, ..layer(p, seed, 1.0) };
        let growth = grow(&GROUND, &layer, &CancelToken::default()).unwrap();
        prop_assert_eq!(growth.plants.len(), total as usize);
        prop_assert_eq!(growth.tally.asked, u64::from(total));
    }

    #[test]
    fn every_plant_stands_on_the_ground_sunk_as_asked(p in pattern(), seed: u32, sink in -0.5_f32..0.5) {
        let mut layer = layer(p, seed, 1.0);
        layer.stance.sink_m = sink;
        let level = Layer { stance: Stance { sink_m: 0.0, tilt_deg: 0.0, ..layer.stance }, ..layer.clone() };
        for (sunk, plant) in plants(&layer).into_iter().zip(plants(&level)) {
            let ground = GROUND.terrain.height_at(plant.position_m.x, plant.position_m.z);
            prop_assert!((ground - plant.position_m.y).abs() < 1e-4);
            let down = plant.rotation * glam::Vec3::Y * -sink;
            prop_assert!(sunk.position_m.distance(plant.position_m + down) < 1e-4);
        }
    }
}
