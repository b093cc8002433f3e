//! How much of the ground along edges and tracks lies bare, measured at points beside them.

use crate::ground::{GroundRef, Surface};
use crate::math::plan_grid::PlanGrid;
use crate::planting::Plant;
use crate::planting::Rules;
use glam::{Vec2, Vec3};
use rayon::prelude::*;
use serde::Serialize;

/// Points along edges, at most, and rows of points from the edge inwards.
const ALONG: usize = 20_000;
const ROWS: usize = 8;
/// Rows farther in that the strip is compared with.
const ROWS_IN: usize = 8;
/// Points nearest to another edge than theirs belong to that, metres.
const SLIGHT_M: f32 = 0.02;

/// The strip along edges and tracks.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Bare {
    /// Its width, metres: the radius of the widest crown.
    pub width_m: f32,
    /// Its area, each part counted with the masks' value, m2.
    pub strip_m2: f64,
    /// How much of that no crown covers, m2.
    pub bare_m2: f64,
    /// The share of bare ground in the next strip farther in, 0 to 1: what the amount alone leaves bare.
    pub inner_share: f32,
}

/// Measures the strips of a terrain; none where nothing has an edge. `radius` gives the crown of a plant, metres.
pub(super) fn bare(
    ground: &GroundRef<'_>,
    rules: &Rules,
    plants: &[Plant],
    grid: &PlanGrid<'_>,
    radius: &(dyn Fn(&Plant) -> f32 + Sync),
    widest: f32,
) -> Option<Bare> {
    let GroundRef::Terrain(terrain) = ground else { return None };
    let clear = rules.clear();
    let length: f32 =
        clear.lines().map(|l| l.points.windows(2).map(|w| w[0].distance(w[1])).sum::<f32>()).sum();
    if length <= 0.0 || widest <= 0.0 {
        return None;
    }
    let step = (length * 2.0 / ALONG as f32).max(widest * 0.2);
    let edges: Vec<(Vec2, Vec2, f32)> = clear
        .lines()
        .flat_map(|l| {
            let all: f32 = l.points.windows(2).map(|w| w[0].distance(w[1])).sum();
            let edge = l.edge(step);
            // The pieces of a line are about as long as asked; together they are as long as it.
            let each = all * 2.0 / edge.len().max(1) as f32;
            edge.into_iter().map(move |(at, way)| (at, way, each))
        })
        .collect();
    let row_m = widest / ROWS as f32;
    let covered = |at: Vec2| {
        let mut hit = false;
        grid.within(at - widest, at + widest, |j| {
            let p = &plants[j as usize];
            hit |= at.distance(Vec2::new(p.position_m.x, p.position_m.z)) <= radius(p);
        });
        hit
    };
    let frame = rules.frame();
    // Area and bare area of the strip, then of the strip farther in.
    let sums = edges.par_iter().map(|(edge, way, each)| {
        let mut sums = [0.0_f64; 4];
        for row in 0..ROWS + ROWS_IN {
            let away = (row as f32 + 0.5) * row_m;
            let at = *edge + *way * away;
            if (clear.within_m(at) - away).abs() > SLIGHT_M {
                continue;
            }
            let local = frame.local(Vec3::new(at.x, 0.0, at.y));
            if ground.height_over(local).is_none() {
                continue;
            }
            let spot = terrain.spot_near(local);
            let share = f64::from(rules.together(|i| rules.response(i, *terrain, &spot)));
            let area = share * f64::from(each * row_m);
            let first = if row < ROWS { 0 } else { 2 };
            sums[first] += area;
            sums[first + 1] += if covered(at) { 0.0 } else { area };
        }
        sums
    });
    let add = |a: [f64; 4], b: [f64; 4]| [0, 1, 2, 3].map(|i| a[i] + b[i]);
    let [strip_m2, bare_m2, inner_m2, inner_bare_m2] = sums.reduce(|| [0.0; 4], add);
    let inner_share = if inner_m2 > 0.0 { (inner_bare_m2 / inner_m2) as f32 } else { 0.0 };
    (strip_m2 > 0.0).then_some(Bare { width_m: widest, strip_m2, bare_m2, inner_share })
}
