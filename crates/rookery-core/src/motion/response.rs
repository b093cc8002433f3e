//! How a plant answers the wind: pushed over by what is steady, and swaying by its own gain and lag to each wave of the gusts.

use super::gusts::{GustsNow, WAVES};
use super::moving::Now;
use super::pressing::Stem;
use super::profile::Profile;
use super::riding::RideNow;
use crate::math::power::power;
use crate::math::sine::{cos_turns, sin_turns};
use crate::nursery::{Kind, Species, Sways};
use glam::{Vec2, Vec3, vec2};
use pulp::{Simd, WithSimd};
use serde::{Deserialize, Serialize};

/// How far a tip may be turned, radians, whatever the wind.
pub const MOST_TILT: f32 = 1.4;
/// How softly a stem comes to that: fitted to the bent beam under normal drag (the elastica), tip angles within 6 %.
pub(super) const SOFT: f32 = 1.2;
/// How much plants of a kind differ in what they sway at: to either side.
pub(super) const OWN_HZ: f32 = 0.15;
/// How far aside of its place a plant meets the fine waves, metres: neighbours part, gusts stay whole.
pub(super) const OWN_M: f32 = 0.4;
/// Share of its height at which a plant meets the mean wind.
const MET_AT: f32 = 0.75;

/// How a species sways, at full size.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Sway {
    /// What it sways at by itself, Hz; a plant of half the size at twice that.
    pub hz: f32,
    /// Share of critical damping.
    pub damping: f32,
    /// Deflection of its tip against its length in 10 m/s, by the law for small loads.
    pub lean: f32,
    /// Vogel's exponent: below zero crowns fold together in the wind and are pushed less than by the square of its speed. Blades have 0:
    /// theirs is in how they bend.
    pub streamlining: f32,
    /// How far its tip may be turned by the wind, radians.
    pub most_rad: f32,
    /// How far its tip is turned where a body lies on it, radians.
    pub pressed_rad: f32,
    /// Share of that which it keeps when the body is gone.
    pub lodging: f32,
}

/// What pushes the plants of a layer.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Push {
    /// Mean speed that they meet, m/s.
    pub speed_m_per_s: f32,
    /// Turn of the tip by the mean wind before it is held back, radians.
    pub load: f32,
    /// How much of that the gusts along the wind add for each standard deviation.
    pub unrest: f32,
    /// The same across the wind.
    pub aside: f32,
    /// How high above their foot they meet the wind, metres.
    pub met_m: f32,
    /// The power of its speed that they are pushed by.
    pub power: f32,
    /// Turn of the tip by 1 m/s of a blower, radians.
    pub blown: f32,
    /// Share of the most that leaves flutter for each radian that the tip is turned: all of it in a mean wind of 6 m/s.
    #[serde(default)]
    pub flutter: f32,
}

/// Mean speed in which leaves flutter as far as they do, m/s: by eye.
const FLUTTERS_AT_M_PER_S: f32 = 6.0;

/// A plant as the wind meets it.
#[derive(Clone, Copy, Debug)]
pub struct Stands<'a> {
    /// Where its foot is.
    pub foot: Vec3,
    /// Its size against its species.
    pub size: f32,
    /// How high it is, metres.
    pub height_m: f32,
    /// Half of its width, metres.
    pub spread_m: f32,
    /// Two numbers of its own, 0 to 255: no two sway alike.
    pub own: [u8; 2],
    /// The mean wind there against that over level ground, x and z; the same as there when none.
    pub local: Option<[f32; 2]>,
    /// The moving ground that it stands on.
    pub ride: Option<&'a RideNow>,
}

/// How a plant answers each wave. Wave by wave without a branch, so that as many are done at once as the processor has lanes: the bits are the
/// same however many these are, for nothing is added up across them.
struct Answering<'a> {
    gusts: &'a GustsNow,
    /// In the frame of the wind.
    at: [f32; 2],
    /// Seconds that the plant takes for a swing.
    period: f32,
    damping: f32,
}

