//! Asking a point of the ground why a layer grows there or does not.

use crate::ground::Surface;
use crate::habitat::{Rules, joined, respond};
use crate::scene::{Combine, Drives, MaskId, Quantity};
use serde::Serialize;

/// What one mask makes of a point.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct MaskReading {
    /// Which mask of the layer.
    pub id: MaskId,
    /// What it looks at.
    pub quantity: Quantity,
    /// The quantity at the point, in its own unit; none where it is unknown.
    pub reading: Option<f32>,
    /// What the mask lets through there, 0 to 1; 1 when it is switched off.
    pub value: f32,
    /// How it comes together with those before it.
    pub combine: Combine,
    /// What it changes.
    pub drives: Drives,
    /// Whether the mask is switched on.
    pub enabled: bool,
}

/// Why a layer grows at a point or does not.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Verdict {
    /// In the order of the layer's masks.
    pub masks: Vec<MaskReading>,
    /// Share of candidates that may stand here: the masks together, 0 to 1.
    pub share: f32,
    /// In words.
    pub words: String,
}

/// Reads a layer's rules at a point of a ground. The same code as growth reads them.
pub fn probe<S: Surface>(ground: &S, rules: &Rules, spot: &S::Spot) -> Verdict {
    let masks: Vec<MaskReading> = (0..rules.count())
        .map(|i| {
            let m = rules.mask(i);
            let reading = rules.quantity(i, ground, spot);
            MaskReading {
                id: m.id,
                quantity: m.quantity,
                reading: reading.is_finite().then_some(reading),
                value: if m.enabled { respond(m, reading) } else { 1.0 },
                combine: m.combine,
                drives: m.drives,
                enabled: m.enabled,
            }
        })
        .collect();
    let share = rules.together(|i| masks[i].value);
    // The mask that takes most away names itself.
    let mut so_far = None;
    let mut most: Option<(f32, &MaskReading)> = None;
    for (i, m) in masks.iter().enumerate().filter(|(i, _)| rules.mask(*i).counts()) {
        let now = joined(so_far, rules.mask(i), m.value);
        let taken = so_far.unwrap_or(1.0) - now;
        if taken > 0.0 && most.is_none_or(|(before, _)| taken > before) {
            most = Some((taken, m));
        }
        so_far = Some(now);
    }
    let words = match most {
        Some((_, m)) if share < 1.0 => {
            let verb = if share <= 0.0 { "refused" } else { "thinned" };
            format!("{verb} by {}, {:.0} % let through", read_out(m), share * 100.0)
        }
        _ => "nothing keeps it from growing here".to_owned(),
    };
    Verdict { masks, share, words }
}

fn read_out(m: &MaskReading) -> String {
    let Some(v) = m.reading else { return "what is not known here".to_owned() };
    match m.quantity {
        Quantity::Slope => format!("slope: {v:.1}\u{b0}"),
        Quantity::Altitude => format!("altitude: {v:.1} m"),
        Quantity::Zone => format!("zone: {:.0} % in it", v * 100.0),
        Quantity::Aspect => format!("aspect: {v:.0}\u{b0}"),
        Quantity::ProfileCurvature => format!("profile curvature: {v:.3} 1/m"),
        Quantity::PlanCurvature => format!("plan curvature: {v:.3} 1/m"),
        Quantity::Wetness => format!("wetness: {v:.1}"),
        Quantity::Openness => format!("openness: {:.0} % of the sky", v * 100.0),
        Quantity::Noise => format!("noise: {v:.2}"),
        Quantity::Painted => format!("paint: {:.0} %", v * 100.0),
        Quantity::Facing => format!("facing up: {v:.2}"),
        Quantity::InView if v > 0.0 => format!("{v:.0}\u{b0} beside the shot's picture"),
        Quantity::InView => "in the shot's picture".to_owned(),
        Quantity::Picture => format!("picture: {:.0} %", v * 100.0),
        Quantity::Colour => format!("colour: {:.0} % away", v * 100.0),
        Quantity::Distance => format!("distance: {v:.1} m"),
    }
}
