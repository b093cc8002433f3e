//! The sum of waves, drawn from the spectrum once for a wind.

use super::spectrum::{G, OPEN_M, Spectrum};
use crate::air::heading;
use crate::document::Wind;
use crate::math::hash::{pcg4d, unit};
use crate::math::sine::{cos_turns, sin_turns};
use serde::Serialize;
use std::f64::consts::{PI, TAU};

/// Waves of the sum, from the longest to the shortest.
pub const WAVES: usize = 32;
/// The shortest of them, metres; shorter ones are roughness.
pub const SHORTEST_M: f64 = 0.09;
/// Below this share of the peak's frequency there is next to nothing.
const LOWEST: f64 = 0.72;
/// Surface tension over density of water, m3/s2.
const TENSION: f64 = 7.3e-5;
/// Ripples count as roughness up to this frequency, rad/s.
const RIPPLES: f64 = 60.0;
/// What a pixel sees at a distance of one metre, metres: of a picture about a thousand pixels high through a usual lens. Still and view draw the same waves.
pub const PIXEL: f32 = 0.0011;
/// A wave is there where its frequency is so much of what the fetch of the place has at its peak.
const GROWS: [f32; 2] = [0.7, 1.05];

/// One wave of the sum. At a time `t` its phase at a place is `per_m (x, z) - hz t + phase` turns.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Component {
    /// Turns a metre towards x and z.
    pub per_m: [f32; 2],
    /// Length, metres.
    pub length_m: f32,
    /// Hz, at a fixed place.
    pub hz: f64,
    /// Turns.
    pub phase: f32,
    /// Amplitude of its slope.
    pub slope: f32,
    /// Its frequency against that of the peak of an open sea.
    pub above_peak: f32,
}

/// Waves in a wind over open water.
#[derive(Clone, Debug, PartialEq)]
pub struct Waves {
    /// The sum.
    pub components: [Component; WAVES],
    /// Variance of the slopes of what is shorter.
    pub rough: f32,
    /// Significant height, metres.
    pub height_m: f32,
    /// Of the peak, rad/s.
    pub peak: f32,
    /// The wind's mean speed, m/s.
    pub speed_m_per_s: f32,
}

/// Turns a metre of a wave of a frequency, rad/s: on deep water, with surface tension.
fn wave_number(omega: f64) -> f64 {
    let mut k = omega * omega / G;
    for _ in 0..8 {
        k -= (G * k + TENSION * k * k * k - omega * omega) / (G + 3.0 * TENSION * k * k);
    }
    k / TAU
}

/// The direction, within a quarter turn to both sides, below which such a share of the energy of a spread by cos squared lies.
fn spread(share: f64) -> f64 {
    let below = |a: f64| (a + PI / 2.0 + 0.5 * libm::sin(2.0 * a)) / PI;
    let (mut low, mut high) = (-PI / 2.0, PI / 2.0);
    for _ in 0..40 {
        let middle = 0.5 * (low + high);
        if below(middle) < share { low = middle } else { high = middle }
    }
    0.5 * (low + high)
}

impl Waves {
    /// Of a wind. Nothing but its speed and where it comes from plays a part.
    pub fn new(wind: &Wind) -> Self {
        let spectrum = Spectrum::new(f64::from(wind.speed_m_per_s), OPEN_M);
        let highest = {
            let k = TAU / SHORTEST_M;
            (G * k + TENSION * k * k * k).sqrt()
        };
        let lowest = LOWEST * spectrum.peak.min(0.5 * highest);
        let step = libm::pow(highest / lowest, 1.0 / WAVES as f64);
        let [hx, hz] = heading(wind.from_deg).map(f64::from);
        let components = std::array::from_fn(|i| {
            let [h1, h2, h3, _] = pcg4d([i as u32, 0x5EA, 0x3A7E, 1]).map(|w| f64::from(unit(w)));
            let from = lowest * libm::pow(step, i as f64);
            let omega = from * libm::pow(step, 0.15 + 0.7 * h1);
            let per_m = wave_number(omega);
            // Every direction once among neighbours in length, or long ones would all come from one side.
            let nth = (13 * i + 5) % WAVES;
            let turned = spread((nth as f64 + h3) / WAVES as f64);
            let (s, c) = (libm::sin(turned), libm::cos(turned));
            let towards = [hx * c - hz * s, hx * s + hz * c];
            let amplitude = (2.0 * spectrum.between(from, from * step)).sqrt();
            Component {
                per_m: towards.map(|t| (t * per_m) as f32),
                length_m: (1.0 / per_m) as f32,
                hz: omega / TAU,
                phase: h2 as f32,
                slope: (amplitude * per_m * TAU) as f32,
                above_peak: (omega / spectrum.peak) as f32,
            }
        });
        let rough = spectrum.alpha * libm::log(RIPPLES / highest);
        Self {
            components,
            rough: rough as f32,
            height_m: spectrum.height_m() as f32,
            peak: spectrum.peak as f32,
            speed_m_per_s: wind.speed_m_per_s,
        }
    }

