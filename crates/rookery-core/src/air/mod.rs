//! The mean wind over ground and obstacles, at rest in time: what is least changed of a steady wind so that it neither goes through anything nor
//! comes from nowhere.

mod cells;
mod solids;
mod solve;
mod wake;

use crate::cancel::{CancelToken, Cancelled};
use crate::document::Document;
use crate::ground::Terrain;
use crate::nursery::Mesh;
use cells::{Cells, Grid};
use glam::Vec3;
use rayon::prelude::*;
use solids::Solids;
use solve::{Level, Multigrid};
use wake::{ROUGH_M, Wakes};

/// Cells along x and z, with those beside the land.
const COLUMNS: usize = 128;
/// Of these, cells to each side of the land.
const ASIDE: usize = 16;
/// Cells one above the other.
pub const LEVELS: usize = 24;
/// Of these, cells that what sticks out is cut into.
const EVEN: usize = 14;
/// How high the grid is, in heights of what sticks out.
const HIGH: f32 = 3.5;
/// How much more freely air moves up and down than along the ground: hills (T of decisions/0029).
const UPRIGHT: f32 = 0.4;
/// Net flow out of a cell that is left, against the flow through its smallest face.
const LEFT: f32 = 2e-4;
/// Speeds are read from faces that are open by this share.
const READ: f32 = 0.3;
/// No more than so many times the wind over level ground.
const MOST: f32 = 3.0;

/// What the air meets.
pub struct Land<'a> {
    /// Corner of the land, x and z, metres.
    pub corner: [f32; 2],
    /// Its sides along x and z, metres.
    pub sides: [f32; 2],
    /// Its height anywhere on it.
    pub height: &'a (dyn Fn(f32, f32) -> f32 + Sync),
    /// Bodies on it.
    pub bodies: &'a [&'a Mesh],
}

/// The mean wind from one side: how it differs from that over level ground.
#[derive(Clone, Debug, PartialEq)]
pub struct Flow {
    /// Middle of the first cell, x and z, metres.
    pub first: [f32; 2],
    /// From one cell to the next, metres.
    pub step: f32,
    /// Cells along x and z.
    pub cells: [usize; 2],
    /// Middles of the cells' heights, from below, metres.
    pub heights: Vec<f32>,
    /// The wind against that at the same height over level open ground: x and z, 1 in its own direction where nothing changes it. x fastest,
    /// then height, then z.
    pub ratio: Vec<[f32; 2]>,
    /// Height of the ground or water under the middle of each column of cells, x fastest, metres.
    pub ground: Vec<f32>,
}

/// Where a wind blows to on the plan that comes from a side, degrees clockwise from north: a unit vector, x and z.
pub fn heading(from_deg: f32) -> [f32; 2] {
    let from = f64::from(from_deg).to_radians();
    // North is -z.
    [-libm::sin(from) as f32, libm::cos(from) as f32]
}

/// Speed over open ground against that at 10 m: the logarithmic law.
fn open_ground(height: f32) -> f32 {
    libm::logf((height.max(0.0) + ROUGH_M) / ROUGH_M) / libm::logf((10.0 + ROUGH_M) / ROUGH_M)
}

impl Flow {
    /// The wind of a scene over its land, its waters, and the bodies that stand there: grounds beside the land and obstacles.
    ///
    /// # Errors
    /// When it was stopped.
    pub fn over_scene(
        document: &Document,
        terrain: &Terrain,
        bodies: &[&Mesh],
        heading: [f32; 2],
        cancel: &CancelToken,
    ) -> Result<Self, Cancelled> {
        let boxes = bodies.iter().map(|b| b.bounds());
        let around = boxes.reduce(|a, b| (a.0.min(b.0), a.1.max(b.1)));
        if let (true, Some((low, high))) = (document.ground.absent, around) {
            // What floats by itself has air below it.
            let wide = (high - low).max_element();
            let corner = [(low.x + high.x) * 0.5 - wide, (low.z + high.z) * 0.5 - wide];
            let under = low.y - wide;
            let land = Land { corner, sides: [2.0 * wide; 2], height: &|_, _| under, bodies };
            return Self::over(&land, heading, cancel);
        }
        let [w, d] = terrain.size_m().to_array();
        let water = document.ground.water_m.unwrap_or(f32::NEG_INFINITY);
        let height = |x: f32, z: f32| {
            let sheets = document.waters.iter().filter(|w| w.covers(x, z)).map(|w| w.height_m);
            sheets.fold(terrain.height_at(x, z).max(water), f32::max)
        };
        Self::over(
            &Land { corner: [-w * 0.5, -d * 0.5], sides: [w, d], height: &height, bodies },
            heading,
            cancel,
        )
    }

