//! A place where a plant may stand, with a name that lasts.

/// Names a plant within its layer: the level, block and index of the candidate it grew from.
///
/// Packed as 8 bits of level, 20 of block east, 20 of block south and 16 of index. It depends on the seed only, so
/// it survives every change of amount, masks and stance.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, PartialOrd, Ord, bytemuck::Zeroable)]
pub struct PlantId(pub u64);

impl PlantId {
    /// Blocks are counted from the origin; this many lie on either side.
    pub const BLOCKS: i32 = 1 << 19;

    /// Packs a name. Blocks must lie within [`Self::BLOCKS`] of the origin.
    #[inline]
    pub fn pack(level: u8, block_x: i32, block_z: i32, index: u16) -> Self {
        debug_assert!(block_x.abs() < Self::BLOCKS && block_z.abs() < Self::BLOCKS);
        let x = (block_x + Self::BLOCKS) as u64 & 0xF_FFFF;
        let z = (block_z + Self::BLOCKS) as u64 & 0xF_FFFF;
        Self(u64::from(level) << 56 | x << 36 | z << 16 | u64::from(index))
    }
}

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