impl WithSimd for Answering<'_> {
    type Output = [f32; WAVES];

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) -> [f32; WAVES] {
        let Self { gusts, at, period, damping } = self;
        let turns = gusts.turns(at);
        std::array::from_fn(|i| {
            let r = gusts.hz[i] * period;
            let (stiff, damped) = (1.0 - r * r, 2.0 * damping * r);
            (stiff * cos_turns(turns[i]) + damped * sin_turns(turns[i])) / (stiff * stiff + damped * damped)
        })
    }
}

impl Stands<'_> {
    /// The same as a body meets it.
    pub(super) fn stem(&self, hz: f32) -> Stem {
        Stem { foot: self.foot, height_m: self.height_m, spread_m: self.spread_m, hz }
    }
}

impl Species {
    /// How it sways; none for what stands stiff.
    pub fn sway(&self) -> Option<Sway> {
        let bending = self.bending()?;
        // Streamlining: rounded values of reviews (Vogel, "Drag and reconfiguration of broad leaves in high winds", J. Exp. Bot. 40, 1989),
        // from memory. How far a kind is turned under a body: by eye.
        let (streamlining, pressed_rad) = match self.kind {
            Kind::Grass => (0.0, MOST_TILT),
            Kind::Herb => (-0.5, MOST_TILT),
            Kind::Fern => (-0.7, 1.3),
            Kind::Shrub => (-0.6, 0.8),
            Kind::Broadleaf | Kind::Conifer => (-0.7, 0.4),
            Kind::Cushion | Kind::Rock | Kind::Debris | Kind::Floating => (-0.5, 0.3),
        };
        let Sways { stiffness, damping, most_deg, lodging } = self.sways_as();
        let most_rad = most_deg.to_radians().min(MOST_TILT);
        // A beam sways at the root of its stiffness, and gives way by its inverse.
        let (hz, lean) = (bending.sway_hz * stiffness.sqrt(), bending.lean / stiffness);
        Some(Sway { hz, damping, lean, streamlining, most_rad, pressed_rad, lodging })
    }
}

impl Sway {
    /// What a wind does to plants of a height, metres, that take a share of it.
    pub fn pushed(&self, profile: &Profile, strength: f32, height_m: f32, share: f32) -> Push {
        let speed = profile.speed(height_m * MET_AT) * share;
        let power = 2.0 + self.streamlining;
        // The slope at the tip of a beam is 4/3 of its deflection against its length.
        let turn_in = |speed: f32| 4.0 / 3.0 * self.lean * libm::powf(speed / 10.0, power);
        let load = turn_in(speed);
        let full = speed / FLUTTERS_AT_M_PER_S;
        Push {
            speed_m_per_s: speed,
            flutter: if load > 0.0 { full * full / (load * self.held(load)) } else { 0.0 },
            load,
            blown: turn_in(share),
            unrest: power * strength,
            aside: strength,
            met_m: height_m * MET_AT,
            power,
        }
    }

    /// Share of a load, radians, that turns a tip: it is held back the more the further it is turned.
    fn held(&self, load: f32) -> f32 {
        power(1.0 + power(load / self.most_rad, SOFT), -1.0 / SOFT)
    }

