//! What blowers do at a moment: each stirs the air about the places where it is and has been, and plants answer with their own lag.

use super::course::{Place, place_at};
use crate::document::{Blower, BlowerId, Blows};
use crate::math::power::power;
use glam::{Vec2, Vec3, vec2};
use serde::Serialize;

/// How many places of a blower in the past count.
pub const PAST: usize = 64;
/// Seconds between two of them.
pub const PAST_STEP_S: f64 = 0.1;
/// How often a plant looks back.
pub(super) const TAPS: usize = 32;
/// Times that it looks back in one of its own swings.
pub(super) const TAPS_A_SWING: f32 = 8.0;
/// Share of its reach within which a wash has not yet turned aside: there is less of it right below.
pub(super) const TURNS_ASIDE: f32 = 0.15;

/// A blower over time.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct BlowerTrack {
    /// Which.
    pub id: BlowerId,
    /// Speed of the air next to it, m/s.
    pub speed_m_per_s: f32,
    /// How far it reaches, metres.
    pub reach_m: f32,
    /// The power of what is left of its reach.
    pub falloff: f32,
    /// Where it blows to on the plan, x and z, a unit vector; to all sides when none.
    pub heading: Option<[f32; 2]>,
    /// Where it is.
    pub places: Vec<Place>,
}

/// A blower at a moment, with where it was before.
#[derive(Clone, Debug, PartialEq)]
pub struct BlowerNow {
    /// Where it was, the newest first, [`PAST_STEP_S`] apart.
    pub past: [Vec3; PAST],
    /// A ball that all it stirred lies in.
    pub middle: Vec3,
    /// Of that ball, metres.
    pub radius_m: f32,
    track: BlowerTrack,
}

impl BlowerTrack {
    pub(super) fn new(b: &Blower, places: Vec<Place>) -> Self {
        let heading = match b.blows {
            Blows::Outwards {} => None,
            Blows::From { deg } => Some(crate::air::heading(deg)),
        };
        let (id, speed_m_per_s, reach_m, falloff) = (b.id, b.speed_m_per_s, b.reach_m, b.falloff);
        Self { id, speed_m_per_s, reach_m, falloff, heading, places }
    }

    /// The box that its whole way lies in.
    pub(super) fn bounds(&self) -> (Vec3, Vec3) {
        let first = self.places[0].at_m;
        self.places.iter().fold((first, first), |(low, high), p| (low.min(p.at_m), high.max(p.at_m)))
    }

    /// Whether it ever blows at a point; `bounds` are those of its way.
    pub(super) fn reaches(&self, at: Vec3, (low, high): (Vec3, Vec3)) -> bool {
        let reach = self.reach_m * self.reach_m;
        at.distance_squared(at.clamp(low, high)) < reach
            && self.places.iter().any(|p| p.at_m.distance_squared(at) < reach)
    }

    pub(super) fn at(&self, time_s: f64) -> BlowerNow {
        let past = std::array::from_fn(|k| place_at(&self.places, time_s - k as f64 * PAST_STEP_S).at_m);
        let (low, high) = past.iter().fold((past[0], past[0]), |(l, h), p| (l.min(*p), h.max(*p)));
        let middle = (low + high) * 0.5;
        BlowerNow { past, middle, radius_m: (high - middle).length() + self.reach_m, track: self.clone() }
    }

    /// The wind it makes at a point while it is at another: m/s, x and z.
    pub fn wind(&self, at: Vec3, from: Vec3) -> Vec2 {
        let to = at - from;
        let left = 1.0 - to.length_squared() / (self.reach_m * self.reach_m);
        if left <= 0.0 {
            return Vec2::ZERO;
        }
        let speed = self.speed_m_per_s * power(left, self.falloff);
        let way = match self.heading {
            Some([x, z]) => vec2(x, z),
            None => {
                let aside = vec2(to.x, to.z);
                let soft = TURNS_ASIDE * self.reach_m;
                aside / (aside.length_squared() + soft * soft).sqrt()
            }
        };
        way * speed
    }
}

