//! Times what keeps plants apart, and writes what docs/compare/clearance.py checks.
//! `cargo bench -p rookery-core --bench clearance [-- FOLDER]`.

use glam::Vec3;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, Surface, noise_terrain};
use rookery_core::habitat::Rules;
use rookery_core::math::hash::{Channel, draw, unit};
use rookery_core::planting::clearance::{Ball, stand_apart};
use rookery_core::planting::grow_with;
use rookery_core::scene::*;
use std::io::Write;
use std::time::Instant;

const COUNT: usize = 1_000_000;

fn main() {
    // 1 km2, radii 0.1 to 2 m.
    let ball = |i: u64| {
        let [x, z, r, _] = draw(11, i, Channel::Place).map(unit);
        (Vec3::new(x * 1000.0, 0.0, z * 1000.0), 0.1 + 1.9 * r)
    };
    let balls: Vec<Ball> = (0..COUNT as u64).map(ball).collect();
    let order: Vec<u32> = (0..COUNT as u32).collect();
    let mut stands = Vec::new();
    let mut times: Vec<f64> = (0..9)
        .map(|_| {
            let start = Instant::now();
            stands = stand_apart(&balls, &order, &[]);
            start.elapsed().as_secs_f64() * 1e3
        })
        .collect();
    times.sort_unstable_by(f64::total_cmp);
    let standing = stands.iter().filter(|s| **s).count();
    println!(
        "{COUNT} balls of 0.1 to 2 m on 1 km2, {standing} stand: median {:.0} ms, best {:.0} ms",
        times[4], times[0]
    );
    if let Some(folder) = std::env::args().skip(1).find(|a| !a.starts_with('-')) {
        let mut file =
            std::fs::File::create(format!("{folder}/balls.bin")).expect("the folder can be written to");
        for ((p, r), stands) in balls.iter().zip(&stands) {
            let row = [p.x, p.y, p.z, *r, f32::from(u8::from(*stands))];
            file.write_all(&row.map(f32::to_le_bytes).concat()).expect("there is room");
        }
    }
    // A whole layer, with and without.
    let mut document = kittiwake_head();
    let GroundSource::Noise(noise) = &document.ground.source else { unreachable!("it is made of noise") };
    let ground = GroundModel::new(noise_terrain::build(noise).expect("the settings are right"), Some(0.0), 1);
    let layer = &mut document.layers[0];
    layer.masks.clear();
    (layer.pattern, layer.cap) = (Pattern::Random, 10_000_000);
    layer.amount = Amount::PerM2 { value: COUNT as f32 / (240.0 * 240.0) };
    let never = CancelToken::default();
    for clearance in [Clearance::default(), Clearance::usual()] {
        document.layers[0].clearance = clearance;
        let layer = &document.layers[0];
        let rules = Rules::plain(&layer.masks).growing(&document, layer);
        let mut times: Vec<f64> = (0..5)
            .map(|_| {
                let start = Instant::now();
                let grown = grow_with(&ground, layer, &rules, &mut ground.no_even_places(1), &never);
                let took = start.elapsed().as_secs_f64() * 1e3;
                stands = vec![true; grown.expect("nobody stops it").plants.len()];
                took
            })
            .collect();
        times.sort_unstable_by(f64::total_cmp);
        let kind = if clearance.is_off() { "keeping clear of nothing" } else { "footprints kept apart" };
        println!("{COUNT} places of one layer, {kind}, {} stand: median {:.0} ms", stands.len(), times[2]);
    }
}
