//! Grounds that move, and how what stands on them lags behind.
//!
//! A ground goes from key to key along a cubic spline that is at rest at both ends, so its acceleration is a straight line between keys.
//! A plant on it is the oscillator that it is in the wind, pushed by its own weight against that acceleration. In a straight line of
//! acceleration the oscillator has a motion without swinging; where lines meet, at the keys, what it lacks of the next one swings out. So
//! a plant at any time is the sum of a few terms, one for each key that is past, and nothing is played from the start.

use crate::document::{GroundId, MoveKey, PlacedGround};
use crate::math::sine::{cos_turns, sin_turns};
use glam::{Quat, Vec2, Vec3, vec2, vec3};
use serde::Serialize;
use std::f32::consts::TAU;

/// Tip deflection of a bar that is shaken at its foot, against that of a weight on a spring of the same frequency: the participation of
/// the first mode of an even cantilever times its shape at the tip. From memory of textbooks on structural dynamics.
pub(super) const TIP: f32 = 1.566;
/// Swings that have faded by more than this power of e are over.
pub(super) const FADED: f32 = 12.0;

/// How a ground moves.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Ride {
    /// Which.
    pub ground: GroundId,
    /// What it turns about: x and z, metres.
    pub about_m: [f32; 2],
    /// Where it is at each key, against where it stands.
    pub keys: Vec<RideKey>,
}

/// Where a ground is at a key, and its acceleration there. Numbers are east, up, south, metres, and clockwise, radians.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct RideKey {
    /// Seconds.
    pub time_s: f32,
    /// Where.
    pub at: [f32; 4],
    /// A second, twice.
    pub pull: [f32; 4],
}

/// The second derivatives of the cubic spline through values at times, at rest at both ends (de Boor, A Practical Guide to Splines,
/// chapter IV, "complete" ends): a system of three diagonals.
fn pulls(times: &[f64], values: &[f64]) -> Vec<f64> {
    let n = times.len();
    let slope = |i: usize| (values[i + 1] - values[i]) / (times[i + 1] - times[i]);
    let row = |i: usize| {
        let before = if i > 0 { times[i] - times[i - 1] } else { 0.0 };
        let after = if i + 1 < n { times[i + 1] - times[i] } else { 0.0 };
        let into = if i > 0 { slope(i - 1) } else { 0.0 };
        let out = if i + 1 < n { slope(i) } else { 0.0 };
        (before, 2.0 * (before + after), after, 6.0 * (out - into))
    };
    let mut upper = vec![0.0; n];
    let mut right = vec![0.0; n];
    for i in 0..n {
        let (a, b, c, r) = row(i);
        let (u, d) = if i > 0 { (upper[i - 1], right[i - 1]) } else { (0.0, 0.0) };
        let by = b - a * u;
        upper[i] = c / by;
        right[i] = (r - a * d) / by;
    }
    for i in (0..n - 1).rev() {
        right[i] -= upper[i] * right[i + 1];
    }
    right
}

impl Ride {
    /// How a ground moves; none for one that stays.
    pub fn new(ground: &PlacedGround) -> Option<Self> {
        let keys = &ground.moves.as_ref()?.keys;
        let of = |k: &MoveKey| [k.x_m, k.y_m, k.z_m, k.turn_deg.to_radians()];
        let times: Vec<f64> = keys.iter().map(|k| f64::from(k.time_s)).collect();
        let pulls: [Vec<f64>; 4] = std::array::from_fn(|c| {
            let values: Vec<f64> = keys.iter().map(|k| f64::from(of(k)[c])).collect();
            pulls(&times, &values)
        });
        let key = |(i, k): (usize, &MoveKey)| RideKey {
            time_s: k.time_s,
            at: of(k),
            pull: std::array::from_fn(|c| pulls[c][i] as f32),
        };
        Some(Self {
            ground: ground.id,
            about_m: [ground.x_m, ground.z_m],
            keys: keys.iter().enumerate().map(key).collect(),
        })
    }

    /// The change of acceleration per second from a key on; nothing behind the last.
    fn slope(&self, nth: usize) -> [f32; 4] {
        match (self.keys.get(nth), self.keys.get(nth + 1)) {
            (Some(a), Some(b)) => std::array::from_fn(|c| (b.pull[c] - a.pull[c]) / (b.time_s - a.time_s)),
            _ => [0.0; 4],
        }
    }