impl BlowerNow {
    /// What it does to a plant that meets the air at a point: the power `of` of its speed, x and z, as the plant answers it that sways at
    /// `hz` and is so damped.
    pub(super) fn push(&self, at: Vec3, hz: f32, damping: f32, of: f32) -> Vec2 {
        if (at - self.middle).length_squared() >= self.radius_m * self.radius_m {
            return Vec2::ZERO;
        }
        let between = 1.0 / (hz * TAPS_A_SWING * PAST_STEP_S as f32);
        let mut sum = Vec2::ZERO;
        for (k, weight) in weights(damping).into_iter().enumerate() {
            let back = ((k as f32 + 0.5) * between).min((PAST - 1) as f32);
            let i = (back as usize).min(PAST - 2);
            let was = self.past[i] + (self.past[i + 1] - self.past[i]) * (back - i as f32);
            let wind = self.track.wind(at, was);
            let speed = wind.length();
            if speed > 1e-6 {
                sum += wind * (weight * power(speed, of) / speed);
            }
        }
        sum
    }
}

/// How much a plant of a damping answers what pushed it a while ago: its answer to a single knock, looked at so often that the first four
/// swings are seen, and scaled so that a steady push counts once.
fn weights(damping: f32) -> [f32; TAPS] {
    let raw: [f32; TAPS] = std::array::from_fn(|k| {
        let turns = (k as f32 + 0.5) / TAPS_A_SWING;
        libm::expf(-damping * std::f32::consts::TAU * turns) * libm::sinf(std::f32::consts::TAU * turns)
    });
    let sum: f32 = raw.iter().sum();
    raw.map(|w| w / sum)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Course, PathNode};
    use crate::motion::course::places;

    fn flying() -> BlowerTrack {
        let node = |time_s, x_m| PathNode { time_s, x_m, z_m: 0.0, over_m: 2.0 };
        let course = Course::Path { nodes: vec![node(0.0, -30.0), node(10.0, 30.0)] };
        let places = places(&course, None, 0.0, 0.5);
        BlowerTrack {
            id: BlowerId(1),
            speed_m_per_s: 12.0,
            reach_m: 8.0,
            falloff: 1.0,
            heading: None,
            places,
        }
    }

    #[test]
    fn a_wash_blows_outwards_ends_at_its_reach_and_is_still_right_below() {
        let t = flying();
        let from = Vec3::new(0.0, 2.0, 0.0);
        let east = t.wind(Vec3::new(3.0, 0.0, 0.0), from);
        assert!(east.x > 5.0 && east.y.abs() < 1e-6, "{east}");
        assert_eq!(t.wind(Vec3::new(0.0, 0.0, 8.0), from), Vec2::ZERO);
        assert_eq!(t.wind(Vec3::ZERO, from), Vec2::ZERO);
        let one = BlowerTrack { heading: Some([0.0, 1.0]), ..t };
        assert!((one.wind(Vec3::ZERO, from) - vec2(0.0, 12.0 * (1.0 - 4.0 / 64.0))).length() < 1e-4);
    }

    /// The oscillator itself, stepped through time under the same push.
    #[test]
    fn a_plant_answers_a_passing_blower_as_its_oscillator_does() {
        let t = flying();
        let at = Vec3::new(1.0, 0.3, 2.0);
        for (hz, damping) in [(2.0_f32, 0.13_f32), (1.0, 0.12)] {
            let force = |time: f64| {
                let w = t.wind(at, place_at(&t.places, time).at_m);
                f64::from(w.y * w.length())
            };
            let (mut x, mut v, mut worst, mut most) = (0.0_f64, 0.0_f64, 0.0_f64, 0.0_f64);
            let omega = std::f64::consts::TAU * f64::from(hz);
            let h = 1e-3;
            for step in 0..10_000_u32 {
                let time = f64::from(step) * h;
                v += (omega * omega * (force(time) - x) - 2.0 * f64::from(damping) * omega * v) * h;
                x += v * h;
                if step % 50 == 0 {
                    let told = f64::from(t.at(time + h).push(at, hz, damping, 2.0).y);
                    worst = worst.max((told - x).abs());
                    most = most.max(x.abs());
                }
            }
            assert!(worst < 0.12 * most, "{hz} Hz: off by {worst} of {most}");
        }
        let still = BlowerTrack { places: t.places[..1].to_vec(), ..t.clone() };
        let wind = still.wind(Vec3::new(-27.0, 0.0, 1.0), still.places[0].at_m);
        let steady = still.at(3.0).push(Vec3::new(-27.0, 0.0, 1.0), 1.4, 0.1, 2.0);
        assert!((steady - wind * wind.length()).length() < 1e-3 * steady.length());
    }
}
