//! In a steady wind a tree leans and stays; its leaves flutter.

use glam::Vec3;
use rookery_core::cancel::CancelToken;
use rookery_core::motion::MotionFacts;
use rookery_core::planting::Plant;
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::scene::{Shot, tarn_moraine};
use rookery_render::light::Light;
use rookery_render::{Developing, Film, Moment, RenderScene, StillSettings, take_shot};

fn picture(speed: f32, time_s: f64) -> Film {
    let mut document = tarn_moraine();
    document.blowers.clear();
    document.motion.wind.speed_m_per_s = speed;
    document.motion.wind.gusts.strength = 0.0;
    document.layers.retain(|l| l.mix.iter().any(|m| m.species.0 == "downy-birch"));
    let plants = [Plant { position_m: Vec3::ZERO, ..Plant::UPRIGHT }];
    let none = Fits::default();
    let layers = [(&document.layers[0], plants.as_slice(), &none)];
    let shot = Shot {
        eye_m: [0.0, 5.0, 7.0],
        target_m: [0.0, 5.0, 0.0],
        view_deg: 30.0,
        width_px: 96,
        height_px: 96,
        samples: 4,
        ..document.shots[0].clone()
    };
    let mut scene =
        RenderScene::new(Vec::new(), Vec::new(), Vec::new(), &document, &layers, Light::new(&shot));
    let facts = MotionFacts::of(&document, &[(&document.layers[0], plants.as_slice(), 0.5)]);
    scene.bend(&document, &layers, &Moment::new(&document, &facts, time_s, &shot));
    let never = CancelToken::default();
    take_shot(&scene, &shot, StillSettings::new(&shot), &never, &Developing::default(), |_| ()).unwrap()
}

#[test]
fn one_moment_is_another_picture_than_the_next_and_a_calm_is_not() {
    let other = |a: &Film, b: &Film| a.pixels.iter().zip(&b.pixels).filter(|(p, q)| p != q).count();
    let (now, soon) = (picture(6.0, 1.0), picture(6.0, 1.1));
    assert!(other(&now, &soon) > 96 * 96 / 20, "{} pixels are others", other(&now, &soon));
    assert_eq!(other(&now, &picture(6.0, 1.0)), 0);
    assert_eq!(other(&picture(0.0, 1.0), &picture(0.0, 1.1)), 0);
}
