//! Times what keeps plants apart, and writes what docs/compare/clearance.py checks.
//! `cargo bench -p rookery-core --bench clearance [-- FOLDER]`.

use glam::{Vec2, Vec3};
use rayon::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, PlanBox, Surface, noise_terrain, obstacle};
use rookery_core::habitat::Given;
use rookery_core::math::hash::{Channel, draw, unit};
use rookery_core::math::mesh_distance::MeshDistance;
use rookery_core::nursery::{Detail, Season, ready};
use rookery_core::planting::Rules;
use rookery_core::planting::clearance::fit::{FINE, SHOWN, fits};
use rookery_core::planting::clearance::{Ball, stand_apart};
use rookery_core::planting::{grow_with, regrow};
use rookery_core::scene::*;
use std::io::Write;
use std::sync::Arc;
use std::time::Instant;

fn folder() -> Option<String> {
    std::env::args().skip(1).find(|a| !a.starts_with('-'))
}

/// Distance to the meshes of an oak, and a file of some for others to check.
fn oak_obstacle(folder: &Option<String>) {
    let oak = ready().iter().find(|s| s.id.0 == "sessile-oak").expect("it is a ready species");
    let mesh = oak.build(0, Detail::Full, Season::SUMMER);
    let tree = MeshDistance::new(&mesh.positions, &mesh.indices);
    let (low, high) = mesh.bounds();
    let point =
        |i: u64| low - 3.0 + Vec3::from_slice(&draw(5, i, Channel::Place).map(unit)) * (high - low + 6.0);
    let points: Vec<Vec3> = (0..4000).map(point).collect();
    let start = Instant::now();
    let inside = points.iter().filter(|p| tree.holds(**p)).count();
    println!(
        "{} points asked whether the oak holds them, {inside} in it: {:.1} ms",
        points.len(),
        start.elapsed().as_secs_f64() * 1e3
    );
    // Near it, and in a landscape about it; the tree alone, then with threads.
    for (name, size) in [("near", high - low + 10.0), ("far", Vec3::new(1000.0, 300.0, 1000.0))] {
        let middle = (low + high) * 0.5;
        let point = |i: u64| middle + (Vec3::from_slice(&draw(6, i, Channel::Place).map(unit)) - 0.5) * size;
        let points: Vec<Vec3> = (0..1_000_000).map(point).collect();
        let mut best = f64::INFINITY;
        let mut away = Vec::new();
        for _ in 0..5 {
            let start = Instant::now();
            away = points.par_iter().map(|p| tree.distance(*p, f32::INFINITY)).collect();
            best = best.min(start.elapsed().as_secs_f64());
        }
        println!(
            "distance of 1,000,000 points {name} the oak ({} triangles): {:.2} M/s",
            mesh.triangles(),
            1.0 / best
        );
        if let Some(folder) = folder {
            let rows = points.iter().zip(&away).flat_map(|(p, d)| [p.x, p.y, p.z, *d]);
            let bytes: Vec<u8> = rows.flat_map(f32::to_le_bytes).collect();
            std::fs::write(format!("{folder}/{name}.bin"), bytes).expect("the folder can be written to");
        }
    }
    let Some(folder) = folder else { return };
    let mut ply = format!(
        "ply\nformat ascii 1.0\nelement vertex {}\nproperty float x\nproperty float y\nproperty float z\nelement face {}\nproperty list uchar int vertex_indices\nend_header\n",
        mesh.positions.len(),
        mesh.indices.len() / 3
    );
    mesh.positions.iter().for_each(|p| ply.push_str(&format!("{} {} {}\n", p.x, p.y, p.z)));
    mesh.indices.chunks_exact(3).for_each(|t| ply.push_str(&format!("3 {} {} {}\n", t[0], t[1], t[2])));
    std::fs::write(format!("{folder}/obstacle.ply"), ply).expect("the folder can be written to");
    let rows: Vec<u8> = points
        .iter()
        .flat_map(|p| [p.x, p.y, p.z, tree.distance(*p, f32::INFINITY)].map(f32::to_le_bytes).concat())
        .collect();
    std::fs::write(format!("{folder}/asked.bin"), rows).expect("the folder can be written to");
}

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
    if let Some(folder) = folder() {
        let mut file =
            std::fs::File::create(format!("{folder}/balls.bin")).expect("the folder can be written to");
        for ((p, r), stands) in balls.iter().zip(&stands) {
            let row = [p.x, p.y, p.z, *r, f32::from(u8::from(*stands))];
            file.write_all(&row.map(f32::to_le_bytes).concat()).expect("there is room");
        }
    }
    oak_obstacle(&folder());
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
    drag(&mut document, &ground);
    bend(&mut document, &ground);
}

