//! From a survey of the ground to plants, a file a step: places, masks, room, standing within the budget, what hands did, the account.
//! Each step is a function of [`Work`]; [`Work::grow`] is all of them in order.

mod account;
mod budget;
mod by_hand;
mod kept;
mod masks;
mod pieces;
mod places;
mod room;
mod room_again;
mod stand;

pub(super) use kept::{Before, Kept};
pub use pieces::Span;

use super::{GrowError, Growth, Strewn};
use crate::cancel::CancelToken;
use crate::document::Layer;
use crate::ground::Surface;
use crate::habitat::{Allowed, SurveyedRun};
use crate::planting::Rules;
use budget::Wanted;
use room_again::Index;
use std::sync::Arc;

/// The verdict on a place that nothing refuses.
const STANDS: u16 = u16::MAX;
/// Places that one thread goes through in a row.
const CHUNK: usize = 4096;

/// Growing one layer on one ground.
pub(super) struct Work<'a, S: Surface> {
    pub ground: &'a S,
    pub layer: &'a Layer,
    pub rules: &'a Rules,
    pub before: Option<Before<'a, S::Place>>,
    /// What drifts strew; empty until it was looked for.
    pub strewn: Strewn,
    pub cancel: &'a CancelToken,
}

impl<S: Surface> Work<'_, S> {
    /// Grows from a survey of the ground.
    ///
    /// # Errors
    /// When it was stopped, or the amount asks for too many places.
    pub fn grow(&self, even: &mut S::Even, runs: Vec<SurveyedRun>) -> Result<Growth, GrowError> {
        let allowed = Allowed::together(&runs, self.rules.count(), self.ground.area_m2());
        // Places, masks and room, as often as the amount takes.
        let tried = self.tried(even, Wanted::new(self, allowed))?;
        let mut stood = self.stand(&tried.sieve)?;
        let by_hand = self.add_by_hand(&mut stood);
        Ok(self.account(tried, stood, by_hand, runs))
    }
}

/// Candidates with the place of the reason that refused each among all reasons, or [`STANDS`].
pub(super) struct Sieve<P> {
    pub candidates: Arc<Vec<P>>,
    pub verdicts: Vec<u16>,
    pub standing: usize,
    /// By run of candidates: whether anything may have changed in it since before.
    pub touched: Vec<bool>,
    /// Where the places lie, once that was asked.
    pub index: Option<Index>,
    /// The farthest any plant keeps its own kind away, metres.
    pub widest_m: f32,
}

/// How many of these stand.
fn standing(verdicts: &[u16]) -> usize {
    verdicts.iter().filter(|&&v| v == STANDS).count()
}
