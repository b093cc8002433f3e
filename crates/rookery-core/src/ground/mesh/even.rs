//! Even places on a mesh: progressive blue noise by dart throwing with a falling radius, as on a terrain.
//!
//! Source: McCool & Fiume, "Hierarchical Poisson Disk Sampling Distributions", Graphics Interface 1992. Darts are thrown
//! uniformly by area; one becomes a place once no place on the same side of the surface is nearer than the radius, as
//! the crow flies. Darts are settled cell by cell of a grid in space, in eight passes, no two cells of a pass within reach of
//! each other, so the answer does not depend on the number of threads.

use super::MeshSpot;
use super::bodies::Part;
use crate::cancel::{CancelToken, Cancelled};
use crate::math::hash::{Channel, draw, unit};
use crate::pattern::{MeshPlace, Place};
use glam::{IVec3, Vec3};
use rayon::prelude::*;
use rustc_hash::FxHashMap;
use std::sync::atomic::{AtomicU32, Ordering};

/// Radius at the start, metres; so large that most meshes hold few such points.
const FIRST_RADIUS_M: f32 = 64.0;
/// Radius steps in one stage; over a stage the radius falls by the square root of two and the count doubles.
const STEPS: u32 = 32;
/// No dart lands nearer than 64 m / 2^14 = 4 mm.
const MAX_STAGES: u8 = 28;
/// Darts of a stage on each square of its first radius. Over nine amounts and six seeds half the smallest distance was at
/// least 0.66 of the most that is possible with 8 darts and 32 steps, 0.65 with 10 darts and 8 steps, 0.62 with 4 and 8.
const DARTS: f64 = 8.0;
/// Surfaces whose normals part by more than this (its cosine) are two sides of a sheet and do not crowd each other.
const OTHER_SIDE: f32 = -0.3;
const NONE: u32 = u32::MAX;

/// Even places on one mesh for one seed, made as far as they were asked for.
#[derive(Debug)]
pub struct EvenOnMesh {
    pub(super) seed: u32,
    /// In order of appearance.
    places: Vec<MeshPlace>,
    /// Stages completed, and how many places they hold.
    stages: u8,
    complete: usize,
    /// Of each body for itself, where the mesh is made of bodies; then there is nothing above.
    pub(super) bodies: Vec<EvenOnMesh>,
}

impl EvenOnMesh {
    pub(super) fn new(seed: u32) -> Self {
        Self { seed, places: Vec::new(), stages: 0, complete: 0, bodies: Vec::new() }
    }

    /// On something so small that stages of a larger radius hold one place at most.
    pub(super) fn across(seed: u32, across_m: f32) -> Self {
        let skipped = (2.0 * libm::log2f(FIRST_RADIUS_M / across_m.max(1e-3))).floor();
        Self { stages: skipped.clamp(0.0, f32::from(MAX_STAGES - 1)) as u8, ..Self::new(seed) }
    }

    /// What the places take, bytes.
    pub(in crate::ground) fn bytes(&self) -> usize {
        let bodies = self.bodies.iter().map(|own| size_of::<Self>() + own.bytes());
        self.places.capacity() * size_of::<MeshPlace>() + bodies.sum::<usize>()
    }

    /// The first `count` places in order of appearance. Earlier places never change as more are asked for.
    ///
    /// # Errors
    /// [`Cancelled`]; what was complete is kept.
    pub(super) fn first(
        &mut self,
        part: Part<'_>,
        count: usize,
        cancel: &CancelToken,
    ) -> Result<Vec<MeshPlace>, Cancelled> {
        while self.places.len() < count && self.stages < MAX_STAGES {
            self.places.truncate(self.complete);
            let mut stage = Stage::new(part, self.seed, self.stages, &self.places);
            let mut step = 0;
            while step < STEPS && self.places.len() < count {
                self.places.extend(stage.step(step, cancel)?);
                step += 1;
            }
            if step == STEPS {
                self.stages += 1;
                self.complete = self.places.len();
            }
        }
        Ok(self.places[..count.min(self.places.len())].to_vec())
    }
}

