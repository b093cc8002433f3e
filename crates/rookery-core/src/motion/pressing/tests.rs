use super::*;
use crate::document::{BodyForm, BodyId, Course, PathNode};
use crate::motion::MOST_TILT;
use crate::motion::course::places;
use proptest::prelude::*;

fn ball(nodes: &[(f32, f32, f32, f32)]) -> BodyTrack {
    let nodes = nodes.iter().map(|n| PathNode { time_s: n.0, x_m: n.1, z_m: n.2, over_m: n.3 }).collect();
    let course = Course::Path { nodes };
    let body = Body {
        id: BodyId(1),
        name: "Ball".into(),
        form: BodyForm::Ball { radius_m: 0.5 },
        course: course.clone(),
        loose: None,
        felt: true,
        hidden: false,
    };
    BodyTrack::new(&body, 0.5, places(&course, None, 0.5, 0.25))
}

fn marram() -> Sway {
    let (streamlining, most_rad, pressed_rad) = (0.0, MOST_TILT, MOST_TILT);
    Sway { hz: 1.5, damping: 0.13, lean: 0.2, streamlining, most_rad, pressed_rad, lodging: 0.2 }
}

fn stem(x: f32, z: f32) -> Stem {
    Stem { foot: Vec3::new(x, 0.0, z), height_m: 0.6, spread_m: 0.2, hz: 1.5 }
}

fn pressed(t: &BodyTrack, at: &Stem, time_s: f64) -> Vec2 {
    t.at(time_s).press(Vec2::ZERO, at, &marram())
}

#[test]
fn a_ball_opens_a_channel_that_rises_again_but_for_what_stays_lying() {
    let t = ball(&[(1.0, -10.0, 0.0, 0.0), (6.0, 10.0, 0.0, 0.0)]);
    // 4 m/s; it is at the middle at 3.5 s.
    for z in [0.1_f32, -0.1, 0.3, -0.3] {
        let s = stem(0.0, z);
        assert_eq!(pressed(&t, &s, 2.9), Vec2::ZERO);
        let under = pressed(&t, &s, 3.5);
        assert!(under.length() > 0.6 && under.x > 0.0 && under.y * z > 0.0, "{z}: {under}");
        let least = (0..400).map(|i| pressed(&t, &s, 3.7 + f64::from(i) * 0.01).dot(under));
        assert!(least.fold(f32::MAX, f32::min) < 0.15 * under.length_squared(), "{z}: it swings past");
        let after = pressed(&t, &s, 60.0);
        assert!((after - under * 0.2).length() < 0.02, "{z}: {after} of {under}");
    }
    assert_eq!(pressed(&t, &stem(0.0, 0.8), 3.5), Vec2::ZERO);
    // What stands where it comes to rest stays down for ever.
    let end = pressed(&t, &stem(10.0, 0.1), 3000.0);
    assert!(end.length() > 0.9, "{end}");
}

#[test]
fn a_ball_in_the_air_and_a_small_one_under_a_tree_press_nothing_to_speak_of() {
    let t = ball(&[(0.0, -10.0, 0.0, 2.0), (5.0, 10.0, 0.0, 2.0)]);
    assert_eq!(pressed(&t, &stem(0.0, 0.1), 2.5), Vec2::ZERO);
    let t = ball(&[(0.0, -10.0, 0.0, 0.0), (5.0, 10.0, 0.0, 0.0)]);
    let tree = Stem { height_m: 12.0, ..stem(0.0, 0.1) };
    assert!(pressed(&t, &tree, 2.5).length() < 0.03);
    let unfelt = BodyTrack { felt: false, ..t };
    assert_eq!(pressed(&unfelt, &stem(0.0, 0.1), 2.5), Vec2::ZERO);
}

#[test]
fn its_way_keeps_to_what_it_is_and_fits_into_a_row() {
    let nodes: Vec<_> = (0..60_u16)
        .map(|i| (f32::from(i), f32::from(i % 9) * 7.0, f32::from(i * 7 % 13) * 5.0, f32::from(i % 3)))
        .collect();
    let t = ball(&nodes);
    assert!(t.points.len() <= MOST_POINTS && t.places.len() > 2 * MOST_POINTS, "{}", t.points.len());
    let straight = ball(&[(0.0, -10.0, 0.0, 0.0), (5.0, 10.0, 0.0, 0.0)]);
    assert_eq!(straight.points.len(), 2);
}

proptest! {
    /// On a way that comes back over itself nothing jumps in time, and nothing is pressed down more than wholly.
    #[test]
    fn nothing_jumps_in_time(
        way in prop::collection::vec((-3.0..3.0_f32, -3.0..3.0_f32), 3..8),
        x in -3.0..3.0_f32,
        z in -3.0..3.0_f32,
    ) {
        let nodes: Vec<_> = way.iter().enumerate().map(|(i, p)| (i as f32 * 1.5, p.0, p.1, 0.0)).collect();
        let t = ball(&nodes);
        let s = stem(x, z);
        let mut last = pressed(&t, &s, 0.0);
        for i in 1..6500_u32 {
            let now = pressed(&t, &s, f64::from(i) * 0.002);
            prop_assert!(now.length() <= 1.0 + 1e-4, "{}", now);
            prop_assert!((now - last).length() < 0.1, "at {} s from {} to {}", f64::from(i) * 0.002, last, now);
            last = now;
        }
    }
}
