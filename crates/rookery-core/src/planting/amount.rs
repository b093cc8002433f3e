//! Amounts in one unit as amounts in another.

use crate::document::{Amount, Clumps, Document, Layer, Pattern, Range, SizeSpread, Stance};
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

    /// The crowns of a layer: of all its species by their shares, with sizes as its stance spreads them. What masks make of
    /// sizes and of the mix is not in it.
    pub fn new(document: &Document, layer: &Layer) -> Self {
        let Stance { size, sizes, deep, .. } = layer.stance;
        let Range { min: a, max: b } = size;
        // Means of a number spread from 0 to 1, and of its square.
        let (one, two) = match sizes {
            SizeSpread::Even => (0.5, 1.0 / 3.0),
            SizeSpread::Middle => (0.5, 7.0 / 24.0),
            SizeSpread::Small => (1.0 / 3.0, 0.2),
            SizeSpread::Large => (2.0 / 3.0, 8.0 / 15.0),
        };
        let (mean, square) = (a + (b - a) * one, a * a + 2.0 * a * (b - a) * one + (b - a) * (b - a) * two);
        let mixed = || document.mix_of(layer).map(|(part, s)| (part.share, s.radius_m()));
        let all: f32 = mixed().map(|(share, _)| share).sum();
        if all <= 0.0 {
            return Self::UNIT;
        }
        let radius = mixed().map(|(share, r)| share * r).sum::<f32>() / all;
        let radius_2 = mixed().map(|(share, r)| share * r * r).sum::<f32>() / all;
        let uneven = square * radius_2 / (mean * mean * radius * radius) - 1.0;
        Self { area_m2: PI * radius_2 * square * (deep.min + deep.max) * 0.5, uneven }
    }
}

/// How fast the gaps between even plants close once crowns meet. Fitted to measured cover of the pattern (see `tests/core/cover.rs`):
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
/// Rows stand apart as even plants do; lines and layouts made elsewhere are taken for chance.
///
/// At random: the Boolean model, 1 - exp(-x) (Stoyan, Kendall & Mecke, Stochastic Geometry and its Applications). Evenly: as
/// much as they are while none meet; from there on with the same slope, and faster than by chance.
pub fn cover_of(beside: f32, pattern: Pattern, clumps: &Clumps, crown: &MeanCrown) -> f32 {
    match pattern {
        Pattern::Random | Pattern::Along | Pattern::Vertices | Pattern::Faces => 1.0 - libm::expf(-beside),
        Pattern::Clumped => 1.0 - libm::expf(-beside * overlapping(clumps, crown)),
        Pattern::Even | Pattern::Rows if beside <= APART => beside,
        Pattern::Even | Pattern::Rows => {
            let u = (beside - APART) / (1.0 - APART);
            1.0 - (1.0 - APART) * libm::expf(-u - closing(crown) * u * u)
        }
    }
}

/// The other way round: how much crowns must cover beside one another to cover a share of the ground together.
fn beside_of(cover: f32, pattern: Pattern, clumps: &Clumps, crown: &MeanCrown) -> f32 {
    let cover = cover.clamp(0.0, MOST);
    match pattern {
        Pattern::Random | Pattern::Along | Pattern::Vertices | Pattern::Faces => -libm::logf(1.0 - cover),
        Pattern::Clumped => -libm::logf(1.0 - cover) / overlapping(clumps, crown),
        Pattern::Even | Pattern::Rows if cover <= APART => cover,
        Pattern::Even | Pattern::Rows => {
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
    use crate::document::MixPart;

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
        let mut layer = Layer::usual(species, crate::document::LayerId(1), "One");
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
        let other = &crate::nursery::ready()[5];
        let scene = crate::document::bare();
        for sizes in [SizeSpread::Even, SizeSpread::Middle, SizeSpread::Small, SizeSpread::Large] {
            let mut layer = Layer::usual(species, crate::document::LayerId(1), "One");
            layer.stance = Stance { size: Range { min: 0.5, max: 1.5 }, sizes, ..Stance::default() };
            let share = |s: &crate::nursery::Species, share| MixPart { species: s.id.clone(), share };
            layer.mix = vec![share(species, 0.75), share(other, 0.25)];
            let n = 100_000;
            let area = |i: i32| {
                let s = f64::from(0.5 + crate::planting::spread(sizes, (i as f32 + 0.5) / n as f32));
                let of = |r: f32| std::f64::consts::PI * (f64::from(r) * s).powi(2);
                0.75 * of(species.radius_m()) + 0.25 * of(other.radius_m())
            };
            let mean = (0..n).map(area).sum::<f64>() / f64::from(n);
            assert!(
                (f64::from(MeanCrown::new(&scene, &layer).area_m2) / mean - 1.0).abs() < 1e-3,
                "{sizes:?}"
            );
        }
    }
}
