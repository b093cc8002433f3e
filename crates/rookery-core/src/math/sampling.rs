//! Points at random on simple shapes.

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

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

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
