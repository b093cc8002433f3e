//! Fifth step: what was strewn and set by hand comes last; no total and no cap takes it.

use super::Work;
use super::pieces::Span;
use super::stand::Stood;
use crate::ground::Surface;

/// How many plants came from hands.
#[derive(Clone, Copy)]
pub(super) struct ByHand {
    /// Set one by one.
    pub set: usize,
    /// Strewn by drifts.
    pub strewn: usize,
}

impl<S: Surface> Work<'_, S> {
    /// Adds them to what stands.
    pub(super) fn add_by_hand(&self, stood: &mut Stood) -> ByHand {
        let Stood { plants, refused, spans } = stood;
        let grown = plants.len();
        plants.extend(&self.strewn.plants);
        let strewn = plants.len() - grown;
        for (refused, fallen) in refused[self.layer.masks.len()..].iter_mut().zip(&self.strewn.fallen) {
            refused.count += fallen;
        }
        plants.extend(self.rules.tending().plants(self.ground, self.rules.mix()));
        let set = plants.len() - grown - strewn;
        if let Some(spans) = spans
            && plants.len() > grown
        {
            spans.push(Span { kept: 0..0, grown: plants.len() - grown });
        }
        ByHand { set, strewn }
    }
}
