//! The unrest of the wind: a fixed sum of waves that travel with it.
//!
//! Turbulence carried along with the mean wind (Taylor, "The spectrum of turbulence", Proc. R. Soc. A 164, 1938). Amplitudes follow the
//! spectrum of von Karman, directions his isotropic tensor; see [`spectrum`](super::spectrum). What is measured of the sum - intensity,
//! slope, correlation, repetition - is in the tests at the end.

use super::spectrum::{Across, VonKarman};
use crate::air::heading;
use crate::document::Wind;
use crate::math::hash::{pcg4d, unit};
use crate::math::sine::{cos_turns, sin_turns};
use serde::Serialize;
use std::f64::consts::TAU;

/// Waves of the sum: with fewer the slope of the spectrum and the lack of repetition are lost.
pub const WAVES: usize = 24;
/// Highest frequency, Hz.
const HIGHEST_HZ: f64 = 5.0;
/// Slowest wind that carries gusts, m/s: below it they stay as they are in it and only lose their strength.
const SLOWEST: f64 = 0.5;
/// How far waves lie across the wind at most, as a tangent: a smaller one draws fronts out to the sides.
const MOST_ACROSS: f64 = 1.2;
/// How much the amplitude of a wave swells and sinks.
const SWELL: f64 = 0.7;

/// One wave of the sum. At a time `t` its phase is `hz t - phase` turns and its amplitude
/// `amplitude (1 + 0.7 cos(swell_hz t + swell_phase)) / sqrt(1.245)`, the cosine of turns.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Wave {
    /// Turns a metre along the wind.
    pub along: f64,
    /// Turns a metre across it.
    pub across: f64,
    /// Hz, at a fixed place.
    pub hz: f64,
    /// Turns.
    pub phase: f64,
    /// Of the speed along the wind, where its variance is 1.
    pub amplitude: f64,
    /// Amplitude across the wind against the one along it.
    pub aside: f64,
    /// How often it swells and sinks, Hz.
    pub swell_hz: f64,
    /// Turns.
    pub swell_phase: f64,
}

/// The gusts of a wind.
#[derive(Clone, Debug)]
pub struct Gusts {
    /// The waves.
    pub waves: [Wave; WAVES],
    /// Where the wind blows to on the plan, a unit vector: x and z.
    pub heading: [f32; 2],
    /// The settings it was made from.
    wind: Wind,
}

/// The gusts at a moment: all that is needed at any place.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GustsNow {
    /// Of each wave: turns a metre along the wind.
    pub along: [f32; WAVES],
    /// Turns a metre across it.
    pub across: [f32; WAVES],
    /// Turns at the origin, 0 to 1.
    pub phase: [f32; WAVES],
    /// Amplitude; the sum of all has a variance of 1.
    pub amplitude: [f32; WAVES],
    /// Amplitude of the speed across the wind.
    pub aside: [f32; WAVES],
    /// Hz: a plant answers the quicker waves otherwise than the slower.
    pub hz: [f32; WAVES],
    /// Where the wind blows to on the plan: x and z.
    pub heading: [f32; 2],
    /// How large gusts are, metres.
    pub size_m: f32,
    /// Standard deviation against the mean speed.
    pub strength: f32,
}

impl Gusts {
    /// The gusts of a wind. Nothing but its settings plays a part.
    pub fn new(wind: &Wind) -> Self {
        let g = &wind.gusts;
        let (speed, size) = (f64::from(wind.speed_m_per_s).max(SLOWEST), f64::from(g.size_m));
        let (spectrum, tangents) = (VonKarman::new(), Across::new());
        let edges: Vec<f64> = spectrum
            .edges(0.05, (HIGHEST_HZ * size / speed).max(0.5), WAVES)
            .into_iter()
            .map(|n| n * speed / size)
            .collect();
        let drawn = |i: usize, k: u32| pcg4d([g.seed, i as u32, k, 0x6057]).map(|w| f64::from(unit(w)));
        let below = |hz: f64| spectrum.below(hz * size / speed);
        let mut variance: Vec<f64> = edges.windows(2).map(|e| below(e[1]) - below(e[0])).collect();
        variance[0] += below(edges[0]);
        let all: f64 = variance.iter().sum();
        let [shuffle, ..] = pcg4d([g.seed, 0, 0, 0x51DE]);
        let bend = 0.7468 / size;
        // The sum of what goes along times what goes across stays small: gusts do not all come from one side.
        let mut lean = 0.0;
        let waves = std::array::from_fn(|i| {
            let [h1, h2, h3, h4] = drawn(i, 0);
            let [h5, h6, h7, _] = drawn(i, 1);
            let hz = edges[i] * libm::pow(edges[i + 1] / edges[i], 0.5 + 0.4 * (h1 - 0.5));
            let omega = TAU * hz;
            let amplitude = (2.0 * variance[i] / all).sqrt();
            let k = omega / speed;
            let overtakes = (2.0 * h3 - 1.0)
                * f64::from(g.change)
                * f64::from(g.strength)
                * speed
                * libm::cbrt(bend)
                * libm::cbrt(k * k + bend * bend);
            let along = (omega - overtakes.clamp(-0.4 * omega, 0.4 * omega)) / speed;
            let nth = (7 * i + shuffle as usize % WAVES) % WAVES;
            let tangent = tangents.quantile((nth as f64 + h6) / WAVES as f64).min(MOST_ACROSS);
            let side = if h7 < 0.5 { -1.0 } else { 1.0 };
            let across = side * tangent * (along * along + bend * bend).sqrt();
            let aside = if lean > 0.0 { -0.75 } else { 0.75 };
            lean += amplitude * amplitude * aside;
            Wave {
                along: along / TAU,
                across: across / TAU,
                hz,
                phase: h2,
                amplitude,
                aside,
                swell_hz: 1.0 / (150.0 + 250.0 * h4),
                swell_phase: h5,
            }
        });
        Self { waves, heading: heading(wind.from_deg), wind: *wind }
    }

