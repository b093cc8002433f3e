//! Places at random on a mesh, uniform by true area.
//!
//! Triangles are taken in runs, as the file has them. In each run candidates arrive with exponential gaps of density, so
//! that any share of them is a Poisson process and a larger amount only adds; within the run a triangle is chosen by
//! its area and a point on it by Turk, "Generating Random Points in Triangles", Graphics Gems, 1990.

use crate::math::hash::{Channel, draw, unit};
use crate::math::sampling::{square_to_triangle, unit_to_gap};
use crate::nursery::Mesh;
use crate::planting::{MeshPlace, PlantId};
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

    /// The runs in parts that threads take, in order.
    fn parts(&self) -> impl IndexedParallelIterator<Item = std::ops::Range<usize>> {
        let size = (self.count() / (rayon::current_num_threads() * 16)).clamp(1, 512);
        let count = self.count();
        (0..count.div_ceil(size)).into_par_iter().map(move |part| part * size..((part + 1) * size).min(count))
    }

    /// Candidates of all runs up to a density, per m2, in their order, part by part, each part through `kept`. `level` keeps
    /// families of candidates apart.
    pub fn up_to_density<T: Send>(
        &self,
        seed: u32,
        level: u8,
        density: f64,
        kept: impl Fn(Vec<MeshPlace>) -> Vec<T> + Sync,
    ) -> Vec<Vec<T>> {
        self.parts()
            .map(|runs| {
                let expected = self.areas_m2[runs.clone()].iter().sum::<f64>() * density;
                let mut out = Vec::with_capacity((expected + 4.0 * expected.sqrt()) as usize + 8);
                self.streams(seed, level, runs).for_each(|s| {
                    s.births(density as f32).for_each(|(birth, id, draw)| out.push(s.place(birth, id, draw)));
                });
                kept(out)
            })
            .collect()
    }

    /// The first `count` candidates, run by run.
    ///
    /// In two passes, since memory is slower than the hash: the first finds the last birth that counts, the second makes
    /// the places where they belong.
    pub fn first(&self, seed: u32, level: u8, count: usize) -> Vec<MeshPlace> {
        if count == 0 {
            return Vec::new();
        }
        // Five standard deviations more than wanted nearly always hold enough, and as many fewer too few; otherwise look
        // further.
        let spread = 5.0 * (count as f64).sqrt() + 8.0;
        let mut expected = count as f64 + spread;
        let mut surely = ((count as f64 - spread) / self.area_m2).max(0.0) as f32;
        loop {
            let until = (expected / self.area_m2) as f32;
            // Of each part how many are born early, and the births about the last one.
            let parts: Vec<(usize, Vec<(f32, PlantId)>)> = self
                .parts()
                .map(|runs| {
                    let (mut early, mut late) = (0, Vec::new());
                    self.streams(seed, level, runs).for_each(|s| {
                        s.births(until).for_each(|(birth, id, _)| {
                            if birth < surely { early += 1 } else { late.push((birth, id)) }
                        });
                    });
                    (early, late)
                })
                .collect();
            let early: usize = parts.iter().map(|p| p.0).sum();
            let late: usize = parts.iter().map(|p| p.1.len()).sum();
            if early >= count {
                surely = 0.0;
            } else if early + late < count {
                expected *= 1.25;
            } else {
                return self.placed(seed, level, count, count - early, parts);
            }
        }
    }

    /// Makes the first `count` places, of which the first `wanted` of the late ones of all parts are the last.
    fn placed(
        &self,
        seed: u32,
        level: u8,
        count: usize,
        wanted: usize,
        parts: Vec<(usize, Vec<(f32, PlantId)>)>,
    ) -> Vec<MeshPlace> {
        let order = |a: &(f32, PlantId), b: &(f32, PlantId)| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1));
        let mut late: Vec<(f32, PlantId)> = parts.iter().flat_map(|p| p.1.iter().copied()).collect();
        let last = *late.select_nth_unstable_by(wanted - 1, order).1;
        let mut out: Vec<MeshPlace> = bytemuck::allocation::zeroed_vec(count);
        let mut rest = out.as_mut_slice();
        let rooms: Vec<&mut [MeshPlace]> = parts
            .into_iter()
            .map(|(early, late)| {
                let own = early + late.iter().filter(|l| order(l, &last).is_le()).count();
                let (room, after) = std::mem::take(&mut rest).split_at_mut(own);
                rest = after;
                room
            })
            .collect();
        self.parts().zip(rooms).for_each(|(runs, room)| {
            let mut room = room.iter_mut();
            self.streams(seed, level, runs).for_each(|s| {
                for (birth, id, draw) in s.births(last.0).filter(|b| order(&(b.0, b.1), &last).is_le()) {
                    *room.next().expect("the first pass counted the same births") = s.place(birth, id, draw);
                }
            });
        });
        out
    }

    /// The streams of some runs.
    fn streams(
        &self,
        seed: u32,
        level: u8,
        runs: std::ops::Range<usize>,
    ) -> impl Iterator<Item = Stream<'_>> {
        runs.filter(|run| self.areas_m2[*run] > 0.0).flat_map(move |run| {
            let area = self.areas_m2[run];
            let streams = (area / STREAM_M2).ceil().clamp(1.0, STREAMS);
            let faces = self.faces(run);
            let columns = &self.columns[faces.clone()];
            (0..streams as i32).map(move |stream| Stream {
                seed,
                name: PlantId::pack(level, run as i32, stream, 0),
                gap: (streams / area) as f32,
                first: faces.start as u32,
                columns,
            })
        })
    }
}

/// A stream of candidates on the triangles of a run.
struct Stream<'a> {
    seed: u32,
    name: PlantId,
    /// Mean gap between births.
    gap: f32,
    /// The first triangle.
    first: u32,
    columns: &'a [Column],
}

impl Stream<'_> {
    /// Births up to a density, with the name of each and the random words that place it.
    #[inline]
    fn births(&self, density: f32) -> impl Iterator<Item = (f32, PlantId, [u32; 4])> {
        let (seed, name, gap) = (self.seed, self.name.0, self.gap);
        let mut birth = 0.0_f32;
        (0..=u16::MAX).map_while(move |index| {
            let id = PlantId(name | u64::from(index));
            let words = draw(seed, id.0, Channel::Place);
            birth += unit_to_gap(unit(words[2])) * gap;
            (birth <= density).then_some((birth, id, words))
        })
    }

    #[inline]
    fn place(&self, birth: f32, id: PlantId, [u, v, _, which]: [u32; 4]) -> MeshPlace {
        // The high part of the word picks a column, the rest the side of it.
        let scaled = u64::from(which) * self.columns.len() as u64;
        let at = (scaled >> 32) as usize;
        let column = self.columns[at];
        let at = if unit(scaled as u32) < column.own { at as u32 } else { u32::from(column.other) };
        let [_, v, w] = square_to_triangle(Vec2::new(unit(u), unit(v)));
        MeshPlace { face: self.first + at, v, w, birth, id }
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
