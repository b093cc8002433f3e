//! How masks are told of in a layer's sentence.

use crate::scene::{Mask, Response};

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
    let text = format!("{v:.2}");
    text.trim_end_matches('0').trim_end_matches('.').replace('-', "\u{2212}")
}
