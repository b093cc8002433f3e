//! Even places kept between edits of the same layer.

use super::SharedGround;
use rookery_core::ground::{GroundRef, KeptEven};
use rookery_core::scene::{ContentKey, Document, GroundId, Layer, Pattern, content_key};
use std::sync::{Arc, Mutex};

/// How many are kept; each takes 24 to 32 bytes a place.
const MOST: usize = 8;

type Key = (u32, ContentKey);

/// Last used at the end.
#[derive(Default)]
pub(super) struct Evens(Mutex<Vec<(Key, Arc<tokio::sync::Mutex<KeptEven>>)>>);

impl Evens {
    /// The even places of a layer's seed on a ground; fresh ones for other patterns, which do not use them.
    pub fn of(
        &self,
        document: &Document,
        id: GroundId,
        ground: &SharedGround,
        layer: &Layer,
    ) -> Arc<tokio::sync::Mutex<KeptEven>> {
        let ground = ground.as_ref();
        let fresh = || Arc::new(tokio::sync::Mutex::new(ground.no_even_places(layer.seed)));
        if layer.pattern != Pattern::Even {
            return fresh();
        }
        // Places depend on the size of a plan, and on the surface of a mesh, whatever it looks like and wherever it stands.
        let surface = match ground {
            GroundRef::Terrain(t) => content_key("plan", &t.terrain.size_m().to_array()),
            // Plants of another layer are another surface with every change of them.
            GroundRef::Mesh(_) if id == GroundId::PLANTS => return fresh(),
            GroundRef::Mesh(_) => content_key("surface", &document.placed(id).map(|g| (&g.source, g.scale))),
        };
        let key = (layer.seed, surface);
        let mut evens = self.0.lock().expect("nothing panics while holding it");
        let found = evens.iter().position(|(k, _)| *k == key).map(|i| evens.remove(i).1);
        let places = found.unwrap_or_else(fresh);
        if evens.len() >= MOST {
            evens.remove(0);
        }
        evens.push((key, places.clone()));
        places
    }
}
