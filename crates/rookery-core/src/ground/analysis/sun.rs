//! How long the sun shines on the ground.

use crate::cancel::{CancelToken, Cancelled};
use crate::ground::{SunPath, Terrain};
use glam::Vec2;
use rayon::prelude::*;

/// Parts the day is cut into.
const PARTS: usize = 32;

/// Between two neighbouring samples of the grid, as seen from another sample.
struct Look {
    /// Columns to the east and rows to the south of the first.
    first: [i32; 2],
    /// Of the second.
    second: [i32; 2],
    /// Share of the second.
    share: f32,
    /// One over the distance, 1/m.
    per_m: f32,
}

/// What is seen in a direction (east and south, of length 1) where the ray crosses lines of the grid, nearest first and never
/// beyond the ground.
fn looks(terrain: &Terrain, towards: Vec2) -> Vec<Look> {
    let in_cells = towards / terrain.cell_m();
    let sideways = in_cells.x.abs() > in_cells.y.abs();
    // Lines between samples are crossed one by one this way, and in between that way.
    let (main, aside) = if sideways { (in_cells.x, in_cells.y) } else { (in_cells.y, in_cells.x) };
    let last = if sideways { terrain.nx() } else { terrain.nz() } as i32;
    let mut out = Vec::new();
    let mut line = 1;
    while line < last {
        let at_m = line as f32 / main.abs();
        // Straight along the lines it meets the samples themselves.
        let across = aside * at_m;
        let across = if (across - across.round()).abs() < 1e-3 { across.round() } else { across };
        let (low, along) = (across.floor() as i32, line * main.signum() as i32);
        let share = across - across.floor();
        let high = low + i32::from(share > 0.0);
        let cell = |aside: i32| if sideways { [along, aside] } else { [aside, along] };
        out.push(Look { first: cell(low), second: cell(high), share, per_m: 1.0 / at_m });
        line = (line + 1).max(line * 11 / 10);
    }
    out
}

/// The sun at one time.
struct Instant {
    /// Its height, as a sine.
    up: f32,
    /// How much of its direction is level, as a cosine.
    level: f32,
    /// Its bearing: east and south, of length 1.
    towards: Vec2,
    looks: Vec<Look>,
}

/// Hours of direct sun in a day at every sample, 0 to 24: while it stands over the horizon, over the slope of the sample itself and
/// over all land that rises before it. When it comes and goes between two of the 33 times looked at is found in a straight line
/// between them.
///
/// Horizons are looked for at distances that grow by about a tenth and never beyond the ground.
///
/// # Errors
/// [`Cancelled`].
pub fn sun_hours(terrain: &Terrain, path: &SunPath, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
    let (nx, nz) = (terrain.nx(), terrain.nz());
    let half_day_h = path.half_day_h();
    let instants: Vec<Instant> = (0..=PARTS)
        .map(|i| {
            let to = path.towards((i as f32 / PARTS as f32 * 2.0 - 1.0) * half_day_h);
            let plan = Vec2::new(to.x, to.z);
            let towards = plan.try_normalize().unwrap_or(Vec2::X);
            Instant { up: to.y, level: plan.length(), towards, looks: looks(terrain, towards) }
        })
        .collect();
    let part_h = half_day_h * 2.0 / PARTS as f32;
    let mut hours = vec![0.0_f32; nx * nz];
    hours.par_chunks_mut(nx).enumerate().for_each(|(row, hours)| {
        let mut rises = vec![0.0_f32; nx];
        let mut before = vec![0.0_f32; nx];
        for (i, sun) in instants.iter().enumerate() {
            if cancel.is_cancelled() {
                return;
            }
            horizon(terrain, row, sun, &mut rises);
            for ((rise, before), hours) in rises.iter().zip(&mut before).zip(hours.iter_mut()) {
                let clear = sun.up - rise * sun.level;
                if i > 0 {
                    let lit = (before.max(0.0) + clear.max(0.0)) / (before.abs() + clear.abs()).max(1e-12);
                    *hours += lit * part_h;
                }
                *before = clear;
            }
        }
    });
    if cancel.is_cancelled() { Err(Cancelled) } else { Ok(hours) }
}

/// How steeply the land rises towards the sun, as a tangent, from every sample of a row.
fn horizon(terrain: &Terrain, row: usize, sun: &Instant, rises: &mut [f32]) {
    let (nx, nz, cell, heights) = (terrain.nx(), terrain.nz(), terrain.cell_m(), terrain.heights_zx());
    let line = |row: usize| &heights[row * nx..(row + 1) * nx];
    let own = line(row);
    let (north, south) = (row.saturating_sub(1), (row + 1).min(nz - 1));
    let (above, below) = (line(north), line(south));
    let down_m = (south - north) as f32 * cell.y;
    for (column, rise) in rises.iter_mut().enumerate() {
        let (west, east) = (column.saturating_sub(1), (column + 1).min(nx - 1));
        let slope_x = (own[east] - own[west]) / ((east - west) as f32 * cell.x);
        let slope_z = (below[column] - above[column]) / down_m;
        *rise = slope_x * sun.towards.x + slope_z * sun.towards.y;
    }
    for look in &sun.looks {
        let ([x, z], [other_x, other_z]) = (look.first, look.second);
        let (low_x, high_x) = (x.min(other_x), x.max(other_x));
        let first = (-low_x).max(0) as usize;
        let count = (nx as i32 - high_x.max(0)).saturating_sub(first as i32);
        let rows = [z, other_z].map(|z| row as i32 + z);
        if count <= 0 || rows.iter().any(|r| !(0..nz as i32).contains(r)) {
            break;
        }
        let part = |row: i32, aside: i32| {
            let from = (first as i32 + aside) as usize;
            &line(row as usize)[from..from + count as usize]
        };
        let own = &own[first..first + count as usize];
        let seen = part(rows[0], x).iter().zip(part(rows[1], other_x));
        for ((rise, own), (one, other)) in rises[first..].iter_mut().zip(own).zip(seen) {
            *rise = rise.max((one + (other - one) * look.share - own) * look.per_m);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ground::Frame;
    use crate::scene::SunDay;

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

    #[test]
    fn work_that_is_stopped_gives_nothing() {
        let cancel = CancelToken::default();
        cancel.cancel();
        assert_eq!(sun_hours(&plane(0.0, 0.0), &path(50.0, 6), &cancel), Err(Cancelled));
    }
}