    /// The waves at a time, seconds. Phases are reduced in `f64`, so that an hour is as exact as a second.
    pub fn at(&self, time_s: f64) -> GustsNow {
        let scale = (1.0 + SWELL * SWELL / 2.0).sqrt();
        let swollen = self.waves.map(|w| {
            let swell = libm::cos(TAU * (w.swell_hz * time_s + w.swell_phase));
            w.amplitude * (1.0 + SWELL * swell) / scale
        });
        let g = &self.wind.gusts;
        GustsNow {
            along: self.waves.map(|w| w.along as f32),
            across: self.waves.map(|w| w.across as f32),
            phase: self.waves.map(|w| {
                let phase = w.hz * time_s - w.phase;
                (phase - phase.floor()) as f32
            }),
            amplitude: swollen.map(|a| a as f32),
            aside: std::array::from_fn(|i| (swollen[i] * self.waves[i].aside) as f32),
            hz: self.waves.map(|w| w.hz as f32),
            heading: self.heading,
            size_m: g.size_m,
            strength: g.strength,
        }
    }
}

impl GustsNow {
    /// A place of the plan in the frame of the wind: metres along it and across it, bent a little by place, so that no pattern comes back
    /// within sight. The bend is fixed in time and leaves what is measured at a point as it is.
    #[inline]
    pub fn frame(&self, x: f32, z: f32) -> [f32; 2] {
        let [hx, hz] = self.heading;
        let (along, across) = (x * hx + z * hz, z * hx - x * hz);
        let l = self.size_m;
        [
            along + 0.3 * l * sin_turns(across / (4.3 * l) + 0.13 + along / (10.0 * l)),
            across + 0.3 * l * sin_turns(along / (5.3 * l) + 0.41 - across / (9.8 * l)),
        ]
    }

    /// Where each wave is at a place in the frame of the wind, turns.
    #[inline]
    pub(super) fn turns(&self, [along, across]: [f32; 2]) -> [f32; WAVES] {
        std::array::from_fn(|i| self.phase[i] - (self.along[i] * along + self.across[i] * across))
    }

