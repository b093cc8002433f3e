//! Waves on water: making those of a wind, measuring how land shelters them, and their slopes at many places as a still asks for them.
//! `cargo bench -p rookery-core --bench water`

use rookery_core::ground::{GroundModel, noise_terrain};
use rookery_core::scene::{Document, kittiwake_head};
use rookery_core::water::Sea;
use std::hint::black_box;
use std::time::Instant;

fn main() {
    let document: Document = kittiwake_head();
    let rookery_core::scene::GroundSource::Noise(ground) = &document.ground.source else {
        panic!("it is noise")
    };
    let land = GroundModel::new(noise_terrain::build(ground).expect("valid"), document.ground.water_m, 3);
    let time = |name: &str, run: &dyn Fn()| {
        let mut times = [0.0; 9];
        for t in &mut times {
            let start = Instant::now();
            run();
            *t = start.elapsed().as_secs_f64() * 1e3;
        }
        times.sort_by(f64::total_cmp);
        println!("{name}: median {:.2} ms, best {:.2} ms", times[4], times[0]);
    };
    println!("{} threads", rayon::current_num_threads());
    time("waves of a wind", &|| {
        black_box(Sea::open(&document.motion.wind, document.ground.water_m));
    });
    time("waves, and how the land shelters them", &|| {
        black_box(Sea::of(&document, Some(&land)));
    });
    let now = Sea::of(&document, Some(&land)).at(3.0);
    time("slopes and foam at 100,000 places, one thread", &|| {
        let sum: f32 = (0..100_000)
            .map(|n| {
                let (x, z) = ((n % 317) as f32 * 0.7 - 110.0, (n / 317) as f32 * 0.7 - 110.0);
                now.slopes(None, x, z, 0.05).rise[0] + now.foam(x, z)
            })
            .sum();
        black_box(sum);
    });
}
