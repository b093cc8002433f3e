//! The nap of the ground: one square as the view asks for it, and all about an eye as a still does.
//! `cargo bench -p rookery-core --bench nap`

use rookery_core::ground::{GroundModel, noise_terrain};
use rookery_core::nap::{Nap, about, form, tile};
use rookery_core::nursery::Detail;
use rookery_core::scene::NoiseGround;
use rookery_core::textures::Sheets;
use std::time::Instant;

fn main() {
    let terrain = noise_terrain::build(&NoiseGround { coast: 0.0, ..NoiseGround::default() }).expect("valid");
    let model = GroundModel::new(terrain, None, 3);
    let eye = glam::Vec3::new(0.0, model.terrain.height_at(0.0, 0.0) + 1.6, 0.0);
    let time = |name: &str, run: &dyn Fn() -> usize| {
        let mut times = [0.0; 9];
        let mut found = 0;
        for t in &mut times {
            let start = Instant::now();
            found = run();
            *t = start.elapsed().as_secs_f64() * 1e3;
        }
        times.sort_by(f64::total_cmp);
        println!("{name}: median {:.1} ms, best {:.1} ms, {found} tufts", times[4], times[0]);
    };
    println!("{} threads", rayon::current_num_threads());
    time("a square of 16 m", &|| tile(&model, &[], &[], &Sheets::usual(), [0, 0]).len());
    time("all about an eye", &|| about(&model, &[], &[], &Sheets::usual(), eye).len());
    let triangles = [Detail::Full, Detail::Light, Detail::Far].map(|d| form(Nap::Sward, 0, d).triangles());
    println!("a tuft of sward has {triangles:?} triangles, near, farther and far");
}
