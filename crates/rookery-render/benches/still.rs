//! Times a still of the demo scene: growing, building the acceleration structure, tracing.
//!
//! `cargo bench -p rookery-render` prints milliseconds; `ROOKERY_STILL=file.ppm` also writes the picture.

use rookery_core::cancel::CancelToken;
use rookery_core::ground::{Frame, GroundModel, GroundRef, noise_terrain, obstacle};
use rookery_core::motion::{MotionFacts, Standing};
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::planting::grow_everywhere;
use rookery_core::scene::{GroundId, GroundSource, kittiwake_head};
use rookery_render::light::Light;
use rookery_render::{Developing, Moment, RenderScene, StillSettings, Water, take_shot};
use std::time::Instant;

fn main() {
    let document = kittiwake_head();
    let GroundSource::Noise(noise) = &document.ground.source else {
        panic!("the demo's ground is made from noise")
    };
    let start = Instant::now();
    let ground = GroundModel::new(
        noise_terrain::build(noise).expect("the demo is valid"),
        document.ground.water_m,
        noise.seed,
    );
    println!("ground {:.0} ms", start.elapsed().as_secs_f64() * 1e3);
    let start = Instant::now();
    let never = CancelToken::default();
    let grown: Vec<_> = document
        .layers
        .iter()
        .map(|l| {
            let grown = grow_everywhere(&document, l, &|_| Some(GroundRef::from(&ground)), &|_| None, &never)
                .expect("the demo grows");
            (l, grown.plants, grown.tally.covered())
        })
        .collect();
    println!(
        "growth {:.0} ms, {} plants",
        start.elapsed().as_secs_f64() * 1e3,
        grown.iter().map(|g| g.1.len()).sum::<usize>()
    );
    let none = Fits::default();
    let layers: Vec<_> = grown.iter().map(|(l, p, _)| (*l, p.as_slice(), &none)).collect();
    let standing: Vec<Standing> = grown.iter().map(|(l, p, cover)| (*l, p.as_slice(), *cover)).collect();
    let facts = MotionFacts::of(&document, &standing);
    let obstacles = || document.obstacles.iter().map(|o| obstacle::mesh(o, &ground.terrain, None)).collect();
    for shot in &document.shots {
        let start = Instant::now();
        let land = GroundRef::from(&ground).mesh(&Frame::SCENE);
        let mut scene = RenderScene::new(
            vec![(GroundId::LAND, land)],
            Water::all_in(&document),
            obstacles(),
            &document,
            &layers,
            Light::new(shot),
        );
        let built = start.elapsed();
        let start = Instant::now();
        scene.bend(&document, &layers, &Moment::new(&document, &facts, 2.4, shot));
        println!(
            "{}: in the wind {:.0} ms, {:?}",
            shot.name,
            start.elapsed().as_secs_f64() * 1e3,
            scene.bent
        );
        let start = Instant::now();
        let film = take_shot(&scene, shot, StillSettings::new(shot), &never, &Developing::default(), |_| ())
            .expect("nobody stops it");
        println!(
            "{}: structure {:.0} ms, {} x {} at {} samples {:.0} ms",
            shot.name,
            built.as_secs_f64() * 1e3,
            film.width_px,
            film.height_px,
            shot.samples,
            start.elapsed().as_secs_f64() * 1e3
        );
        if let Ok(path) = std::env::var("ROOKERY_STILL") {
            let mut ppm = format!("P6 {} {} 255\n", film.width_px, film.height_px).into_bytes();
            ppm.extend(film.to_srgb8());
            std::fs::write(format!("{path}-{}.ppm", shot.id.0), ppm).expect("the picture can be written");
        }
    }
}
