//! Times growth and its parts. `cargo bench -p rookery-core` prints the median of several runs.

use glam::Vec2;
use rayon::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::made::planet;
use rookery_core::ground::sculpt::reach_on_plan;
use rookery_core::ground::{
    Frame, GroundModel, MeshModel, MeshStanding, Reading, SunPath, Surface, Terrain, analysis, noise_terrain,
};
use rookery_core::habitat::Given;
use rookery_core::planting::Rules;
use rookery_core::planting::pattern::EvenPattern;
use rookery_core::planting::{Growth, grow, grow_with, regrow, regrow_curves};
use rookery_core::scene::{
    Amount, Clearance, Earths, GroundId, Layer, Mask, MaskId, NoiseGround, NoiseMask, Pattern, PlanetGround,
    Quantity, SculptTool, Stroke, StrokeId, SunDay, Upright, kittiwake_head,
};
use std::time::Instant;

fn median(runs: usize, mut work: impl FnMut()) -> f64 {
    let mut times: Vec<f64> = (0..runs)
        .map(|_| {
            let start = Instant::now();
            work();
            start.elapsed().as_secs_f64() * 1e3
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

/// A layer of a million that has grown, with masks of altitude, noise and slope.
struct Dragged {
    layer: Layer,
    growth: Growth,
    rules: Rules,
    end_deg: f32,
}

impl Dragged {
    fn layer(layer: &Layer, end_deg: f32) -> Layer {
        let noise = Mask::band(MaskId(1), Quantity::Noise, [0.0, 0.1, 1.0, 1.0]);
        let masks = vec![
            Mask::band(MaskId(2), Quantity::Altitude, [0.0, 1.0, 900.0, 900.0]),
            Mask { noise: Some(NoiseMask::default()), ..noise },
            Mask::band(MaskId(3), Quantity::Slope, [0.0, 0.0, end_deg, end_deg + 5.0]),
        ];
        Layer { masks, ..layer.clone() }
    }

    fn new(ground: &GroundModel, layer: &Layer, never: &CancelToken) -> Self {
        let end_deg = 40.0;
        let layer = Self::layer(layer, end_deg);
        let rules = Rules::plain(&layer.masks).growing(&kittiwake_head(), &layer);
        let growth = grow_with(ground, &layer, &rules, &mut ground.no_even_places(layer.seed), never);
        Self { growth: growth.expect("grows"), layer, rules, end_deg }
    }

    fn step(&mut self, ground: &GroundModel, never: &CancelToken) {
        self.end_deg -= 0.25;
        let layer = Self::layer(&self.layer, self.end_deg);
        let rules = Rules::plain(&layer.masks).growing(&kittiwake_head(), &layer);
        let before = (&self.growth, &self.rules);
        let mut even = ground.no_even_places(layer.seed);
        let growth = regrow_curves(ground, &layer, &rules, &mut even, before, never).expect("grows");
        (self.growth, self.rules) = (growth, rules);
    }
}

fn main() {
    println!("{} threads", rayon::current_num_threads());
    let never = CancelToken::default();
    let settings = NoiseGround { size_m: 1000.0, samples: 1001, ..NoiseGround::default() };
    let ms = median(5, || drop(noise_terrain::build(&settings).expect("valid")));
    println!("terrain from noise, 1001 x 1001: {ms:.0} ms");
    let terrain = noise_terrain::build(&settings).expect("valid");
    let ground = GroundModel::new(terrain, Some(0.0), 1);

    // 1 million candidates through two masks on 1 km2.
    let mut base = kittiwake_head().layers.remove(0);
    base.masks.retain(|m| m.zone.is_none());
    for pattern in [Pattern::Even, Pattern::Random] {
        let layer = Layer { pattern, amount: Amount::PerM2 { value: 1.0 }, cap: 10_000_000, ..base.clone() };
        let mut placed = 0;
        let ms = median(5, || placed = grow(&ground, &layer, &never).expect("grows").tally.placed);
        println!("growth from nothing, {pattern:?}, 1 M candidates, two masks: {ms:.0} ms, {placed} placed");
    }
    let layer = Layer { amount: Amount::PerM2 { value: 1.0 }, cap: 10_000_000, ..base.clone() };
    let mut even = EvenPattern::new(layer.seed, ground.terrain.size_m());
    let rules = Rules::plain(&layer.masks);
    grow_with(&ground, &layer, &rules, &mut even, &never).expect("grows");
    let ms = median(9, || drop(grow_with(&ground, &layer, &rules, &mut even, &never).expect("grows")));
    println!("the same again with its even places at hand (a slider moved): {ms:.0} ms");

    // A curve dragged: a band of slopes ends a quarter of a degree earlier at each step, each grown from the one before.
    for clears in [false, true] {
        let clearance = if clears { base.clearance } else { Clearance::default() };
        let mut dragged = Dragged::new(&ground, &Layer { clearance, ..layer.clone() }, &never);
        let ms = median(15, || dragged.step(&ground, &never));
        let kept = dragged.growth.spans().map_or(0, |s| s.iter().map(|s| s.kept.len()).sum::<usize>());
        println!(
            "a slope curve dragged{}, 1 M candidates, {} stand, {kept} kept: {ms:.0} ms",
            if clears { ", each keeps clear of its kind" } else { "" },
            dragged.growth.plants.len()
        );
    }

    let ms = median(5, || {
        let mut pattern = EvenPattern::new(7, Vec2::splat(1000.0));
        assert_eq!(pattern.first(1_000_000, &never).expect("not stopped").len(), 1_000_000);
    });
    println!("even places alone, 1 M: {ms:.0} ms, {:.2} M/s", 1e3 / ms);

    // A stroke on 2048 x 2048 heights with the demo's layers on them.
    let settings = NoiseGround { samples: 2048, ..NoiseGround::default() };
    let large = GroundModel::new(noise_terrain::build(&settings).expect("valid"), Some(0.0), 11);
    let stroke = Stroke {
        id: StrokeId(1),
        tool: SculptTool::Raise,
        radius_m: 12.0,
        strength: 2.0,
        falloff: 0.6,
        points: (0..40).map(|i| [i as f32 * 0.8, (i as f32 * 0.3).sin() * 6.0]).collect(),
    };
    let mut sculpted = large.sculpted(&stroke);
    let ms = median(9, || sculpted = large.sculpted(&stroke));
    println!("a stroke on 2048 x 2048 heights: {ms:.0} ms");
    let document = kittiwake_head();
    let layers = &document.layers;
    let rules: Vec<Rules> =
        layers.iter().map(|l| Rules::on(&document, l, GroundId::LAND, &[], &Given::default())).collect();
    let mut evens: Vec<EvenPattern> =
        layers.iter().map(|l| EvenPattern::new(l.seed, large.terrain.size_m())).collect();
    let each = layers.iter().zip(&rules).zip(&mut evens);
    let before: Vec<Growth> =
        each.map(|((l, r), e)| grow_with(&large, l, r, e, &never).expect("grows")).collect();
    let changed = reach_on_plan(&large.terrain, &stroke);
    let mut placed = 0;
    let ms = median(9, || {
        let each = layers.iter().zip(&rules).zip(&mut evens).zip(&before);
        let grown = each
            .map(|(((l, r), e), b)| regrow(&sculpted, l, r, e, b, &changed.into(), &never).expect("grows"));
        placed = grown.map(|g| g.tally.placed).sum();
    });
    println!("its {placed} plants after the stroke: {ms:.0} ms");

    let n = 4096;
    let heights = (0..n * n).map(|i| ((i % n) as f32 * 0.01).sin() * 20.0 + (i / n) as f32 * 0.02).collect();
    let large = Terrain::new(n, n, Vec2::ONE, heights).expect("valid");
    let ms = median(5, || drop(analysis::slope_deg(&large)));
    println!("slope by Horn, 4096 x 4096: {ms:.0} ms, {:.0} Mpx/s", (n * n) as f64 / ms / 1e3);

    let settings = NoiseGround { size_m: 1000.0, samples: 1025, ..NoiseGround::default() };
    let hilly = noise_terrain::build(&settings).expect("valid");
    let sun = SunPath::new(&SunDay::default(), &Frame::SCENE);
    let ms = median(3, || drop(analysis::sun_hours(&hilly, &sun, &never).expect("not stopped")));
    println!("hours of sun, 1025 x 1025: {ms:.0} ms");

    // A closed mesh of half a million triangles.
    let surface = planet(&PlanetGround { radius_m: 300.0, relief: 0.2, seed: 3, faces: 209 });
    let standing = MeshStanding {
        base_m: 0.0,
        upright: Upright::Gravity,
        earths: Earths::default(),
        water_m: None,
        seed: 1,
    };
    let start = Instant::now();
    let mesh = MeshModel::new(&surface, &standing).expect("it has an area");
    println!(
        "a ground from {} triangles: {:.0} ms",
        mesh.mesh.triangles(),
        start.elapsed().as_secs_f64() * 1e3
    );
    let ms = median(1, || drop(mesh.sun_hours(&sun, &never).expect("not stopped")));
    println!("hours of sun on it: {ms:.0} ms");
    let ms = median(1, || drop(mesh.reading(Reading::Wetness)));
    println!("wetness of it: {ms:.0} ms");
    for count in [1_000_000, 10_000_000] {
        let ms = median(5, || assert_eq!(mesh.random_places(9, count).len(), count));
        let places = mesh.random_places(9, count);
        let put = median(5, || {
            let points: Vec<_> = places.par_iter().map(|p| mesh.position_on(p.face, p.v, p.w)).collect();
            assert_eq!(points.len(), count);
        });
        let speed = |ms: f64| count as f64 / ms / 1e3;
        println!(
            "uniform places on it, {} M: {ms:.0} ms, {:.1} M/s; with their points {:.0} ms, {:.1} M/s",
            count / 1_000_000,
            speed(ms),
            ms + put,
            speed(ms + put)
        );
    }
    let ms = median(5, || {
        let places = mesh.even_places(&mut mesh.no_even_places(7), 100_000, &never);
        assert_eq!(places.expect("not stopped").len(), 100_000);
    });
    println!("even places on it, 100 000: {ms:.0} ms");
    let ms = median(3, || {
        let places = mesh.even_places(&mut mesh.no_even_places(7), 1_000_000, &never);
        assert_eq!(places.expect("not stopped").len(), 1_000_000);
    });
    println!("even places on it, 1 M: {ms:.0} ms, {:.2} M/s", 1e3 / ms);
}
