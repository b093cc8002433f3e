//! What may move, and how.

use super::{Refusal, within};
use crate::document::Motion;

pub(in crate::scene) fn motion(motion: &Motion) -> Result<(), Refusal> {
    let Motion { wind, clock } = motion;
    within("the speed of the wind", wind.speed_m_per_s, 0.0, 40.0, " m/s")?;
    within("where the wind comes from", wind.from_deg, 0.0, 360.0, " degrees")?;
    within("the strength of gusts", wind.gusts.strength, 0.0, 0.6, "")?;
    within("the size of gusts", wind.gusts.size_m, 2.0, 100.0, " m")?;
    within("how quickly gusts change", wind.gusts.change, 0.0, 2.0, "")?;
    within("the length of time that is played", clock.length_s, 0.1, 3600.0, " s")?;
    within("pictures a second", clock.frame_rate, 1.0, 120.0, "")
}
