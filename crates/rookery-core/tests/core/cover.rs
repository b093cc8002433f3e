//! Cover asked for against cover measured by throwing points.

use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, GroundRef, Terrain};
use rookery_core::math::hash::{pcg4d, unit};
use rookery_core::planting::{Plant, grow_everywhere};
use rookery_core::scene::*;

const SIDE_M: f32 = 30.0;

fn grown(pattern: Pattern, cover: f32, size: Range) -> (Vec<Plant>, f32) {
    let terrain = Terrain::new(31, 31, glam::Vec2::ONE, vec![0.0; 31 * 31]).unwrap();
    let ground = GroundModel::new(terrain, None, 1);
    let mut document = bare();
    let species = document.nursery().into_iter().find(|s| s.id.0 == "thrift").unwrap().clone();
    let mut layer = Layer::usual(&species, LayerId(1), "Thrift");
    (layer.pattern, layer.amount, layer.masks) = (pattern, Amount::Cover { value: cover }, Vec::new());
    layer.stance.size = size;
    // What is asked for is what grows where plants find room; here all do.
    layer.clearance = Clearance::default();
    document.layers = vec![layer.clone()];
    let model = |_| Some(GroundRef::Terrain(&ground));
    let growth = grow_everywhere(&document, &layer, &model, &|_| None, &CancelToken::default()).unwrap();
    (growth.plants, species.radius_m())
}

/// Share of points under at least one crown, away from the edge, where plants from beyond would reach in.
fn measured(plants: &[Plant], radius_m: f32) -> f32 {
    let inner = SIDE_M * 0.5 - 2.0;
    let points = 20_000_u32;
    let under = (0..points).filter(|i| {
        let [x, z, ..] = pcg4d([*i, 3, 5, 7]).map(|n| (unit(n) * 2.0 - 1.0) * inner);
        plants.iter().any(|p| {
            let (dx, dz, r) = (p.position_m.x - x, p.position_m.z - z, p.size * radius_m);
            dx * dx + dz * dz <= r * r
        })
    });
    under.count() as f32 / points as f32
}

/// Source: the Boolean model, Stoyan, Kendall & Mecke: cover is 1 - exp(-density x mean crown area).
#[test]
fn plants_at_random_cover_what_was_asked_for() {
    for cover in [0.1, 0.35, 0.6, 0.85] {
        let (plants, radius) = grown(Pattern::Random, cover, Range { min: 0.6, max: 1.4 });
        let got = measured(&plants, radius);
        assert!((got - cover).abs() < 0.03, "{got} for {cover}");
    }
}

#[test]
fn even_plants_cover_what_was_asked_for() {
    for (cover, size) in
        [(0.1, 1.0), (0.35, 1.0), (0.6, 1.0), (0.8, 1.0), (0.95, 1.0), (0.4, 0.6), (0.8, 0.6)]
    {
        let (plants, radius) = grown(Pattern::Even, cover, Range { min: size, max: 2.0 - size });
        let got = measured(&plants, radius);
        assert!((got - cover).abs() < 0.025, "{got} for {cover} with sizes from {size}");
    }
}

/// Half as large, four times as many: the ground stays as covered.
#[test]
fn cover_is_held_when_plants_shrink() {
    let (large, radius) = grown(Pattern::Random, 0.4, Range { min: 1.0, max: 1.0 });
    let (small, _) = grown(Pattern::Random, 0.4, Range { min: 0.5, max: 0.5 });
    let ratio = small.len() as f32 / large.len() as f32;
    assert!((ratio - 4.0).abs() < 0.05, "{ratio}");
    assert!((measured(&small, radius) - measured(&large, radius)).abs() < 0.04);
}

#[test]
fn clumps_cover_what_was_asked_for() {
    for cover in [0.1, 0.35, 0.6] {
        let (plants, radius) = grown(Pattern::Clumped, cover, Range { min: 1.0, max: 1.0 });
        let got = measured(&plants, radius);
        assert!((got - cover).abs() < 0.05, "{got} for {cover}");
    }
}
