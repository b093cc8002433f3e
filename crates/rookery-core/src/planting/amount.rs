//! Amounts in one unit as amounts in another.

use crate::nursery::Species;
use crate::scene::{Amount, Clumps, Layer, Pattern, Range};
use std::f32::consts::PI;

/// Even plants stand so far apart that crowns up to this share of the ground do not meet: pi 0.65^2 / (2 sqrt 3), with the
/// least relative radius of the pattern.
const APART: f32 = 0.383;
/// More than this no amount covers: the last gaps are never found.
const MOST: f32 = 0.98;

/// What the plants of a layer cover, one by one.
#[derive(Clone, Copy, Debug, PartialEq, serde::Serialize)]
pub struct MeanCrown {
    /// Mean area of a crown seen from above, m2.
    pub area_m2: f32,
    /// Variance of the sizes against the square of their mean.
    pub uneven: f32,
}

impl MeanCrown {
    /// Crowns of one square metre, all alike.
    pub const UNIT: Self = Self { area_m2: 1.0, uneven: 0.0 };

    /// The crowns of a species with sizes spread evenly over a range.
    pub fn of(species: &Species, size: Range) -> Self {
        let Range { min: a, max: b } = size;
        // Means of a number, and of its square, spread evenly from a to b.
        let (mean, square) = ((a + b) * 0.5, (a * a + a * b + b * b) / 3.0);
        let radius_m = species.radius_m();
        Self { area_m2: PI * radius_m * radius_m * square, uneven: square / (mean * mean) - 1.0 }
    }
}

/// How fast the gaps between even plants close once crowns meet. Fitted to measured cover of the pattern (see `tests/cover.rs`):
/// 0.51 for crowns of one size, less for uneven ones.
fn closing(crown: &MeanCrown) -> f32 {
    0.51 / (1.0 + 18.0 * crown.uneven)
}

/// How much crowns in clumps count against crowns at random: in a clump they lie over one another.
///
/// Source: the void probability of a Neyman-Scott process (Moller & Waagepetersen 2003): no crown reaches a point with the chance
/// exp(-k times the integral over the plan of 1 - exp(-m F)), with k clumps a square metre of m plants, and F the chance that one
/// of them reaches so far; crowns are taken for normal spots of their own width, which makes the integral Ein(m a / (2 pi s^2)).
fn overlapping(clumps: &Clumps, crown: &MeanCrown) -> f32 {
    let sigma = clumps.sigma_m();
    let spread = 2.0 * PI * (sigma * sigma + crown.area_m2 / (4.0 * PI));
    let m = clumps.plants * crown.area_m2 / spread;
    ein(m) / m.max(1e-6)
}

/// The entire exponential integral: the integral of (1 - exp(-t)) / t from 0 to x (Abramowitz & Stegun 5.1).
fn ein(x: f32) -> f32 {
    let steps = 200;
    let h = x / steps as f32;
    let f = |t: f32| if t < 1e-4 { 1.0 - t * 0.5 } else { (1.0 - libm::expf(-t)) / t };
    // Simpson's rule: the integrand is smooth.
    let sum: f32 = (0..steps)
        .map(|i| {
            let a = i as f32 * h;
            (f(a) + 4.0 * f(a + h * 0.5) + f(a + h)) * h / 6.0
        })
        .sum();
    sum
}

/// Share of the ground that crowns cover, from how much they would cover beside one another.
///
/// At random: the Boolean model, 1 - exp(-x) (Stoyan, Kendall & Mecke, Stochastic Geometry and its Applications). Evenly: as
/// much as they are while none meet; from there on with the same slope, and faster than by chance.
pub fn cover_of(beside: f32, pattern: Pattern, clumps: &Clumps, crown: &MeanCrown) -> f32 {
    match pattern {
        Pattern::Random => 1.0 - libm::expf(-beside),
        Pattern::Clumped => 1.0 - libm::expf(-beside * overlapping(clumps, crown)),
        Pattern::Even if beside <= APART => beside,
        Pattern::Even => {
            let u = (beside - APART) / (1.0 - APART);
            1.0 - (1.0 - APART) * libm::expf(-u - closing(crown) * u * u)
        }
    }
}