    /// Where the tip of a plant is turned, radians towards x and z.
    pub fn turned(&self, now: &Now, push: &Push, stands: &Stands<'_>) -> [f32; 2] {
        let [u, v, w] = spread(stands.own);
        let foot = stands.foot;
        let hz = self.hz / stands.size * (1.0 + OWN_HZ * u);
        let gusts = &now.gusts;
        let [along, across] = gusts.frame(foot.x + OWN_M * v, foot.z + OWN_M * w);
        let answering = Answering { gusts, at: [along, across], period: 1.0 / hz, damping: self.damping };
        let answers = now.lanes.dispatch(answering);
        let (mut main, mut side) = (0.0, 0.0);
        for (i, answer) in answers.into_iter().enumerate() {
            main += gusts.amplitude[i] * answer;
            side += gusts.aside[i] * answer;
        }
        let ([hx, hz_way], load) = match stands.local {
            None => (gusts.heading, push.load),
            Some([lx, lz]) => {
                let times = (lx * lx + lz * lz).sqrt();
                if times < 1e-6 {
                    ([0.0; 2], 0.0)
                } else {
                    ([lx / times, lz / times], push.load * power(times, push.power))
                }
            }
        };
        let stirred = 1.0 + push.unrest * main;
        let a = load * stirred;
        let b = load * push.aside * side;
        let mut pushed = vec2(a * hx - b * hz_way, a * hz_way + b * hx);
        if push.blown > 0.0 {
            let met = foot + Vec3::Y * push.met_m;
            for blower in &now.blowers {
                pushed += blower.push(met, hz, self.damping, push.power) * (push.blown * stirred);
            }
        }
        if let Some(ride) = stands.ride {
            // The slope at the tip of a beam is 4/3 of its deflection against its length.
            pushed += ride.lags(hz, self.damping, foot) * (4.0 / 3.0 / stands.height_m);
        }
        let sways = pushed * self.held(pushed.length());
        if now.bodies.is_empty() {
            return sways.into();
        }
        let stem = stands.stem(hz);
        let lies = now.bodies.iter().fold(Vec2::ZERO, |lies, b| b.press(lies, &stem, self));
        let free = (1.0 - lies.length()).max(0.0);
        (sways * free + lies * self.pressed_rad).into()
    }
}

