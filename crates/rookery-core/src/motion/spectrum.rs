//! How the unrest of wind is spread over frequencies and directions.

/// Points of the tables below.
const POINTS: usize = 4000;

/// A rising table of a function and its way back.
struct Table {
    at: Vec<f64>,
    value: Vec<f64>,
}

impl Table {
    /// The integral of a density from nothing over points that rise.
    fn integral(at: Vec<f64>, density: impl Fn(f64) -> f64) -> Self {
        let mut value = Vec::with_capacity(at.len());
        let mut sum = at[0] * density(at[0]);
        value.push(sum);
        for pair in at.windows(2) {
            sum += (density(pair[0]) + 4.0 * density((pair[0] + pair[1]) / 2.0) + density(pair[1]))
                * (pair[1] - pair[0])
                / 6.0;
            value.push(sum);
        }
        Self { at, value }
    }

    fn between(x: &[f64], y: &[f64], wanted: f64) -> f64 {
        let i = x.partition_point(|v| *v < wanted).clamp(1, x.len() - 1);
        let (a, b) = (x[i - 1], x[i]);
        y[i - 1] + (y[i] - y[i - 1]) * ((wanted - a) / (b - a)).clamp(0.0, 1.0)
    }

    fn value(&self, at: f64) -> f64 {
        Self::between(&self.at, &self.value, at)
    }

    fn at(&self, value: f64) -> f64 {
        Self::between(&self.value, &self.at, value)
    }
}

/// Points from one value to another, each as many times the one before.
fn log_points(from: f64, to: f64) -> Vec<f64> {
    let step = libm::log(to / from) / (POINTS - 1) as f64;
    (0..POINTS).map(|i| from * libm::exp(step * i as f64)).collect()
}

/// The longitudinal spectrum of von Karman, by the reduced frequency `n = f L / U`: 4 (1 + 70.8 n^2)^(-5/6), whose integral is 1.
///
/// Source: von Karman, "Progress in the statistical theory of turbulence", PNAS 34, 1948, in the one-sided form of wind engineering
/// (ESDU 85020); from memory.
pub struct VonKarman(Table);

impl VonKarman {
    /// Ready to be asked.
    pub fn new() -> Self {
        Self(Table::integral(log_points(1e-6, 1e4), density))
    }

    /// The share of the variance below a reduced frequency, 0 to 1.
    pub fn below(&self, n: f64) -> f64 {
        self.0.value(n)
    }

    /// Edges of so many bands of reduced frequency: in equal steps of three parts variance and seven parts octaves, so that both the
    /// slow swell and the fine ripples are made of several waves.
    pub fn edges(&self, from: f64, to: f64, bands: usize) -> Vec<f64> {
        let at = log_points(from, to);
        let (low, high) = (self.below(from), self.below(to));
        let octaves = libm::log(to / from);
        let mixed = |n: f64| 0.3 * (self.below(n) - low) / (high - low) + 0.7 * libm::log(n / from) / octaves;
        let value = at.iter().map(|n| mixed(*n)).collect();
        let table = Table { at, value };
        (0..=bands).map(|i| table.at(i as f64 / bands as f64)).collect()
    }
}

fn density(n: f64) -> f64 {
    4.0 * libm::pow(1.0 + 70.8 * n * n, -5.0 / 6.0)
}

/// How far waves lie across the wind: the tangent of their angle to it, as the isotropic tensor of von Karman has it for one wave number
/// along the wind.
pub struct Across(Table);

impl Across {
    /// Ready to be asked.
    pub fn new() -> Self {
        let density = |t: f64| {
            let s = 1.0 + t * t;
            libm::pow(s, -4.0 / 3.0) + 8.0 / 3.0 * t * t * libm::pow(s, -7.0 / 3.0)
        };
        Self(Table::integral(log_points(1e-4, 1e4), density))
    }

    /// The tangent below which a share of the waves lies.
    pub fn quantile(&self, share: f64) -> f64 {
        let all = self.0.value[POINTS - 1];
        self.0.at(share * all)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_spectrum_holds_all_of_the_variance() {
        let spectrum = VonKarman::new();
        assert!((spectrum.below(1e4) - 1.0).abs() < 2e-3, "{}", spectrum.below(1e4));
        // Far above the bend it falls by -5/3: what lies above falls by -2/3.
        let above = |n| 1.0 - spectrum.below(n) - (1.0 - spectrum.below(1e4));
        let slope = libm::log(above(40.0) / above(4.0)) / libm::log(10.0);
        assert!((slope + 2.0 / 3.0).abs() < 0.02, "{slope}");
    }

    #[test]
    fn edges_rise_from_end_to_end() {
        let edges = VonKarman::new().edges(0.05, 20.0, 24);
        assert!(edges.windows(2).all(|w| w[0] < w[1]));
        assert!((edges[0] - 0.05).abs() < 1e-6 && (edges[24] - 20.0).abs() < 1e-3, "{edges:?}");
    }

    #[test]
    fn half_of_the_waves_lie_within_their_median() {
        let across = Across::new();
        let quantiles: Vec<f64> = (1..10).map(|i| across.quantile(f64::from(i) / 10.0)).collect();
        assert!(
            quantiles.windows(2).all(|w| w[0] < w[1]) && quantiles[4] > 0.3 && quantiles[4] < 1.5,
            "{quantiles:?}"
        );
    }
}
