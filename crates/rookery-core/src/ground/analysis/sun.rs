//! How long the sun shines on the ground.

use super::horizon::{BothWays, Lines};
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::{SunPath, Terrain};
use glam::Vec2;
use rayon::prelude::*;

/// Parts the day is cut into.
const PARTS: usize = 32;

/// Hours of direct sun in a day at every sample, 0 to 24: while it stands over the horizon, over the slope of the sample itself and
/// over all land that rises before it. When it comes and goes between two of the 33 times looked at is found in a straight line
/// between them.
///
/// # Errors
/// [`Cancelled`].
pub fn sun_hours(terrain: &Terrain, path: &SunPath, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
    let (nx, nz) = (terrain.nx(), terrain.nz());
    let half_day_h = path.half_day_h();
    let part_h = half_day_h * 2.0 / PARTS as f32;
    let (slopes, heights) = (slopes(terrain), BothWays::new(terrain));
    // Hours so far, and how clear the sun stood of the horizon last, as a sine.
    let mut out = vec![(0.0_f32, 0.0_f32); nx * nz];
    for i in 0..=PARTS {
        if cancel.is_cancelled() {
            return Err(Cancelled);
        }
        let to = path.towards((i as f32 / PARTS as f32 * 2.0 - 1.0) * half_day_h);
        let plan = Vec2::new(to.x, to.z);
        let (up, level) = (to.y, plan.length());
        let towards = plan.try_normalize().unwrap_or(Vec2::X);
        let lines = Lines::new(&heights, towards);
        let ahead = lines.ahead();
        out.par_chunks_mut(nx).zip(slopes.par_chunks(nx)).enumerate().for_each(|(row, (out, slopes))| {
            for (column, ((hours, before), slope)) in out.iter_mut().zip(slopes).enumerate() {
                let own = slope.dot(towards);
                let rise = lines.at(&ahead, column, row).max(own / (1.0 + own * own).sqrt());
                // The sine of how much higher the sun stands.
                let clear = up * (1.0 - rise * rise).max(0.0).sqrt() - level * rise;
                if i > 0 {
                    let lit = (before.max(0.0) + clear.max(0.0)) / (before.abs() + clear.abs()).max(1e-12);
                    *hours += lit * part_h;
                }
                *before = clear;
            }
        });
    }
    Ok(out.into_iter().map(|(hours, _)| hours).collect())
}

