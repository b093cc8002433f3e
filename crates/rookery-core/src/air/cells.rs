//! The grid of cells that air flows through, with the share of each face that is open.
//!
//! Cut cells after Ng, Min & Gibou, "An efficient fluid-solid coupling algorithm for single-phase flows", J. Comput. Phys. 228, 2009 (from memory).

use super::solids::Solids;

/// Shares of a face below this are shut: slivers show speeds that are none.
const SLIVER: f32 = 0.1;

/// Where cells lie.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Grid {
    /// Corner of the first cell, metres.
    pub x0: f32,
    pub z0: f32,
    /// Side of a cell on the plan, metres.
    pub step: f32,
    /// Cells along x and z.
    pub nx: usize,
    pub nz: usize,
    /// Heights of the faces from below, one more than there are cells, metres.
    pub faces: Vec<f32>,
}

impl Grid {
    pub fn ny(&self) -> usize {
        self.faces.len() - 1
    }

    /// Middle of a cell's height.
    pub fn mid(&self, y: usize) -> f32 {
        (self.faces[y] + self.faces[y + 1]) * 0.5
    }
}

/// Open shares of all faces, y fastest, then x.
pub(super) struct Cells {
    pub grid: Grid,
    /// Faces across x: `nx + 1` of them in a row.
    pub ax: Vec<f32>,
    /// Faces across z: `nz + 1` rows.
    pub az: Vec<f32>,
    /// Faces across y: `ny + 1` in a column.
    pub ay: Vec<f32>,
    /// Open share of each cell.
    pub volume: Vec<f32>,
    pub solids: Solids,
}

impl Cells {
    /// Cuts the cells of a grid by what is solid; the lines of `solids` are half a cell apart and begin at the grid's corner.
    pub fn new(grid: Grid, solids: Solids) -> Self {
        let (nx, nz, ny, wide) = (grid.nx, grid.nz, grid.ny(), solids.wide);
        let line = |i: usize, j: usize| j * wide + i;
        let thirds = [0.25, 0.5, 0.25];
        let open = |l: usize, y: usize| {
            solids.open(l, grid.faces[y], grid.faces[y + 1]) / (grid.faces[y + 1] - grid.faces[y])
        };
        let kept = |share: f32| if share < SLIVER { 0.0 } else { share };
        let mut ax = Vec::with_capacity((nx + 1) * nz * ny);
        for z in 0..nz {
            for x in 0..=nx {
                for y in 0..ny {
                    ax.push(kept((0..3).map(|k| thirds[k] * open(line(2 * x, 2 * z + k), y)).sum()));
                }
            }
        }
        let mut az = Vec::with_capacity(nx * (nz + 1) * ny);
        for z in 0..=nz {
            for x in 0..nx {
                for y in 0..ny {
                    az.push(kept((0..3).map(|k| thirds[k] * open(line(2 * x + k, 2 * z), y)).sum()));
                }
            }
        }
        let (mut ay, mut volume) = (Vec::with_capacity(nx * nz * (ny + 1)), Vec::with_capacity(nx * nz * ny));
        for z in 0..nz {
            for x in 0..nx {
                let around = |of: &dyn Fn(usize) -> f32| -> f32 {
                    let each = (0..9).map(|k| {
                        let (i, j) = (k % 3, k / 3);
                        thirds[i] * thirds[j] * of(line(2 * x + i, 2 * z + j))
                    });
                    each.sum()
                };
                for y in 0..=ny {
                    let clear = |l: usize| f32::from(u8::from(solids.clear(l, grid.faces[y])));
                    ay.push(if y == 0 { 0.0 } else { kept(around(&clear)) });
                }
                for y in 0..ny {
                    volume.push(around(&|l| open(l, y)));
                }
            }
        }
        let mut cells = Self { grid, ax, az, ay, volume, solids };
        cells.fill_pockets();
        cells
    }

    pub fn cell(&self, x: usize, y: usize, z: usize) -> usize {
        (z * self.grid.nx + x) * self.grid.ny() + y
    }

    pub fn face_x(&self, x: usize, y: usize, z: usize) -> usize {
        (z * (self.grid.nx + 1) + x) * self.grid.ny() + y
    }

    pub fn face_z(&self, x: usize, y: usize, z: usize) -> usize {
        (z * self.grid.nx + x) * self.grid.ny() + y
    }

    pub fn face_y(&self, x: usize, y: usize, z: usize) -> usize {
        (z * self.grid.nx + x) * (self.grid.ny() + 1) + y
    }

    /// Shuts what no air comes to from above.
    fn fill_pockets(&mut self) {
        let (nx, nz, ny) = (self.grid.nx, self.grid.nz, self.grid.ny());
        let mut reached = vec![false; nx * nz * ny];
        let mut open: Vec<[usize; 3]> = Vec::new();
        for z in 0..nz {
            for x in 0..nx {
                if self.ay[self.face_y(x, ny, z)] > 0.0 {
                    reached[self.cell(x, ny - 1, z)] = true;
                    open.push([x, ny - 1, z]);
                }
            }
        }
        while let Some([x, y, z]) = open.pop() {
            let mut go = |to: [usize; 3], share: f32| {
                let cell = self.cell(to[0], to[1], to[2]);
                if share > 0.0 && !reached[cell] {
                    reached[cell] = true;
                    open.push(to);
                }
            };
            if x > 0 {
                go([x - 1, y, z], self.ax[self.face_x(x, y, z)]);
            }
            if x + 1 < nx {
                go([x + 1, y, z], self.ax[self.face_x(x + 1, y, z)]);
            }
            if z > 0 {
                go([x, y, z - 1], self.az[self.face_z(x, y, z)]);
            }
            if z + 1 < nz {
                go([x, y, z + 1], self.az[self.face_z(x, y, z + 1)]);
            }
            if y > 0 {
                go([x, y - 1, z], self.ay[self.face_y(x, y, z)]);
            }
            if y + 1 < ny {
                go([x, y + 1, z], self.ay[self.face_y(x, y + 1, z)]);
            }
        }
        for z in 0..nz {
            for x in 0..nx {
                for y in 0..ny {
                    if reached[self.cell(x, y, z)] {
                        continue;
                    }
                    let (cell, fx, fz, fy) = (
                        self.cell(x, y, z),
                        self.face_x(x, y, z),
                        self.face_z(x, y, z),
                        self.face_y(x, y, z),
                    );
                    let (gx, gz) = (self.face_x(x + 1, y, z), self.face_z(x, y, z + 1));
                    self.volume[cell] = 0.0;
                    for face in [fx, gx] {
                        self.ax[face] = 0.0;
                    }
                    for face in [fz, gz] {
                        self.az[face] = 0.0;
                    }
                    self.ay[fy] = 0.0;
                    self.ay[fy + 1] = 0.0;
                }
            }
        }
    }
}
