//! Sculpting: strokes that raise, lower, smooth and flatten a terrain.

use super::{PlanBox, Terrain};
use crate::document::{SculptTool, Stroke};
use glam::Vec2;
use std::ops::Range;

/// Samples of a terrain, by column and row.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Region {
    /// Columns, west to east.
    pub columns: Range<usize>,
    /// Rows, north to south.
    pub rows: Range<usize>,
}

impl Region {
    /// All samples of a terrain.
    pub fn whole(terrain: &Terrain) -> Self {
        Self { columns: 0..terrain.nx(), rows: 0..terrain.nz() }
    }

    /// Larger by so many samples on every side, within the terrain.
    pub fn grown(&self, by: usize, terrain: &Terrain) -> Self {
        let grow = |r: &Range<usize>, n: usize| r.start.saturating_sub(by)..(r.end + by).min(n);
        Self { columns: grow(&self.columns, terrain.nx()), rows: grow(&self.rows, terrain.nz()) }
    }

    /// Whether it holds no sample.
    pub fn is_empty(&self) -> bool {
        self.columns.is_empty() || self.rows.is_empty()
    }

    /// The heights of its samples, row by row.
    pub fn values<'a>(&'a self, terrain: &'a Terrain) -> impl Iterator<Item = f32> + 'a {
        self.rows.clone().flat_map(move |row| {
            let from = row * terrain.nx();
            terrain.heights_zx()[from + self.columns.start..from + self.columns.end].iter().copied()
        })
    }

    /// The part of the plan where a point may lie in a cell with one of its samples, and a little more.
    pub fn on_plan(&self, terrain: &Terrain) -> PlanBox {
        let at = |column: usize, row: usize| Vec2::new(column as f32, row as f32) * terrain.cell_m();
        let (corner, half) = (terrain.min_xz(), terrain.cell_m() * 0.5);
        let low = corner + at(self.columns.start, self.rows.start) - half * 3.0;
        PlanBox { low, high: corner + at(self.columns.end, self.rows.end) + half }
    }
}

/// Applies a stroke to a terrain and says which samples it may have changed; an empty region beside the ground.
///
/// What a stroke does depends on where it went, not on how its points are spread along the way.
pub fn apply_stroke(terrain: &mut Terrain, stroke: &Stroke) -> Region {
    let region = reach(terrain, stroke);
    if region.is_empty() {
        return region;
    }
    let away_2 = distances_2(terrain, stroke, &region);
    let width = region.columns.len();
    let before: Vec<f32> = region.values(terrain).collect();
    let target = match stroke.tool {
        SculptTool::Raise | SculptTool::Lower => Vec::new(),
        SculptTool::Smooth => smoothed(terrain, stroke.radius_m * 0.25, &region),
        SculptTool::Flatten => {
            let [x, z] = stroke.points[0];
            vec![terrain.height_at(x, z); before.len()]
        }
    };
    let nx = terrain.nx();
    let heights = terrain.heights_mut();
    for (i, old) in before.iter().enumerate() {
        let weight = weight(away_2[i].sqrt() / stroke.radius_m, stroke.falloff);
        if weight > 0.0 {
            let new = match stroke.tool {
                SculptTool::Raise => old + stroke.strength * weight,
                SculptTool::Lower => old - stroke.strength * weight,
                SculptTool::Smooth | SculptTool::Flatten => {
                    old + (target[i] - old) * stroke.strength * weight
                }
            };
            // Far from any height a ground may have; only reached by raising again and again.
            heights[(region.rows.start + i / width) * nx + region.columns.start + i % width] =
                new.clamp(-20_000.0, 20_000.0);
        }
    }
    region
}

/// The part of the plan where a stroke may change heights or slopes.
pub fn reach_on_plan(terrain: &Terrain, stroke: &Stroke) -> PlanBox {
    reach(terrain, stroke).grown(1, terrain).on_plan(terrain)
}

/// How strongly a stroke acts at a share of its radius: 1 in the middle, fading over the outer `falloff` of it.
fn weight(away: f32, falloff: f32) -> f32 {
    if away >= 1.0 {
        return 0.0;
    }
    let t = ((1.0 - away) / falloff.max(1e-3)).min(1.0);
    t * t * (3.0 - 2.0 * t)
}

