//! Places at random on a mesh, uniform by true area.
//!
//! Triangles are taken in runs, as the file has them. In each run candidates arrive with exponential gaps of density, so
//! that any share of them is a Poisson process and a larger amount only adds; within the run a triangle is chosen by
//! its area and a point on it by Turk, "Generating Random Points in Triangles", Graphics Gems, 1990.

use crate::math::hash::{Channel, draw, unit};
use crate::math::sampling::{square_to_triangle, unit_to_gap};
use crate::names::PlantId;
use crate::nursery::Mesh;
use crate::pattern::{MeshPlace, Place};
use glam::Vec2;
use rayon::prelude::*;
use std::ops::Range;

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
    /// The first triangle of them in the mesh.
    first: u32,
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
    /// Of some triangles of a mesh; none when they have no area.
    pub fn new(mesh: &Mesh, faces: Range<u32>) -> Option<Self> {
        let first = faces.start;
        let areas: Vec<f64> = mesh.indices[faces.start as usize * 3..faces.end as usize * 3]
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
        let all = Self { first, columns, faces_m2, areas_m2, area_m2 };
        (area_m2 > 0.0 && f64::is_finite(area_m2)).then_some(all)
    }

    pub fn count(&self) -> usize {
        self.areas_m2.len()
    }

    /// How many candidates all streams together surely hold: each has 65,536, and a few are left for chance. More are never asked for:
    /// they would be looked for without an end.
    pub fn most(&self) -> usize {
        let streams = |area: &f64| (area / STREAM_M2).ceil().clamp(1.0, STREAMS) as usize;
        let all: usize = self.areas_m2.iter().filter(|area| **area > 0.0).map(streams).sum();
        all * 61_440
    }

    /// The triangles of a run, counted from the first of all.
    pub fn faces(&self, run: usize) -> Range<usize> {
        run * FACES..((run + 1) * FACES).min(self.columns.len())
    }

    /// Area of a triangle, m2.
    pub fn face_m2(&self, face: usize) -> f64 {
        f64::from(self.faces_m2[face])
    }

    /// The runs in parts that threads take, in order; the same on any number of threads.
    fn parts(&self) -> impl IndexedParallelIterator<Item = Range<usize>> {
        let count = self.count();
        let size = (count / 64).clamp(1, 512);
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

    /// The first `count` candidates, or [`Runs::most`] of them, in an order that depends on the seed and the mesh only.
    ///
    /// Memory is slower than the hash: every part writes into a room of its own at the end where it is to stay, and only the
    /// few beyond the last birth and the ends of the rooms are moved.
    pub fn first(&self, seed: u32, level: u8, count: usize) -> Vec<MeshPlace> {
        let count = count.min(self.most());
        if count == 0 {
            return Vec::new();
        }
        // Five standard deviations more than wanted nearly always hold enough, and as many fewer too few; otherwise look
        // further, and from the beginning.
        let mut spread = 5.0 * (count as f64).sqrt() + 8.0;
        loop {
            let surely = ((count as f64 - spread) / self.area_m2).max(0.0) as f32;
            let until = ((count as f64 + spread) / self.area_m2) as f32;
            if let Some(mut rooms) = self.fill(seed, level, surely, until)
                && rooms.keep_first(count)
            {
                return rooms.closed_up();
            }
            spread *= 2.0;
        }
    }

    /// All candidates up to a density, part by part; none when a room was too small.
    fn fill(&self, seed: u32, level: u8, surely: f32, until: f32) -> Option<Rooms> {
        let sizes: Vec<usize> = self
            .parts()
            .map(|runs| {
                let expected = self.areas_m2[runs].iter().sum::<f64>() * f64::from(until);
                (expected + 7.0 * expected.sqrt()) as usize + 16
            })
            .collect();
        let mut places: Vec<MeshPlace> = bytemuck::allocation::zeroed_vec(sizes.iter().sum());
        let mut rest = places.as_mut_slice();
        let rooms: Vec<&mut [MeshPlace]> = sizes
            .iter()
            .map(|size| {
                let (room, after) = std::mem::take(&mut rest).split_at_mut(*size);
                rest = after;
                room
            })
            .collect();
        let filled = self.parts().zip(rooms).map(|(runs, room)| {
            let (mut used, mut late) = (0, Vec::new());
            for stream in self.streams(seed, level, runs) {
                for (birth, id, draw) in stream.births(until) {
                    *room.get_mut(used)? = stream.place(birth, id, draw);
                    if birth >= surely {
                        late.push(used);
                    }
                    used += 1;
                }
            }
            Some((used, late))
        });
        let filled: Option<Vec<(usize, Vec<usize>)>> = filled.collect();
        let (used, late) = filled?.into_iter().unzip();
        Some(Rooms { places, sizes, used, late })
    }

    /// The streams of some runs.
    fn streams(&self, seed: u32, level: u8, runs: Range<usize>) -> impl Iterator<Item = Stream<'_>> {
        runs.filter(|run| self.areas_m2[*run] > 0.0).flat_map(move |run| {
            let area = self.areas_m2[run];
            let streams = (area / STREAM_M2).ceil().clamp(1.0, STREAMS);
            let faces = self.faces(run);
            let columns = &self.columns[faces.clone()];
            (0..streams as i32).map(move |stream| Stream {
                seed,
                name: PlantId::pack(level, run as i32, stream, 0),
                gap: (streams / area) as f32,
                first: self.first + faces.start as u32,
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

/// Places of every part in a room of its own, each filled from its beginning.
struct Rooms {
    places: Vec<MeshPlace>,
    sizes: Vec<usize>,
    used: Vec<usize>,
    /// Within each room, in rising order, those among which the last one that counts must be.
    late: Vec<Vec<usize>>,
}

impl Rooms {
    /// Takes out all but the first `count`; false when the last of them is not among the late ones.
    fn keep_first(&mut self, count: usize) -> bool {
        let all: usize = self.used.iter().sum();
        let late: usize = self.late.iter().map(Vec::len).sum();
        if all < count || all - late >= count {
            return false;
        }
        let mut candidates = Vec::with_capacity(late);
        let mut start = 0;
        for (size, late) in self.sizes.iter().zip(&self.late) {
            candidates.extend(late.iter().map(|i| self.places[start + i]));
            start += size;
        }
        let last = *candidates.select_nth_unstable_by(count - (all - late) - 1, MeshPlace::order).1;
        let mut start = 0;
        for ((size, late), used) in self.sizes.iter().zip(&self.late).zip(&mut self.used) {
            // From the end, so that what fills a hole has been looked at.
            for i in late.iter().rev() {
                if self.places[start + i].order(&last).is_gt() {
                    *used -= 1;
                    self.places.swap(start + i, start + *used);
                }
            }
            start += size;
        }
        true
    }

    /// The places without the empty ends of the rooms, which are filled from the last rooms.
    fn closed_up(mut self) -> Vec<MeshPlace> {
        let count = self.used.iter().sum();
        let starts: Vec<usize> =
            self.sizes.iter().scan(0, |at, size| Some(std::mem::replace(at, *at + size))).collect();
        let (mut donor, mut left) = (self.sizes.len(), 0);
        for room in 0..self.sizes.len() {
            for hole in starts[room] + self.used[room]..starts[room] + self.sizes[room] {
                if hole >= count {
                    break;
                }
                while left == 0 {
                    donor -= 1;
                    left = self.used[donor];
                }
                left -= 1;
                self.places[hole] = self.places[starts[donor] + left];
            }
        }
        self.places.truncate(count);
        self.places
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