/// A point that keeps others away.
#[derive(Clone, Copy)]
struct Standing {
    position: Vec3,
    normal: Vec3,
    /// The one that came to stand in the same cell before it.
    before: u32,
}

/// A dart that may still become a place.
#[derive(Clone, Copy)]
struct Dart {
    cell: u32,
    position: Vec3,
    normal: Vec3,
    place: MeshPlace,
}

/// The darts of a cell.
struct Cell {
    darts: std::ops::Range<usize>,
    /// Cells about it, itself included.
    about: std::ops::Range<usize>,
    /// How many stood when its darts were last looked at.
    seen: AtomicU32,
    /// The largest of their `nearest_2`, as its bits: at a larger radius there is nothing to look at.
    best_2: AtomicU32,
}

struct Stage {
    seed: u32,
    level: u8,
    /// The last point that stands in each cell.
    heads: Vec<u32>,
    standing: Vec<Standing>,
    darts: Vec<Dart>,
    /// Square of each dart's distance to what stands, as its bits; below all distances once it stands or can stand
    /// no more.
    nearest_2: Vec<AtomicU32>,
    abouts: Vec<u32>,
    passes: [Vec<Cell>; 8],
}

fn radius(level: u8, step: f32) -> f32 {
    FIRST_RADIUS_M * libm::exp2f(-0.5 * (f32::from(level) + step / STEPS as f32))
}

impl Stage {
    fn new(part: Part<'_>, seed: u32, level: u8, places: &[MeshPlace]) -> Self {
        let first = radius(level, 0.0);
        let low = part.low();
        let at = |p: Vec3| key(((p - low) / first).floor().as_ivec3());
        let spot = |p: &MeshPlace| {
            let spot = part.model.spot_on(p.face, p.v, p.w);
            MeshSpot { position_m: part.local(spot.position_m), ..spot }
        };
        let placed = places.par_iter().map(|p| {
            let MeshSpot { position_m: position, normal, .. } = spot(p);
            (at(position), Standing { position, normal, before: NONE })
        });
        let mut placed: Vec<(u64, Standing)> = placed.collect();
        placed.par_sort_by_key(|(key, _)| *key);
        let taken = Taken::new(&placed, low, radius(level, (STEPS - 1) as f32));
        let density = DARTS / f64::from(first * first);
        let thrown = part.runs.up_to_density(seed, level, density, |part| {
            let darts = part.into_iter().map(|place| {
                let MeshSpot { position_m: position, normal, .. } = spot(&place);
                (at(position), Dart { cell: NONE, position, normal, place })
            });
            darts.filter(|(_, d)| !taken.covers(d.position, d.normal)).collect()
        });
        let mut thrown: Vec<(u64, Dart)> = thrown.concat();
        thrown.par_sort_by_key(|(key, _)| *key);
        let cells = merged(&thrown, &placed);
        let mut heads = vec![NONE; cells.len()];
        let mut standing = Vec::with_capacity(places.len() * 2);
        let mut cell = 0;
        for (key, point) in placed {
            cell += cells[cell..].iter().take_while(|k| **k < key).count();
            standing.push(Standing { before: heads[cell], ..point });
            heads[cell] = standing.len() as u32 - 1;
        }
        let mut ranges: Vec<(u32, std::ops::Range<usize>)> = Vec::new();
        let mut cell = 0;
        let mut darts = Vec::with_capacity(thrown.len());
        for (i, (key, dart)) in thrown.into_iter().enumerate() {
            cell += cells[cell..].iter().take_while(|k| **k < key).count();
            match ranges.last_mut() {
                Some((last, range)) if *last as usize == cell => range.end = i + 1,
                _ => ranges.push((cell as u32, i..i + 1)),
            }
            darts.push(Dart { cell: cell as u32, ..dart });
        }
        let abouts = abouts(&cells, &ranges);
        let far = f32::INFINITY.to_bits();
        let mut passes: [Vec<Cell>; 8] = Default::default();
        let mut flat = Vec::new();
        for ((cell, darts), about) in ranges.into_iter().zip(abouts.into_iter().flatten()) {
            let pass = (unkey(cells[cell as usize]) & 1).dot(IVec3::new(1, 2, 4)) as usize;
            let start = flat.len();
            flat.extend(about.into_iter().filter(|c| *c != NONE));
            passes[pass].push(Cell {
                darts,
                about: start..flat.len(),
                seen: AtomicU32::new(0),
                best_2: AtomicU32::new(far),
            });
        }
        let nearest_2 = darts.iter().map(|_| AtomicU32::new(far)).collect();
        Self { seed, level, heads, standing, darts, nearest_2, abouts: flat, passes }
    }