/// In samples, not rounded.
fn to_samples(terrain: &Terrain, p: [f32; 2]) -> Vec2 {
    (Vec2::from(p) - terrain.min_xz()) / terrain.cell_m()
}

fn reach(terrain: &Terrain, stroke: &Stroke) -> Region {
    span(terrain, stroke.points.iter().copied(), stroke.radius_m)
}

/// The samples within so many metres of a box around points.
fn span(terrain: &Terrain, points: impl Iterator<Item = [f32; 2]>, by_m: f32) -> Region {
    let (mut low, mut high) = (Vec2::INFINITY, Vec2::NEG_INFINITY);
    for p in points {
        let p = to_samples(terrain, p);
        (low, high) = (low.min(p), high.max(p));
    }
    let by = by_m / terrain.cell_m();
    let (low, high) = ((low - by).ceil().max(Vec2::ZERO), (high + by).floor());
    // Casts end at zero and at the last sample.
    let range = |low: f32, high: f32, n: usize| {
        let end = if high < 0.0 { 0 } else { (high as usize + 1).min(n) };
        (low as usize).min(end)..end
    };
    Region { columns: range(low.x, high.x, terrain.nx()), rows: range(low.y, high.y, terrain.nz()) }
}

/// Squared distance to the line of a stroke at every sample of its region, m2; infinite beyond its radius.
fn distances_2(terrain: &Terrain, stroke: &Stroke, region: &Region) -> Vec<f32> {
    let width = region.columns.len();
    let mut out = vec![f32::INFINITY; width * region.rows.len()];
    let last = stroke.points.len() - 1;
    for i in 0..last.max(1) {
        let (a, b) = (stroke.points[i], stroke.points[(i + 1).min(last)]);
        let part = span(terrain, [a, b].into_iter(), stroke.radius_m);
        let (a, b) = (Vec2::from(a), Vec2::from(b));
        let along = b - a;
        let length_2 = along.length_squared();
        for row in part.rows.clone() {
            for column in part.columns.clone() {
                let p = terrain.min_xz() + Vec2::new(column as f32, row as f32) * terrain.cell_m();
                let t = if length_2 > 0.0 { ((p - a).dot(along) / length_2).clamp(0.0, 1.0) } else { 0.0 };
                let d_2 = p.distance_squared(a + along * t);
                let at = (row - region.rows.start) * width + column - region.columns.start;
                out[at] = out[at].min(d_2);
            }
        }
    }
    out
}

/// The mean height within so many metres, in a square window, at every sample of a region.
fn smoothed(terrain: &Terrain, by_m: f32, region: &Region) -> Vec<f32> {
    let by = |cell: f32| ((by_m / cell) as usize).max(1);
    let (bx, bz) = (by(terrain.cell_m().x), by(terrain.cell_m().y));
    let wide = region.grown(bx.max(bz), terrain);
    let width = wide.columns.len();
    let heights: Vec<f32> = wide.values(terrain).collect();
    // Running sums along the rows, then down the columns.
    let mut along = vec![0.0; heights.len()];
    for (line, out) in heights.chunks(width).zip(along.chunks_mut(width)) {
        running_mean(line.len(), bx, |i| line[i], |i, v| out[i] = v);
    }
    let mut out = vec![0.0; heights.len()];
    for column in 0..width {
        running_mean(wide.rows.len(), bz, |i| along[i * width + column], |i, v| out[i * width + column] = v);
    }
    let inner = region.rows.clone().flat_map(|row| {
        let from = (row - wide.rows.start) * width + region.columns.start - wide.columns.start;
        from..from + region.columns.len()
    });
    inner.map(|i| out[i]).collect()
}

