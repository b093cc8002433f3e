//! Derived data: grounds and plants, computed when asked for and kept while there is room.
//!
//! Everything is named by the hash of what it depends on, so nothing here is ever out of date, and losing it all
//! loses nothing.

mod balls;
mod curves;
mod evens;
mod findings;
mod fits;
mod flow;
mod given;
mod imports;
mod land;
mod local;
mod nursery;
mod obstacles;
mod pictures;
mod placed;
mod plants;
mod shelf;
mod slots;
mod store;
mod work;

pub use nursery::{FormSize, StandIn};
pub use pictures::textures_key;
pub use placed::SharedGround;
pub use shelf::Shelf;
pub use work::{Pool, pool};

use crate::db::{Db, blobs};
use crate::error::ApiError;
use crate::reading::{Kind, Readers};
use axum::body::Bytes;
use curves::Drawn;
use evens::Evens;
use local::Lasts;
use rookery_core::air::Flow;
use rookery_core::ground::{AnyGround, GroundModel};
use rookery_core::habitat::Crowns;
use rookery_core::math::mesh_distance::MeshDistance;
use rookery_core::motion::Moving;
use rookery_core::nursery::Mesh;
use rookery_core::planting::Growth;
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::scene::{BlobId, ContentKey, Pixels};
use rookery_core::textures::Sheets;
use slots::Slots;
use std::sync::Arc;
use store::Store;

/// The most bytes of derived data that are kept where nothing else is said.
pub const USUAL_CEILING: usize = 4 << 30;

/// The cache and the threads that fill it.
pub struct Growths {
    pool: Pool,
    readers: Readers,
    lands: Slots<GroundModel>,
    placed: Slots<AnyGround>,
    /// By layer and ground, in the ground's own frame.
    plants: Slots<Growth>,
    /// By layer, in the scene's frame.
    layers: Slots<Growth>,
    readings: Slots<Vec<f32>>,
    /// Obstacles as distances are asked of them.
    distances: Slots<MeshDistance>,
    obstacles: Slots<Mesh>,
    /// By species in a season.
    forms: Slots<[FormSize; 3]>,
    stand_ins: Slots<Vec<StandIn>>,
    portraits: Slots<Vec<u8>>,
    /// Species read from files: for each form the full, light and far mesh.
    imports: Slots<Vec<[Mesh; 3]>>,
    /// Pictures over the plan, by their file.
    pictures: Slots<Pixels>,
    /// What earths show in.
    sheets: Slots<Sheets>,
    /// Plants as balls: crowns, and what layers claim.
    balls: Slots<Crowns>,
    /// Plants with forms of their own.
    fits: Slots<Fits>,
    /// The mean wind over the land, by the side it comes from.
    flows: Slots<Flow>,
    movings: Slots<Moving>,
    /// What is sent to browsers, as it is sent.
    buffers: Slots<Bytes>,
    evens: Arc<Evens>,
    /// Holds all of these under one ceiling.
    store: Store,
    lasts: Lasts,
    drawn: Drawn,
    /// Holds what the next start would compute again; none where there is no folder for it.
    shelf: Option<Shelf>,
}

impl Growths {
    /// An empty cache that keeps no more than `ceiling` bytes; files are read by these readers first. How species look is kept on the
    /// shelf, where there is one.
    pub fn new(readers: Readers, ceiling: usize, shelf: Option<Shelf>) -> Self {
        let store = Store::new(ceiling);
        Self {
            readers,
            pool: pool("growth"),
            lands: Slots::new(&store, "land"),
            placed: Slots::new(&store, "ground"),
            plants: Slots::new(&store, "plants"),
            layers: Slots::new(&store, "layer"),
            readings: Slots::new(&store, "reading"),
            distances: Slots::new(&store, "distance"),
            obstacles: Slots::new(&store, "obstacle"),
            forms: Slots::new(&store, "forms"),
            stand_ins: Slots::new(&store, "stand-ins"),
            portraits: Slots::new(&store, "portrait"),
            imports: Slots::new(&store, "import"),
            pictures: Slots::new(&store, "picture"),
            sheets: Slots::new(&store, "textures"),
            balls: Slots::new(&store, "balls"),
            fits: Slots::new(&store, "fits"),
            flows: Slots::new(&store, "flow"),
            movings: Slots::new(&store, "moving"),
            buffers: Slots::new(&store, "buffer"),
            evens: Arc::new(Evens::new(&store)),
            store,
            lasts: Lasts::default(),
            drawn: Drawn::default(),
            shelf,
        }
    }
}

impl Growths {
    /// Those who read files first.
    pub fn readers(&self) -> &Readers {
        &self.readers
    }

    /// A stored file that may be read here as this, since it was so by a process of its own; none when it is not there.
    async fn stored(&self, db: &Db, blob: &BlobId, kind: Kind) -> Result<Option<Vec<u8>>, ApiError> {
        let found = blobs::fetch_to_read(&mut db.get().await?, blob, kind).await;
        let (bytes, was_read) = match found {
            Ok(found) => found,
            Err(ApiError::NotFound(_)) => return Ok(None),
            Err(e) => return Err(e),
        };
        if !was_read {
            self.readers.read(kind, &bytes).await?;
            blobs::was_read(&mut db.get().await?, blob, kind).await?;
        }
        Ok(Some(bytes))
    }

    /// Bytes of derived data that are kept, and the most that are.
    pub fn kept_bytes(&self) -> [usize; 2] {
        [self.store.bytes(), self.store.ceiling()]
    }

    /// A buffer for the view, encoded when it is not at hand. `name` says of what; it must name the contents.
    ///
    /// # Errors
    /// Those of the encoding.
    pub async fn buffer(
        &self,
        name: ContentKey,
        encode: impl FnOnce() -> Vec<u8> + Send + 'static,
    ) -> Result<Bytes, ApiError> {
        let make = async {
            let bytes = self.pool.run(move |_| Ok(Bytes::from(encode()))).await?;
            let length = bytes.len();
            Ok((bytes, length))
        };
        Ok(Bytes::clone(&*self.buffers.get_or_make(name, make).await?))
    }

    /// What outlives the server, where it has a folder for it.
    pub fn shelf(&self) -> Option<&Shelf> {
        self.shelf.as_ref()
    }

    /// The threads, for other work of the same kind.
    pub fn pool(&self) -> &Pool {
        &self.pool
    }
}
