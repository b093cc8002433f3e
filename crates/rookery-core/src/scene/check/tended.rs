//! Plants set by hand.

use super::{Refusal, count, within};
use crate::scene::Tended;

/// Plants tended in one layer, at most.
const MAX_TENDED: usize = 20_000;

pub(super) fn tended(list: &[Tended]) -> Result<(), Refusal> {
    count("tended plants of one layer", list.len(), MAX_TENDED)?;
    for (i, t) in list.iter().enumerate() {
        if i > 0 && list[i - 1].id >= t.id {
            return Err(Refusal::Taken { what: "tended plant", id: t.id.0 });
        }
        t.at_m
            .iter()
            .try_for_each(|v| within("the place of a tended plant", *v, -100_000.0, 100_000.0, " m"))?;
        within("the spot that stays clear", t.room_m, 0.0, 100.0, " m")?;
        if t.from.as_ref().is_some_and(|o| o.plant().is_none()) {
            return Err(Refusal::NoPlantName);
        }
        let Some(p) = &t.plant else { continue };
        within("the size of a tended plant", p.size, 0.01, 100.0, "")?;
        p.stretch
            .iter()
            .try_for_each(|s| within("the height and depth of a tended plant", *s, 0.25, 4.0, ""))?;
        within("the turn of a tended plant", p.turn_deg, -360.0, 360.0, "\u{b0}")?;
        within("the tilt of a tended plant", p.tilt_deg, 0.0, 180.0, "\u{b0}")?;
        within("the way a tended plant tilts", p.tilt_to_deg, -360.0, 360.0, "\u{b0}")?;
        within("the lift of a tended plant", p.lift_m, -20.0, 200.0, " m")?;
    }
    Ok(())
}