/// Drags an oak of tens of thousands of triangles through a layer of a million, a metre a step.
fn drag(document: &mut Document, ground: &GroundModel) {
    let oak = ready().iter().find(|s| s.id.0 == "sessile-oak").expect("it is a ready species");
    let mesh = oak.build(0, Detail::Full, Season::SUMMER);
    document.layers[0].pattern = Pattern::Even;
    // Small enough that all find room.
    document.layers[0].stance.size = Range { min: 0.2, max: 0.3 };
    let layer = &document.layers[0];
    let never = CancelToken::default();
    let stand = |x: f32| {
        let at = Vec3::new(x, ground.terrain.height_at(x, 5.0), 5.0);
        let moved: Vec<Vec3> = mesh.positions.iter().map(|p| *p + at).collect();
        let tree = Arc::new(MeshDistance::new(&moved, &mesh.indices));
        let (low, high) = tree.bounds().expect("it has triangles");
        let given = Given { obstacles: vec![(ObstacleId(1), tree)], ..Given::default() };
        let rules = Rules::on(document, layer, GroundId::LAND, &[], &given);
        (rules, PlanBox { low: Vec2::new(low.x, low.z), high: Vec2::new(high.x, high.z) })
    };
    let mut even = ground.no_even_places(1);
    let (rules, mut before) = stand(0.0);
    let mut grown = grow_with(ground, layer, &rules, &mut even, &never).expect("nobody stops it");
    let mut times: Vec<f64> = (1..=25)
        .map(|step| {
            let start = Instant::now();
            let (rules, now) = stand(step as f32);
            let reach = PlanBox { low: before.low.min(now.low) - 1.0, high: before.high.max(now.high) + 1.0 };
            grown = regrow(ground, layer, &rules, &mut even, &grown, &reach.into(), &never)
                .expect("nobody stops it");
            before = now;
            start.elapsed().as_secs_f64() * 1e3
        })
        .skip(1)
        .collect();
    times.sort_unstable_by(f64::total_cmp);
    println!(
        "an obstacle of {} triangles dragged through {} plants: median {:.0} ms a step, 95th percentile {:.0} ms",
        mesh.indices.len() / 3,
        grown.plants.len(),
        times[times.len() / 2],
        times[times.len() * 95 / 100]
    );
}

/// Bends marram aside along a wall, a million in the layer.
fn bend(document: &mut Document, ground: &GroundModel) {
    let points = (0..40).map(|i| [i as f32 * 1.5 - 30.0, (i as f32 * 0.7).sin() * 3.0]).collect();
    let shape = Shape::Wall { points, height_m: 1.15, thickness_m: 0.62 };
    let name = "Wall".to_owned();
    let (x_m, z_m, lift_m, on_ground) = (0.0, 20.0, 0.0, true);
    let id = ObstacleId(90);
    document.obstacles = vec![Obstacle {
        id,
        name,
        shape,
        x_m,
        z_m,
        lift_m,
        on_ground,
        turn_deg: 0.0,
        scale: 1.0,
        hidden: false,
    }];
    document.layers[0].clearance.obstacles = Keep { response: TooClose::Bend, ..Keep::FOOTPRINT };
    let mesh = obstacle::mesh(&document.obstacles[0], &ground.terrain, None);
    let tree = Arc::new(MeshDistance::new(&mesh.positions, &mesh.indices));
    let given = Given { obstacles: vec![(id, tree)], ..Given::default() };
    let layer = &document.layers[0];
    let rules = Rules::on(document, layer, GroundId::LAND, &[], &given);
    let never = CancelToken::default();
    let grown =
        grow_with(ground, layer, &rules, &mut ground.no_even_places(1), &never).expect("nobody stops it");
    for (name, details) in [("full detail", FINE), ("as the view shows them", SHOWN)] {
        let start = Instant::now();
        let on = [(GroundId::LAND, rules.clear())];
        let found = fits(document, layer, &on, &grown.plants, details, &never).expect("nobody stops it");
        println!(
            "{} of {} plants bent aside along a wall of 60 m with {} triangles, {name}: {:.0} ms, {} smaller, {} gone",
            found.count(|h| h.bent),
            grown.plants.len(),
            mesh.indices.len() / 3,
            start.elapsed().as_secs_f64() * 1e3,
            found.count(|h| h.smaller),
            found.count(|h| h.gone),
        );
    }
}
