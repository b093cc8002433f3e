//! How a mask's quantity is spread over a ground, for its curve and for laying it over the ground.

use super::source::source;
use super::{Histogram, Masks};
use crate::ground::Surface;
use rayon::prelude::*;

/// How the area of a ground is spread over the quantity of one mask.
#[derive(Clone, Debug, PartialEq)]
pub struct MaskSpread {
    /// The spread; areas are those the ground's densities count.
    pub histogram: Histogram,
    /// Area where the quantity is unknown, or a distance too great to matter, m2.
    pub unknown_m2: f64,
}

/// Measures the quantity of the mask at a place of the list over the whole ground.
pub fn spread<S: Surface>(ground: &S, rules: &Masks, i: usize) -> MaskSpread {
    let runs = (0..ground.runs()).into_par_iter().map(|run| {
        let mut values = Vec::new();
        ground.survey(run, &mut |spot, weight| values.push((rules.quantity(i, ground, &spot()), weight)));
        values
    });
    let values: Vec<(f32, f64)> = runs.flatten_iter().collect();
    let whole: f64 = values.iter().map(|(_, w)| w).sum();
    let scale = ground.area_m2() / whole.max(f64::MIN_POSITIVE);
    // Farther than its masks tell apart, distances are not spread over anything.
    let most = rules.limit_m(i);
    let (known, unknown): (Vec<_>, Vec<_>) = values.into_iter().partition(|(v, _)| *v < most);
    let shown: Vec<f32> = known.iter().map(|(v, _)| *v).collect();
    let (low, high) = source(rules.mask(i).quantity).shown(&shown, rules.mask(i));
    let high = high.max(low + 1e-3 * low.abs().max(1.0));
    let histogram = Histogram::weighed(known.iter().map(|(v, w)| (*v, w * scale)), low, high);
    MaskSpread { histogram, unknown_m2: unknown.iter().map(|(_, w)| w * scale).sum() }
}

/// The quantity of a mask at each of many points.
pub fn values_at<S: Surface>(ground: &S, rules: &Masks, i: usize, spots: &[S::Spot]) -> Vec<f32>
where
    S::Spot: Sync,
{
    spots.par_iter().map(|spot| rules.quantity(i, ground, spot)).collect()
}
