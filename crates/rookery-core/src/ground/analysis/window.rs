//! Walking over a terrain with each sample's eight neighbours at hand.

use crate::ground::Terrain;
use crate::ground::sculpt::Region;
use rayon::prelude::*;

/// Rows worked on by one thread at a time, so that each is copied once and not three times.
const STRIP: usize = 16;

/// Calls `f` with the heights around every sample: three rows from the north, each from the west.
///
/// At the border the grid is continued in a straight line.
pub(super) fn per_window(terrain: &Terrain, f: impl Fn([[f32; 3]; 3]) -> f32 + Sync) -> Vec<f32> {
    per_row(
        terrain,
        || (),
        |[north, here, south], (), line| {
            let windows = north.windows(3).zip(here.windows(3)).zip(south.windows(3));
            for (value, ((a, b), c)) in line.iter_mut().zip(windows) {
                *value = f([[a[0], a[1], a[2]], [b[0], b[1], b[2]], [c[0], c[1], c[2]]]);
            }
        },
    )
}

/// Calls `f` for every row of the result with the rows of heights to its north, at it and to its south, each with one
/// sample more on either side.
pub(super) fn per_row<S>(
    terrain: &Terrain,
    scratch: impl Fn() -> S + Sync + Send,
    f: impl Fn([&[f32]; 3], &mut S, &mut [f32]) + Sync,
) -> Vec<f32> {
    let mut out = vec![0.0_f32; terrain.nx() * terrain.nz()];
    per_row_of(terrain, &Region::whole(terrain), &mut out, scratch, f);
    out
}

/// The same for the rows and columns of a region alone, written into values for the whole terrain.
pub(super) fn per_row_of<S>(
    terrain: &Terrain,
    region: &Region,
    out: &mut [f32],
    scratch: impl Fn() -> S + Sync + Send,
    f: impl Fn([&[f32]; 3], &mut S, &mut [f32]) + Sync,
) {
    let nx = terrain.nx();
    let columns = region.columns.clone();
    let padded = columns.start..columns.end + 2;
    let rows_of_region = &mut out[region.rows.start * nx..region.rows.end * nx];
    rows_of_region.par_chunks_mut(nx * STRIP).enumerate().for_each_init(
        || ([vec![0.0; nx + 2], vec![0.0; nx + 2], vec![0.0; nx + 2]], scratch()),
        |(rows, scratch), (number, lines)| {
            let first = (region.rows.start + number * STRIP) as isize;
            padded_row(terrain, first - 1, &mut rows[0]);
            padded_row(terrain, first, &mut rows[1]);
            for (i, line) in lines.chunks_mut(nx).enumerate() {
                padded_row(terrain, first + i as isize + 1, &mut rows[2]);
                let windows = [&rows[0][padded.clone()], &rows[1][padded.clone()], &rows[2][padded.clone()]];
                f(windows, scratch, &mut line[columns.clone()]);
                rows.rotate_left(1);
            }
        },
    );
}

/// Writes a row with one sample more on either side; rows and columns outside continue the last two in a line.
fn padded_row(terrain: &Terrain, row: isize, out: &mut [f32]) {
    let (nx, nz) = (terrain.nx(), terrain.nz() as isize);
    let line = |r: usize| &terrain.heights_zx()[r * nx..(r + 1) * nx];
    if (0..nz).contains(&row) {
        out[1..=nx].copy_from_slice(line(row as usize));
    } else {
        let (edge, inner) = if row < 0 { (0, 1) } else { (nz as usize - 1, nz as usize - 2) };
        for ((o, e), i) in out[1..=nx].iter_mut().zip(line(edge)).zip(line(inner)) {
            *o = 2.0 * e - i;
        }
    }
    out[0] = 2.0 * out[1] - out[2];
    out[nx + 1] = 2.0 * out[nx] - out[nx - 1];
}
