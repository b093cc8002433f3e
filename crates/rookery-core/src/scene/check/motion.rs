//! What may move, and how.

use super::{Refusal, within};
use crate::document::{Frames, Motion};

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

/// Checks a moment that is looked at, seconds from the start.
///
/// # Errors
/// What is wrong with it.
pub fn check_time(time_s: f64) -> Result<(), Refusal> {
    within("the moment", time_s as f32, 0.0, 3600.0, " s")
}

/// Checks a run of frames.
///
/// # Errors
/// What is wrong with it.
pub fn check_frames(frames: &Frames) -> Result<(), Refusal> {
    let Frames { first, last, rate } = *frames;
    within("frames a second", rate, 1.0, 120.0, "")?;
    if first >= last {
        return Err(Refusal::NoFrames { first, last });
    }
    within("the number of frames of a run", (last - first) as f32, 1.0, Frames::MOST as f32, "")?;
    check_time(Frames::time_s(last - 1, rate))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_run_has_frames_and_ends_within_the_hour() {
        let said = |first, last, rate| {
            check_frames(&Frames { first, last, rate }).err().map(|e| e.to_string()).unwrap_or_default()
        };
        assert_eq!(said(0, 240, 24.0), "");
        assert_eq!(said(86_399, 86_400, 24.0), "");
        assert!(said(5, 5, 24.0).contains("has no frame"), "{}", said(5, 5, 24.0));
        assert!(
            said(0, 3601, 24.0).contains("the number of frames of a run is 3601; it must be from 1 to 3600")
        );
        assert!(said(86_400, 86_402, 24.0).contains("the moment is"));
        assert!(said(0, 10, f32::NAN).contains("frames a second"));
        assert!(
            check_time(-1.0).is_err() && check_time(f64::INFINITY).is_err() && check_time(f64::NAN).is_err()
        );
    }
}
