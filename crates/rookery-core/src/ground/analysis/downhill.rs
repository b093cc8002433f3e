//! How far it is downhill to something, along the way that water takes.
//!
//! Source: Tesfa et al., "Extraction of hydrological proximity measures from DEMs", Environmental Modelling & Software 26, 2011: the
//! distance down to a stream along the steepest of eight neighbours (O'Callaghan & Mark 1984). Hollows that hold none of
//! it are filled to their rims.

use super::flow::Flow;
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::Terrain;

/// The way downhill from every sample to the first that is there, metres on the plan, and what is left to go from that one; infinite
/// where water passes none on its way to the border.
///
/// # Errors
/// [`Cancelled`].
pub fn downhill_m(
    terrain: &Terrain,
    there: &[Option<f32>],
    cancel: &CancelToken,
) -> Result<Vec<f32>, Cancelled> {
    let flow = Flow::into(terrain, |at| there[at as usize].is_some(), cancel)?;
    let (nx, cell) = (terrain.nx(), terrain.cell_m());
    let mut away: Vec<f32> = there.iter().map(|t| t.unwrap_or(f32::INFINITY)).collect();
    for at in flow.upwards() {
        let (from, to) = (at as usize, flow.receiver[at as usize] as usize);
        if there[from].is_none() && from != to {
            let east = (from % nx).abs_diff(to % nx) as f32 * cell.x;
            let south = (from / nx).abs_diff(to / nx) as f32 * cell.y;
            away[from] = away[to] + east.hypot(south);
        }
    }
    Ok(away)
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::Vec2;

    /// Closed form on a plane that falls to the south: so many rows up; below the line there is no way down to it.
    #[test]
    fn on_a_plane_it_is_the_way_straight_down() {
        let n = 30;
        let heights = (0..n * n).map(|i| (i / n) as f32 * -0.5).collect();
        let terrain = Terrain::new(n, n, Vec2::splat(2.0), heights).unwrap();
        let line: Vec<_> = (0..n * n).map(|i| (i / n == 20).then_some(0.25)).collect();
        let got = downhill_m(&terrain, &line, &CancelToken::default()).unwrap();
        for row in 1..n - 1 {
            let expected = if row <= 20 { (20 - row) as f32 * 2.0 + 0.25 * 1.0 } else { f32::INFINITY };
            assert_eq!(got[row * n + 15], expected, "row {row}");
        }
    }

    /// On a cone that falls to its middle all ways lead there; against the straight way no shorter, and no longer than eight
    /// directions make it: by 1 / cos 22.5 degrees.
    #[test]
    fn in_a_funnel_no_way_is_shorter_than_the_straight_one() {
        let n = 41;
        let off = |i: usize| Vec2::new((i % n) as f32 - 20.0, (i / n) as f32 - 20.0);
        let heights = (0..n * n).map(|i| off(i).length()).collect();
        let terrain = Terrain::new(n, n, Vec2::ONE, heights).unwrap();
        let middle: Vec<_> = (0..n * n).map(|i| (off(i) == Vec2::ZERO).then_some(0.0)).collect();
        let got = downhill_m(&terrain, &middle, &CancelToken::default()).unwrap();
        // At the border water leaves.
        for i in (0..n * n).filter(|i| off(*i).abs().max_element() < 20.0) {
            let straight = off(i).length();
            let longest = straight / 22.5_f32.to_radians().cos() + 1e-3;
            assert!((straight - 1e-3..=longest).contains(&got[i]), "{} for {straight}", got[i]);
        }
    }
}
