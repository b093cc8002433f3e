//! Times the mean wind over the land, and the wind on a million plants at one moment. `cargo bench -p rookery-core --bench motion`.

use rayon::prelude::*;
use rookery_core::air::{Flow, heading};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, noise_terrain, obstacle};
use rookery_core::motion::{Gusts, MotionFacts, Moving, Now};
use rookery_core::nursery::Mesh;
use rookery_core::planting::Plant;
use rookery_core::scene::{
    Body, BodyForm, BodyId, Course, Document, GroundSource, Loose, Spot, kittiwake_head, tarn_moraine,
};
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
    moving(&document, &land, &bodies);
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
                let now = Now::windy(gusts.at(f64::from(i) * 0.37));
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
    let whole = Document { bodies: five(), blowers: tarn_moraine().blowers, ..document.clone() };
    let moving =
        Moving::over(&whole, Some(&land.terrain), &bodies, &CancelToken::default()).expect("nobody stops it");
    let mut times: Vec<f64> = (0..9)
        .map(|i| {
            let now = Now::new(&whole, &moving, f64::from(i));
            let start = Instant::now();
            let sum: f32 = plants.par_iter().map(|p| facts.turned(&facts.layers[0], p, &now)[0]).sum();
            assert!(sum.is_finite());
            start.elapsed().as_secs_f64() * 1e3
        })
        .collect();
    times.sort_by(f64::total_cmp);
    println!("the same beside five bodies and a blower, on all threads: median {:.0} ms", times[4]);
}

/// Five boulders and barrels that are thrown down the head.
fn five() -> Vec<Body> {
    let first = kittiwake_head().bodies[0].clone();
    let forms = [
        BodyForm::Ball { radius_m: 0.4 },
        BodyForm::Buoy { radius_m: 0.5 },
        BodyForm::Barrel { radius_m: 0.35, length_m: 0.9 },
        BodyForm::Boulder { size_m: 1.2, form: 0 },
        BodyForm::Boulder { size_m: 0.7, form: 3 },
    ];
    let bodies = forms.into_iter().enumerate().map(|(i, form)| {
        let at = Spot { x_m: 20.0 + 6.0 * i as f32, z_m: 40.0, over_m: 4.0 };
        let loose = first.loose.map(|l| Loose { at_s: 0.0, velocity_m_per_s: [-3.0, 1.0, 6.0], ..l });
        Body { id: BodyId(i as u32 + 1), form, course: Course::Still { at }, loose, ..first.clone() }
    });
    bodies.collect()
}

/// How long it takes to work out the ways of five bodies over ten seconds.
fn moving(document: &Document, land: &GroundModel, solids: &[&Mesh]) {
    let document = Document { bodies: five(), ..document.clone() };
    let mut times: Vec<f64> = (0..5)
        .map(|_| {
            let start = Instant::now();
            let all = Moving::over(&document, Some(&land.terrain), solids, &CancelToken::default());
            assert!(all.is_ok_and(|m| m.bodies.len() == 5));
            start.elapsed().as_secs_f64() * 1e3
        })
        .collect();
    times.sort_by(f64::total_cmp);
    println!("ten seconds of five bodies: median {:.0} ms", times[2]);
}