    /// How many times as quick the peak is over a fetch as over open water, at least 1.
    pub fn ratio(&self, fetch_m: f32) -> f32 {
        let peak = Spectrum::new(f64::from(self.speed_m_per_s), f64::from(fetch_m)).peak;
        (peak as f32 / self.peak).max(1.0)
    }

    /// At a time, seconds. Phases are reduced in `f64`, so that an hour is as exact as a second.
    pub fn at(&self, time_s: f64) -> WavesNow {
        let turns = self.components.map(|c| {
            let turns = f64::from(c.phase) - c.hz * time_s;
            (turns - turns.floor()) as f32
        });
        WavesNow { waves: self.clone(), turns, time_s }
    }
}

/// Waves at a moment.
#[derive(Clone, Debug, PartialEq)]
pub struct WavesNow {
    /// What they are.
    pub waves: Waves,
    /// Where each is at the origin, turns, 0 to 1.
    pub turns: [f32; WAVES],
    /// When, seconds.
    pub time_s: f64,
}

/// How water slopes at a place.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Slopes {
    /// Rise a metre towards x and z.
    pub rise: [f32; 2],
    /// Variance of what is too fine to be told apart, both ways together.
    pub rough: f32,
}

fn smooth(from: f32, to: f32, v: f32) -> f32 {
    let t = ((v - from) / (to - from)).clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

/// How much of a wave there is: all over open water, and less where the peak is so many times as quick as over open water.
#[inline]
fn grown(c: &Component, ratio: f32) -> f32 {
    let sheltered = ((ratio - 1.0) * 4.0).clamp(0.0, 1.0);
    1.0 + (smooth(GROWS[0] * ratio, GROWS[1] * ratio, c.above_peak) - 1.0) * sheltered
}

impl WavesNow {
    /// Slopes at a place of the plan where the peak is `ratio` times as quick as over open water; waves shorter than twice `fine_m` cannot be told apart.
    pub fn slopes(&self, x: f32, z: f32, ratio: f32, fine_m: f32) -> Slopes {
        let mut found = Slopes::default();
        let mut last = 1.0;
        for (c, turns) in self.waves.components.iter().zip(self.turns) {
            last = grown(c, ratio);
            let slope = c.slope * last;
            let told = ((c.length_m / fine_m.max(1e-6) - 2.0) * 0.5).clamp(0.0, 1.0);
            found.rough += 0.5 * slope * slope * (1.0 - told * told);
            if told > 0.0 && slope > 0.0 {
                let phase = c.per_m[0] * x + c.per_m[1] * z + turns;
                let rise = -slope * told * sin_turns(phase) * c.length_m;
                found.rise[0] += rise * c.per_m[0];
                found.rise[1] += rise * c.per_m[1];
            }
        }
        found.rough += self.waves.rough * last * last;
        found
    }

    /// Height of the surface over its level at a place, metres; for checks.
    pub fn height(&self, x: f32, z: f32) -> f32 {
        let waves = self.waves.components.iter().zip(self.turns);
        waves
            .map(|(c, turns)| {
                let amplitude = c.slope * c.length_m / std::f32::consts::TAU;
                amplitude * grown(c, 1.0) * cos_turns(c.per_m[0] * x + c.per_m[1] * z + turns)
            })
            .sum()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn wind(speed_m_per_s: f32) -> Wind {
        Wind { speed_m_per_s, from_deg: 250.0, ..Wind::default() }
    }

    /// Cox & Munk, "Measurement of the roughness of the sea surface from photographs of the sun's glitter", J. Opt. Soc. Am. 44, 1954: the mean square of the
    /// slopes is 0.003 + 0.00512 of the wind, give or take 0.004; numbers from memory. A coast's fetch is shorter than theirs, and the tail of the spectrum is a rule of thumb.
    #[test]
    fn slopes_are_about_those_seen_in_the_glitter_of_the_sun() {
        for speed in [4.0, 7.0, 10.0, 13.0] {
            let waves = Waves::new(&wind(speed));
            let sum: f32 = waves.components.iter().map(|c| 0.5 * c.slope * c.slope).sum();
            let (got, expected) = (sum + waves.rough, 0.003 + 0.005_12 * speed);
            assert!((0.6..1.5).contains(&(got / expected)), "{speed} m/s: {got}, Cox & Munk {expected}");
        }
    }

    #[test]
    fn the_slope_is_that_of_the_height() {
        let now = Waves::new(&wind(7.0)).at(12.5);
        for n in 0..200 {
            let (x, z) = ((n * 37 % 91) as f32 * 0.7, (n * 53 % 67) as f32 * 0.9);
            let rise = now.slopes(x, z, 1.0, 0.0).rise;
            let d = 0.004;
            let by_x = (now.height(x + d, z) - now.height(x - d, z)) / (2.0 * d);
            let by_z = (now.height(x, z + d) - now.height(x, z - d)) / (2.0 * d);
            assert!((rise[0] - by_x).abs() < 0.02 && (rise[1] - by_z).abs() < 0.02, "{rise:?} {by_x} {by_z}");
        }
    }

    #[test]
    fn the_sum_is_as_high_as_its_spectrum_and_travels_with_the_wind() {
        let waves = Waves::new(&wind(8.0));
        let (mut sum, mut count) = (0.0, 0);
        for step in 0..40 {
            let now = waves.at(f64::from(step) * 1.7);
            for n in 0..400 {
                sum += now.height((n % 20) as f32 * 9.3, (n / 20) as f32 * 8.1).powi(2);
                count += 1;
            }
        }
        let height = 4.0 * (sum / count as f32).sqrt();
        assert!((height / waves.height_m - 1.0).abs() < 0.12, "{height}, spectrum {}", waves.height_m);
        // Each wave goes where the wind goes, at the speed of waves of its length on deep water.
        let [hx, hz] = heading(250.0);
        for c in &waves.components {
            assert!(c.per_m[0] * hx + c.per_m[1] * hz > 0.0);
            let speed = c.hz * f64::from(c.length_m);
            let expected = (G * f64::from(c.length_m) / TAU).sqrt();
            assert!((0.95..1.25).contains(&(speed / expected)), "{} m: {speed}, {expected}", c.length_m);
        }
    }

    #[test]
    fn a_lee_is_calm_and_far_water_is_rough_instead_of_uneven() {
        let waves = Waves::new(&wind(9.0));
        let now = waves.at(0.0);
        let steep = |ratio: f32, fine: f32| {
            let all = (0..300).map(|n| now.slopes(n as f32 * 1.37, n as f32 * 0.71, ratio, fine));
            all.fold((0.0, 0.0), |(r, f), s| (r + s.rise[0].powi(2) + s.rise[1].powi(2), f + s.rough))
        };
        let (open, lee) = (steep(1.0, 0.01), steep(waves.ratio(3.0), 0.01));
        assert!(lee.0 < 0.35 * open.0, "{} in the lee, {} in the open", lee.0, open.0);
        let far = steep(1.0, 4.0);
        assert!(far.0 < 0.25 * open.0 && far.1 > 2.0 * open.1);
        // Nothing is lost on the way.
        assert!(((far.0 + far.1) / (open.0 + open.1) - 1.0).abs() < 0.2);
    }
}
