//! Distance to the nearest marked sample of a grid.
//!
//! Source: Felzenszwalb & Huttenlocher, "Distance Transforms of Sampled Functions", Theory of Computing 8, 2012: exact, one
//! pass of lower envelopes of parabolas over the rows and one over the columns.

use glam::Vec2;
use rayon::prelude::*;

/// Distance from every sample to the nearest marked one, metres; infinite where none is marked. `marked` is row by row, `nx`
/// samples each, `cell_m` apart.
pub fn distance_transform(marked: &[bool], nx: usize, cell_m: Vec2) -> Vec<f32> {
    let nz = marked.len() / nx;
    let mut along: Vec<f32> = marked.iter().map(|m| if *m { 0.0 } else { f32::INFINITY }).collect();
    along.par_chunks_mut(nx).for_each(|row| envelope(row, cell_m.x));
    let columns: Vec<Vec<f32>> = (0..nx)
        .into_par_iter()
        .map(|x| {
            let mut column: Vec<f32> = (0..nz).map(|z| along[z * nx + x]).collect();
            envelope(&mut column, cell_m.y);
            column
        })
        .collect();
    (0..marked.len()).into_par_iter().map(|i| columns[i % nx][i / nx].sqrt()).collect()
}

/// Replaces squared distances by the least of them plus the square of the way there.
fn envelope(values: &mut [f32], step: f32) {
    let place = |i: usize| i as f64 * f64::from(step);
    // Where the parabola of one sample gives way to the next.
    let top = |values: &[f32], i: usize| f64::from(values[i]) + place(i) * place(i);
    let meets = |values: &[f32], p: usize, q: usize| {
        (top(values, q) - top(values, p)) / (2.0 * (place(q) - place(p)))
    };
    let (mut lowest, mut from): (Vec<usize>, Vec<f64>) = (Vec::new(), Vec::new());
    for q in (0..values.len()).filter(|q| values[*q].is_finite()) {
        while let Some(&p) = lowest.last() {
            let at = meets(values, p, q);
            if lowest.len() > 1 && at <= from[from.len() - 1] {
                lowest.pop();
                from.pop();
                continue;
            }
            if lowest.len() == 1 || at > from[from.len() - 1] {
                from.push(at);
            }
            break;
        }
        lowest.push(q);
    }
    if lowest.is_empty() {
        return;
    }
    let found: Vec<f32> = {
        let mut k = 0;
        (0..values.len())
            .map(|i| {
                while k < from.len() && from[k] < place(i) {
                    k += 1;
                }
                let away = (place(i) - place(lowest[k])) as f32;
                away * away + values[lowest[k]]
            })
            .collect()
    };
    values.copy_from_slice(&found);
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(60))]

        /// Brute force over all marked samples.
        #[test]
        fn every_sample_knows_its_nearest_marked_one(
            marks in prop::collection::vec(prop::bool::weighted(0.08), 12 * 17), dx in 0.3_f32..3.0, dz in 0.3_f32..3.0,
        ) {
            let got = distance_transform(&marks, 12, Vec2::new(dx, dz));
            for (i, d) in got.iter().enumerate() {
                let at = |i: usize| Vec2::new((i % 12) as f32 * dx, (i / 12) as f32 * dz);
                let nearest = marks.iter().enumerate().filter(|(_, m)| **m).map(|(k, _)| at(k).distance(at(i)));
                let nearest = nearest.fold(f32::INFINITY, f32::min);
                prop_assert!(*d == nearest || (d - nearest).abs() < 1e-3, "{} against {} at {}", d, nearest, i);
            }
        }
    }
}
