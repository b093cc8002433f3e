//! Putting heights where a file has none.

/// Fills what is not a number from what lies around it: each missing height is the mean of the known ones near it,
/// in a pyramid of coarser and coarser grids, so that a hole is spanned smoothly however wide it is. Known heights stay
/// as they are. Nothing is filled when no height is known.
///
/// Source: the pull-push scheme of Gortler et al., "The Lumigraph", SIGGRAPH 1996, section 3.3.
pub(super) fn fill_around(nx: usize, nz: usize, heights_zx: &mut [f32]) {
    if heights_zx.iter().all(|h| h.is_finite()) || heights_zx.iter().all(|h| h.is_nan()) {
        return;
    }
    let (cx, cz) = (nx.div_ceil(2), nz.div_ceil(2));
    if (cx, cz) == (nx, nz) {
        return;
    }
    let mut sums = vec![(0.0_f64, 0_u32); cx * cz];
    for (i, h) in heights_zx.iter().enumerate().filter(|(_, h)| h.is_finite()) {
        let sum = &mut sums[(i / nx / 2) * cx + i % nx / 2];
        *sum = (sum.0 + f64::from(*h), sum.1 + 1);
    }
    let mut coarse: Vec<f32> =
        sums.iter().map(|(sum, n)| if *n > 0 { (sum / f64::from(*n)) as f32 } else { f32::NAN }).collect();
    fill_around(cx, cz, &mut coarse);
    for (i, height) in heights_zx.iter_mut().enumerate() {
        if height.is_nan() {
            *height = between(cx, cz, &coarse, i % nx, i / nx);
        }
    }
}

/// The coarse grid at a sample of the fine one, in straight lines between its middles.
fn between(cx: usize, cz: usize, coarse: &[f32], column: usize, row: usize) -> f32 {
    let place = |i: usize, n: usize| {
        let at = (i as f32 * 0.5 - 0.25).clamp(0.0, (n - 1) as f32);
        let low = (at as usize).min(n.saturating_sub(2));
        (low, (low + 1).min(n - 1), at - low as f32)
    };
    let ((x0, x1, fx), (z0, z1, fz)) = (place(column, cx), place(row, cz));
    let line = |z: usize| coarse[z * cx + x0] + (coarse[z * cx + x1] - coarse[z * cx + x0]) * fx;
    line(z0) + (line(z1) - line(z0)) * fz
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn a_hole_in_a_slope_is_spanned_in_about_a_straight_line() {
        let n = 64;
        let slope = |i: usize| (i % n) as f32;
        let mut heights: Vec<f32> =
            (0..n * n)
                .map(|i| {
                    if (24..32).contains(&(i % n)) && (20..44).contains(&(i / n)) {
                        f32::NAN
                    } else {
                        slope(i)
                    }
                })
                .collect();
        fill_around(n, n, &mut heights);
        for (i, h) in heights.iter().enumerate() {
            assert!((h - slope(i)).abs() < 3.0, "sample {i}: {h} for {}", slope(i));
        }
    }

    proptest! {
        #[test]
        fn known_heights_stay_and_filled_ones_lie_between_them(nx in 2_usize..20, nz in 2_usize..20, seed: u64) {
            let value = |i: usize| (seed.rotate_left(i as u32 * 7) % 1000) as f32;
            let known = |i: usize| (seed.rotate_left(i as u32 * 3) % 3) != 0;
            let mut heights: Vec<f32> = (0..nx * nz).map(|i| if known(i) { value(i) } else { f32::NAN }).collect();
            let before = heights.clone();
            fill_around(nx, nz, &mut heights);
            let (low, high) = before.iter().filter(|h| h.is_finite()).fold((f32::MAX, f32::MIN), |(l, h), v| (l.min(*v), h.max(*v)));
            for (a, b) in before.iter().zip(&heights) {
                if a.is_finite() {
                    prop_assert_eq!(a, b);
                } else if low <= high {
                    prop_assert!(*b >= low - 1e-2 && *b <= high + 1e-2, "{b}");
                }
            }
        }
    }
}
