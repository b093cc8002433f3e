//! How much of the sky a plant's own leaf leaves free, all through it.
//!
//! Source: Monsi & Saeki, "Über den Lichtfaktor in den Pflanzengesellschaften", 1953: what passes falls off exponentially with the leaf on the way; of leaf in every direction a
//! half is turned to a beam (Goudriaan, "Crop Micrometeorology", 1977; both from memory). Leaf is counted in cells, so that it is smooth and quick where rays would be neither.

use super::Mesh;
use glam::{IVec3, Vec3, ivec3, vec3};
use std::f32::consts::{PI, TAU};

/// Cells along its longest side.
const CELLS: f32 = 24.0;
/// Beams of the sky, spread evenly over what a level surface gets of it.
const BEAMS: usize = 14;
/// Share of its area that leaf turns to a beam.
const TURNED: f32 = 0.5;

/// Leaf of a plant by cells.
struct Leaf {
    low: Vec3,
    cell: f32,
    side: IVec3,
    /// Area to volume, 1/m.
    density: Vec<f32>,
}

impl Leaf {
    fn of(mesh: &Mesh) -> Self {
        let (low, high) = mesh.bounds();
        let cell = ((high - low).max_element() / CELLS).max(1e-4);
        let side = ((high - low) / cell).ceil().as_ivec3().max(IVec3::ONE);
        let mut leaf = Self { low, cell, side, density: vec![0.0; side.element_product() as usize] };
        for corners in mesh.indices.as_chunks::<3>().0 {
            let [a, b, c] = corners.map(|i| mesh.positions[i as usize]);
            let skew = (b - a).cross(c - a).length() * 0.5;
            // Of what is closed one half of the skin faces away.
            let thin = mesh.through.get(corners[0] as usize).is_some_and(|t| *t > 0.0);
            let area = skew * if thin { 1.0 } else { 0.5 } / (cell * cell * cell);
            // Long ones lie in several cells.
            let long = (b - a).length().max((c - a).length()).max((c - b).length());
            let cuts = (long / cell).ceil().clamp(1.0, 12.0) as usize;
            let share = area / (cuts * cuts) as f32;
            for (i, j) in (0..cuts).flat_map(|i| (0..2 * i + 1).map(move |j| (i, j))) {
                // The middles of so many triangles of one size.
                let (row, k, up) = (i as f32, (j / 2) as f32, j % 2 == 0);
                let n = cuts as f32;
                let (u, v) = if up {
                    ((row - k + 1.0 / 3.0) / n, (k + 1.0 / 3.0) / n)
                } else {
                    ((row - k - 1.0 / 3.0) / n, (k + 2.0 / 3.0) / n)
                };
                leaf.add(a + (b - a) * u + (c - a) * v, share);
            }
        }
        leaf
    }

    fn add(&mut self, p: Vec3, density: f32) {
        if let Some(i) = self.index(((p - self.low) / self.cell).floor().as_ivec3().min(self.side - 1)) {
            self.density[i] += density;
        }
    }

    fn index(&self, at: IVec3) -> Option<usize> {
        let within = at.cmpge(IVec3::ZERO).all() && at.cmplt(self.side).all();
        within.then(|| ((at.y * self.side.z + at.z) * self.side.x + at.x) as usize)
    }

    /// Of a beam from so far off, what is left of it in the middle of a cell.
    fn passes(&self, at: IVec3, to: Vec3) -> f32 {
        let (mut area, mut p) = (0.0, at.as_vec3() + 0.5);
        // Of its own cell half is before it.
        let mut share = 0.5;
        while let Some(i) = self.index(p.floor().as_ivec3()) {
            area += self.density[i] * share;
            share = 1.0;
            p += to;
        }
        libm::expf(-TURNED * area * self.cell)
    }

