//! Times the mean wind over the land, and the wind on a million plants at one moment. `cargo bench -p rookery-core --bench motion`.

use rayon::prelude::*;
use rookery_core::air::{Flow, heading};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, noise_terrain, obstacle};
use rookery_core::motion::{Gusts, MotionFacts};
use rookery_core::planting::Plant;
use rookery_core::scene::{GroundSource, kittiwake_head};
use std::time::Instant;

fn main() {
    let document = kittiwake_head();
    let GroundSource::Noise(noise) = &document.ground.source else {
        panic!("the demo's ground is made from noise")
    };
    let land = GroundModel::new(
        noise_terrain::build(noise).expect("the demo is valid"),
        document.ground.water_m,
        noise.seed,
    );
    let bodies: Vec<_> = document.obstacles.iter().map(|o| obstacle::mesh(o, &land.terrain, None)).collect();
    let bodies: Vec<_> = bodies.iter().collect();
    let mut times: Vec<f64> = (0..5)
        .map(|i| {
            let start = Instant::now();
            let heading = heading(50.0 * i as f32);
            let flow = Flow::over_scene(&document, &land.terrain, &bodies, heading, &CancelToken::default());
            assert!(flow.is_ok());
            start.elapsed().as_secs_f64() * 1e3
        })
        .collect();
    times.sort_by(f64::total_cmp);
    println!("the mean wind over the land, 128 x 128 x 24 cells: median {:.0} ms", times[2]);
    let plants: Vec<Plant> = (0..1_000_000_u32)
        .map(|i| Plant {
            position_m: glam::vec3((i % 1000) as f32 * 0.3, 0.0, (i / 1000) as f32 * 0.3),
            tint: (i.wrapping_mul(40_503) >> 7) as u16,
            ..Plant::UPRIGHT
        })
        .collect();
    let facts = MotionFacts::of(&document, &[(&document.layers[0], &plants, 0.5)]);
    let start = Instant::now();
    let gusts = Gusts::new(&document.motion.wind);
    println!("making the gusts: {:.2} ms", start.elapsed().as_secs_f64() * 1e3);
    for threads in [1, rayon::current_num_threads()] {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().expect("threads can be had");
        let mut times: Vec<f64> = (0..9)
            .map(|i| {
                let now = gusts.at(f64::from(i) * 0.37);
                let start = Instant::now();
                let sum: f32 = pool
                    .install(|| plants.par_iter().map(|p| facts.turned(&facts.layers[0], p, &now)[0]).sum());
                assert!(sum.is_finite());
                start.elapsed().as_secs_f64() * 1e3
            })
            .collect();
        times.sort_by(f64::total_cmp);
        println!("a million plants at a moment on {threads} threads: median {:.0} ms", times[4]);
    }
}