fn running_mean(n: usize, by: usize, value: impl Fn(usize) -> f32, mut put: impl FnMut(usize, f32)) {
    let mut sum: f64 = (0..by.min(n)).map(|i| f64::from(value(i))).sum();
    for i in 0..n {
        if i + by < n {
            sum += f64::from(value(i + by));
        }
        if i > by {
            sum -= f64::from(value(i - by - 1));
        }
        let count = (i + by).min(n - 1) - i.saturating_sub(by) + 1;
        put(i, (sum / count as f64) as f32);
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::StrokeId;
    use proptest::prelude::*;

    fn bumpy() -> Terrain {
        let n = 101;
        let heights = (0..n * n).map(|i| ((i * 7919) % 13) as f32 * 0.3 + (i % n) as f32 * 0.1).collect();
        Terrain::new(n, n, Vec2::new(1.0, 1.5), heights).unwrap()
    }

    fn stroke(tool: SculptTool, strength: f32, points: &[[f32; 2]]) -> Stroke {
        Stroke { id: StrokeId(1), tool, radius_m: 9.0, strength, falloff: 0.5, points: points.to_vec() }
    }

    fn sculpted(stroke: &Stroke) -> (Terrain, Terrain, Region) {
        let before = bumpy();
        let mut after = before.clone();
        let region = apply_stroke(&mut after, stroke);
        (before, after, region)
    }

    #[test]
    fn raising_lifts_by_the_strength_on_the_line_and_by_nothing_beyond_the_radius() {
        let (before, after, region) = sculpted(&stroke(SculptTool::Raise, 2.0, &[[-20.0, 0.0], [15.0, 6.0]]));
        let lift = |x, z| after.height_at(x, z) - before.height_at(x, z);
        assert!((lift(-20.0, 0.0) - 2.0).abs() < 1e-4 && (lift(15.0, 6.0) - 2.0).abs() < 1e-4);
        for row in 0..before.nz() {
            for column in 0..before.nx() {
                let inside = region.columns.contains(&column) && region.rows.contains(&row);
                let change = after.sample(column, row) - before.sample(column, row);
                assert!((-1e-4..2.0001).contains(&change) && (inside || change == 0.0));
            }
        }
        assert_eq!(lift(0.0, 20.0), 0.0);
    }

    #[test]
    fn lowering_takes_back_what_raising_did() {
        let points = [[3.0, -4.0], [10.0, 10.0]];
        let (before, mut after, _) = sculpted(&stroke(SculptTool::Raise, 3.0, &points));
        apply_stroke(&mut after, &stroke(SculptTool::Lower, 3.0, &points));
        assert!(before.heights_zx().iter().zip(after.heights_zx()).all(|(a, b)| (a - b).abs() < 1e-4));
    }

    #[test]
    fn flattening_brings_the_middle_to_the_height_where_it_began() {
        let (before, after, _) = sculpted(&stroke(SculptTool::Flatten, 1.0, &[[-10.0, 0.0], [20.0, 0.0]]));
        let level = before.height_at(-10.0, 0.0);
        for x in [-8.0, 0.0, 11.0, 20.0] {
            assert!((after.height_at(x, 0.0) - level).abs() < 1e-3);
        }
    }

    #[test]
    fn smoothing_lessens_the_unevenness_and_keeps_the_mean() {
        let (before, after, _) = sculpted(&stroke(SculptTool::Smooth, 1.0, &[[0.0, 0.0]]));
        let rough = |t: &Terrain| {
            let row = 50;
            (46..54).map(|c| (t.sample(c + 1, row) - t.sample(c, row) - 0.1).abs()).sum::<f32>()
        };
        assert!(rough(&after) < rough(&before) * 0.5);
        let mean = |t: &Terrain| t.heights_zx().iter().sum::<f32>() / t.heights_zx().len() as f32;
        assert!((mean(&after) - mean(&before)).abs() < 0.01);
    }

    #[test]
    fn a_stroke_beside_the_ground_changes_nothing() {
        for points in [[[-500.0, 0.0]], [[0.0, 900.0]]] {
            let (before, after, region) = sculpted(&stroke(SculptTool::Raise, 5.0, &points));
            assert!(region.is_empty() && before == after);
        }
    }

    proptest! {
        /// The same way in more points is the same stroke.
        #[test]
        fn points_along_the_way_change_nothing(
            a in prop::array::uniform2(-40.0_f32..40.0), b in prop::array::uniform2(-40.0_f32..40.0), cuts in 1_usize..9,
        ) {
            let between = |t: f32| [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
            let fine: Vec<[f32; 2]> = (0..=cuts).map(|i| between(i as f32 / cuts as f32)).collect();
            let (_, few, _) = sculpted(&stroke(SculptTool::Raise, 2.0, &[a, b]));
            let (_, many, _) = sculpted(&stroke(SculptTool::Raise, 2.0, &fine));
            for (x, y) in few.heights_zx().iter().zip(many.heights_zx()) {
                prop_assert!((x - y).abs() < 2e-3, "{x} and {y}");
            }
        }
    }
}