/// How much the land rises for every metre to the east and to the south, at every sample.
fn slopes(terrain: &Terrain) -> Vec<Vec2> {
    let (nx, nz, cell, heights) = (terrain.nx(), terrain.nz(), terrain.cell_m(), terrain.heights_zx());
    let mut out = vec![Vec2::ZERO; nx * nz];
    out.par_chunks_mut(nx).enumerate().for_each(|(row, out)| {
        let (north, south) = (row.saturating_sub(1), (row + 1).min(nz - 1));
        for (column, slope) in out.iter_mut().enumerate() {
            let (west, east) = (column.saturating_sub(1), (column + 1).min(nx - 1));
            let east_m = (east - west) as f32 * cell.x;
            let south_m = (south - north) as f32 * cell.y;
            slope.x = (heights[row * nx + east] - heights[row * nx + west]) / east_m;
            slope.y = (heights[south * nx + column] - heights[north * nx + column]) / south_m;
        }
    });
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::SunDay;
    use crate::ground::Frame;

    fn hours(terrain: &Terrain, latitude_deg: f32, month: u8) -> Vec<f32> {
        let path = SunPath::new(&SunDay { latitude_deg, month, day: 21 }, &Frame::SCENE);
        sun_hours(terrain, &path, &CancelToken::default()).unwrap()
    }

    fn path(latitude_deg: f32, month: u8) -> SunPath {
        SunPath::new(&SunDay { latitude_deg, month, day: 21 }, &Frame::SCENE)
    }

    /// A plane that rises so much for every metre east and south.
    fn plane(east: f32, south: f32) -> Terrain {
        let heights = (0..41 * 41).map(|i| (i % 41) as f32 * east + (i / 41) as f32 * south).collect();
        Terrain::new(41, 41, Vec2::ONE, heights).unwrap()
    }

    #[test]
    fn a_plain_has_the_whole_day() {
        for (latitude, month) in [(0.0, 3), (56.0, 6), (56.0, 12), (80.0, 6), (80.0, 12)] {
            let day = path(latitude, month).half_day_h() * 2.0;
            assert!(hours(&plane(0.0, 0.0), latitude, month).iter().all(|h| (h - day).abs() < 1e-3));
        }
    }

    /// Closed form, second by second: the sun shines on a plane while it stands over both the horizon and the plane.
    #[test]
    fn a_slope_has_the_sun_while_it_faces_it() {
        for (latitude, month) in [(56.0, 6), (56.0, 3), (56.0, 12), (-30.0, 6), (5.0, 12)] {
            for (east, south) in [(0.0, 0.7), (0.0, -0.7), (1.5, 0.0), (-0.6, 0.9), (0.2, -2.0)] {
                let normal = glam::Vec3::new(-east, 1.0, -south).normalize();
                let own = path(latitude, month);
                let seconds = (own.half_day_h() * 3600.0) as i32;
                let lit =
                    (-seconds..seconds).filter(|s| own.towards(*s as f32 / 3600.0).dot(normal) > 0.0).count();
                let expected = lit as f32 / 3600.0;
                let got = hours(&plane(east, south), latitude, month)[20 * 41 + 20];
                assert!((got - expected).abs() < 0.06, "{latitude} {month} {east} {south}: {got} {expected}");
            }
        }
    }

    /// Closed form: at the foot of an endless wall in the south of a northern ground no sun comes at the equinox; a wall in the
    /// east takes the morning.
    #[test]
    fn walls_cast_their_shadows() {
        let n = 61;
        let behind = |wall: fn(usize, usize) -> bool| {
            let heights = (0..n * n).map(|i| if wall(i % n, i / n) { 1e4 } else { 0.0 }).collect();
            hours(&Terrain::new(n, n, Vec2::ONE, heights).unwrap(), 50.0, 3)[30 * n + 30]
        };
        let south = behind(|_, row| row > 33);
        assert!(south < 0.9, "{south}");
        assert!((behind(|column, _| column > 33) - 6.0).abs() < 0.4);
        assert!((behind(|_, row| row < 27) - 12.1).abs() < 0.2, "a wall in the north takes nothing");
    }

    /// Broke: a wall of one sample was stepped over and cast no shadow. Closed form, at every time the sun is looked for.
    #[test]
    fn a_wall_of_one_sample_casts_its_shadow() {
        let n = 201;
        for (away, height) in [(13, 12.0_f32), (37, 40.0), (71, 30.0)] {
            let heights = (0..n * n).map(|i| if i / n == 100 + away { height } else { 0.0 }).collect();
            let got = hours(&Terrain::new(n, n, Vec2::ONE, heights).unwrap(), 56.0, 3)[100 * n + 100];
            let own = path(56.0, 3);
            let seconds = (own.half_day_h() * 3600.0) as i32;
            let lit = |s: &i32| {
                let to = own.towards(*s as f32 / 3600.0);
                let (ahead, aside) = (away as f32, to.x / to.z.max(1e-6) * away as f32);
                // Beyond the ground there is no wall, and the sun in the north has none before it.
                to.y > 0.0 && (to.z <= 0.0 || aside.abs() > 100.0 || to.y / to.z * ahead > height)
            };
            let expected = (-seconds..seconds).filter(lit).count() as f32 / 3600.0;
            // A thirty-second of the day is what is told apart.
            assert!((got - expected).abs() < 0.375, "{away} {height}: {got} hours for {expected}");
        }
    }

    #[test]
    fn work_that_is_stopped_gives_nothing() {
        let cancel = CancelToken::default();
        cancel.cancel();
        assert_eq!(sun_hours(&plane(0.0, 0.0), &path(50.0, 6), &cancel), Err(Cancelled));
    }
}
