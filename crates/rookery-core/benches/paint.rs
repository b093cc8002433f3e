//! Times a dab of the brush on a layer of a million plants, and what masks cost. `cargo bench -p rookery-core --bench paint`.

use rayon::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, GroundRef, Surface, noise_terrain};
use rookery_core::habitat::{Given, reach_of_stroke};
use rookery_core::math::hash::{Channel, draw, unit};
use rookery_core::math::mesh_distance::MeshDistance;
use rookery_core::planting::Rules;
use rookery_core::planting::{Candidate, grow_with, regrow};
use rookery_core::scene::*;
use std::time::Instant;

fn ms(since: Instant) -> f64 {
    since.elapsed().as_secs_f64() * 1e3
}

fn sorted(mut times: Vec<f64>) -> (f64, f64) {
    times.sort_by(f64::total_cmp);
    (times[times.len() / 2], times[times.len() * 95 / 100])
}

fn main() {
    let never = CancelToken::default();
    println!("{} threads", rayon::current_num_threads());
    let noise = NoiseGround { size_m: 1000.0, samples: 1025, ..NoiseGround::default() };
    let ground = GroundModel::new(noise_terrain::build(&noise).expect("the settings are right"), None, 1);
    let mut document = kittiwake_head();
    document.paints = vec![Paint { id: PaintId(1), name: "Turf".into(), bare: 1.0, strokes: Vec::new() }];
    let painted =
        Mask { paint: Some(PaintId(1)), ..Mask::band(MaskId(1), Quantity::Painted, [0.0, 1.0, 1.0, 1.0]) };
    for pattern in [Pattern::Random, Pattern::Even] {
        let layer = &mut document.layers[0];
        (layer.pattern, layer.amount, layer.cap) = (pattern, Amount::PerM2 { value: 1.0 }, 10_000_000);
        layer.masks = vec![painted];
        document.paints[0].strokes.clear();
        let rules = |d: &Document| Rules::on(d, &d.layers[0], GroundId::LAND, &[], &Given::default());
        let mut even = ground.no_even_places(1);
        let mut before =
            grow_with(&ground, &document.layers[0], &rules(&document), &mut even, &never).expect("it grows");
        let count = before.plants.len();
        let times = (0..60_u32).map(|i| {
            let at = [(i * 97 % 800) as f32 - 400.0, 0.0, (i * 61 % 800) as f32 - 400.0];
            let stroke = PaintStroke {
                id: PaintStrokeId(i),
                tool: PaintTool::Erase,
                radius_m: 12.0,
                strength: 1.0,
                falloff: 0.5,
                ragged: 0.3,
                points: vec![at],
                pressures: Vec::new(),
            };
            let reach = reach_of_stroke(&stroke);
            document.paints[0].strokes.push(stroke);
            let start = Instant::now();
            let rules = rules(&document);
            before = regrow(&ground, &document.layers[0], &rules, &mut even, &before, &reach.into(), &never)
                .expect("it grows");
            ms(start)
        });
        let (median, worst) = sorted(times.collect());
        println!(
            "a dab on {count} plants, {pattern:?}: median {median:.1} ms, 95th percentile {worst:.1} ms"
        );
    }
    // Six masks of different kinds on the headland.
    let GroundSource::Noise(noise) = &kittiwake_head().ground.source else {
        unreachable!("it is made of noise")
    };
    let ground = GroundModel::new(noise_terrain::build(noise).expect("the settings are right"), Some(0.0), 1);
    let mut document = kittiwake_head();
    let band = |id, quantity, band| Mask::band(MaskId(id), quantity, band);
    document.layers[0].masks = vec![
        band(1, Quantity::Slope, [0.0, 0.0, 60.0, 70.0]),
        band(2, Quantity::Altitude, [-50.0, -40.0, 90.0, 100.0]),
        band(3, Quantity::Aspect, [0.0, 0.0, 300.0, 350.0]),
        Mask { noise: Some(NoiseMask::default()), ..band(4, Quantity::Noise, [0.0, 0.1, 1.0, 1.0]) },
        Mask { near: Some(Near::Tracks), ..band(5, Quantity::Distance, [0.5, 1.0, 20_000.0, 20_000.0]) },
        band(6, Quantity::Openness, [0.1, 0.2, 1.0, 1.0]),
    ];
    (document.layers[0].pattern, document.layers[0].amount) =
        (Pattern::Random, Amount::PerM2 { value: 35.0 });
    document.layers[0].cap = 10_000_000;
    document.layers[0].clearance = Clearance::default();
    let layer = &document.layers[0];
    let none = |_: &Layer| Err(rookery_core::cancel::Cancelled.into());
    let given = Given::compute::<rookery_core::planting::GrowError>(
        &document,
        layer,
        (GroundId::LAND, &GroundRef::Terrain(&ground)),
        (None, &|_| Ok(None)),
        |_| None,
        none,
        &never,
    )
    .expect("nobody stops it");
    let rules = Rules::on(&document, layer, GroundId::LAND, &[], &given);
    let places = ground.random_places(layer.seed, 2_016_000);
    let stands = |place: &Candidate| {
        let own = unit(draw(layer.seed, place.id.0, Channel::Mask)[0]);
        let spot = ground.spot(place);
        rules.refusing(own, |i| rules.response(i, &ground, &spot)).is_none()
    };
    let mut stood = 0;
    let (median, _) = sorted(
        (0..9)
            .map(|_| {
                let start = Instant::now();
                stood = places.par_iter().with_min_len(4096).filter(|place| stands(place)).count();
                ms(start)
            })
            .collect(),
    );
    let speed = |ms: f64| places.len() as f64 / ms / 1e3;
    println!(
        "{} candidates through six masks, {stood} let through: median {median:.0} ms, {:.1} M/s",
        places.len(),
        speed(median)
    );
    let mut grown = 0;
    let (median, _) = sorted(
        (0..5)
            .map(|_| {
                let start = Instant::now();
                grown = grow_with(&ground, layer, &rules, &mut ground.no_even_places(1), &never)
                    .expect("it grows")
                    .plants
                    .len();
                ms(start)
            })
            .collect(),
    );
    println!(
        "the same with a survey, finding the places and standing {grown} plants: median {median:.0} ms, {:.1} M candidates a second",
        speed(median)
    );
    for i in 0..6 {
        let mut one = layer.clone();
        one.masks = vec![layer.masks[i]];
        let rules = Rules::on(&document, &one, GroundId::LAND, &[], &given);
        let start = Instant::now();
        let found = rookery_core::habitat::shares(&ground, &rules);
        println!(
            "a survey by {:?} alone: {:.0} ms, lets {:.0} % through",
            one.masks[0].quantity,
            ms(start),
            found.each[0].share * 100.0
        );
    }
    // Distance to a mesh of 20,000 triangles.
    let cottage = document.obstacles[0].clone();
    let mesh = rookery_core::ground::obstacle::mesh(&cottage, &ground.terrain, None);
    let stone = rookery_core::nursery::ready_species(&SpeciesId("sessile-oak".into())).expect("it is ready");
    let oak = stone.build(0, rookery_core::nursery::Detail::Full, rookery_core::nursery::Season::SUMMER);
    for (name, mesh) in [("the cottage", mesh), ("an oak", oak)] {
        let tree = MeshDistance::new(&mesh.positions, &mesh.indices);
        let (low, high) = mesh.bounds();
        let point = |i: u32| {
            let [x, y, z, _] =
                rookery_core::math::hash::pcg4d([i, 1, 2, 3]).map(rookery_core::math::hash::unit);
            low - 5.0 + (high - low + 10.0) * glam::Vec3::new(x, y, z)
        };
        let start = Instant::now();
        let sum: f32 = (0..1_000_000_u32).into_par_iter().map(|i| tree.distance(point(i), 100.0)).sum();
        println!(
            "distance of a million points within 5 m about {name} ({} triangles): {:.2} M/s (mean {:.2} m)",
            mesh.triangles(),
            1e3 / ms(start),
            sum * 1e-6
        );
    }
}
