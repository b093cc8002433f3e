//! How wet the ground tends to be, from its shape alone.
//!
//! Source: Beven & Kirkby, "A physically based, variable contributing area model of basin hydrology", Hydrological
//! Sciences Bulletin 24, 1979: ln(a / tan b), a being the area drained through a metre of contour.

use super::{flow::Flow, horn};
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::Terrain;

/// The topographic wetness index at every sample: about 2 on brows, 8 and more in hollows and burns. Slopes under
/// a thousandth count as a thousandth.
///
/// # Errors
/// [`Cancelled`].
pub fn wetness(terrain: &Terrain, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
    let area = Flow::over(terrain, cancel)?.catchment_m2(terrain);
    let width_m = (terrain.cell_m().x * terrain.cell_m().y).sqrt();
    let slope = horn::slope_deg(terrain);
    Ok(area.iter().zip(slope).map(|(a, s)| index(a / width_m, s)).collect())
}

fn index(area_per_m: f32, slope_deg: f32) -> f32 {
    libm::logf(area_per_m / libm::tanf(slope_deg.to_radians()).max(1e-3))
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::Vec2;

    /// Closed form on a plane: the strip above a metre of contour is as long as the way up.
    #[test]
    fn a_plane_has_its_closed_form_index() {
        let n = 20;
        let heights = (0..n * n).map(|i| (i / n) as f32 * -0.8).collect();
        let t = Terrain::new(n, n, Vec2::splat(4.0), heights).unwrap();
        let got = wetness(&t, &CancelToken::default()).unwrap();
        for row in 2..5 {
            let expected = (row as f32 * 4.0 / 0.2).ln();
            assert!((got[row * n + 10] - expected).abs() < 0.01, "{} for {expected}", got[row * n + 10]);
        }
    }

    #[test]
    fn a_valley_is_wetter_than_its_sides() {
        let n = 41;
        let heights =
            (0..n * n).map(|i| ((i % n) as f32 - 20.0).abs() * 0.5 - (i / n) as f32 * 0.1).collect();
        let t = Terrain::new(n, n, Vec2::ONE, heights).unwrap();
        let got = wetness(&t, &CancelToken::default()).unwrap();
        assert!(got[30 * n + 20] > got[30 * n + 10] + 2.0);
        assert!(got[35 * n + 20] > got[15 * n + 20], "it grows down the valley");
    }
}
