//! Asking a point of the ground why a layer grows there or does not.

use crate::ground::Surface;
use crate::habitat::Rules;
use crate::scene::{MaskId, Quantity};
use serde::Serialize;

/// What one mask makes of a point.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct MaskReading {
    /// Which mask of the layer.
    pub id: MaskId,
    /// What it looks at.
    pub quantity: Quantity,
    /// The quantity at the point, in its own unit.
    pub reading: f32,
    /// What the mask lets through there, 0 to 1; 1 when it is switched off.
    pub value: f32,
    /// Whether the mask is switched on.
    pub enabled: bool,
}

/// Why a layer grows at a point or does not.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Verdict {
    /// In the order of the layer's masks.
    pub masks: Vec<MaskReading>,
    /// Share of candidates that may stand here: the product of the masks, 0 to 1.
    pub share: f32,
    /// In words.
    pub words: String,
}

/// Reads a layer's rules at a point of a ground. The same code as growth reads them.
pub fn probe<S: Surface>(ground: &S, rules: &Rules, spot: &S::Spot) -> Verdict {
    let masks: Vec<MaskReading> = (0..rules.count())
        .map(|i| {
            let m = rules.mask(i);
            MaskReading {
                id: m.id,
                quantity: m.quantity,
                reading: rules.quantity(i, ground, spot),
                value: rules.value(i, ground, spot),
                enabled: m.enabled,
            }
        })
        .collect();
    let share: f32 = masks.iter().map(|m| m.value).product();
    let lowest = masks.iter().filter(|m| m.enabled).min_by(|a, b| a.value.total_cmp(&b.value));
    let words = match lowest {
        Some(m) if m.value < 1.0 => {
            let verb = if m.value <= 0.0 { "refused" } else { "thinned" };
            let read = match m.quantity {
                Quantity::Slope => format!("slope: {:.1}\u{b0}", m.reading),
                Quantity::Altitude => format!("altitude: {:.1} m", m.reading),
                Quantity::Zone => format!("zone: {:.0} % in it", m.reading * 100.0),
            };
            format!("{verb} by {read}, lets {:.0} % through", m.value * 100.0)
        }
        _ => "nothing keeps it from growing here".to_owned(),
    };
    Verdict { masks, share, words }
}
