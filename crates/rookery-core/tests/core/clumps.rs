//! The clumped pattern against what is known of the Thomas process.

use glam::{Vec2, Vec3};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, GroundRef, MeshModel, Terrain, made};
use rookery_core::planting::pattern::clumped_candidates;
use rookery_core::planting::{Candidate, grow};
use rookery_core::scene::*;
use std::collections::BTreeMap;

const SIDE_M: f32 = 200.0;
const CLUMPS: Clumps = Clumps { radius_m: 3.0, plants: 9.0 };

fn places(seed: u32, count: usize) -> Vec<Candidate> {
    clumped_candidates(seed, Vec2::splat(SIDE_M), &CLUMPS, count)
}

/// Source: K(t) = pi t^2 + (1 - exp(-t^2 / 4 s^2)) / kappa, Thomas 1949; Moller & Waagepetersen 2003. Points near the edge count as
/// middles only where the whole circle lies inside.
#[test]
fn ripleys_k_is_that_of_the_thomas_process() {
    let count = 9000;
    let density = count as f32 / (SIDE_M * SIDE_M);
    let kappa = density / CLUMPS.plants;
    let sigma = CLUMPS.sigma_m();
    let reaches = [1.0_f32, 2.0, 4.0, 8.0];
    let mut k = [0.0_f64; 4];
    let seeds = 6;
    for seed in 0..seeds {
        let all: Vec<Vec2> = places(seed + 3, count).iter().map(|c| Vec2::new(c.x, c.z)).collect();
        let inner: Vec<&Vec2> = all.iter().filter(|p| p.abs().max_element() < SIDE_M * 0.5 - 8.0).collect();
        for (i, t) in reaches.iter().enumerate() {
            let pairs: usize =
                inner.iter().map(|p| all.iter().filter(|q| p.distance(**q) <= *t).count() - 1).sum();
            k[i] += pairs as f64 / inner.len() as f64 / f64::from(density) / f64::from(seeds);
        }
    }
    for (got, t) in k.iter().zip(reaches) {
        let expected = std::f32::consts::PI * t * t + (1.0 - (-t * t / (4.0 * sigma * sigma)).exp()) / kappa;
        assert!((*got as f32 / expected - 1.0).abs() < 0.06, "K({t}) is {got}, expected {expected}");
    }
}

#[test]
fn more_only_adds_and_every_name_is_one_place() {
    let (few, many) = (places(5, 2000), places(5, 5000));
    let by_name: BTreeMap<u64, Vec2> = many.iter().map(|c| (c.id.0, Vec2::new(c.x, c.z))).collect();
    assert_eq!((few.len(), many.len(), by_name.len()), (2000, 5000, 5000));
    assert!(few.iter().all(|c| by_name.get(&c.id.0) == Some(&Vec2::new(c.x, c.z))));
    assert!(many.iter().all(|c| c.x.abs() <= 100.0 && c.z.abs() <= 100.0));
}

#[test]
fn clumps_are_as_large_as_they_say_and_hold_as_many() {
    let all = places(9, 20_000);
    let mut clumps: BTreeMap<u32, Vec<Vec2>> = BTreeMap::new();
    for c in &all {
        clumps.entry(c.birth.to_bits()).or_default().push(Vec2::new(c.x, c.z));
    }
    let inside: Vec<&Vec<Vec2>> =
        clumps.values().filter(|c| c.iter().all(|p| p.abs().max_element() < 90.0)).collect();
    let mean = inside.iter().map(|c| c.len()).sum::<usize>() as f32 / inside.len() as f32;
    assert!((mean - CLUMPS.plants).abs() < 0.4, "{mean}");
    // Distances about the mean of a clump, each way, with the bias of a mean of few taken out.
    let squares = inside.iter().filter(|c| c.len() > 2).map(|c| {
        let middle = c.iter().sum::<Vec2>() / c.len() as f32;
        (c.iter().map(|p| p.distance_squared(middle)).sum::<f32>() / (c.len() - 1) as f32, 1.0_f32)
    });
    let (sum, n) = squares.fold((0.0, 0.0), |(a, b), (x, y)| (a + x, b + y));
    let sigma = (sum / n / 2.0).sqrt();
    assert!((sigma / CLUMPS.sigma_m() - 1.0).abs() < 0.05, "{sigma}");
}

fn layer(count: u32) -> Layer {
    let species = rookery_core::nursery::ready_species(&SpeciesId("thrift".into())).unwrap();
    Layer {
        pattern: Pattern::Clumped,
        clumps: Clumps { radius_m: 1.0, plants: 8.0 },
        amount: Amount::Total { value: count },
        masks: Vec::new(),
        ..Layer::usual(species, LayerId(1), "Thrift")
    }
}

#[test]
fn a_layer_in_clumps_grows_on_a_terrain_and_on_a_small_planet_and_stays_as_it_was_when_it_gets_more() {
    let terrain = Terrain::new(65, 65, Vec2::ONE, vec![0.0; 65 * 65]).unwrap();
    let ground = GroundModel::new(terrain, None, 1);
    let never = CancelToken::default();
    let plants = grow(&ground, &layer(500), &never).unwrap().plants;
    assert_eq!(plants.len(), 500);

    let surface = made::planet(&PlanetGround::default());
    let standing = rookery_core::ground::MeshStanding {
        base_m: 0.0,
        upright: Upright::Centre,
        earths: Earths::default(),
        water_m: None,
        seed: 1,
    };
    let planet = MeshModel::new(&surface, &standing).unwrap();
    let on = |count| {
        let layer = layer(count);
        let rules = rookery_core::planting::Rules::plain(&[]);
        let ground = GroundRef::Mesh(&planet);
        ground.grow(&layer, &rules, &mut ground.no_even_places(layer.seed), &never).unwrap().plants
    };
    let (few, many) = (on(300), on(900));
    assert_eq!((few.len(), many.len()), (300, 900));
    let by_name: BTreeMap<u64, Vec3> = many.iter().map(|p| (p.id.0, p.position_m)).collect();
    assert!(few.iter().all(|p| by_name.get(&p.id.0) == Some(&p.position_m)));
    // Most plants have a neighbour much nearer than they would at random.
    let near = |p: Vec3| {
        many.iter().map(|q| q.position_m.distance(p)).filter(|d| *d > 0.0).fold(f32::INFINITY, f32::min)
    };
    let mean = many.iter().map(|p| near(p.position_m)).sum::<f32>() / 900.0;
    let at_random = 0.5
        / (900.0_f64 / GroundRef::Mesh(&planet).shares(&rookery_core::planting::Rules::plain(&[])).allowed_m2)
            .sqrt() as f32;
    assert!(mean < at_random * 0.75, "{mean} against {at_random} (Clark & Evans 1954)");
}