    /// The wind that blows to a direction of the plan (a unit vector) over a land.
    ///
    /// # Errors
    /// When it was stopped.
    pub fn over(land: &Land, heading: [f32; 2], cancel: &CancelToken) -> Result<Self, Cancelled> {
        let inner = COLUMNS - 2 * ASIDE;
        let step = land.sides[0].max(land.sides[1]) / inner as f32;
        let x0 = land.corner[0] + land.sides[0] * 0.5 - COLUMNS as f32 * step * 0.5;
        let z0 = land.corner[1] + land.sides[1] * 0.5 - COLUMNS as f32 * step * 0.5;
        // Beside the land its edge goes on level.
        let height = |x: f32, z: f32| {
            let inside = |v: f32, from: f32, side: f32| v.clamp(from, from + side);
            (land.height)(inside(x, land.corner[0], land.sides[0]), inside(z, land.corner[1], land.sides[1]))
        };
        let (lines, half) = (2 * COLUMNS + 1, step * 0.5);
        let mut solids = Solids::ground([x0, z0], half, [lines, lines], height);
        let low = solids.lines.iter().map(|l| l[0][1]).fold(f32::INFINITY, f32::min);
        for body in land.bodies {
            solids.add([x0, z0], half, body);
        }
        let thin = land.bodies.iter().flat_map(|b| edges(b, [x0, z0], step)).collect::<Vec<_>>();
        let high = (0..lines * lines).map(|l| solids.top(l)).fold(low, f32::max);
        let grid = Grid { x0, z0, step, nx: COLUMNS, nz: COLUMNS, faces: faces(low, high) };
        let tops = wake::tops(&solids, [COLUMNS, COLUMNS], &thin);
        let wakes = Wakes::new(&tops, [COLUMNS, COLUMNS], step, heading);
        if cancel.is_cancelled() {
            return Err(Cancelled);
        }
        let cells = Cells::new(grid, solids);
        let field = Field::new(&cells, heading, UPRIGHT, &open_ground, Some(&wakes), cancel)?;
        Ok(field.against(&cells, &open_ground))
    }

    /// The wind at a place of the scene against that at the same height over level ground: x and z. Level in from the borders of the grid.
    pub fn at(&self, p: Vec3) -> [f32; 2] {
        let [nx, nz] = self.cells;
        let ny = self.heights.len();
        let along = |v: f32, from: f32, count: usize| {
            let t = ((v - from) / self.step).clamp(0.0, (count - 1) as f32);
            let i = (t.floor() as usize).min(count - 2);
            (i, t - i as f32)
        };
        let (x, fx) = along(p.x, self.first[0], nx);
        let (z, fz) = along(p.z, self.first[1], nz);
        let (mut y, mut fy) = (0, 0.0);
        for k in 0..ny - 1 {
            if p.y >= self.heights[k] {
                y = k;
                fy = ((p.y - self.heights[k]) / (self.heights[k + 1] - self.heights[k])).min(1.0);
            }
        }
        let one = |i: usize, j: usize, k: usize| self.ratio[((z + k) * ny + y + j) * nx + x + i];
        let mut out = [0.0; 2];
        for (axis, o) in out.iter_mut().enumerate() {
            let mix = |a: f32, b: f32, t: f32| a + (b - a) * t;
            let row = |j: usize, k: usize| mix(one(0, j, k)[axis], one(1, j, k)[axis], fx);
            *o = mix(mix(row(0, 0), row(1, 0), fy), mix(row(0, 1), row(1, 1), fy), fz);
        }
        out
    }

    /// About how many bytes it takes.
    pub fn bytes(&self) -> usize {
        self.ratio.len() * size_of::<[f32; 2]>() + self.ground.len() * 4
    }
}

/// Heights of the faces: even over what sticks out, wider and wider above.
fn faces(low: f32, high: f32) -> Vec<f32> {
    let rise = (high - low).max(6.0);
    let each = rise / (EVEN - 1) as f32;
    // How much wider each is than the one below, so that all come to the whole height.
    let whole = (HIGH - 1.0) * rise / each;
    let sum = |g: f32| -> f32 { (1..=LEVELS - EVEN).map(|k| g.powi(k as i32)).sum() };
    let (mut a, mut b) = (1.0_f32, 3.0_f32);
    for _ in 0..40 {
        let mid = (a + b) * 0.5;
        if sum(mid) < whole { a = mid } else { b = mid }
    }
    let mut faces = vec![low - 0.5 * each];
    for k in 0..LEVELS {
        let wide = if k < EVEN { each } else { each * a.powi((k - EVEN + 1) as i32) };
        faces.push(faces[k] + wide);
    }
    faces
}

