//! Strokes that strew plants.

use super::{Refusal, count, within};
use crate::scene::{Drift, Range};

/// Strokes of one layer, at most.
const MAX_DRIFTS: usize = 1000;
/// Points of one stroke, at most.
const MAX_POINTS: usize = 500;
/// Plants of one stroke, at most.
const MAX_PLANTS: f32 = 200_000.0;

pub(super) fn drifts(list: &[Drift]) -> Result<(), Refusal> {
    count("drifts of one layer", list.len(), MAX_DRIFTS)?;
    for (i, d) in list.iter().enumerate() {
        if i > 0 && list[i - 1].id >= d.id || d.id.0 >= 1 << 24 {
            return Err(Refusal::Taken { what: "drift", id: d.id.0 });
        }
        if d.points.is_empty() {
            return Err(Refusal::EmptyDrift { id: d.id.0 });
        }
        count("points of one drift", d.points.len(), MAX_POINTS)?;
        let mut places = d.points.iter().flatten();
        places.try_for_each(|v| within("the line of a drift", *v, -100_000.0, 100_000.0, " m"))?;
        within("the density of a drift", d.per_m2, 0.01, 1000.0, " per m\u{b2}")?;
        within("the spread of a drift", d.spread_m, 0.02, 50.0, " m")?;
        range("the size of plants in a drift", d.size, 0.01, 100.0, "")?;
        range("the turn of plants in a drift", d.turn_deg, -360.0, 360.0, "\u{b0}")?;
        within("the number of plants in a drift", d.expected(), 0.0, MAX_PLANTS, "")?;
    }
    Ok(())
}

fn range(what: &'static str, r: Range, low: f32, high: f32, unit: &'static str) -> Result<(), Refusal> {
    within(what, r.min, low, high, unit)?;
    within(what, r.max, r.min, high, unit)
}
