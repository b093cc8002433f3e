//! What each response to what is too near would come to, on the same spot.

use crate::document::{Document, GroundId, Keep, LayerId, Reach, TooClose};
use crate::planting::clearance::fit::Fits;
use crate::planting::{Growth, Plant, PlantId, Reason};
use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};

/// What a layer keeps clear of in more ways than one.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Beside {
    /// Obstacles.
    Obstacles,
    /// Edges of zones.
    Edges,
    /// Tracks.
    Tracks,
}

impl Beside {
    /// The responses there are, the one without any first.
    fn responses(self) -> [Option<TooClose>; 4] {
        let third = match self {
            Self::Obstacles => TooClose::Bend,
            Self::Edges | Self::Tracks => TooClose::Trim,
        };
        [None, Some(TooClose::Remove), Some(TooClose::Shrink), Some(third)]
    }

    fn keep(self, document: &mut Document, layer: LayerId) -> Option<&mut Keep> {
        let layer = document.layers.iter_mut().find(|l| l.id == layer)?;
        Some(match self {
            Self::Obstacles => &mut layer.clearance.obstacles,
            Self::Edges => &mut layer.clearance.edges,
            Self::Tracks => &mut layer.clearance.tracks,
        })
    }

    fn reason(self) -> Reason {
        match self {
            Self::Obstacles => Reason::Obstacle,
            Self::Edges => Reason::Edge,
            Self::Tracks => Reason::Track,
        }
    }
}

/// What one response comes to.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct ResponseCount {
    /// Which; none where the layer would keep no distance at all.
    pub response: Option<TooClose>,
    /// Plants of the whole layer that stand.
    pub stand: u64,
    /// Plants refused for it.
    pub refused: u64,
    /// Plants that stand smaller than they would without it.
    pub smaller: u64,
    /// Plants that lean aside.
    pub bent: u64,
    /// Plants with parts cut off.
    pub trimmed: u64,
    /// Plants that stand and cannot be shown, because no bending helps.
    pub gone: u64,
}

/// The document with each response in turn, and what to call it.
pub fn with_responses(
    document: &Document,
    layer: LayerId,
    beside: Beside,
) -> Vec<(Option<TooClose>, Document)> {
    let with = |response: Option<TooClose>| {
        let mut other = document.clone();
        let keep = beside.keep(&mut other, layer)?;
        let by = if keep.is_on() { keep.by } else { Reach::Footprint };
        *keep = match response {
            Some(response) => Keep { by, response, ..*keep },
            None => Keep { by: Reach::Nothing, ..*keep },
        };
        Some((response, other))
    };
    beside.responses().into_iter().filter_map(with).collect()
}

/// Counts what one response came to; `free` is what grows where no distance is kept.
pub fn response_count(
    beside: Beside,
    response: Option<TooClose>,
    free: &Growth,
    grown: &Growth,
    fits: &Fits,
) -> ResponseCount {
    let name = |p: &Plant| (p.ground, p.id);
    let sizes: FxHashMap<(GroundId, PlantId), f32> = free.plants.iter().map(|p| (name(p), p.size)).collect();
    let smaller = |p: &&Plant| sizes.get(&name(p)).is_some_and(|size| p.size < size * 0.999);
    let refused = grown.tally.refused.iter().find(|r| r.reason == beside.reason()).map_or(0, |r| r.count);
    ResponseCount {
        response,
        stand: grown.plants.len() as u64,
        refused,
        smaller: (grown.plants.iter().filter(smaller).count() + fits.count(|h| h.smaller)) as u64,
        bent: fits.count(|h| h.bent) as u64,
        trimmed: fits.count(|h| h.trimmed) as u64,
        gone: fits.count(|h| h.gone) as u64,
    }
}
