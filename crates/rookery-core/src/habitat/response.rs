//! How a mask turns its quantity into a value from 0 to 1.

use crate::document::Response;

/// The response at a value of the quantity: 0 outside, 1 between `full_from` and `full_to`, straight in between.
///
/// Both ends of a fade that has no width belong to the full part.
#[inline]
pub fn response_at(curve: &Response, value: f32) -> f32 {
    let rise = if value >= curve.full_from {
        1.0
    } else if value <= curve.start {
        0.0
    } else {
        (value - curve.start) / (curve.full_from - curve.start)
    };
    let fall = if value <= curve.full_to {
        1.0
    } else if value >= curve.end {
        0.0
    } else {
        (curve.end - value) / (curve.end - curve.full_to)
    };
    let inside = rise.min(fall);
    if curve.inverted { 1.0 - inside } else { inside }
}

/// Whether the response is the same at all values from one to another.
#[inline]
pub fn is_level(curve: &Response, low: f32, high: f32) -> bool {
    (low >= curve.full_from && high <= curve.full_to) || high < curve.start || low > curve.end
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_band_rises_holds_and_falls() {
        let curve = Response { start: 2.0, full_from: 4.0, full_to: 10.0, end: 20.0, inverted: false };
        let table = [
            (0.0, 0.0),
            (2.0, 0.0),
            (3.0, 0.5),
            (4.0, 1.0),
            (7.0, 1.0),
            (10.0, 1.0),
            (15.0, 0.5),
            (20.0, 0.0),
            (99.0, 0.0),
        ];
        for (q, expected) in table {
            assert_eq!(response_at(&curve, q), expected, "at {q}");
            assert_eq!(response_at(&Response { inverted: true, ..curve }, q), 1.0 - expected);
        }
    }

    #[test]
    fn what_is_level_has_one_value() {
        let curve = Response { start: 2.0, full_from: 4.0, full_to: 10.0, end: 10.0, inverted: false };
        for low in 0..24 {
            for high in low..24 {
                let (low, high) = (low as f32 * 0.5, high as f32 * 0.5);
                let values = [low, (low + high) * 0.5, high].map(|v| response_at(&curve, v));
                assert!(!is_level(&curve, low, high) || values == [values[0]; 3], "{low} to {high}");
            }
        }
        assert!(is_level(&curve, 4.0, 10.0) && is_level(&curve, 0.0, 1.9) && is_level(&curve, 10.1, 99.0));
    }

    #[test]
    fn a_fade_without_width_is_a_hard_edge_that_includes_its_ends() {
        let curve = Response { start: 0.0, full_from: 0.0, full_to: 30.0, end: 30.0, inverted: false };
        assert_eq!([0.0, 30.0, 30.001, -0.001].map(|q| response_at(&curve, q)), [1.0, 1.0, 0.0, 0.0]);
    }
}
