//! Which shape a plant takes.

use super::{Eye, Form, Key, Swaying};
use glam::Vec3;
use rookery_core::math::limb::Turn;
use rookery_core::nursery::{Hung, Pose, Stood};
use std::f32::consts::{FRAC_PI_2, TAU};

/// Steps of direction all round, from the coarsest; half as many of amount up to [`MOST`].
pub(super) const STEPS: [u16; 4] = [8, 16, 32, 64];
/// The amount that steps count up to, radians.
pub(super) const MOST: f32 = 1.4;
/// Parts between the places that tell are off by up to twice as much as those, in one case of thousands: so much less is let pass there.
const MARGIN: f32 = 0.7;
/// Beside the picture only shadows and reflections tell.
const ASIDE: f32 = 8.0;

/// A turn in steps.
#[derive(Clone, Copy)]
pub(super) struct Step {
    pub steps: u16,
    pub way: u16,
    pub rise: i16,
    pub amount: u16,
}

impl Step {
    /// The step next to a turn.
    pub fn near(steps: u16, turn: &Turn) -> Self {
        let each = TAU / f32::from(steps);
        let way = libm::roundf(libm::atan2f(turn.about.z, turn.about.x) / each) as i32;
        let flat = libm::sqrtf(turn.about.x * turn.about.x + turn.about.z * turn.about.z);
        let rise = libm::roundf(libm::atan2f(turn.about.y, flat) / each) as i16;
        let amount = libm::roundf(turn.angle * f32::from(steps) * 0.5 / MOST) as u16;
        Self { steps, way: way.rem_euclid(i32::from(steps)) as u16, rise, amount }
    }

    pub fn turn(self) -> Turn {
        let each = TAU / f32::from(self.steps);
        let (way, rise) =
            (f32::from(self.way) * each, (f32::from(self.rise) * each).clamp(-FRAC_PI_2, FRAC_PI_2));
        let flat = libm::cosf(rise);
        Turn {
            about: Vec3::new(flat * libm::cosf(way), libm::sinf(rise), flat * libm::sinf(way)),
            angle: f32::from(self.amount) * 2.0 * MOST / f32::from(self.steps),
        }
    }
}

/// The coarsest shape that is near enough to a plant's own, with the pose that puts its tip where it should be.
pub(super) fn choose(form: &Form, index: usize, p: &Swaying, eye: &Eye, px: f32) -> (Option<Key>, Pose) {
    let times = p.pose.scale.max_element();
    let (pixel, seen) = eye.pixel_at(p.foot, form.reach * times);
    let most = px * MARGIN * pixel * if seen { 1.0 } else { ASIDE };
    let truth: Vec<Vec3> = form.marks.iter().map(|m| m.turned(&p.pose, &p.turn)).collect();
    // Bent first and then posed, the turn is about the axis in the plant's own frame.
    let own = Turn { about: p.pose.rotation.inverse() * p.turn.about, ..p.turn };
    let try_step = |step: Option<Step>| -> Option<Pose> {
        let turn = step.map_or(Turn { angle: 0.0, ..own }, Step::turn);
        let stood = Stood::of(form.tall, &p.pose, &p.turn, &turn);
        let near = |(m, t): (&Hung, &Vec3)| {
            stood.point(m.turned(&Pose::AS_MADE, &turn)).distance_squared(*t) <= most * most
        };
        (px == f32::INFINITY && step.is_some() || form.marks.iter().zip(&truth).all(near))
            .then_some(stood.pose())
    };
    if let Some(pose) = try_step(None) {
        return (None, pose);
    }
    for steps in STEPS {
        let step = Step::near(steps, &own);
        if let Some(pose) = try_step(Some(step)) {
            let key = (step.amount > 0).then_some(Key::Bank(p.form, steps, step.way, step.rise, step.amount));
            return (key, pose);
        }
    }
    (Some(Key::Own(index)), Pose::AS_MADE)
}