/// Three numbers of a plant's own, -1 to 1.
fn spread(own: [u8; 2]) -> [f32; 3] {
    let third = (u32::from(own[0]) * 53 + u32::from(own[1]) * 29) % 256;
    [own[0], own[1], third as u8].map(|b| f32::from(b) / 127.5 - 1.0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{GustSettings, Wind};
    use crate::motion::{Canopy, Gusts};
    use crate::nursery::ready;
    use glam::vec3;

    fn wind(strength: f32) -> Wind {
        Wind {
            speed_m_per_s: 6.0,
            from_deg: 250.0,
            gusts: GustSettings { strength, ..GustSettings::default() },
        }
    }

    fn sway(hz: f32, damping: f32) -> Sway {
        Sway {
            hz,
            damping,
            lean: 0.2,
            streamlining: 0.0,
            most_rad: MOST_TILT,
            pressed_rad: MOST_TILT,
            lodging: 0.2,
        }
    }

    fn turned(
        s: &Sway,
        now: &GustsNow,
        push: &Push,
        [x, z]: [f32; 2],
        size: f32,
        own: [u8; 2],
        local: Option<[f32; 2]>,
    ) -> [f32; 2] {
        let stands =
            Stands { foot: vec3(x, 0.0, z), size, height_m: 1.0, spread_m: 0.2, own, local, ride: None };
        s.turned(&Now::windy(*now), push, &stands)
    }

    /// The oscillator itself, stepped through time, in the same wind.
    fn stepped(s: &Sway, gusts: &Gusts, at: [f32; 2], seconds: f64) -> f64 {
        let omega = std::f64::consts::TAU * f64::from(s.hz);
        let (mut x, mut v, h) = (0.0_f64, 0.0_f64, 1e-3);
        let mut time = -60.0;
        while time < seconds {
            let force = |t: f64| {
                let now = gusts.at(t);
                f64::from(now.field(now.frame(at[0], at[1]))[0])
            };
            // Midpoint rule.
            let f = force(time + h / 2.0);
            let acceleration =
                |x: f64, v: f64| omega * omega * (f - x) - 2.0 * f64::from(s.damping) * omega * v;
            let (mx, mv) = (x + v * h / 2.0, v + acceleration(x, v) * h / 2.0);
            x += mv * h;
            v += acceleration(mx, mv) * h;
            time += h;
        }
        x
    }

    #[test]
    fn the_closed_form_is_the_oscillator_in_that_wind() {
        let gusts = Gusts::new(&wind(0.25));
        for s in [sway(2.0, 0.12), sway(0.6, 0.1)] {
            for time in [1.0, 7.3] {
                let now = gusts.at(time);
                // So small a push that nothing is held back.
                let push =
                    Push { speed_m_per_s: 6.0, load: 1e-4, unrest: 1.0, aside: 0.0, ..Push::default() };
                let [x, z] = turned(&s, &now, &push, [30.0, 40.0], 1.0, [127, 127], None);
                let along = f64::from(x * now.heading[0] + z * now.heading[1]) / 1e-4 - 1.0;
                let [u, v, w] = spread([127, 127]);
                let own = Sway { hz: s.hz * (1.0 + OWN_HZ * u), ..s };
                let exact = stepped(&own, &gusts, [30.0 + OWN_M * v, 40.0 + OWN_M * w], time);
                assert!((along - exact).abs() < 0.03, "{} Hz at {time} s: {along} for {exact}", s.hz);
            }
        }
    }

    #[test]
    fn at_resonance_it_gains_one_over_twice_the_damping() {
        let mut now = Gusts::new(&wind(0.25)).at(0.0);
        for of in
            [&mut now.along, &mut now.across, &mut now.phase, &mut now.amplitude, &mut now.aside, &mut now.hz]
        {
            *of = [0.0; WAVES];
        }
        (now.amplitude[0], now.hz[0]) = (1.0, 1.5);
        let push = Push { speed_m_per_s: 6.0, load: 1e-4, unrest: 1.0, aside: 0.0, ..Push::default() };
        let own = [127, 127];
        let hz = 1.5 / (1.0 + OWN_HZ * (127.0 / 127.5 - 1.0));
        let s = sway(hz, 0.1);
        let swing = (0..400)
            .map(|i| {
                now.phase[0] = i as f32 / 400.0;
                let [x, z] = turned(&s, &now, &push, [0.0, 0.0], 1.0, own, None);
                ((x * now.heading[0] + z * now.heading[1]) / 1e-4 - 1.0).abs()
            })
            .fold(0.0, f32::max);
        assert!((swing - 5.0).abs() < 0.02, "{swing}");
    }

    #[test]
    fn small_loads_bend_as_a_beam_and_no_load_bends_too_far() {
        let calm = wind(0.0);
        let now = Gusts::new(&calm).at(3.0);
        let s = sway(2.0, 0.12);
        for load in [0.001_f32, 0.01, 0.5, 5.0, 1e4] {
            let push = Push { speed_m_per_s: 6.0, load, unrest: 0.0, aside: 0.0, ..Push::default() };
            let [x, z] = turned(&s, &now, &push, [5.0, 5.0], 1.0, [3, 200], None);
            let angle = (x * x + z * z).sqrt();
            assert!(angle <= MOST_TILT + 1e-5, "{load}: {angle}");
            if load <= 0.01 {
                assert!((angle / load - 1.0).abs() < 0.01, "{load}: {angle}");
            }
        }
    }

    #[test]
    fn neighbours_are_not_in_step() {
        let gusts = Gusts::new(&wind(0.25));
        let s = sway(2.0, 0.12);
        let push = Push { speed_m_per_s: 6.0, load: 0.2, unrest: 0.5, aside: 0.25, ..Push::default() };
        let (mut both, mut a2, mut b2) = (0.0, 0.0, 0.0);
        let mean = turned(
            &s,
            &Gusts::new(&wind(0.0)).at(0.0),
            &Push { unrest: 0.0, aside: 0.0, ..push },
            [0.0; 2],
            1.0,
            [9, 9],
            None,
        )[0];
        for step in 0..2000 {
            let now = gusts.at(f64::from(step) * 0.3);
            let a = turned(&s, &now, &push, [10.0, 10.0], 1.0, [20, 230], None)[0] - mean;
            let b = turned(&s, &now, &push, [10.1, 10.0], 1.0, [240, 15], None)[0] - mean;
            both += a * b;
            a2 += a * a;
            b2 += b * b;
        }
        let likeness = both / (a2 * b2).sqrt();
        assert!((0.3..0.97).contains(&likeness), "{likeness}");
    }

    #[test]
    fn grass_is_quicker_than_trees_and_treetops_meet_more_wind() {
        let find = |id: &str| ready().iter().find(|s| s.id.0 == id).unwrap();
        let hz = |id: &str| find(id).sway().unwrap().hz;
        // The ranges of reviews (de Langre 2008), from memory.
        for (id, range) in [
            ("marram", 0.8..3.0),
            ("fescue", 1.2..8.0),
            ("sessile-oak", 0.2..0.9),
            ("downy-birch", 0.2..0.9),
            ("gorse", 0.8..4.0),
        ] {
            assert!(range.contains(&hz(id)), "{id} sways at {} Hz", hz(id));
        }
        let profile = Profile::new(8.0, Canopy { height_m: 0.3 });
        let push = |id: &str| find(id).sway().unwrap().pushed(&profile, 0.25, find(id).height_m(), 1.0);
        assert!(push("sessile-oak").speed_m_per_s > 1.5 * push("fescue").speed_m_per_s);
        assert_eq!(find("marram").sway().unwrap().pushed(&profile, 0.25, 0.8, 0.0).load, 0.0);
        assert!(find("boulder").sway().is_none());
    }

    #[test]
    fn where_the_wind_is_quicker_plants_lean_further_and_where_it_turns_they_lean_that_way() {
        let now = Gusts::new(&wind(0.0)).at(3.0);
        let s = sway(2.0, 0.12);
        let push = Push { load: 0.02, power: 1.5, ..Push::default() };
        let at = |local| turned(&s, &now, &push, [5.0, 5.0], 1.0, [3, 200], local);
        let far = |[x, z]: [f32; 2]| (x * x + z * z).sqrt();
        let level = at(None);
        assert!(far(at(Some(now.heading))) / far(level) - 1.0 < 1e-4);
        assert!((far(at(Some([1.4, 0.0]))) / far(level) - 1.4_f32.powf(1.5)).abs() < 0.03);
        let [x, z] = at(Some([0.0, 0.5]));
        assert!(x.abs() < 1e-6 && z > 0.0);
        assert_eq!(at(Some([0.0, 0.0])), [0.0; 2]);
    }

    #[test]
    fn the_bits_hang_on_no_number_of_lanes() {
        let gusts = Gusts::new(&wind(0.25)).at(12.5);
        for i in 0..500_u16 {
            let at = [f32::from(i) * 1.7 - 300.0, f32::from(i % 31) * 9.1];
            let answering =
                || Answering { gusts: &gusts, at, period: 0.2 + f32::from(i) * 0.01, damping: 0.12 };
            let one = answering().with_simd(pulp::Scalar);
            assert_eq!(pulp::Arch::new().dispatch(answering()).map(f32::to_bits), one.map(f32::to_bits));
        }
    }

    #[test]
    fn a_stiffer_species_sways_quicker_and_leans_less() {
        let marram = ready().iter().find(|s| s.id.0 == "marram").unwrap();
        let own = Sways { stiffness: 4.0, damping: 0.3, most_deg: 30.0, lodging: 0.9 };
        let (of_kind, stiffer) = (marram.sway().unwrap(), Species { sways: Some(own), ..marram.clone() });
        let stiffer = stiffer.sway().unwrap();
        assert!(
            (stiffer.hz - 2.0 * of_kind.hz).abs() < 1e-4 && (stiffer.lean * 4.0 - of_kind.lean).abs() < 1e-4
        );
        assert_eq!((stiffer.damping, stiffer.lodging), (0.3, 0.9));
        assert!((stiffer.most_rad - 30.0_f32.to_radians()).abs() < 1e-6);
    }
}
