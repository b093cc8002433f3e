//! Laid-out places on a mesh: rows and lines of the plan brought straight down and up to the surface, its corners, its faces.

use super::MeshModel;
use crate::planting::pattern::{FACES, Layout, PlanPoint, VERTICES, own_birth};
use crate::planting::{MeshPlace, PlantId};
use glam::Vec2;
use std::collections::BTreeSet;

/// The surface lies over itself so many times at one place of the plan, at most; more are left out.
const MOST_OVER: u32 = 64;

impl MeshModel {
    pub(super) fn laid(&self, seed: u32, layout: &Layout<'_>) -> Vec<MeshPlace> {
        let faces = 0..self.mesh.indices.len() as u32 / 3;
        let named = |level: u8, index: u64, (face, v, w): (u32, f32, f32)| {
            let id = PlantId(u64::from(level) << 56 | index);
            MeshPlace { face, v, w, birth: own_birth(seed, id), id }
        };
        match layout {
            Layout::Faces => faces.map(|f| named(FACES, u64::from(f), (f, 1.0 / 3.0, 1.0 / 3.0))).collect(),
            Layout::Vertices => {
                // Across a crease a corner is there once for each side.
                let mut known = BTreeSet::new();
                let mut out = Vec::new();
                for face in faces {
                    for (corner, (v, w)) in
                        self.corners(face).into_iter().zip([(0.0, 0.0), (1.0, 0.0), (0.0, 1.0)])
                    {
                        if known.insert(self.mesh.positions[corner].to_array().map(f32::to_bits)) {
                            out.push(named(VERTICES, known.len() as u64, (face, v, w)));
                        }
                    }
                }
                out
            }
            Layout::Rows { .. } | Layout::Along { .. } => {
                let (low, high) = self.mesh.bounds();
                let points = layout.points(seed, Vec2::new(low.x, low.z), Vec2::new(high.x, high.z));
                self.under_and_over(seed, &points)
            }
        }
    }

    /// Every point of the surface straight under or over points of the plan, the highest of each first.
    fn under_and_over(&self, seed: u32, points: &[PlanPoint]) -> Vec<MeshPlace> {
        let grid = Grid::new(points);
        // Number of the point, height, place.
        let mut hits = Vec::<(u32, f32, u32, f32, f32)>::new();
        for face in 0..self.mesh.indices.len() as u32 / 3 {
            let corners = self.corners(face).map(|i| self.mesh.positions[i]);
            let [a, b, c] = corners.map(|p| Vec2::new(p.x, p.z));
            let (ab, ac) = (b - a, c - a);
            let doubled = ab.perp_dot(ac);
            if doubled.abs() < 1e-12 {
                continue;
            }
            grid.within(a.min(b).min(c), a.max(b).max(c), |i| {
                let to = points[i as usize].at - a;
                let (v, w) = (to.perp_dot(ac) / doubled, ab.perp_dot(to) / doubled);
                // An edge belongs to the face on one of its sides only: found again on the next face, a point is not kept twice.
                if v >= 0.0 && w >= 0.0 && v + w <= 1.0 {
                    hits.push((
                        i,
                        corners[0].y + (corners[1].y - corners[0].y) * v + (corners[2].y - corners[0].y) * w,
                        face,
                        v,
                        w,
                    ));
                }
            });
        }
        hits.sort_unstable_by(|a, b| a.0.cmp(&b.0).then(b.1.total_cmp(&a.1)).then(a.2.cmp(&b.2)));
        hits.dedup_by(|b, a| a.0 == b.0 && (a.1 - b.1).abs() < 1e-5);
        let mut out = Vec::with_capacity(hits.len());
        let (mut last, mut over) = (u32::MAX, 0);
        for (i, _, face, v, w) in hits {
            over = if i == last { over + 1 } else { 0 };
            last = i;
            if over < MOST_OVER {
                let id = PlantId(points[i as usize].id.0 | u64::from(over));
                out.push(MeshPlace { face, v, w, birth: own_birth(seed, id), id });
            }
        }
        out
    }
}

/// Points of the plan in square cells, about two to a cell.
struct Grid<'a> {
    points: &'a [PlanPoint],
    low: Vec2,
    cell_m: f32,
    columns: usize,
    rows: usize,
    starts: Vec<u32>,
    sorted: Vec<u32>,
}

impl<'a> Grid<'a> {
    fn new(points: &'a [PlanPoint]) -> Self {
        let low = points.iter().fold(Vec2::INFINITY, |l, p| l.min(p.at));
        let high = points.iter().fold(Vec2::NEG_INFINITY, |h, p| h.max(p.at));
        let size = if points.is_empty() { Vec2::ONE } else { (high - low).max(Vec2::splat(0.01)) };
        let cell_m =
            (size.x * size.y * 2.0 / points.len().max(1) as f32).sqrt().max(size.max_element() / 2000.0);
        let (columns, rows) = ((size.x / cell_m) as usize + 1, (size.y / cell_m) as usize + 1);
        let mut grid = Self {
            points,
            low,
            cell_m,
            columns,
            rows,
            starts: vec![0; columns * rows + 1],
            sorted: Vec::new(),
        };
        let cells: Vec<usize> = points.iter().map(|p| grid.cell(p.at)).collect();
        cells.iter().for_each(|c| grid.starts[c + 1] += 1);
        (1..grid.starts.len()).for_each(|i| grid.starts[i] += grid.starts[i - 1]);
        grid.sorted = vec![0; points.len()];
        let mut next = grid.starts.clone();
        for (i, c) in cells.into_iter().enumerate() {
            grid.sorted[next[c] as usize] = i as u32;
            next[c] += 1;
        }
        grid
    }

    fn column_row(&self, p: Vec2) -> (usize, usize) {
        let at = ((p - self.low) / self.cell_m).max(Vec2::ZERO);
        ((at.x as usize).min(self.columns - 1), (at.y as usize).min(self.rows - 1))
    }

    fn cell(&self, p: Vec2) -> usize {
        let (column, row) = self.column_row(p);
        row * self.columns + column
    }

    /// Every point within a box.
    fn within(&self, low: Vec2, high: Vec2, mut visit: impl FnMut(u32)) {
        let ((from, top), (to, bottom)) = (self.column_row(low), self.column_row(high));
        for row in top..=bottom {
            let cells = row * self.columns + from..row * self.columns + to + 1;
            for &i in &self.sorted[self.starts[cells.start] as usize..self.starts[cells.end] as usize] {
                let p = self.points[i as usize].at;
                if p.cmpge(low).all() && p.cmple(high).all() {
                    visit(i);
                }
            }
        }
    }
}