    /// The gust at a place in the frame of the wind, along the wind and across it: a variance of 1 and of 0.56.
    pub fn field(&self, [along, across]: [f32; 2]) -> [f32; 2] {
        let turns = self.turns([along, across]);
        let (mut g, mut aside) = (0.0, 0.0);
        for (i, turns) in turns.into_iter().enumerate() {
            let c = cos_turns(turns);
            g += self.amplitude[i] * c;
            aside += self.aside[i] * c;
        }
        [g, aside]
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::GustSettings;

    fn blowing(size_m: f32, seed: u32) -> Gusts {
        let gusts = GustSettings { strength: 0.25, size_m, change: 1.0, seed };
        Gusts::new(&Wind { speed_m_per_s: 6.0, from_deg: 270.0, gusts })
    }

    /// Speeds at 16 points that lie far from one another, four times a second for ten minutes.
    fn recorded(gusts: &Gusts) -> Vec<Vec<f64>> {
        let mut points = vec![Vec::new(); 16];
        for step in 0..2400_u32 {
            let now = gusts.at(f64::from(step) * 0.25);
            for (i, list) in points.iter_mut().enumerate() {
                let at = now.frame((i % 4) as f32 * 173.0, (i / 4) as f32 * 191.0);
                list.push(f64::from(now.field(at)[0]));
            }
        }
        points
    }

    #[test]
    fn intensity_and_mean_are_what_was_set() {
        for size in [20.0, 40.0] {
            for seed in 1..4 {
                let points = recorded(&blowing(size, seed));
                let all: Vec<f64> = points.concat();
                let mean = all.iter().sum::<f64>() / all.len() as f64;
                let sigma = (all.iter().map(|v| v * v).sum::<f64>() / all.len() as f64).sqrt();
                assert!(mean.abs() < 0.03, "size {size}, seed {seed}: mean {mean}");
                assert!((sigma - 1.0).abs() < 0.03, "size {size}, seed {seed}: sigma {sigma}");
            }
        }
    }

    /// What the waves between two frequencies hold, against what the spectrum has there.
    #[test]
    fn the_spectrum_falls_as_published() {
        for seed in 1..7 {
            let gusts = blowing(40.0, seed);
            let spectrum = VonKarman::new();
            let edges = spectrum.edges(0.05, 5.0 * 40.0 / 6.0, WAVES);
            // Power per hertz of each wave over its band, from well above the bend to the end.
            let dots: Vec<(f64, f64)> = gusts
                .waves
                .iter()
                .enumerate()
                .filter(|(_, w)| w.hz > 0.09)
                .map(|(i, w)| {
                    let band = (edges[i + 1] - edges[i]) * 6.0 / 40.0;
                    (libm::log(w.hz), libm::log(w.amplitude * w.amplitude / 2.0 / band))
                })
                .collect();
            let n = dots.len() as f64;
            let (sx, sy) = dots.iter().fold((0.0, 0.0), |(a, b), (x, y)| (a + x, b + y));
            let (mx, my) = (sx / n, sy / n);
            let slope = dots.iter().map(|(x, y)| (x - mx) * (y - my)).sum::<f64>()
                / dots.iter().map(|(x, _)| (x - mx) * (x - mx)).sum::<f64>();
            assert!((slope + 5.0 / 3.0).abs() < 0.1, "seed {seed}: slope {slope}");
        }
    }

    #[test]
    fn gusts_travel_with_the_wind_and_lose_their_likeness_over_their_size() {
        let gusts = blowing(20.0, 2);
        let likeness = |dx: f32, dz: f32, dt: f64| {
            let (mut both, mut own) = (0.0, 0.0);
            for step in 0..1500_u32 {
                let time = f64::from(step) * 0.7;
                let (x, z) = (f32::from((step * 37 % 500) as u16), f32::from((step * 91 % 500) as u16));
                let (a, b) = (gusts.at(time), gusts.at(time + dt));
                let here = f64::from(a.field(a.frame(x, z))[0]);
                both += here * f64::from(b.field(b.frame(x + dx, z + dz))[0]);
                own += here * here;
            }
            both / own
        };
        // The wind comes from the west: what is here now is 6 m farther east a second later. The bend of the frame, fixed in place, parts
        // the finest ripples of it.
        assert!(likeness(6.0, 0.0, 1.0) > likeness(-6.0, 0.0, 1.0) + 0.2);
        let carried = |dt: f64| {
            let (mut both, mut own) = (0.0, 0.0);
            for step in 0..1500_u32 {
                let (time, x) = (f64::from(step) * 0.7, (step * 37 % 500) as f32);
                let here = f64::from(gusts.at(time).field([x, 11.0])[0]);
                both += here * f64::from(gusts.at(time + dt).field([x + 6.0 * dt as f32, 11.0])[0]);
                own += here * here;
            }
            both / own
        };
        assert!(carried(1.0) > 0.95 && carried(20.0) < carried(1.0), "{}, {}", carried(1.0), carried(20.0));
        for (dx, dz) in [(80.0, 0.0), (0.0, 80.0)] {
            assert!(likeness(dx, dz, 0.0).abs() < 0.3, "{}", likeness(dx, dz, 0.0));
        }
    }

    #[test]
    fn nothing_comes_back_within_ten_minutes() {
        let gusts = blowing(40.0, 3);
        let record: Vec<f64> = (0..3000_u32)
            .map(|i| {
                let now = gusts.at(f64::from(i) * 0.2);
                f64::from(now.field(now.frame(10.0, 20.0))[0])
            })
            .collect();
        let own: f64 = record.iter().map(|v| v * v).sum::<f64>() / record.len() as f64;
        // From three times the time a gust needs to pass.
        for lag in (100..2000).step_by(5) {
            let n = record.len() - lag;
            let both: f64 = (0..n).map(|i| record[i] * record[i + lag]).sum::<f64>() / n as f64;
            assert!(both / own < 0.7, "after {} s it is alike by {}", lag as f64 * 0.2, both / own);
        }
    }

    #[test]
    fn an_hour_on_it_is_as_exact() {
        let gusts = blowing(20.0, 5);
        for time in [0.0, 600.0, 3600.0] {
            let now = gusts.at(time);
            for i in 0..200_u16 {
                let (x, z) = (f32::from(i) * 5.0 - 500.0, f32::from(i % 17) * 50.0);
                let [along, across] = now.frame(x, z);
                let exact: f64 = gusts
                    .waves
                    .iter()
                    .zip(now.amplitude)
                    .map(|(w, n)| {
                        let turns =
                            w.hz * time - w.phase - w.along * f64::from(along) - w.across * f64::from(across);
                        f64::from(n) * (TAU * turns).cos()
                    })
                    .sum();
                let [g, _] = now.field([along, across]);
                assert!((f64::from(g) - exact).abs() < 4e-4, "{g} for {exact} after {time} s");
            }
        }
    }

    #[test]
    fn a_westerly_blows_east() {
        let [x, z] = blowing(20.0, 1).heading;
        assert!((x - 1.0).abs() < 1e-6 && z.abs() < 1e-6, "{x}, {z}");
    }
}
