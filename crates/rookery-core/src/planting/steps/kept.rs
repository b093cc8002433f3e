//! What a growth leaves for the next one, and what the next one starts from.

use super::Work;
use super::pieces::Span;
use super::room_again::Index;
use crate::document::Pattern;
use crate::ground::Surface;
use crate::habitat::{LookedAt, SurveyedRun};
use crate::planting::{Growth, Plant};
use std::any::Any;
use std::sync::Arc;

/// What growing again near a change starts from.
#[derive(Clone, Debug, Default)]
pub(in crate::planting) struct Kept {
    pub runs: Vec<SurveyedRun>,
    /// Of every place looked at, in the order of the pattern.
    pub verdicts: Vec<u16>,
    /// Whether every standing place became a plant: neither the total nor the cap cut anything off.
    pub whole: bool,
    /// The places themselves, as a list of the ground's own kind, shared with what grows from this.
    pub places: Option<Arc<dyn Any + Send + Sync>>,
    /// Where the plants come from, after an earlier growth.
    pub spans: Option<Vec<Span>>,
    /// Where the places lie, once that was asked.
    pub index: Option<Index>,
    /// The farthest any plant keeps its own kind away, metres.
    pub widest_m: f32,
    /// What the mask whose curve was drawn last looks at.
    pub looked_at: Option<Arc<LookedAt>>,
}

/// An earlier growth of the same layer, most of which still holds.
pub(in crate::planting) struct Before<'a, P> {
    pub verdicts: &'a [u16],
    /// The places themselves.
    pub places: Option<Arc<dyn Any + Send + Sync>>,
    /// The plants of all standing places, in their order, where neither the total nor the cap cut anything off.
    pub plants: Option<&'a [Plant]>,
    /// Where the places lie, where that is known.
    pub index: Option<Index>,
    /// The farthest any plant kept its own kind away, metres.
    pub widest_m: f32,
    /// Whether nothing changed at a place, which is named by its number among the candidates too.
    pub stays: &'a (dyn Fn(usize, &P) -> bool + Sync),
}

impl<'a, P> Before<'a, P> {
    /// What a growth is started from again.
    pub fn new(before: &'a Growth, stays: &'a (dyn Fn(usize, &P) -> bool + Sync)) -> Self {
        let kept = &before.kept;
        Self {
            verdicts: &kept.verdicts,
            places: kept.places.clone(),
            plants: kept.whole.then_some(before.plants.as_slice()),
            index: kept.index.clone(),
            widest_m: kept.widest_m,
            stays,
        }
    }
}

impl<S: Surface> Work<'_, S> {
    /// The earlier growth, where its places are those of now: random ones of another count come in another order, even
    /// ones never do.
    pub(super) fn before(&self, count: usize) -> Option<&Before<'_, S::Place>> {
        self.before.as_ref().filter(|b| self.layer.pattern == Pattern::Even || b.verdicts.len() == count)
    }
}