/// The other way round: how much crowns must cover beside one another to cover a share of the ground together.
fn beside_of(cover: f32, pattern: Pattern, clumps: &Clumps, crown: &MeanCrown) -> f32 {
    let cover = cover.clamp(0.0, MOST);
    match pattern {
        Pattern::Random => -libm::logf(1.0 - cover),
        Pattern::Clumped => -libm::logf(1.0 - cover) / overlapping(clumps, crown),
        Pattern::Even if cover <= APART => cover,
        Pattern::Even => {
            let (c, gaps) = (closing(crown), -libm::logf((1.0 - cover) / (1.0 - APART)));
            APART + (1.0 - APART) * ((1.0 + 4.0 * c * gaps).sqrt() - 1.0) / (2.0 * c)
        }
    }
}

/// Plants per m2 of allowed ground; none for a total.
pub fn per_m2(layer: &Layer, crown: &MeanCrown) -> Option<f32> {
    match layer.amount {
        Amount::PerM2 { value } => Some(value),
        Amount::Total { .. } => None,
        Amount::Cover { value } => {
            Some(beside_of(value, layer.pattern, &layer.clumps, crown) / crown.area_m2.max(1e-6))
        }
        Amount::Spacing { value_m } => Some(1.0 / (value_m * value_m)),
    }
}

/// An amount in every unit.
#[derive(Clone, Copy, Debug, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct AmountIn {
    /// Plants per m2 of allowed ground.
    pub per_m2: f32,
    /// Plants in all.
    pub total: u64,
    /// Share of the allowed ground covered, 0 to 1, worked out from the mean crown.
    pub cover: f32,
    /// Mean spacing, metres; none where nothing is asked for.
    pub spacing_m: Option<f32>,
}

/// What a layer's amount comes to on its allowed ground.
pub fn amount_in(layer: &Layer, crown: &MeanCrown, allowed_m2: f64) -> AmountIn {
    let density = match layer.amount {
        Amount::Total { value } => (f64::from(value) / allowed_m2.max(1e-9)) as f32,
        _ => per_m2(layer, crown).unwrap_or(0.0),
    };
    let total = match layer.amount {
        Amount::Total { value } => u64::from(value),
        _ => (f64::from(density) * allowed_m2).round() as u64,
    };
    AmountIn {
        per_m2: density,
        total,
        cover: cover_of(density * crown.area_m2, layer.pattern, &layer.clumps, crown),
        spacing_m: (density > 0.0).then(|| 1.0 / density.sqrt()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn cover_and_what_it_needs_are_each_others_inverse() {
        let clumps = Clumps::default();
        for pattern in [Pattern::Random, Pattern::Even, Pattern::Clumped] {
            for i in 0..97 {
                let (cover, crown) = (i as f32 / 100.0, MeanCrown { area_m2: 2.0, uneven: 0.05 });
                assert!(
                    (cover_of(beside_of(cover, pattern, &clumps, &crown), pattern, &clumps, &crown) - cover)
                        .abs()
                        < 1e-4
                );
            }
        }
        // 69.3 % beside one another is half the ground at random.
        assert!(
            (beside_of(0.5, Pattern::Random, &clumps, &MeanCrown::UNIT) - std::f32::consts::LN_2).abs()
                < 1e-5
        );
    }

    #[test]
    fn mean_spacing_is_the_side_of_a_plants_square() {
        let species = &crate::nursery::ready()[0];
        let mut layer = Layer::of(species, crate::scene::LayerId(1), "One");
        layer.amount = Amount::Spacing { value_m: 0.5 };
        assert_eq!(per_m2(&layer, &MeanCrown::UNIT), Some(4.0));
    }

    #[test]
    fn the_exponential_integral_is_that_of_the_tables() {
        // Abramowitz & Stegun: Ein(x) = E1(x) + ln x + Euler's constant; E1(1) = 0.219384, E1(2) = 0.048901.
        assert!((ein(1.0) - 0.796_600).abs() < 1e-4 && (ein(2.0) - 1.319_264).abs() < 1e-4);
    }

    #[test]
    fn the_mean_crown_is_that_of_many_sizes() {
        let species = &crate::nursery::ready()[0];
        let size = Range { min: 0.5, max: 1.5 };
        let n = 100_000;
        let mean = (0..n).map(|i| {
            let s = 0.5 + (i as f64 + 0.5) / f64::from(n);
            std::f64::consts::PI * (f64::from(species.radius_m()) * s).powi(2)
        });
        let mean = mean.sum::<f64>() / f64::from(n);
        assert!((f64::from(MeanCrown::of(species, size).area_m2) / mean - 1.0).abs() < 1e-4);
    }
}
