//! How masks are told of in a layer's sentence.

use super::Span;
use crate::document::{Mask, Response};

/// What a mask lets through: "it grows where the ground", then these three.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Words {
    /// Such as "slopes ".
    pub verb: &'static str,
    /// The value, which can be pressed.
    pub what: String,
    /// What follows it.
    pub tail: &'static str,
}

impl Words {
    /// A band in the unit of a quantity, with where it fades out.
    pub(super) fn band(
        mask: &Mask,
        [verb, verb_not]: [&'static str; 2],
        unit: &str,
        tail: &'static str,
    ) -> Self {
        let Response { start, full_from, full_to, end, inverted } = mask.response;
        let mut what = format!("{}{unit}", band(full_from, full_to));
        let below = (start < full_from).then(|| number(start));
        let above = (full_to < end).then(|| number(end));
        let fade = [below, above].into_iter().flatten().collect::<Vec<_>>().join(" and ");
        if !fade.is_empty() {
            what.push_str(&format!(", fading to {fade}{unit}"));
        }
        Self { verb: if inverted { verb_not } else { verb }, what, tail }
    }

    /// A band of a quantity whose span has no real ends: what runs to one of them is told as "at most" or "at least".
    pub(super) fn open_band(
        mask: &Mask,
        verbs: [&'static str; 2],
        digits: usize,
        unit: &str,
        tail: &'static str,
        span: &Span,
    ) -> Self {
        let Response { start, full_from, full_to, end, .. } = mask.response;
        let number = |v: f32| short(v, digits);
        let (from_below, to_above) = (full_from <= span.low, full_to >= span.high);
        let mut what = match (from_below, to_above) {
            (true, true) => "any amount".to_owned(),
            (true, false) => format!("at most {}{unit}", number(full_to)),
            (false, true) => format!("at least {}{unit}", number(full_from)),
            (false, false) if full_from == full_to => format!("{}{unit}", number(full_to)),
            (false, false) => format!("{}\u{2013}{}{unit}", number(full_from), number(full_to)),
        };
        let below = (start < full_from && !from_below).then(|| number(start));
        let above = (full_to < end && !to_above).then(|| number(end));
        let fade = [below, above].into_iter().flatten().collect::<Vec<_>>().join(" and ");
        if !fade.is_empty() {
            what.push_str(&format!(", fading to {fade}{unit}"));
        }
        Self::new(mask, verbs, what, tail)
    }

    /// A band in hundredths.
    pub(super) fn percent(mask: &Mask, verbs: [&'static str; 2], tail: &'static str) -> Self {
        let share = |v: f32| (v * 100.0).round();
        let what = format!("{}\u{2013}{} %", share(mask.response.full_from), share(mask.response.full_to));
        Self::new(mask, verbs, what, tail)
    }

    /// Words of its own.
    pub(super) fn new(
        mask: &Mask,
        [verb, verb_not]: [&'static str; 2],
        what: String,
        tail: &'static str,
    ) -> Self {
        Self { verb: if mask.response.inverted { verb_not } else { verb }, what, tail }
    }
}

/// "2", or "2–5".
pub fn band(from: f32, to: f32) -> String {
    if from == to { number(from) } else { format!("{}\u{2013}{}", number(from), number(to)) }
}

/// At most two decimals, none when they are zero.
pub fn number(v: f32) -> String {
    short(v, 2)
}

fn short(v: f32, digits: usize) -> String {
    let text = format!("{v:.digits$}");
    let text = if digits > 0 { text.trim_end_matches('0').trim_end_matches('.') } else { &text };
    text.replace('-', "\u{2212}")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{MaskId, Quantity};
    use crate::habitat::source;

    fn told(quantity: Quantity, band: [f32; 4]) -> String {
        let words = source(quantity).words(&Mask::band(MaskId(1), quantity, band), &crate::document::bare());
        format!("{}{}{}", words.verb, words.what, words.tail)
    }

    /// Broke: a curve that ran to the end of what may be set was told as a number nobody had chosen.
    #[test]
    fn what_has_no_end_is_told_as_at_most_and_at_least() {
        let cases = [
            (
                Quantity::ProfileCurvature,
                [-1000.0, -1000.0, 0.0, 0.015],
                "has a curvature down the slope of at most 0 per m, fading to 0.015 per m",
            ),
            (
                Quantity::PlanCurvature,
                [0.004, 0.02, 1000.0, 1000.0],
                "has a curvature across the slope of at least 0.02 per m, fading to 0.004 per m",
            ),
            (Quantity::Altitude, [1.2, 2.4, 9.0, 14.0], "lies 2.4\u{2013}9 m, fading to 1.2 and 14 m up"),
            (Quantity::Altitude, [-12_000.0, -12_000.0, 9.0, 9.0], "lies at most 9 m up"),
            (Quantity::Altitude, [-12_000.0, -12_000.0, 12_000.0, 12_000.0], "lies any amount up"),
            (
                Quantity::WaterHeight,
                [0.0, 0.5, 12_000.0, 12_000.0],
                "lies at least 0.5 m, fading to 0 m above the nearest water",
            ),
            (
                Quantity::WaterDepth,
                [0.02, 0.1, 12_000.0, 12_000.0],
                "lies under at least 0.1 m, fading to 0.02 m of water",
            ),
            (Quantity::Wetness, [6.0, 8.0, 100.0, 100.0], "has a wetness of at least 8, fading to 6"),
        ];
        for (quantity, band, expected) in cases {
            assert_eq!(told(quantity, band), expected);
        }
    }
}
