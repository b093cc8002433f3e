//! A heightfield: a regular grid of heights over the plan, each cell cut into two triangles.

use glam::{Vec2, Vec3};
use thiserror::Error;

/// The most samples a terrain may have: 4096 x 4096.
pub const MAX_SAMPLES: usize = 4096 * 4096;

/// Why heights cannot be made into a terrain.
#[derive(Clone, Debug, PartialEq, Error)]
pub enum TerrainError {
    /// Fewer than two rows or columns.
    #[error("a terrain needs at least 2 x 2 heights, this one has {nx} x {nz}")]
    TooSmall {
        /// Columns, west to east.
        nx: usize,
        /// Rows, north to south.
        nz: usize,
    },
    /// More than [`MAX_SAMPLES`].
    #[error("{nx} x {nz} heights are more than the limit of 4096 x 4096")]
    TooLarge {
        /// Columns, west to east.
        nx: usize,
        /// Rows, north to south.
        nz: usize,
    },
    /// The list of heights does not match its stated shape.
    #[error("{nx} x {nz} heights were stated, {got} were given")]
    WrongCount {
        /// Columns stated.
        nx: usize,
        /// Rows stated.
        nz: usize,
        /// Heights given.
        got: usize,
    },
    /// A height that is not a number.
    #[error("the height at row {row}, column {column} is not a finite number")]
    NotFinite {
        /// Row, 0 at the north edge.
        row: usize,
        /// Column, 0 at the west edge.
        column: usize,
    },
    /// The cells have no size.
    #[error("cells of {x_m} x {z_m} m cannot be laid out; both sides must be above zero")]
    BadCell {
        /// Cell width, west to east, metres.
        x_m: f32,
        /// Cell depth, north to south, metres.
        z_m: f32,
    },
}

/// A heightfield centred on the origin of the plan.
///
/// Heights are stored row by row, row 0 at the north edge (smallest z), column 0 at the west edge. Each cell is
/// cut from its north-west to its south-east corner, here, in the view, in stills and in handoff alike, so that
/// a plant that stands on the ground stands on it everywhere.
#[derive(Clone, Debug, PartialEq)]
pub struct Terrain {
    nx: usize,
    nz: usize,
    cell_m: Vec2,
    /// Always `nx * nz` finite numbers, metres.
    heights_zx: Vec<f32>,
}

impl Terrain {
    /// Builds a terrain from heights in metres.
    ///
    /// # Errors
    /// When the shape, the count, the cell size or a height is unusable; see [`TerrainError`].
    pub fn new(nx: usize, nz: usize, cell_m: Vec2, heights_zx: Vec<f32>) -> Result<Self, TerrainError> {
        if nx < 2 || nz < 2 {
            return Err(TerrainError::TooSmall { nx, nz });
        }
        if nx.saturating_mul(nz) > MAX_SAMPLES {
            return Err(TerrainError::TooLarge { nx, nz });
        }
        if heights_zx.len() != nx * nz {
            return Err(TerrainError::WrongCount { nx, nz, got: heights_zx.len() });
        }
        if !(cell_m.is_finite() && cell_m.min_element() > 0.0) {
            return Err(TerrainError::BadCell { x_m: cell_m.x, z_m: cell_m.y });
        }
        if let Some(bad) = heights_zx.iter().position(|h| !h.is_finite()) {
            return Err(TerrainError::NotFinite { row: bad / nx, column: bad % nx });
        }
        Ok(Self { nx, nz, cell_m, heights_zx })
    }

    /// Columns, west to east.
    pub fn nx(&self) -> usize {
        self.nx
    }

    /// Rows, north to south.
    pub fn nz(&self) -> usize {
        self.nz
    }

    /// Width (x) and depth (z) of a cell, metres.
    pub fn cell_m(&self) -> Vec2 {
        self.cell_m
    }

    /// Heights row by row from the north-west corner, metres.
    pub fn heights_zx(&self) -> &[f32] {
        &self.heights_zx
    }

    /// For changes that keep every height finite.
    pub(super) fn heights_mut(&mut self) -> &mut [f32] {
        &mut self.heights_zx
    }

