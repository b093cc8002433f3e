//! How a scene file moves.

use super::failure::{Failure, print_json};
use super::inspect::point;
use super::scene_file::{document, flow, grounds, grown, moving, obstacles, with_species};
use glam::Vec3;
use rookery_core::motion::{LayerMotion, MotionFacts, Now, Place, Standing, place_at};
use rookery_core::scene::{BodyId, GroundId, Layer};
use serde::Serialize;
use std::path::Path;

#[derive(Serialize)]
struct Told {
    /// Seconds.
    time_s: f64,
    #[serde(flatten)]
    facts: MotionFacts,
    /// How the plants of each layer stand at that time.
    leaning: Vec<Leaning>,
    /// Where bodies are then.
    there: Vec<There>,
    /// How far grounds that move are from where they stand.
    carried: Vec<Carried>,
}

#[derive(Serialize)]
struct Carried {
    ground: GroundId,
    /// East, up, south, metres.
    by_m: Vec3,
    /// Clockwise, degrees.
    turned_deg: f32,
}

#[derive(Serialize)]
struct There {
    id: BodyId,
    #[serde(flatten)]
    place: Place,
}

#[derive(Serialize)]
struct Leaning {
    layer: String,
    plants: usize,
    /// How far tips are turned, degrees: least, on the mean, most.
    turned_deg: [f32; 3],
}

/// Tells how a scene moves, and how its plants stand at a time; or the mean wind over a point of the land.
pub(super) fn motion(path: &Path, time_s: f64, at: Option<&str>) -> Result<(), Failure> {
    let scene = with_species(path, document(path)?)?;
    if !(0.0..=3600.0).contains(&time_s) {
        return Err(Failure::bad(format!("a time is 0 to 3600 seconds; {time_s} is not")));
    }
    let grounds = grounds(path, &scene)?;
    let grown = grown(path, &scene, &grounds, |l| l.visible)?;
    let standing: Vec<Standing> =
        grown.iter().map(|(l, g)| (l, g.plants.as_slice(), g.tally.covered())).collect();
    let obstacles = obstacles(path, &scene, &grounds)?;
    let flow = flow(&scene, &grounds, &obstacles)?;
    let moving = moving(path, &scene, &grounds, &obstacles)?;
    let now = Now::new(&scene, &moving, time_s);
    let bodies = moving.bodies.iter().map(|b| There { id: b.id, place: place_at(&b.places, time_s) });
    let bodies = bodies.collect();
    let carried = now.grounds.iter().map(|g| Carried {
        ground: g.ground,
        by_m: g.by,
        turned_deg: g.turn_rad.to_degrees(),
    });
    let carried = carried.collect();
    let facts = MotionFacts { flow, ..MotionFacts::of(&scene, &standing) }.with(&scene, &standing, moving);
    let turned = |layer: &LayerMotion, (l, plants, _): &(&Layer, &[rookery_core::planting::Plant], f32)| {
        let all = plants.iter().map(|p| {
            let [x, z] = facts.turned(layer, p, &now);
            (x * x + z * z).sqrt().to_degrees()
        });
        let (low, high, sum) = all
            .fold((f32::INFINITY, 0.0_f32, 0.0_f64), |(a, b, s), v| (a.min(v), b.max(v), s + f64::from(v)));
        let mean = (sum / plants.len().max(1) as f64) as f32;
        let low = if plants.is_empty() { 0.0 } else { low };
        Leaning { layer: l.name.clone(), plants: plants.len(), turned_deg: [low, mean, high] }
    };
    if let Some(at) = at {
        let (x, z) = point(at)?;
        let half = grounds.land.terrain.size_m() * 0.5;
        if scene.ground.absent || !(x.abs() <= half.x && z.abs() <= half.y) {
            return Err(Failure::bad(format!("the point {x}, {z} is not on the ground")));
        }
        return print_json(&facts.over_point(Vec3::new(x, grounds.land.terrain.height_at(x, z), z)));
    }
    let leaning = facts.layers.iter().zip(&standing).map(|(m, s)| turned(m, s)).collect();
    print_json(&Told { time_s, facts: facts.clone(), leaning, there: bodies, carried })
}
