//! Times building the ready species and their stand-ins. `cargo bench -p rookery-render --bench nursery`.

use rayon::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::nursery::{Detail, Kind, Season, Species, ready};
use rookery_core::proxy::{box_of, hull_of};
use rookery_render::{PortraitSettings, card, portrait};
use std::time::Instant;

fn timed<T>(work: impl FnOnce() -> T) -> (T, f64) {
    let start = Instant::now();
    let out = work();
    (out, start.elapsed().as_secs_f64() * 1e3)
}

fn median_ms(species: &Species) -> f64 {
    let mut times: Vec<f64> =
        (0..9).map(|i| timed(|| species.build(i % species.forms, Detail::Full, Season::SUMMER)).1).collect();
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

fn main() {
    println!("{} threads", rayon::current_num_threads());
    println!("| species | full | light | far | one form at full detail |");
    for s in ready() {
        let [full, light, far] = Detail::ALL.map(|d| s.build(0, d, Season::SUMMER).triangles());
        let tree = matches!(s.kind, Kind::Broadleaf | Kind::Conifer | Kind::Shrub);
        let note = if tree {
            format!(", {:.1} M triangles/s", full as f64 / median_ms(s) / 1e3)
        } else {
            String::new()
        };
        println!("| {} | {full} | {light} | {far} | {:.2} ms{note} |", s.name, median_ms(s));
    }
    let forms: Vec<(&Species, u16)> =
        ready().iter().flat_map(|s| (0..s.forms).map(move |f| (s, f))).collect();
    let (meshes, ms) = timed(|| {
        let all = forms.par_iter().map(|(s, f)| Detail::ALL.map(|d| s.build(*f, d, Season::SUMMER)));
        all.collect::<Vec<_>>()
    });
    println!("{} forms at three details: {ms:.0} ms", meshes.len());
    let (_, ms) =
        timed(|| meshes.par_iter().map(|[full, ..]| (hull_of(full), box_of(full))).collect::<Vec<_>>());
    println!("their hulls and boxes: {ms:.0} ms");
    let (_, ms) = timed(|| meshes.iter().map(|[full, ..]| card(full, 80)).collect::<Vec<_>>());
    println!("their cards: {ms:.0} ms");
    let (_, ms) = timed(|| {
        for s in ready() {
            let mesh = s.build(0, Detail::Full, Season::SUMMER);
            let settings = PortraitSettings {
                width_px: 176,
                height_px: 176,
                samples: 16,
                ..PortraitSettings::default()
            };
            portrait(&[mesh], &settings, &CancelToken::default()).expect("nobody stops it");
        }
    });
    println!("a portrait of each species, 176 x 176, 16 samples: {ms:.0} ms");
}
