//! Even places on a terrain of 524,288 triangles, and ten million plants with the memory they take.
//! `cargo bench -p rookery-core --bench even [-- FOLDER]`; with a folder `docs/compare/even.py` looks at the places.

use glam::Vec2;
use rayon::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, noise_terrain};
use rookery_core::planting::pattern::EvenPattern;
use rookery_core::planting::{Candidate, Place, grow};
use rookery_core::scene::{Amount, Layer, NoiseGround, Pattern, kittiwake_head};
use std::time::Instant;

const SIDE_M: f32 = 1000.0;
const PLACES: usize = 1_000_000;

fn main() {
    let never = CancelToken::default();
    println!("{} threads", rayon::current_num_threads());
    let mut times = Vec::new();
    let mut places = Vec::new();
    for _ in 0..9 {
        let start = Instant::now();
        let mut pattern = EvenPattern::new(7, Vec2::splat(SIDE_M));
        places = pattern.first(PLACES, &never).expect("not stopped").to_vec();
        times.push(start.elapsed().as_secs_f64() * 1e3);
    }
    times.sort_by(f64::total_cmp);
    println!(
        "even places, 1 M on 1 km2: median {:.0} ms, best {:.0} ms ({:.2} M/s), relative radius {:.3}",
        times[4],
        times[0],
        1e3 / times[0],
        relative_radius(&places)
    );
    let settings = NoiseGround { size_m: SIDE_M, samples: 513, ..NoiseGround::default() };
    let terrain = noise_terrain::build(&settings).expect("valid");
    if let Some(folder) = std::env::args().skip(1).find(|a| !a.starts_with('-')) {
        let folder = std::path::PathBuf::from(folder);
        std::fs::create_dir_all(&folder).expect("a folder can be made there");
        let on_ground: Vec<f32> =
            places.iter().flat_map(|c| [c.x, terrain.height_at(c.x, c.z), c.z]).collect();
        std::fs::write(folder.join("places.bin"), bytemuck::cast_slice(&on_ground)).expect("written");
        std::fs::write(folder.join("heights.bin"), bytemuck::cast_slice(terrain.heights_zx()))
            .expect("written");
        std::fs::write(folder.join("milliseconds.txt"), format!("{:.1}", times[4])).expect("written");
    }

    let ground = GroundModel::new(terrain, None, 1);
    let mut base = kittiwake_head().layers.remove(0);
    base.masks.clear();
    base.clearance = rookery_core::scene::Clearance::default();
    for pattern in [Pattern::Random, Pattern::Even] {
        let layer = Layer { pattern, amount: Amount::PerM2 { value: 10.0 }, cap: 10_000_000, ..base.clone() };
        let before = peak_mb();
        let start = Instant::now();
        let growth = grow(&ground, &layer, &never).expect("grows");
        println!(
            "a layer of {} plants, {pattern:?}: {:.1} s, greatest memory of the process {} MB, {before} MB before",
            growth.tally.placed,
            start.elapsed().as_secs_f64(),
            peak_mb()
        );
    }
}

/// Half the smallest distance over sqrt(A / (2 sqrt3 N)).
fn relative_radius(places: &[Candidate]) -> f64 {
    let densest = (f64::from(SIDE_M * SIDE_M) / (2.0 * 3_f64.sqrt() * places.len() as f64)).sqrt();
    let cell = densest as f32 * 2.0;
    let across = (SIDE_M / cell) as usize + 1;
    let cell_of =
        |p: &Candidate| (((p.x + SIDE_M / 2.0) / cell) as usize, ((p.z + SIDE_M / 2.0) / cell) as usize);
    let mut cells: Vec<Vec<u32>> = vec![Vec::new(); across * across];
    for (i, place) in places.iter().enumerate() {
        let (x, z) = cell_of(place);
        cells[z * across + x].push(i as u32);
    }
    let nearest = places.par_iter().map(|p| {
        let (x, z) = cell_of(p);
        let about = (z.saturating_sub(1)..(z + 2).min(across))
            .flat_map(|z| (x.saturating_sub(1)..(x + 2).min(across)).map(move |x| z * across + x));
        about
            .flat_map(|cell| &cells[cell])
            .map(|i| &places[*i as usize])
            .filter(|q| q.id() != p.id())
            .map(|q| Vec2::new(p.x - q.x, p.z - q.z).length())
            .fold(cell, f32::min)
    });
    f64::from(nearest.reduce(|| cell, f32::min)) / 2.0 / densest
}

/// The most memory this process has held, as Linux counts it.
fn peak_mb() -> u64 {
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let line = status.lines().find(|l| l.starts_with("VmHWM")).unwrap_or_default();
    line.split_whitespace().nth(1).and_then(|kb| kb.parse::<u64>().ok()).unwrap_or(0) / 1024
}
