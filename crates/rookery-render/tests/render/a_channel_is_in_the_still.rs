//! A ball that rolled through a stand leaves its channel in the still, and nothing else of it.

use glam::{Vec2, vec3};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{Frame, GroundModel, GroundRef, Terrain};
use rookery_core::motion::{MotionFacts, Moving};
use rookery_core::planting::Plant;
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::scene::{
    Body, BodyForm, BodyId, Course, Document, GroundId, PathNode, Shot, kittiwake_head,
};
use rookery_render::light::Light;
use rookery_render::{Developing, Moment, RenderScene, StillSettings, take_shot};

#[test]
fn a_ball_leaves_a_channel() {
    let mut document = kittiwake_head();
    document.motion.wind.speed_m_per_s = 0.0;
    document.layers.truncate(1);
    assert_eq!(document.layers[0].mix[0].species.0, "marram");
    let ground = GroundModel::new(Terrain::new(17, 17, Vec2::ONE, vec![0.0; 17 * 17]).unwrap(), None, 1);
    // A stand of marram in rows, half a metre apart.
    let plants: Vec<Plant> = (0..400_u16)
        .map(|i| Plant {
            position_m: vec3(f32::from(i % 20) * 0.5 - 4.75, 0.0, f32::from(i / 20) * 0.5 - 4.75),
            tint: i * 131,
            ..Plant::UPRIGHT
        })
        .collect();
    let node = |time_s, x_m| PathNode { time_s, x_m, z_m: 0.0, over_m: 0.0 };
    let course = Course::Path { nodes: vec![node(0.0, -7.0), node(2.0, 7.0)] };
    let form = BodyForm::Ball { radius_m: 0.6 };
    let body =
        Body { id: BodyId(1), name: "Ball".into(), form, course, loose: None, felt: true, hidden: false };
    // From above: what lies far from the way is the same to the bit.
    let shot = Shot {
        eye_m: [0.0, 14.0, 0.01],
        target_m: [0.0, 0.0, 0.0],
        view_deg: 40.0,
        width_px: 96,
        height_px: 96,
        samples: 4,
        ..document.shots[0].clone()
    };
    let picture = |felt: bool, time_s: f64| {
        let document = Document { bodies: vec![Body { felt, ..body.clone() }], ..document.clone() };
        let none = Fits::default();
        let layers = [(&document.layers[0], plants.as_slice(), &none)];
        let land = GroundRef::from(&ground).mesh(&Frame::SCENE);
        let mut scene = RenderScene::new(
            vec![(GroundId::LAND, land)],
            Vec::new(),
            Vec::new(),
            &document,
            &layers,
            Light::new(&shot),
        );
        let moving = Moving::over(&document, Some(&ground.terrain), &[], &CancelToken::default()).unwrap();
        scene.put_in(&moving);
        let standing = [(&document.layers[0], plants.as_slice(), 0.5)];
        let facts = MotionFacts { moving, ..MotionFacts::of(&document, &standing) };
        scene.bend(&document, &layers, &Moment::new(&document, &facts, time_s, &shot));
        take_shot(
            &scene,
            &shot,
            StillSettings::new(&shot),
            &CancelToken::default(),
            &Developing::default(),
            |_| (),
        )
        .unwrap()
    };
    let (stood, pressed) = (picture(false, 1.9), picture(true, 1.9));
    // Rows of the picture: the way goes along its middle, about 9 pixels a metre.
    let other =
        |row: usize| (0..96).filter(|x| stood.pixels[row * 96 + x] != pressed.pixels[row * 96 + x]).count();
    let (on_it, beside) =
        ((44..52).map(other).sum::<usize>(), (0..16).chain(80..96).map(other).sum::<usize>());
    assert!(on_it > 8 * 96 / 2, "{on_it} pixels of the channel are others");
    assert!(beside < 96, "{beside} pixels far from it are others");
    // Before the ball comes nothing is pressed where it will be.
    let (stood, coming) = (picture(false, 0.6), picture(true, 0.6));
    let ahead = (40..56).flat_map(|row| (72..96).map(move |x| row * 96 + x));
    let other = ahead.filter(|i| stood.pixels[*i] != coming.pixels[*i]).count();
    assert!(other < 40, "{other} pixels ahead of it are others");
}