/// Points along the edges of a body's triangles, as cells and heights: what is too thin for a line to meet.
fn edges(mesh: &Mesh, [x0, z0]: [f32; 2], step: f32) -> impl Iterator<Item = [f32; 3]> {
    mesh.indices.chunks_exact(3).flat_map(move |t| {
        let corners = [t[0], t[1], t[2]].map(|i| mesh.positions[i as usize]);
        (0..3).flat_map(move |k| {
            let (a, b) = (corners[k], corners[(k + 1) % 3]);
            let count = ((a.distance(b) / step).ceil() as usize).clamp(1, 64);
            (0..count).map(move |i| {
                let p = a.lerp(b, i as f32 / count as f32);
                [((p.x - x0) / step).floor(), ((p.z - z0) / step).floor(), p.y]
            })
        })
    })
}

/// Speeds through all faces.
struct Field {
    ux: Vec<f32>,
    uz: Vec<f32>,
    #[cfg(test)]
    uy: Vec<f32>,
    #[cfg(test)]
    steps: usize,
}

impl Field {
    /// The wind whose speed over level ground is `guess`, towards `heading`.
    fn new(
        cells: &Cells,
        heading: [f32; 2],
        upright: f32,
        guess: &(dyn Fn(f32) -> f32 + Sync),
        wakes: Option<&Wakes>,
        cancel: &CancelToken,
    ) -> Result<Self, Cancelled> {
        let g = &cells.grid;
        let (nx, nz, ny) = (g.nx, g.nz, g.ny());
        let tall = |y: usize| g.faces[y + 1] - g.faces[y];
        let apart = |y: usize| (g.faces[y + 1] - g.faces[y - 1]) * 0.5;
        // What is left of the speed in the lee of things, a column at a time.
        let heights: Vec<f32> = (0..ny).map(|y| g.mid(y)).collect();
        let lee: Vec<f32> = match wakes {
            None => vec![1.0; nx * nz * ny],
            Some(w) => {
                let mut lee = vec![1.0; nx * nz * ny];
                lee.par_chunks_mut(ny).enumerate().for_each(|(i, out)| w.left(i % nx, i / nx, &heights, out));
                lee
            }
        };
        let speed = |line: usize, y: usize| {
            let floor = cells.solids.floor(line, g.faces[y + 1]);
            let low = g.faces[y].max(floor);
            guess((low + g.faces[y + 1]) * 0.5 - floor)
        };
        let wide = cells.solids.wide;
        let mut ux = vec![0.0; cells.ax.len()];
        let mut uz = vec![0.0; cells.az.len()];
        for z in 0..nz {
            for x in 0..=nx {
                for y in 0..ny {
                    let lee = lee[cells.cell(x.min(nx - 1), y, z)];
                    ux[cells.face_x(x, y, z)] = heading[0] * lee * speed((2 * z + 1) * wide + 2 * x, y);
                }
            }
        }
        for z in 0..=nz {
            for x in 0..nx {
                for y in 0..ny {
                    let lee = lee[cells.cell(x, y, z.min(nz - 1))];
                    uz[cells.face_z(x, y, z)] = heading[1] * lee * speed(2 * z * wide + 2 * x + 1, y);
                }
            }
        }
        // Conductances and what flows out of each cell.
        let (mut cx, mut cz) = (cells.ax.clone(), cells.az.clone());
        let mut cy = cells.ay.clone();
        for z in 0..nz {
            for x in 0..=nx {
                for y in 0..ny {
                    let inside = x > 0 && x < nx;
                    cx[cells.face_x(x, y, z)] *= if inside { tall(y) } else { 0.0 };
                }
            }
        }
        for z in 0..=nz {
            for x in 0..nx {
                for y in 0..ny {
                    let inside = z > 0 && z < nz;
                    cz[cells.face_z(x, y, z)] *= if inside { tall(y) } else { 0.0 };
                }
            }
        }
        let floor_area = g.step * g.step;
        for z in 0..nz {
            for x in 0..nx {
                for y in 1..=ny {
                    let far = if y < ny { apart(y) } else { tall(ny - 1) * 0.5 };
                    cy[cells.face_y(x, y, z)] *= upright * floor_area / far;
                }
            }
        }
        let mut right = vec![0.0; nx * nz * ny];
        let mut limits = vec![0.0; nx * nz * ny];
        for z in 0..nz {
            for x in 0..nx {
                for y in 0..ny {
                    let side = g.step * tall(y);
                    let out = cells.ax[cells.face_x(x + 1, y, z)] * ux[cells.face_x(x + 1, y, z)]
                        - cells.ax[cells.face_x(x, y, z)] * ux[cells.face_x(x, y, z)]
                        + cells.az[cells.face_z(x, y, z + 1)] * uz[cells.face_z(x, y, z + 1)]
                        - cells.az[cells.face_z(x, y, z)] * uz[cells.face_z(x, y, z)];
                    let cell = cells.cell(x, y, z);
                    right[cell] = if cells.volume[cell] > 0.0 { out * side } else { 0.0 };
                    limits[cell] = LEFT * side.min(floor_area);
                }
            }
        }
        let grid = Multigrid::new(Level::new([nx, nz, ny], cx, cz, cy));
        let (potential, steps) = grid.solve(&right, &limits, cancel)?;
        let _ = steps;
        for z in 0..nz {
            for x in 1..nx {
                for y in 0..ny {
                    let (a, b) = (cells.cell(x - 1, y, z), cells.cell(x, y, z));
                    ux[cells.face_x(x, y, z)] += (potential[b] - potential[a]) / g.step;
                }
            }
        }
        for z in 1..nz {
            for x in 0..nx {
                for y in 0..ny {
                    let (a, b) = (cells.cell(x, y, z - 1), cells.cell(x, y, z));
                    uz[cells.face_z(x, y, z)] += (potential[b] - potential[a]) / g.step;
                }
            }
        }
        #[cfg(test)]
        let uy = {
            let mut uy = vec![0.0; cells.ay.len()];
            for z in 0..nz {
                for x in 0..nx {
                    for y in 1..=ny {
                        let below = potential[cells.cell(x, y - 1, z)];
                        let (above, far) = if y < ny {
                            (potential[cells.cell(x, y, z)], apart(y))
                        } else {
                            (0.0, tall(ny - 1) * 0.5)
                        };
                        uy[cells.face_y(x, y, z)] = upright * (above - below) / far;
                    }
                }
            }
            uy
        };
        Ok(Self {
            ux,
            uz,
            #[cfg(test)]
            uy,
            #[cfg(test)]
            steps,
        })
    }