    fn open(&self) -> Vec<f32> {
        let beams: Vec<Vec3> = (0..BEAMS)
            .map(|i| {
                let (u, turn) =
                    ((i as f32 + 0.5) / BEAMS as f32, i as f32 * (PI * (3.0 - 5.0_f32.sqrt())) % TAU);
                let (sin, cos) = libm::sincosf(turn);
                let out = u.sqrt();
                vec3(out * cos, (1.0 - u).sqrt(), out * sin)
            })
            .collect();
        let mean = |at: IVec3| beams.iter().map(|to| self.passes(at, *to)).sum::<f32>() / BEAMS as f32;
        let (x, z) = (self.side.x, self.side.z);
        (0..self.side.element_product()).map(|i| mean(ivec3(i % x, i / (x * z), i / x % z))).collect()
    }

    /// Between the middles of cells.
    fn between(&self, values: &[f32], p: Vec3) -> f32 {
        let at = (p - self.low) / self.cell - 0.5;
        let (first, t) = (at.floor().as_ivec3(), at - at.floor());
        let value = |x: i32, y: i32, z: i32| {
            let near = (first + ivec3(x, y, z)).clamp(IVec3::ZERO, self.side - 1);
            values[self.index(near).unwrap_or(0)]
        };
        let mix = |a: f32, b: f32, t: f32| a + (b - a) * t;
        let row = |y, z| mix(value(0, y, z), value(1, y, z), t.x);
        let level = |y| mix(row(y, 0), row(y, 1), t.z);
        mix(level(0), level(1), t.y)
    }
}

/// Of the light of an even sky the share that the plant itself leaves each vertex, 0 to 1. What lets no light through anywhere, as stones, leaves all.
pub fn open_to_sky(mesh: &Mesh) -> Vec<f32> {
    if mesh.through.iter().all(|t| *t <= 0.0) {
        return vec![1.0; mesh.positions.len()];
    }
    let leaf = Leaf::of(mesh);
    let open = leaf.open();
    mesh.positions.iter().map(|p| leaf.between(&open, *p)).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Level leaves in layers: the lowest gets less, all between none and one; a lone leaf gets all but what it keeps from itself.
    #[test]
    fn the_deeper_in_a_crown_the_less_of_the_sky_is_left() {
        let mut mesh = Mesh::default();
        for layer in 0..20 {
            for i in 0..400 {
                let at = vec3((i % 20) as f32, layer as f32, (i / 20) as f32) * 0.1;
                let first = mesh.positions.len() as u32;
                for corner in [Vec3::ZERO, Vec3::X * 0.05, Vec3::Z * 0.05] {
                    mesh.vertex(at + corner, Vec3::Y, Vec3::ONE);
                }
                mesh.indices.extend([first, first + 1, first + 2]);
            }
        }
        mesh.through = vec![1.0; mesh.positions.len()];
        let open = open_to_sky(&mesh);
        assert!(open.iter().all(|o| (0.0..=1.0).contains(o)));
        // By four layers, as some cells hold two of them and some one.
        let means: Vec<f32> =
            open.chunks(4 * 1200).map(|four| four.iter().sum::<f32>() / (4.0 * 1200.0)).collect();
        assert!(means.is_sorted(), "{means:?}");
        assert!(means[4] > 0.8 && means[0] < 0.55, "{means:?}");
        // None is lost in the cells: half of 0.05 m squared, each.
        let mut leaf = Leaf::of(&mesh);
        let all = leaf.density.iter().sum::<f32>() * leaf.cell.powi(3);
        assert!((all - 8000.0 * 0.00125).abs() < 0.01, "{all} m2");
        // Through leaf that is the same everywhere, from the middle of the lowest cell.
        leaf.density.fill(1.5);
        let metres = (leaf.side.y as f32 - 0.5) * leaf.cell;
        let (passed, said) = (leaf.passes(ivec3(9, 0, 9), Vec3::Y), libm::expf(-TURNED * 1.5 * metres));
        assert!((passed - said).abs() < 1e-4, "{passed}, not {said}");
    }

    #[test]
    fn stones_have_no_leaf() {
        let mut mesh = Mesh::default();
        for p in [Vec3::ZERO, Vec3::X, Vec3::Z] {
            mesh.vertex(p, Vec3::Y, Vec3::ONE);
        }
        mesh.indices = vec![0, 1, 2];
        assert_eq!(open_to_sky(&mesh), [1.0; 3]);
    }
}
