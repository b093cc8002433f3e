//! Amounts in one unit as amounts in another.

use crate::nursery::Species;
use crate::scene::{Amount, Layer, Pattern, Range};
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

/// Share of the ground that crowns cover, from how much they would cover beside one another.
///
/// At random: the Boolean model, 1 - exp(-x) (Stoyan, Kendall & Mecke, Stochastic Geometry and its Applications). Evenly: as
/// much as they are while none meet; from there on with the same slope, and faster than by chance.
pub fn cover_of(beside: f32, pattern: Pattern, crown: &MeanCrown) -> f32 {
    match pattern {
        Pattern::Random => 1.0 - libm::expf(-beside),
        Pattern::Even if beside <= APART => beside,
        Pattern::Even => {
            let u = (beside - APART) / (1.0 - APART);
            1.0 - (1.0 - APART) * libm::expf(-u - closing(crown) * u * u)
        }
    }
}

/// The other way round: how much crowns must cover beside one another to cover a share of the ground together.
fn beside_of(cover: f32, pattern: Pattern, crown: &MeanCrown) -> f32 {
    let cover = cover.clamp(0.0, MOST);
    match pattern {
        Pattern::Random => -libm::logf(1.0 - cover),
        Pattern::Even if cover <= APART => cover,
        Pattern::Even => {
            let (c, gaps) = (closing(crown), -libm::logf((1.0 - cover) / (1.0 - APART)));
            APART + (1.0 - APART) * ((1.0 + 4.0 * c * gaps).sqrt() - 1.0) / (2.0 * c)
        }
    }
}

/// Plants per m2 of allowed ground; none for a total.
pub fn per_m2(amount: Amount, pattern: Pattern, crown: &MeanCrown) -> Option<f32> {
    match amount {
        Amount::PerM2 { value } => Some(value),
        Amount::Total { .. } => None,
        Amount::Cover { value } => Some(beside_of(value, pattern, crown) / crown.area_m2.max(1e-6)),
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
        amount => per_m2(amount, layer.pattern, crown).unwrap_or(0.0),
    };
    let total = match layer.amount {
        Amount::Total { value } => u64::from(value),
        _ => (f64::from(density) * allowed_m2).round() as u64,
    };
    AmountIn {
        per_m2: density,
        total,
        cover: cover_of(density * crown.area_m2, layer.pattern, crown),
        spacing_m: (density > 0.0).then(|| 1.0 / density.sqrt()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn cover_and_what_it_needs_are_each_others_inverse() {
        for pattern in [Pattern::Random, Pattern::Even] {
            for i in 0..97 {
                let (cover, crown) = (i as f32 / 100.0, MeanCrown { area_m2: 2.0, uneven: 0.05 });
                assert!((cover_of(beside_of(cover, pattern, &crown), pattern, &crown) - cover).abs() < 1e-4);
            }
        }
        // 69.3 % beside one another is half the ground at random.
        assert!((beside_of(0.5, Pattern::Random, &MeanCrown::UNIT) - 0.693_147).abs() < 1e-5);
    }

    #[test]
    fn mean_spacing_is_the_side_of_a_plants_square() {
        assert_eq!(per_m2(Amount::Spacing { value_m: 0.5 }, Pattern::Even, &MeanCrown::UNIT), Some(4.0));
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
