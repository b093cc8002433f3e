//! Places at random on a mesh, uniform by true area.
//!
//! Triangles are taken in runs, as the file has them. In each run candidates arrive with exponential gaps of density, so
//! that any share of them is a Poisson process and a larger amount only adds; within the run a triangle is chosen by
//! its area and a point on it by Turk, "Generating Random Points in Triangles", Graphics Gems, 1990.

use crate::math::hash::{Channel, draw, unit};
use crate::math::sampling::square_to_triangle;
use crate::nursery::Mesh;
use crate::planting::{MeshPlace, Place, PlantId};
use glam::Vec2;
use rayon::prelude::*;

/// Triangles of a run; few enough that choosing one stays in the nearest cache.
const FACES: usize = 64;
/// Area of a stream of candidates, m2, at most: 65,536 of them reach 1000 per m2 with room to spare.
const STREAM_M2: f64 = 40.0;
/// Streams of one run, at most; a run larger than this many streams can hold is looked at more coarsely.
const STREAMS: f64 = 500_000.0;

/// One of the equal columns of a run's table: its own triangle below `own`, another above.
///
/// Source: the alias method, Walker 1977; Vose, "A Linear Algorithm for Generating Random Numbers with a Given
/// Distribution", IEEE Transactions on Software Engineering 17(9), 1991.
#[derive(Clone, Copy, Debug)]
struct Column {
    own: f32,
    other: u8,
}

/// The triangles of a mesh by run, with their areas.
#[derive(Clone, Debug)]
pub(super) struct Runs {
    /// One for each triangle.
    columns: Vec<Column>,
    /// Area of each triangle, m2.
    faces_m2: Vec<f32>,
    /// Area of each run, m2.
    areas_m2: Vec<f64>,
    /// Of all triangles, m2.
    pub area_m2: f64,
}

impl Runs {
    /// None when the mesh has no area.
    pub fn new(mesh: &Mesh) -> Option<Self> {
        let areas: Vec<f64> = mesh
            .indices
            .par_chunks_exact(3)
            .map(|t| {
                let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[t[i] as usize].as_dvec3());
                (b - a).cross(c - a).length() * 0.5
            })
            .collect();
        let columns = areas.par_chunks(FACES).flat_map_iter(columns).collect();
        let areas_m2: Vec<f64> = areas.chunks(FACES).map(|run| run.iter().sum()).collect();
        let faces_m2 = areas.iter().map(|a| *a as f32).collect();
        let area_m2 = areas_m2.iter().sum();
        (area_m2 > 0.0 && f64::is_finite(area_m2)).then_some(Self { columns, faces_m2, areas_m2, area_m2 })
    }

    pub fn count(&self) -> usize {
        self.areas_m2.len()
    }

    /// The triangles of a run.
    pub fn faces(&self, run: usize) -> std::ops::Range<usize> {
        run * FACES..((run + 1) * FACES).min(self.columns.len())
    }

    /// Area of a triangle, m2.
    pub fn face_m2(&self, face: usize) -> f64 {
        f64::from(self.faces_m2[face])
    }

    /// Candidates of all runs up to a density, per m2, in their order. `level` keeps families of candidates apart.
    pub fn up_to_density(&self, seed: u32, level: u8, density: f64) -> Vec<Vec<MeshPlace>> {
        let parts = (self.count() / (rayon::current_num_threads() * 16)).clamp(1, 512);
        (0..self.count().div_ceil(parts))
            .into_par_iter()
            .map(|part| {
                let runs = part * parts..((part + 1) * parts).min(self.count());
                let expected = self.areas_m2[runs.clone()].iter().sum::<f64>() * density;
                let mut out = Vec::with_capacity((expected + 4.0 * expected.sqrt()) as usize + 8);
                runs.for_each(|run| self.run(seed, level, run, density, &mut out));
                out
            })
            .collect()
    }

    /// The first `count` candidates, run by run.
    pub fn first(&self, seed: u32, level: u8, count: usize) -> Vec<MeshPlace> {
        if count == 0 {
            return Vec::new();
        }
        // Five standard deviations more than wanted nearly always hold enough, and as many fewer too few; otherwise look
        // further.
        let spread = 5.0 * (count as f64).sqrt() + 8.0;
        let mut expected = count as f64 + spread;
        loop {
            let parts = self.up_to_density(seed, level, expected / self.area_m2);
            if parts.iter().map(Vec::len).sum::<usize>() >= count {
                let surely = ((count as f64 - spread) / self.area_m2).max(0.0) as f32;
                return keep_first(&parts, count, surely);
            }
            expected *= 1.25;
        }
    }

    fn run(&self, seed: u32, level: u8, run: usize, density: f64, out: &mut Vec<MeshPlace>) {
        let area = self.areas_m2[run];
        if area > 0.0 {
            let streams = (area / STREAM_M2).ceil().clamp(1.0, STREAMS);
            let per_gap = (streams / area) as f32;
            (0..streams as i32).for_each(|s| self.stream(seed, level, run, s, per_gap, density as f32, out));
        }
    }

    /// A stream of candidates with gaps of `per_gap` on the mean.
    #[expect(
        clippy::too_many_arguments,
        reason = "the inner loop of placing; a type for it would be made once a run"
    )]
    fn stream(
        &self,
        seed: u32,
        level: u8,
        run: usize,
        stream: i32,
        per_gap: f32,
        density: f32,
        out: &mut Vec<MeshPlace>,
    ) {
        let faces = self.faces(run);
        let columns = &self.columns[faces.clone()];
        let mut birth = 0.0_f32;
        for index in 0..=u16::MAX {
            let id = PlantId::pack(level, run as i32, stream, index);
            let [u, v, gap, which] = draw(seed, id.0, Channel::Place);
            birth -= libm::logf(1.0 - unit(gap)) * per_gap;
            if birth > density {
                return;
            }
            // The high part of the word picks a column, the rest the side of it.
            let scaled = u64::from(which) * columns.len() as u64;
            let at = (scaled >> 32) as usize;
            let side = unit(scaled as u32);
            let at = if side < columns[at].own { at } else { usize::from(columns[at].other) };
            let [_, v, w] = square_to_triangle(Vec2::new(unit(u), unit(v)));
            out.push(MeshPlace { face: (faces.start + at) as u32, v, w, birth, id });
        }
    }
}

