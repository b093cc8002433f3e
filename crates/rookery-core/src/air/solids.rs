//! What the air cannot go through, in columns: where each vertical line is within ground or an obstacle.

use crate::nursery::Mesh;
use glam::Vec3;

/// Vertical lines on a lattice over the plan, each with the stretches of it that are solid, from the lowest up.
pub(super) struct Solids {
    /// Lines along x and z.
    pub wide: usize,
    pub deep: usize,
    /// Solid stretches of each line, x fastest: from, to, metres. Ground goes down without end.
    pub lines: Vec<Vec<[f32; 2]>>,
}

impl Solids {
    /// Ground of a height everywhere, on a lattice from a corner on with a step, metres.
    pub fn ground(
        [x0, z0]: [f32; 2],
        step: f32,
        [wide, deep]: [usize; 2],
        height: impl Fn(f32, f32) -> f32,
    ) -> Self {
        let line = |i: usize| {
            let (x, z) = (x0 + (i % wide) as f32 * step, z0 + (i / wide) as f32 * step);
            vec![[f32::NEG_INFINITY, height(x, z)]]
        };
        Self { wide, deep, lines: (0..wide * deep).map(line).collect() }
    }

    /// Puts a body of triangles in. One that is open at the bottom stands on what is below it.
    pub fn add(&mut self, [x0, z0]: [f32; 2], step: f32, mesh: &Mesh) {
        let mut hits: Vec<(u32, f32)> = Vec::new();
        for t in mesh.indices.chunks_exact(3) {
            let [a, b, c] = [t[0], t[1], t[2]].map(|i| mesh.positions[i as usize]);
            self.over(&mut hits, [x0, z0], step, [a, b, c]);
        }
        hits.sort_by(|a, b| a.0.cmp(&b.0).then(a.1.total_cmp(&b.1)));
        for same in hits.chunk_by(|a, b| a.0 == b.0) {
            let line = &mut self.lines[same[0].0 as usize];
            let mut ys: Vec<f32> = same.iter().map(|h| h.1).collect();
            // Two triangles that share an edge above a line are one surface.
            ys.dedup_by(|b, a| *b - *a < 1e-4);
            if ys.len() % 2 == 1 {
                ys.insert(0, f32::NEG_INFINITY);
            }
            line.extend(ys.chunks_exact(2).map(|p| [p[0], p[1]]));
            line.sort_by(|a, b| a[0].total_cmp(&b[0]));
            let mut joined: Vec<[f32; 2]> = Vec::new();
            for s in line.drain(..) {
                match joined.last_mut() {
                    Some(last) if s[0] <= last[1] => last[1] = last[1].max(s[1]),
                    _ => joined.push(s),
                }
            }
            *line = joined;
        }
    }

    /// The lines that meet a triangle, and where.
    fn over(&self, hits: &mut Vec<(u32, f32)>, [x0, z0]: [f32; 2], step: f32, [a, b, c]: [Vec3; 3]) {
        let area = (b.x - a.x) * (c.z - a.z) - (c.x - a.x) * (b.z - a.z);
        if area.abs() < 1e-12 {
            return;
        }
        let range = |low: f32, high: f32, from: f32, count: usize| {
            let first = ((low - from) / step).ceil().max(0.0);
            let last = ((high - from) / step).floor().min(count as f32 - 1.0);
            (first, last)
        };
        let (i0, i1) = range(a.x.min(b.x).min(c.x), a.x.max(b.x).max(c.x), x0, self.wide);
        let (j0, j1) = range(a.z.min(b.z).min(c.z), a.z.max(b.z).max(c.z), z0, self.deep);
        if i1 < i0 || j1 < j0 {
            return;
        }
        for j in j0 as usize..=j1 as usize {
            for i in i0 as usize..=i1 as usize {
                let (x, z) = (x0 + i as f32 * step, z0 + j as f32 * step);
                let u = ((x - a.x) * (c.z - a.z) - (c.x - a.x) * (z - a.z)) / area;
                let v = ((b.x - a.x) * (z - a.z) - (x - a.x) * (b.z - a.z)) / area;
                if u >= 0.0 && v >= 0.0 && u + v <= 1.0 {
                    hits.push(((j * self.wide + i) as u32, a.y + (b.y - a.y) * u + (c.y - a.y) * v));
                }
            }
        }
    }

    /// How much of a stretch of a line is open, metres.
    pub fn open(&self, line: usize, low: f32, high: f32) -> f32 {
        let shut: f32 = self.lines[line].iter().map(|s| (s[1].min(high) - s[0].max(low)).max(0.0)).sum();
        (high - low - shut).max(0.0)
    }

    /// Whether a line is open at a height.
    pub fn clear(&self, line: usize, y: f32) -> bool {
        self.lines[line].iter().all(|s| y < s[0] || y > s[1])
    }

    /// The height of what lies under a place of a line, metres; of the lowest ground for what is within it.
    pub fn floor(&self, line: usize, y: f32) -> f32 {
        let all = &self.lines[line];
        all.iter().rev().find(|s| s[1] <= y).map_or(all[0][1], |s| s[1])
    }

    /// The height of the highest that stands on a line, metres.
    pub fn top(&self, line: usize) -> f32 {
        self.lines[line].last().map_or(0.0, |s| s[1])
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_box_over_flat_ground_shuts_its_own_part_of_a_line() {
        let corner = [-4.0, -4.0];
        let mut solids = Solids::ground(corner, 1.0, [9, 9], |_, _| 1.0);
        // A slab from 3 to 5 m above a square of 4 m, and an open sheet at 2 m over one line.
        let mut mesh = Mesh::default();
        for (y, flip) in [(3.0, true), (5.0, false)] {
            let first = mesh.positions.len() as u32;
            for (x, z) in [(-2.1, -2.1), (2.1, -2.1), (2.1, 2.1), (-2.1, 2.1)] {
                mesh.positions.push(Vec3::new(x, y, z));
            }
            let quad = if flip { [0, 1, 2, 0, 2, 3] } else { [0, 2, 1, 0, 3, 2] };
            mesh.indices.extend(quad.map(|i| first + i));
        }
        solids.add(corner, 1.0, &mesh);
        let middle = 4 * 9 + 4;
        assert_eq!(solids.lines[middle], [[f32::NEG_INFINITY, 1.0], [3.0, 5.0]]);
        assert_eq!((solids.open(middle, 0.0, 6.0), solids.open(0, 0.0, 6.0)), (3.0, 5.0));
        assert!(solids.clear(middle, 2.0) && !solids.clear(middle, 4.0) && solids.clear(0, 4.0));
        assert_eq!(
            (solids.floor(middle, 2.5), solids.floor(middle, 9.0), solids.top(middle)),
            (1.0, 5.0, 5.0)
        );
    }
}
