//! How much energy waves of each frequency have in a wind that blew over so much water.
//!
//! Source: JONSWAP, Hasselmann et al., "Measurements of wind-wave growth and swell decay", Deutsche Hydrographische Zeitschrift A8(12), 1973; where the sea
//! can grow no further, Pierson & Moskowitz 1964. Numbers from memory.

/// Gravity, m/s2.
pub const G: f64 = 9.81;
/// Fetch of water without an end, metres: a coast's.
pub const OPEN_M: f64 = 20_000.0;
/// Winds below this leave water as this one does, m/s: no lake is quite a mirror.
const LEAST_WIND: f64 = 1.2;
/// Shorter fetches than this are one, metres.
const LEAST_FETCH_M: f64 = 0.3;

/// Energy over frequency.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Spectrum {
    /// Phillips' constant: how much there is in the tail.
    pub alpha: f64,
    /// Where most of it is, rad/s.
    pub peak: f64,
    /// How much the peak stands out.
    gamma: f64,
}

impl Spectrum {
    /// In a wind of so many m/s at 10 m, over so many metres of water.
    pub fn new(speed_m_per_s: f64, fetch_m: f64) -> Self {
        let (u, f) = (speed_m_per_s.max(LEAST_WIND), fetch_m.max(LEAST_FETCH_M));
        let growing = 22.0 * libm::cbrt(G * G / (u * f));
        let grown = 0.855 * G / u;
        if growing <= grown {
            return Self { alpha: 0.0081, peak: grown, gamma: 1.0 };
        }
        let alpha = 0.076 * libm::pow(u * u / (f * G), 0.22);
        Self { alpha: alpha.clamp(0.0081, 0.05), peak: growing, gamma: 3.3 }
    }

    /// Variance of the surface per rad/s, m2 s.
    pub fn density(&self, omega: f64) -> f64 {
        let p = self.peak;
        let width = if omega <= p { 0.07 } else { 0.09 };
        let off = (omega - p) / (width * p);
        let raised = libm::pow(self.gamma, libm::exp(-0.5 * off * off));
        self.alpha * G * G * libm::pow(omega, -5.0) * libm::exp(-1.25 * libm::pow(p / omega, 4.0)) * raised
    }

    /// Variance between two frequencies, m2.
    pub fn between(&self, from: f64, to: f64) -> f64 {
        const STEPS: usize = 64;
        let step = libm::pow(to / from, 1.0 / STEPS as f64);
        let (mut sum, mut low) = (0.0, from);
        for _ in 0..STEPS {
            let high = low * step;
            sum += self.density((low * high).sqrt()) * (high - low);
            low = high;
        }
        sum
    }

    /// Significant height: that of the highest third of the waves, metres.
    pub fn height_m(&self) -> f64 {
        4.0 * self.between(0.4 * self.peak, 30.0 * self.peak).sqrt()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The same paper gives the energy by itself: 1.6e-7 of the fetch in units of the wind. Both are fits to one set of measurements, which scatter by more.
    #[test]
    fn waves_grow_with_their_fetch_as_was_measured() {
        for (u, f) in [(8.0, 2_000.0), (10.0, 10_000.0), (15.0, 20_000.0)] {
            let energy = 1.6e-7 * (G * f / (u * u)) * u.powi(4) / (G * G);
            let (expected, got) = (4.0 * energy.sqrt(), Spectrum::new(u, f).height_m());
            assert!((got / expected - 1.0).abs() < 0.2, "{u} m/s over {f} m: {got}, measured {expected}");
        }
    }

    /// Pierson & Moskowitz: 0.21 of the wind's square, as it is 19.5 m up, over gravity.
    #[test]
    fn a_grown_sea_is_as_high_as_its_wind_lets_it() {
        for u in [5.0, 10.0, 18.0_f64] {
            let expected = 0.21 * (1.026 * u).powi(2) / G;
            let got = Spectrum::new(u, 3e6).height_m();
            assert!((got / expected - 1.0).abs() < 0.08, "{u} m/s: {got}, {expected}");
        }
    }
}