    /// Settles the darts at one radius and returns the places that were added, in order of appearance.
    fn step(&mut self, step: u32, cancel: &CancelToken) -> Result<Vec<MeshPlace>, Cancelled> {
        let reach = radius(self.level, step as f32);
        let last = radius(self.level, (STEPS - 1) as f32);
        let mut found = Vec::new();
        for pass in 0..8 {
            if cancel.is_cancelled() {
                return Err(Cancelled);
            }
            let taken: Vec<u32> = self.passes[pass]
                .par_iter()
                .with_min_len(64)
                .flat_map_iter(|cell| self.settle(cell, reach * reach, last * last))
                .collect();
            for i in taken {
                let dart = self.darts[i as usize];
                let head = &mut self.heads[dart.cell as usize];
                self.standing.push(Standing { position: dart.position, normal: dart.normal, before: *head });
                *head = self.standing.len() as u32 - 1;
                found.push(self.place(&dart, step));
            }
        }
        found.par_sort_unstable_by(MeshPlace::order);
        Ok(found)
    }

    /// The darts of a cell that stand at this radius. Those that can stand at no later one are done with.
    fn settle(&self, cell: &Cell, reach_2: f32, last_2: f32) -> Vec<u32> {
        if f32::from_bits(cell.best_2.load(Ordering::Relaxed)) < reach_2 {
            return Vec::new();
        }
        let seen = cell.seen.swap(self.standing.len() as u32, Ordering::Relaxed);
        // What came to stand about the cell since then; the newest of a cell lead to the older ones.
        let mut fresh: Vec<(Vec3, Vec3)> = Vec::new();
        for about in &self.abouts[cell.about.clone()] {
            let mut next = self.heads[*about as usize];
            while next != NONE && next >= seen {
                let other = &self.standing[next as usize];
                fresh.push((other.position, other.normal));
                next = other.before;
            }
        }
        let mut taken: Vec<u32> = Vec::new();
        let mut best_2 = f32::NEG_INFINITY;
        for i in cell.darts.clone() {
            let known = f32::from_bits(self.nearest_2[i].load(Ordering::Relaxed));
            if known == f32::NEG_INFINITY {
                continue;
            }
            let dart = &self.darts[i];
            let mut nearest_2 = known;
            for (position, normal) in &fresh {
                let away_2 = position.distance_squared(dart.position);
                if away_2 < nearest_2 && normal.dot(dart.normal) > OTHER_SIDE {
                    nearest_2 = away_2;
                }
            }
            let stands = nearest_2 >= reach_2;
            if stands {
                // It keeps away the later darts of its own cell, this time and ever after.
                fresh.push((dart.position, dart.normal));
                taken.push(i as u32);
            }
            let kept = if stands || nearest_2 < last_2 { f32::NEG_INFINITY } else { nearest_2 };
            best_2 = best_2.max(kept);
            self.nearest_2[i].store(kept.to_bits(), Ordering::Relaxed);
        }
        cell.best_2.store(best_2.to_bits(), Ordering::Relaxed);
        taken
    }

    fn place(&self, dart: &Dart, step: u32) -> MeshPlace {
        let order = unit(draw(self.seed, dart.place.id.0, Channel::Order)[0]);
        MeshPlace { birth: (u32::from(self.level) * STEPS + step) as f32 + order, ..dart.place }
    }
}

/// Where no dart can become a place, since one stands within the smallest radius of the stage.
struct Taken<'a> {
    placed: &'a [(u64, Standing)],
    /// Those of each cell, by the cell's key.
    cells: FxHashMap<u64, std::ops::Range<u32>>,
    /// Of these by their cell; the list above is sorted by other cells.
    order: Vec<u32>,
    low: Vec3,
    reach: f32,
}