    /// At a time, seconds.
    pub fn at(&self, time_s: f64) -> RideNow {
        let past = self.keys.partition_point(|k| f64::from(k.time_s) <= time_s);
        let (at, pull, slope) = match past.checked_sub(1) {
            None => (self.keys[0].at, [0.0; 4], [0.0; 4]),
            Some(last) if last + 1 == self.keys.len() => (self.keys[last].at, [0.0; 4], [0.0; 4]),
            Some(nth) => {
                let (from, to) = (&self.keys[nth], &self.keys[nth + 1]);
                let long = f64::from(to.time_s) - f64::from(from.time_s);
                let b = (time_s - f64::from(from.time_s)) / long;
                let a = 1.0 - b;
                let at = std::array::from_fn(|c| {
                    let straight = a * f64::from(from.at[c]) + b * f64::from(to.at[c]);
                    let bent =
                        (a * a * a - a) * f64::from(from.pull[c]) + (b * b * b - b) * f64::from(to.pull[c]);
                    (straight + bent * long * long / 6.0) as f32
                });
                let pull =
                    std::array::from_fn(|c| (a * f64::from(from.pull[c]) + b * f64::from(to.pull[c])) as f32);
                (at, pull, self.slope(nth))
            }
        };
        let swings = (0..past).map(|nth| self.swing(nth, time_s)).collect();
        let [x, y, z, turn] = at;
        RideNow {
            ground: self.ground,
            about: self.about_m.into(),
            by: vec3(x, y, z),
            turn: Quat::from_rotation_y(-turn),
            turn_rad: turn,
            pull: flat(pull),
            slope: flat(slope),
            swings,
        }
    }

    /// What changes at a key.
    fn swing(&self, nth: usize, time_s: f64) -> Swing {
        let key = &self.keys[nth];
        // The spline's acceleration is the same on both sides of a key but at its ends.
        let jump = match nth {
            0 => key.pull,
            _ if nth + 1 == self.keys.len() => key.pull.map(|p| -p),
            _ => [0.0; 4],
        };
        let before = if nth > 0 { self.slope(nth - 1) } else { [0.0; 4] };
        let bends = std::array::from_fn(|c| self.slope(nth)[c] - before[c]);
        Swing { since_s: (time_s - f64::from(key.time_s)) as f32, jump: flat(jump), bends: flat(bends) }
    }
}

/// Of four numbers those that move a plant sideways.
fn flat([x, _, z, turn]: [f32; 4]) -> Vec3 {
    vec3(x, z, turn)
}

/// A change of a ground's acceleration in the past. Numbers are east, south and clockwise.
#[derive(Clone, Copy, Debug)]
struct Swing {
    since_s: f32,
    jump: Vec3,
    bends: Vec3,
}

/// A ground at a moment.
#[derive(Clone, Debug)]
pub struct RideNow {
    /// Which.
    pub ground: GroundId,
    about: Vec2,
    /// How far it is from where it stands, metres.
    pub by: Vec3,
    /// How it is turned against that.
    pub turn: Quat,
    /// The same as an angle, clockwise, radians.
    pub turn_rad: f32,
    pull: Vec3,
    slope: Vec3,
    swings: Vec<Swing>,
}

impl RideNow {
    /// Where a point of the ground at rest is now.
    pub fn carry(&self, point: Vec3) -> Vec3 {
        let about = vec3(self.about.x, 0.0, self.about.y);
        about + self.by + self.turn * (point - about)
    }

