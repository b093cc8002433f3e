use super::choice::{MOST, STEPS};
use super::*;
use glam::Quat;
use proptest::prelude::*;
use rookery_core::motion::Gusts;
use rookery_core::nursery::{Detail, Season, ready};
use rookery_core::scene::kittiwake_head;
use std::f32::consts::TAU;

fn form_of(id: &str) -> Form {
    let species = ready().iter().find(|s| s.id.0 == id).unwrap();
    Form::new(species.build(2, Detail::Full, Season::SUMMER), species.height_m(), None)
}

/// Someone at the origin who looks along x, at 1080 lines of 40 degrees.
fn eye() -> Eye {
    let shot = kittiwake_head().shots[0].clone();
    let shot = Shot {
        eye_m: [0.0; 3],
        target_m: [1.0, 0.0, 0.0],
        view_deg: 40.0,
        width_px: 1920,
        height_px: 1080,
        ..shot
    };
    Eye::new(&shot)
}

/// How far the furthest vertex of a plant as it is shown is from where it belongs, metres.
fn off(form: &Form, p: &Swaying, key: Option<Key>, pose: &Pose) -> f32 {
    let truth = form.mesh.turned(&p.pose, &p.turn, form.tall);
    let shown = match key {
        None => form.mesh.clone(),
        Some(Key::Own(_)) => return 0.0,
        Some(Key::Bank(_, steps, way, rise, amount)) => {
            form.mesh.turned(&Pose::AS_MADE, &Step { steps, way, rise, amount }.turn(), form.tall)
        }
    };
    let each = shown.positions.iter().zip(&truth.positions).map(|(a, b)| pose.point(*a).distance(*b));
    each.fold(0.0, f32::max)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(150))]

    #[test]
    fn no_part_of_a_plant_is_off_by_a_pixel(
        far in 1.0_f32..120.0, angle in 0.01_f32..1.3, way in 0.0_f32..TAU, yaw in 0.0_f32..TAU, tilt in 0.0_f32..0.5, lean in 0.0_f32..TAU,
        tall in 0.8_f32..1.3, which in any::<prop::sample::Index>(),
    ) {
        let swaying: Vec<&str> = ready().iter().filter(|s| s.sway().is_some()).map(|s| s.id.0.as_str()).collect();
        let form = form_of(swaying[which.index(swaying.len())]);
        let rotation = Quat::from_axis_angle(Vec3::new(lean.cos(), 0.0, lean.sin()), tilt) * Quat::from_rotation_y(yaw);
        let pose = Pose { rotation, scale: Vec3::new(1.0, tall, 1.0) };
        let turn = Turn::towards([angle * way.cos(), angle * way.sin()]);
        let plant = Swaying { instance: 0, form: 0, foot: Vec3::new(far, 0.0, 0.0), pose, turn };
        let (key, pose) = choose(&form, 0, &plant, &eye(), 0.5);
        let (pixel, seen) = eye().pixel_at(plant.foot, form.reach * tall);
        prop_assert!(seen);
        // Half a pixel is aimed at; what lies between the places that tell may be further off.
        let off = off(&form, &plant, key, &pose) / pixel;
        prop_assert!(off < 1.0, "{off} px with {key:?}");
    }

    #[test]
    fn a_step_is_as_near_as_half_of_one(x in -1.0_f32..1.0, y in -1.0_f32..1.0, z in -1.0_f32..1.0, angle in 0.0_f32..1.4) {
        let about = Vec3::new(x, y, z);
        prop_assume!(about.length() > 0.05);
        let turn = Turn { about: about.normalize(), angle };
        for steps in STEPS {
            let near = Step::near(steps, &turn).turn();
            let each = TAU / f32::from(steps);
            prop_assert!(near.about.angle_between(turn.about) <= 0.72 * each, "{} of {}", near.about, turn.about);
            prop_assert!((near.angle - turn.angle).abs() <= MOST / f32::from(steps) + 1e-5);
        }
    }
}

#[test]
fn near_plants_get_finer_shapes_and_far_ones_share_few() {
    let forms = [form_of("marram")];
    let plants = |far: f32| -> Vec<Swaying> {
        let all = (0..400).map(|i| {
            let (yaw, more) = (i as f32 * 2.4, (i % 17) as f32 / 17.0);
            let pose = Pose { rotation: Quat::from_rotation_y(yaw), scale: Vec3::splat(0.8 + 0.4 * more) };
            let turn = Turn::towards([0.3 + 0.1 * more, 0.05 * (i % 5) as f32]);
            let foot = Vec3::new(far, 0.0, (i % 20) as f32 * 0.1);
            Swaying { instance: i, form: 0, foot, pose, turn }
        });
        all.collect()
    };
    let facts = MotionFacts::of(&kittiwake_head(), &[]);
    let now = Now::windy(Gusts::new(&kittiwake_head().motion.wind).at(1.0));
    let moment = Moment { facts: &facts, now, time_s: 1.0, eye: eye() };
    let counted = |far| settle(&forms, &plants(far), &moment).2;
    let (near, middle, far) = (counted(2.0), counted(25.0), counted(200.0));
    assert!(near.own > 300 && near.within_px == 0.5, "{near:?}");
    assert!(middle.own == 0 && middle.shapes < 250, "{middle:?}");
    assert!(far.shapes < middle.shapes / 3 && far.triangles < middle.triangles / 3, "{far:?}, {middle:?}");
    assert_eq!([near.plants, far.plants], [400, 400]);
}