impl<'a> Taken<'a> {
    fn new(placed: &'a [(u64, Standing)], low: Vec3, reach: f32) -> Self {
        let at = |p: &Standing| key(((p.position - low) / (2.0 * reach)).floor().as_ivec3());
        let mut keyed: Vec<(u64, u32)> =
            placed.par_iter().enumerate().map(|(i, (_, p))| (at(p), i as u32)).collect();
        keyed.par_sort_unstable();
        let mut cells = FxHashMap::default();
        let mut start = 0;
        for same in keyed.chunk_by(|a, b| a.0 == b.0) {
            cells.insert(same[0].0, start..start + same.len() as u32);
            start += same.len() as u32;
        }
        Self { placed, cells, order: keyed.into_iter().map(|(_, i)| i).collect(), low, reach }
    }

    fn covers(&self, position: Vec3, normal: Vec3) -> bool {
        // Cells are twice the reach wide: what is within it lies in the eight cells about the nearest corner.
        let corner = ((position - self.low) / (2.0 * self.reach) - 0.5).floor().as_ivec3();
        (0..8).any(|i| {
            let cell = corner + IVec3::new(i & 1, i >> 1 & 1, i >> 2);
            self.cells.get(&key(cell)).is_some_and(|range| {
                self.order[range.start as usize..range.end as usize].iter().any(|i| {
                    let other = &self.placed[*i as usize].1;
                    other.position.distance_squared(position) < self.reach * self.reach
                        && other.normal.dot(normal) > OTHER_SIDE
                })
            })
        })
    }
}

/// The keys of two sorted lists, each once.
fn merged<A, B>(a: &[(u64, A)], b: &[(u64, B)]) -> Vec<u64> {
    let (mut a, mut b) = (a.iter().map(|k| k.0).peekable(), b.iter().map(|k| k.0).peekable());
    let mut out: Vec<u64> = Vec::new();
    loop {
        let next = match (a.peek(), b.peek()) {
            (Some(x), Some(y)) if x <= y => a.next(),
            (Some(_), None) => a.next(),
            _ => b.next(),
        };
        match next {
            Some(key) if out.last() == Some(&key) => {}
            Some(key) => out.push(key),
            None => return out,
        }
    }
}

/// For each of some cells the places of the cells about it in the sorted list of all, itself included; [`NONE`] where there
/// is nothing.
fn abouts(cells: &[u64], of: &[(u32, std::ops::Range<usize>)]) -> Vec<Vec<[u32; 27]>> {
    of.par_chunks(4096)
        .map(|chunk| {
            // Keys rise along z, so each row of three cells lies together; the nine rows are followed as the keys rise.
            let mut rows = [None; 9];
            chunk
                .iter()
                .map(|(cell, _)| {
                    let here = unkey(cells[*cell as usize]);
                    let mut out = [NONE; 27];
                    for (r, row) in rows.iter_mut().enumerate() {
                        let (dx, dy) = (r as i32 / 3 - 1, r as i32 % 3 - 1);
                        let first = key(here + IVec3::new(dx, dy, -1));
                        let mut at = row.unwrap_or_else(|| cells.partition_point(|k| *k < first));
                        while at < cells.len() && cells[at] < first {
                            at += 1;
                        }
                        *row = Some(at);
                        for k in 0..3 {
                            if cells.get(at + k).is_some_and(|c| *c <= first + 2) {
                                out[r * 3 + k] = (at + k) as u32;
                            }
                        }
                    }
                    out
                })
                .collect()
        })
        .collect()
}

/// A cell's numbers in one word; 21 bits each reach over any mesh.
fn key(cell: IVec3) -> u64 {
    let part = |v: i32| (v + (1 << 20)) as u64 & 0x1F_FFFF;
    part(cell.x) << 42 | part(cell.y) << 21 | part(cell.z)
}

fn unkey(key: u64) -> IVec3 {
    let part = |shift: u32| ((key >> shift) & 0x1F_FFFF) as i32 - (1 << 20);
    IVec3::new(part(42), part(21), part(0))
}