    /// How far the tip of a plant of so many Hz lags behind its foot, metres to the east and south. What it is flung outwards by a turn is
    /// left out.
    pub(super) fn lags(&self, hz: f32, damping: f32, foot: Vec3) -> Vec2 {
        let omega = TAU * hz;
        let softness = 1.0 / (omega * omega);
        let behind = 2.0 * damping / omega;
        let own = (1.0 - damping * damping).sqrt();
        let mut sum = -(self.pull - self.slope * behind) * softness;
        for s in &self.swings {
            let faded = damping * omega * s.since_s;
            if faded > FADED {
                continue;
            }
            let turns = hz * own * s.since_s;
            let from = (s.jump - s.bends * behind) * softness;
            let speed = s.bends * softness;
            let sine = (speed + from * (damping * omega)) / (omega * own);
            sum += (from * cos_turns(turns) + sine * sin_turns(turns)) * libm::expf(-faded);
        }
        // Turning clockwise moves what is east to the south, and what is south to the west.
        let off = vec2(foot.x, foot.z) - self.about - vec2(self.by.x, self.by.z);
        (vec2(sum.x, sum.y) + vec2(-off.y, off.x) * sum.z) * TIP
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{GroundMoves, PlacedSource, PlanetGround, Upright};

    fn planet(keys: &[(f32, [f32; 4])]) -> PlacedGround {
        let keys = keys.iter().map(|&(time_s, [x_m, y_m, z_m, turn_deg])| MoveKey {
            time_s,
            x_m,
            y_m,
            z_m,
            turn_deg,
        });
        PlacedGround {
            id: GroundId(3),
            name: "Raft".into(),
            source: PlacedSource::Planet(PlanetGround::default()),
            x_m: 10.0,
            y_m: 2.0,
            z_m: -4.0,
            turn_deg: 0.0,
            scale: 1.0,
            upright: Upright::Gravity,
            earths: crate::document::Earths::default(),
            strokes: Vec::new(),
            hidden: false,
            moves: Some(GroundMoves { keys: keys.collect() }),
        }
    }

    fn ride() -> Ride {
        Ride::new(&planet(&[
            (1.0, [0.0; 4]),
            (2.0, [3.0, 0.5, -1.0, 30.0]),
            (2.5, [2.0, 0.0, 1.0, 20.0]),
            (5.0, [8.0, 1.0, 0.0, 90.0]),
        ]))
        .unwrap()
    }

    #[test]
    fn it_passes_its_keys_smoothly_and_rests_at_both_ends() {
        let ride = ride();
        for k in &ride.keys {
            let now = ride.at(f64::from(k.time_s));
            assert!(now.by.distance(vec3(k.at[0], k.at[1], k.at[2])) < 1e-5);
        }
        let speed = |t: f64| (ride.at(t + 1e-3).by - ride.at(t - 1e-3).by) / 2e-3;
        assert!(speed(0.9).length() < 1e-6 && speed(5.1).length() < 1e-6);
        // From nothing at its ends, and without a jump at the keys between.
        assert!(speed(1.002).length() < 0.1 && speed(4.998).length() < 0.1);
        for t in [2.0, 2.5] {
            assert!((speed(t + 0.002) - speed(t - 0.002)).length() < 0.2, "{t}");
        }
        // Its acceleration is that of its way.
        for t in [1.3, 2.2, 4.0] {
            let found = (ride.at(t + 1e-2).by + ride.at(t - 1e-2).by - ride.at(t).by * 2.0) / 1e-4;
            let told = ride.at(t).pull;
            assert!((found.x - told.x).abs() < 0.1 && (found.z - told.y).abs() < 0.1, "{found} {told}");
        }
    }

    #[test]
    fn what_stands_on_it_goes_with_it_about_its_base_point() {
        let ride = Ride::new(&planet(&[(0.0, [0.0; 4]), (2.0, [5.0, 1.0, 0.0, 90.0])])).unwrap();
        let end = ride.at(9.0);
        // A quarter clockwise from above takes what is 3 m north of the base point to 3 m east of it.
        assert!(end.carry(vec3(10.0, 2.0, -7.0)).distance(vec3(18.0, 3.0, -4.0)) < 1e-5);
        assert!(end.carry(vec3(10.0, 2.0, -4.0)).distance(vec3(15.0, 3.0, -4.0)) < 1e-5);
        assert_eq!(ride.at(-1.0).carry(Vec3::ONE), Vec3::ONE);
    }

    /// The oscillator stepped through time on the same ground, the tip of a bar.
    fn stepped(ride: &Ride, hz: f64, damping: f64, off: Vec2, until: f64) -> Vec2 {
        let omega = std::f64::consts::TAU * hz;
        let h = 2e-4;
        let (mut x, mut v) = (glam::DVec2::ZERO, glam::DVec2::ZERO);
        for i in 0..(until / h).round() as usize {
            let pull = ride.at((i as f64 + 0.5) * h).pull;
            let a = vec2(pull.x, pull.y) + vec2(-off.y, off.x) * pull.z;
            let push = |x: glam::DVec2, v: glam::DVec2| {
                -a.as_dvec2() - omega * omega * x - 2.0 * damping * omega * v
            };
            let (mx, mv) = (x + v * (h / 2.0), v + push(x, v) * (h / 2.0));
            x += mv * h;
            v += push(mx, mv) * h;
        }
        (x * f64::from(TIP)).as_vec2()
    }

    #[test]
    fn the_closed_form_is_the_oscillator_on_that_ground() {
        let ride = ride();
        for (hz, damping) in [(0.4, 0.08), (1.7, 0.12), (6.0, 0.2)] {
            for time in [0.5, 1.2, 2.3, 3.9, 5.0, 5.6, 8.0] {
                let now = ride.at(time);
                // What has a place of its own off the base point, wherever it was carried to.
                let off = vec2(1.5, -0.5);
                let foot = vec3(10.0 + now.by.x + off.x, 2.0, -4.0 + now.by.z + off.y);
                let told = now.lags(hz, damping, foot);
                let exact = stepped(&ride, f64::from(hz), f64::from(damping), off, time);
                let most = 0.002 + exact.length() * 0.01;
                assert!(told.distance(exact) < most, "{hz} Hz at {time} s: {told} for {exact}");
            }
        }
    }

    #[test]
    fn a_slow_pull_leans_a_plant_against_it_and_none_leans_it_not() {
        // Half a minute of gentle speeding up: the deflection of a weight on a spring.
        let ride = Ride::new(&planet(&[(0.0, [0.0; 4]), (60.0, [900.0, 0.0, 0.0, 0.0])])).unwrap();
        let now = ride.at(15.0);
        let lags = now.lags(2.0, 0.2, Vec3::ZERO);
        let still = -now.pull.x * TIP / (TAU * 2.0).powi(2);
        assert!(
            now.pull.x > 0.5 && (lags.x / still - 1.0).abs() < 0.01 && lags.y == 0.0,
            "{lags} for {still}"
        );
        assert!(ride.at(70.0).lags(2.0, 0.2, Vec3::ZERO).length() < 1e-6);
        assert_eq!(ride.at(0.0 - 1.0).lags(2.0, 0.2, Vec3::ZERO), Vec2::ZERO);
    }
}
