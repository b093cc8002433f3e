//! How a mask's quantity is spread over a ground, for its curve and for laying it over the ground.

use super::{Histogram, Rules};
use crate::ground::Surface;
use crate::scene::Quantity;
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
pub fn spread<S: Surface>(ground: &S, rules: &Rules, i: usize) -> MaskSpread {
    let runs = (0..ground.runs()).into_par_iter().map(|run| {
        let mut values = Vec::new();
        ground.survey(run, &mut |spot, weight| values.push((rules.quantity(i, ground, &spot), weight)));
        values
    });
    let values: Vec<(f32, f64)> = runs.flatten_iter().collect();
    let whole: f64 = values.iter().map(|(_, w)| w).sum();
    let scale = ground.area_m2() / whole.max(f64::MIN_POSITIVE);
    // Farther than its masks tell apart, distances are not spread over anything.
    let most = rules.limit_m(i);
    let (known, unknown): (Vec<_>, Vec<_>) = values.into_iter().partition(|(v, _)| *v < most);
    let all = || known.iter().map(|(v, _)| *v);
    let (low, high) = match rules.mask(i).quantity {
        Quantity::Slope => (0.0, if all().any(|v| v > 90.0) { 180.0 } else { 90.0 }),
        Quantity::Aspect => (0.0, 360.0),
        Quantity::Zone
        | Quantity::Openness
        | Quantity::HeightShare
        | Quantity::Noise
        | Quantity::Painted
        | Quantity::Picture
        | Quantity::Colour => (0.0, 1.0),
        // Up to the longest that any of it has, in whole hours.
        Quantity::SunHours => (0.0, all().fold(0.0, f32::max).ceil().max(1.0)),
        Quantity::Facing => (-1.0, 1.0),
        Quantity::InView => (0.0, 180.0),
        Quantity::Distance => (0.0, most),
        Quantity::ProfileCurvature | Quantity::PlanCurvature => {
            let most = quantile(all().map(f32::abs), 0.98).max(1e-4);
            (-most, most)
        }
        Quantity::Altitude | Quantity::Wetness => (quantile(all(), 0.002), quantile(all(), 0.998)),
    };
    let high = high.max(low + 1e-3 * low.abs().max(1.0));
    let histogram = Histogram::weighed(known.iter().map(|(v, w)| (*v, w * scale)), low, high);
    MaskSpread { histogram, unknown_m2: unknown.iter().map(|(_, w)| w * scale).sum() }
}

fn quantile(values: impl Iterator<Item = f32>, share: f32) -> f32 {
    let mut sorted: Vec<f32> = values.collect();
    if sorted.is_empty() {
        return 0.0;
    }
    let at = (share * (sorted.len() - 1) as f32) as usize;
    *sorted.select_nth_unstable_by(at, f32::total_cmp).1
}

/// The quantity of a mask at each of many points.
pub fn values_at<S: Surface>(ground: &S, rules: &Rules, i: usize, spots: &[S::Spot]) -> Vec<f32>
where
    S::Spot: Sync,
{
    spots.par_iter().map(|spot| rules.quantity(i, ground, spot)).collect()
}
