//! Even places kept between edits of the same layer.

use super::SharedGround;
use super::slots::Slots;
use super::store::Store;
use rookery_core::ground::{GroundRef, KeptEven};
use rookery_core::scene::{ContentKey, GroundId, Keyed, Layer, Pattern, content_key};
use std::sync::Arc;

/// Even places of a seed on a ground. They grow as more are asked for, and one grows them at a time.
pub(super) type Even = Arc<tokio::sync::Mutex<KeptEven>>;

/// All that are kept, under the ceiling of everything else.
pub(super) struct Evens(Slots<tokio::sync::Mutex<KeptEven>>);

impl Evens {
    pub fn new(store: &Store) -> Self {
        Self(Slots::new(store, "even places"))
    }

    /// The even places of a layer's seed on a ground, with their name where they are to be kept; fresh ones for other patterns, which
    /// do not use them.
    pub fn get(
        &self,
        document: &Keyed,
        id: GroundId,
        ground: &SharedGround,
        layer: &Layer,
    ) -> (Option<ContentKey>, Even) {
        let ground = ground.as_ref();
        let fresh = || Arc::new(tokio::sync::Mutex::new(ground.no_even_places(layer.seed)));
        if layer.pattern != Pattern::Even {
            return (None, fresh());
        }
        // Places depend on the size of a plan, and on the surface of a mesh, whatever it looks like and wherever it stands.
        let surface = match ground {
            GroundRef::Terrain(t) => content_key("plan", &t.terrain.size_m().to_array()),
            // Plants of another layer are another surface with every change of them.
            GroundRef::Mesh(_) if id == GroundId::PLANTS => return (None, fresh()),
            GroundRef::Mesh(_) => {
                content_key("surface", &document.placed(id).map(|g| (g.source.clone(), g.scale)))
            }
        };
        let key = content_key("even places", &(layer.seed, surface.to_string()));
        (Some(key), self.0.get(&key).unwrap_or_else(fresh))
    }

    /// Keeps places as large as they are now.
    pub fn keep(&self, key: ContentKey, even: &Even, bytes: usize) {
        self.0.put(key, even.clone(), bytes);
    }
}
