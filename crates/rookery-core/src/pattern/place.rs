//! A place where a plant may stand, with a name that lasts.

use crate::names::PlantId;

/// A place where a plant may stand, on any ground.
pub trait Place: Copy + Send + Sync + 'static {
    /// Candidates appear in the order of this number, then of their name.
    fn birth(&self) -> f32;
    /// Lasting name.
    fn id(&self) -> PlantId;

    /// The order in which candidates appear.
    #[inline]
    fn order(&self, other: &Self) -> std::cmp::Ordering {
        self.birth().total_cmp(&other.birth()).then(self.id().cmp(&other.id()))
    }
}

/// A place on the plan of a terrain.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Candidate {
    /// East, metres.
    pub x: f32,
    /// South, metres.
    pub z: f32,
    /// Candidates appear in the order of this number, then of `id`.
    pub birth: f32,
    /// Lasting name.
    pub id: PlantId,
}

impl Place for Candidate {
    #[inline]
    fn birth(&self) -> f32 {
        self.birth
    }

    #[inline]
    fn id(&self) -> PlantId {
        self.id
    }
}

/// A place on a mesh.
#[derive(Clone, Copy, Debug, PartialEq, bytemuck::Zeroable)]
pub struct MeshPlace {
    /// The triangle it lies on.
    pub face: u32,
    /// Share of the triangle's second corner.
    pub v: f32,
    /// Share of the triangle's third corner.
    pub w: f32,
    /// Candidates appear in the order of this number, then of `id`.
    pub birth: f32,
    /// Lasting name. Its blocks are the run of triangles and the share of their area.
    pub id: PlantId,
}

impl Place for MeshPlace {
    #[inline]
    fn birth(&self) -> f32 {
        self.birth
    }

    #[inline]
    fn id(&self) -> PlantId {
        self.id
    }
}

/// The most places one layer may look at; keeps memory under about 2 GB.
pub const MAX_CANDIDATES: u64 = 30_000_000;