    /// Width (x) and depth (z) of the whole ground, metres.
    pub fn size_m(&self) -> Vec2 {
        Vec2::new((self.nx - 1) as f32, (self.nz - 1) as f32) * self.cell_m
    }

    /// The north-west corner of the plan: smallest x and smallest z.
    pub fn min_xz(&self) -> Vec2 {
        self.size_m() * -0.5
    }

    /// Area of the plan, m2.
    pub fn plan_area_m2(&self) -> f32 {
        let size = self.size_m();
        size.x * size.y
    }

    /// Lowest and highest height, metres.
    pub fn height_range_m(&self) -> (f32, f32) {
        self.heights_zx
            .iter()
            .fold((f32::INFINITY, f32::NEG_INFINITY), |(low, high), &h| (low.min(h), high.max(h)))
    }

    /// The sample at a column and row.
    pub fn sample(&self, column: usize, row: usize) -> f32 {
        self.heights_zx[row * self.nx + column]
    }

    /// A vertex of the surface.
    pub fn vertex(&self, column: usize, row: usize) -> Vec3 {
        let corner = self.min_xz();
        Vec3::new(
            corner.x + column as f32 * self.cell_m.x,
            self.sample(column, row),
            corner.y + row as f32 * self.cell_m.y,
        )
    }

    /// Whether a point of the plan is on the ground, edges included.
    pub fn contains(&self, x: f32, z: f32) -> bool {
        let half = self.size_m() * 0.5;
        x.abs() <= half.x && z.abs() <= half.y
    }

    /// The cell a point of the plan lies in and its place within it, 0 to 1; points outside are moved to the edge.
    #[inline]
    pub fn locate(&self, x: f32, z: f32) -> CellPoint {
        let corner = self.min_xz();
        let u = ((x - corner.x) / self.cell_m.x).clamp(0.0, (self.nx - 1) as f32);
        let v = ((z - corner.y) / self.cell_m.y).clamp(0.0, (self.nz - 1) as f32);
        let column = (u as usize).min(self.nx - 2);
        let row = (v as usize).min(self.nz - 2);
        CellPoint { index: row * self.nx + column, fx: u - column as f32, fz: v - row as f32 }
    }

    /// Height of the surface, exactly on its triangles, metres.
    #[inline]
    pub fn height_at(&self, x: f32, z: f32) -> f32 {
        self.height_in(self.locate(x, z))
    }

    /// Height of the surface at a located point, metres.
    #[inline]
    pub fn height_in(&self, p: CellPoint) -> f32 {
        let [h00, h10, h01, h11] = self.corners(p);
        if p.fx >= p.fz {
            h00 + p.fx * (h10 - h00) + p.fz * (h11 - h10)
        } else {
            h00 + p.fz * (h01 - h00) + p.fx * (h11 - h01)
        }
    }

    /// Unit normal of the triangle at a located point.
    #[inline]
    pub fn normal_in(&self, p: CellPoint) -> Vec3 {
        let [h00, h10, h01, h11] = self.corners(p);
        let (dx, dz) = if p.fx >= p.fz { (h10 - h00, h11 - h10) } else { (h11 - h01, h01 - h00) };
        Vec3::new(-dx / self.cell_m.x, 1.0, -dz / self.cell_m.y).normalize()
    }

    #[inline]
    fn corners(&self, p: CellPoint) -> [f32; 4] {
        let h = &self.heights_zx;
        [h[p.index], h[p.index + 1], h[p.index + self.nx], h[p.index + self.nx + 1]]
    }

    /// A soft normal at a sample, for shading: from the slopes to its neighbours.
    pub fn smooth_normal(&self, column: usize, row: usize) -> Vec3 {
        let (west, east) = (column.saturating_sub(1), (column + 1).min(self.nx - 1));
        let (north, south) = (row.saturating_sub(1), (row + 1).min(self.nz - 1));
        let dx = (self.sample(east, row) - self.sample(west, row)) / ((east - west) as f32 * self.cell_m.x);
        let dz = (self.sample(column, south) - self.sample(column, north))
            / ((south - north) as f32 * self.cell_m.y);
        Vec3::new(-dx, 1.0, -dz).normalize()
    }

