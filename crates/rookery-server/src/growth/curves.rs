//! What a layer grew before a curve of its masks was drawn anew, which holds but between the two curves.

use super::{Growths, SharedGround};
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::planting::Growth;
use rookery_core::planting::Rules;
use rookery_core::scene::{ContentKey, GroundId, Keyed, Layer, Mask, Response};
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

/// Growths that are remembered, at most.
const REMEMBERED: usize = 256;

/// The last growth of each layer on a ground as it is but for the curves of its masks, with those masks.
#[derive(Default)]
pub(super) struct Drawn(Mutex<HashMap<ContentKey, (ContentKey, Vec<Mask>)>>);

impl Drawn {
    /// Remembers what grew under a name.
    pub fn put(&self, rest: ContentKey, key: ContentKey, masks: Vec<Mask>) {
        let mut held = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if held.len() >= REMEMBERED {
            held.clear();
        }
        held.insert(rest, (key, masks));
    }

    fn get(&self, rest: &ContentKey) -> Option<(ContentKey, Vec<Mask>)> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner).get(rest).cloned()
    }
}

/// Names a layer's plants on a ground but for the curves of its masks; none where it has no masks.
pub(super) fn but_for_curves(document: &Keyed, layer: &Layer, id: GroundId) -> Option<ContentKey> {
    const NONE: Response = Response { start: 0.0, full_from: 0.0, full_to: 0.0, end: 0.0, inverted: false };
    let masks = layer.masks.iter().map(|m| Mask { response: NONE, ..*m }).collect();
    (!layer.masks.is_empty()).then(|| document.plants_key(&Layer { masks, ..layer.clone() }, id)).flatten()
}

impl Growths {
    /// What the layer grew there before curves of its masks were drawn anew, with its name and the masks of then, if it is at hand.
    pub(super) async fn before_curve(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        (id, ground): (GroundId, &SharedGround),
        rest: &ContentKey,
    ) -> Result<Option<(Arc<Growth>, ContentKey, Rules)>, ApiError> {
        let Some((key, masks)) = self.drawn.get(rest) else { return Ok(None) };
        let Some(growth) = self.plants.get(&key) else { return Ok(None) };
        let was = Layer { masks, ..layer.clone() };
        Ok(Some((growth, key, self.rules(db, document, &was, id, ground).await?)))
    }
}