/// The table of a run by the areas of its triangles.
fn columns(areas: &[f64]) -> Vec<Column> {
    let whole: f64 = areas.iter().sum();
    let mut left: Vec<f64> =
        areas.iter().map(|a| a / whole.max(f64::MIN_POSITIVE) * areas.len() as f64).collect();
    let mut out: Vec<Column> = (0..areas.len()).map(|i| Column { own: 1.0, other: i as u8 }).collect();
    let (mut small, mut large): (Vec<usize>, Vec<usize>) = (0..areas.len()).partition(|i| left[*i] < 1.0);
    while let (Some(few), Some(many)) = (small.pop(), large.last().copied()) {
        out[few] = Column { own: left[few] as f32, other: many as u8 };
        left[many] -= 1.0 - left[few];
        if left[many] < 1.0 {
            large.pop();
            small.push(many);
        }
    }
    out
}

/// The `count` that appear first, in the order they are in. Fewer than `count` must be born before `surely`, as is all but
/// certain.
fn keep_first(parts: &[Vec<MeshPlace>], count: usize, surely: f32) -> Vec<MeshPlace> {
    let early =
        |from: f32| parts.par_iter().map(|p| p.iter().filter(|c| c.birth < from).count()).sum::<usize>();
    let (before, from) = match early(surely) {
        n if n < count => (n, surely),
        _ => (0, f32::NEG_INFINITY),
    };
    let mut late: Vec<MeshPlace> =
        parts.par_iter().flat_map_iter(|p| p.iter().filter(|c| c.birth >= from).copied()).collect();
    let last = *late.select_nth_unstable_by(count - before - 1, MeshPlace::order).1;
    let kept = |c: &&MeshPlace| c.order(&last).is_le();
    let counts: Vec<usize> = parts.par_iter().map(|p| p.iter().filter(kept).count()).collect();
    let mut out = vec![last; count];
    let mut rest = out.as_mut_slice();
    let mut rooms = Vec::with_capacity(parts.len());
    for n in counts {
        let (room, after) = rest.split_at_mut(n);
        rooms.push(room);
        rest = after;
    }
    parts.par_iter().zip(rooms).for_each(|(part, room)| {
        room.iter_mut().zip(part.iter().filter(kept)).for_each(|(slot, c)| *slot = *c);
    });
    out
}