    /// Corners of all triangles, as indices of samples row by row; counter-clockwise seen from above.
    pub fn triangles(&self) -> Vec<u32> {
        let mut corners = Vec::with_capacity((self.nx - 1) * (self.nz - 1) * 6);
        for row in 0..self.nz - 1 {
            for column in 0..self.nx - 1 {
                let north_west = (row * self.nx + column) as u32;
                let south_west = north_west + self.nx as u32;
                let (north_east, south_east) = (north_west + 1, south_west + 1);
                corners.extend([north_west, south_east, north_east, north_west, south_west, south_east]);
            }
        }
        corners
    }

    /// Area of the plan that each sample stands for, as a share of a whole cell: 1 inside, a half on an edge, a
    /// quarter in a corner.
    pub fn sample_weight(&self, column: usize, row: usize) -> f32 {
        let edge = |i: usize, n: usize| if i == 0 || i == n - 1 { 0.5 } else { 1.0 };
        edge(column, self.nx) * edge(row, self.nz)
    }
}

/// A point of the plan within a cell of a terrain.
#[derive(Clone, Copy, Debug)]
pub struct CellPoint {
    /// Index of the cell's north-west sample.
    pub index: usize,
    /// Place within the cell, west to east, 0 to 1.
    pub fx: f32,
    /// Place within the cell, north to south, 0 to 1.
    pub fz: f32,
}

#[cfg(test)]
mod tests {
    use super::*;

    fn bumpy() -> Terrain {
        let heights = (0..25).map(|i| ((i * 7919) % 13) as f32 * 0.3).collect();
        Terrain::new(5, 5, Vec2::new(2.0, 3.0), heights).unwrap()
    }

    #[test]
    fn the_surface_passes_through_every_sample() {
        let t = bumpy();
        for row in 0..5 {
            for column in 0..5 {
                let v = t.vertex(column, row);
                assert!((t.height_at(v.x, v.z) - v.y).abs() < 1e-5);
            }
        }
    }

    #[test]
    fn the_normal_is_that_of_the_triangle_under_the_point() {
        let t = bumpy();
        for (x, z) in [(-3.1, 0.4), (1.7, 2.2), (3.3, -5.1), (-0.2, -0.1)] {
            let p = t.locate(x, z);
            let d = 1e-2;
            let gx = (t.height_at(x + d, z) - t.height_at(x - d, z)) / (2.0 * d);
            let gz = (t.height_at(x, z + d) - t.height_at(x, z - d)) / (2.0 * d);
            let expected = Vec3::new(-gx, 1.0, -gz).normalize();
            assert!(t.normal_in(p).distance(expected) < 1e-3);
        }
    }

    #[test]
    fn sample_weights_add_up_to_the_plan_area() {
        let t = bumpy();
        let cells: f32 =
            (0..5).flat_map(|r| (0..5).map(move |c| (c, r))).map(|(c, r)| t.sample_weight(c, r)).sum();
        assert!((cells * t.cell_m().x * t.cell_m().y - t.plan_area_m2()).abs() < 1e-3);
    }

    #[test]
    fn unusable_heights_are_refused_with_the_reason() {
        let cell = Vec2::ONE;
        assert_eq!(Terrain::new(1, 5, cell, vec![0.0; 5]), Err(TerrainError::TooSmall { nx: 1, nz: 5 }));
        assert_eq!(
            Terrain::new(3, 3, cell, vec![0.0; 8]),
            Err(TerrainError::WrongCount { nx: 3, nz: 3, got: 8 })
        );
        let mut heights = vec![0.0; 9];
        heights[5] = f32::NAN;
        assert_eq!(Terrain::new(3, 3, cell, heights), Err(TerrainError::NotFinite { row: 1, column: 2 }));
        assert!(matches!(Terrain::new(40_000, 40_000, cell, Vec::new()), Err(TerrainError::TooLarge { .. })));
        assert!(matches!(
            Terrain::new(2, 2, Vec2::new(0.0, 1.0), vec![0.0; 4]),
            Err(TerrainError::BadCell { .. })
        ));
    }
}