    /// Speeds at the middle of a cell: of those faces that are open enough to be read.
    fn middle(&self, cells: &Cells, x: usize, y: usize, z: usize) -> [f32; 2] {
        let mean = |pair: [(f32, f32); 2]| {
            let read: Vec<f32> = pair.iter().filter(|(a, _)| *a >= READ).map(|(_, u)| *u).collect();
            if read.is_empty() { 0.0 } else { read.iter().sum::<f32>() / read.len() as f32 }
        };
        let along = |x: usize| (cells.ax[cells.face_x(x, y, z)], self.ux[cells.face_x(x, y, z)]);
        let across = |z: usize| (cells.az[cells.face_z(x, y, z)], self.uz[cells.face_z(x, y, z)]);
        [mean([along(x), along(x + 1)]), mean([across(z), across(z + 1)])]
    }

    /// The field against the wind over level ground.
    fn against(&self, cells: &Cells, guess: &(dyn Fn(f32) -> f32 + Sync)) -> Flow {
        let g = &cells.grid;
        let (nx, nz, ny) = (g.nx, g.nz, g.ny());
        let mut ratio = vec![[0.0; 2]; nx * nz * ny];
        for z in 0..nz {
            for x in 0..nx {
                let line = (2 * z + 1) * cells.solids.wide + 2 * x + 1;
                let mut above = [0.0; 2];
                for y in (0..ny).rev() {
                    if cells.volume[cells.cell(x, y, z)] >= READ {
                        let floor = cells.solids.floor(line, g.faces[y + 1]);
                        let height = ((g.faces[y].max(floor) + g.faces[y + 1]) * 0.5 - floor).max(0.2);
                        let u = self.middle(cells, x, y, z);
                        let level = guess(height).max(1e-3);
                        let far = (u[0] * u[0] + u[1] * u[1]).sqrt() / level;
                        let held = if far > MOST { MOST / far } else { 1.0 };
                        above = u.map(|v| v / level * held);
                    }
                    // Within ground it is as just above.
                    ratio[(z * ny + y) * nx + x] = above;
                }
            }
        }
        Flow {
            first: [g.x0 + g.step * 0.5, g.z0 + g.step * 0.5],
            step: g.step,
            cells: [nx, nz],
            heights: (0..ny).map(|y| g.mid(y)).collect(),
            ratio,
            ground: (0..nx * nz)
                .map(|i| cells.solids.lines[(2 * (i / nx) + 1) * cells.solids.wide + 2 * (i % nx) + 1][0][1])
                .collect(),
        }
    }
}

#[cfg(test)]
mod tests;
