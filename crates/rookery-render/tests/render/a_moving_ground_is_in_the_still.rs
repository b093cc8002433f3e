//! A ground that was moved is in the still with its grain and what grows on it, as if the camera had gone the other way.

use glam::{Vec3, vec3};
use rookery_core::cancel::CancelToken;
use rookery_core::motion::{MotionFacts, Moving};
use rookery_core::nursery::Mesh;
use rookery_core::planting::Plant;
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::scene::{GroundId, GroundMoves, MoveKey, Shot, needle_arch};
use rookery_render::light::Light;
use rookery_render::{Developing, Film, Moment, RenderScene, StillSettings, take_shot};

/// A square of ground, 12 m wide.
fn raft() -> Mesh {
    Mesh {
        positions: [[-6.0, -6.0], [6.0, -6.0], [6.0, 6.0], [-6.0, 6.0]].map(|[x, z]| vec3(x, 0.0, z)).into(),
        normals: vec![Vec3::Y; 4],
        colours: vec![vec3(0.2, 0.25, 0.12); 4],
        indices: vec![0, 2, 1, 0, 3, 2],
        ..Mesh::default()
    }
}

fn key(time_s: f32, x_m: f32, y_m: f32) -> MoveKey {
    MoveKey { time_s, x_m, y_m, z_m: 0.0, turn_deg: 0.0 }
}

/// The raft at a time, with plants that bend and stones that do not, from so far east and up.
fn picture(time_s: f64, aside: Vec3) -> Film {
    let mut document = needle_arch();
    document.motion.wind.speed_m_per_s = 0.0;
    document.bodies.clear();
    let id = document.grounds[0].id;
    document.grounds[0].moves = Some(GroundMoves { keys: vec![key(0.0, 0.0, 0.0), key(1.0, 3.0, 0.5)] });
    let of = |species: &str| {
        document.layers.iter().find(|l| l.mix.iter().any(|m| m.species.0 == species)).unwrap().clone()
    };
    let (grass, stones) = (document.layers[0].clone(), of("boulder"));
    document.layers = vec![grass, stones];
    let plants = |many: u16, apart: f32, on: GroundId| -> Vec<Plant> {
        (0..many)
            .map(|i| Plant {
                carrier: on,
                position_m: vec3(f32::from(i % 8) * apart - 3.0, 0.0, f32::from(i / 8) * apart - 3.0),
                tint: i * 131,
                size: 2.0,
                ..Plant::UPRIGHT
            })
            .collect()
    };
    let (tufts, stones) = (plants(64, 0.7, id), plants(8, 0.9, id));
    let none = Fits::default();
    let layers =
        [(&document.layers[0], tufts.as_slice(), &none), (&document.layers[1], stones.as_slice(), &none)];
    let shot = Shot {
        eye_m: (vec3(2.0, 5.0, 9.0) + aside).into(),
        target_m: aside.into(),
        view_deg: 40.0,
        width_px: 96,
        height_px: 72,
        samples: 4,
        ..document.shots[0].clone()
    };
    let mut scene =
        RenderScene::new(vec![(id, raft())], Vec::new(), Vec::new(), &document, &layers, Light::new(&shot));
    let moving = Moving::over(&document, None, &[], &CancelToken::default()).unwrap();
    let standing =
        [(&document.layers[0], tufts.as_slice(), 0.5), (&document.layers[1], stones.as_slice(), 0.1)];
    let facts = MotionFacts { moving, ..MotionFacts::of(&document, &standing) };
    // Bent twice: what was moved once is not moved again.
    for time in [0.5, time_s] {
        scene.bend(&document, &layers, &Moment::new(&document, &facts, time, &shot));
    }
    let never = CancelToken::default();
    take_shot(&scene, &shot, StillSettings::new(&shot), &never, &Developing::default(), |_| ()).unwrap()
}

/// Share of the pixels that differ by more than a hundredth.
fn other(a: &Film, b: &Film) -> f32 {
    let differs = a.pixels.iter().zip(&b.pixels).filter(|(p, q)| (**p - **q).abs().max_element() > 0.01);
    differs.count() as f32 / a.pixels.len() as f32
}

#[test]
fn it_looks_the_same_from_as_far_aside_once_it_has_come_to_rest() {
    // Ten minutes later nothing sways any more.
    let stands = picture(0.0, Vec3::ZERO);
    let moved = picture(600.0, vec3(3.0, 0.5, 0.0));
    assert!(other(&stands, &moved) < 0.03, "{} of the pixels are others", other(&stands, &moved));
    // From where it stood it is another picture.
    assert!(other(&stands, &picture(600.0, Vec3::ZERO)) > 0.3);
}

#[test]
fn what_grows_on_it_lags_behind_while_it_is_pulled() {
    let stands = picture(0.0, Vec3::ZERO);
    // Where it is after 0.15 s of a second from rest to rest: 3 u2 - 2 u3 of its way.
    let gone = 3.0 * 0.15 * 0.15 - 2.0 * 0.15 * 0.15 * 0.15;
    let pulled = picture(0.15, vec3(3.0, 0.5, 0.0) * gone);
    let other = other(&stands, &pulled);
    // The tufts lean; ground and stones are where they were.
    assert!((0.02..0.4).contains(&other), "{other}");
}
