//! All that growing a layer on one ground must know: its masks, and what its plants keep clear of, are and were.

use super::clearance::Clear;
use super::{Drifting, MeanCrown, Mix, Tending};
use crate::document::{Document, GroundId, Layer, Mask, Pattern};
use crate::habitat::{Given, Masks};
use crate::plan::outline::OutlineLine;
use std::ops::Deref;
use std::sync::Arc;

/// The masks of a layer on one ground, and what else its plants must know of the scene.
#[derive(Clone)]
pub struct Rules {
    masks: Masks,
    mix: Mix,
    crown: MeanCrown,
    /// The line that plants stand along.
    line: Option<Arc<OutlineLine>>,
    /// What plants keep clear of.
    clear: Clear,
    /// What was tended here.
    tending: Arc<Tending>,
    /// What was strewn here.
    drifting: Arc<Drifting>,
}

impl Rules {
    /// Masks of the ground itself, in the scene's own frame.
    pub fn plain(masks: &[Mask]) -> Self {
        Self::with(Masks::plain(masks))
    }

    fn with(masks: Masks) -> Self {
        Self {
            masks,
            mix: Mix::alone(1),
            crown: MeanCrown::UNIT,
            line: None,
            clear: Clear::default(),
            tending: Arc::default(),
            drifting: Arc::default(),
        }
    }

    /// The same, for the plants of a layer. They keep clear of their own kind alone.
    pub fn growing(self, document: &Document, layer: &Layer) -> Self {
        let along = layer.rows.line.filter(|_| layer.pattern == Pattern::Along);
        let line = along.and_then(|id| document.outlines.iter().find(|o| o.id == id));
        Self {
            mix: Mix::new(document, layer),
            crown: MeanCrown::new(document, layer),
            line: line.map(|o| Arc::new(OutlineLine::new(o))),
            clear: Clear::of_own(layer),
            ..self
        }
    }

    /// What was tended here.
    pub fn tending(&self) -> &Tending {
        &self.tending
    }

    /// What was strewn here.
    pub fn drifting(&self) -> &Drifting {
        &self.drifting
    }

    /// What plants keep clear of.
    pub fn clear(&self) -> &Clear {
        &self.clear
    }

    /// What grows.
    pub fn mix(&self) -> &Mix {
        &self.mix
    }

    /// The line that plants stand along, on the plan of the scene.
    pub fn line(&self) -> Option<&OutlineLine> {
        self.line.as_deref()
    }

    /// What its plants cover the ground with.
    pub fn crown(&self) -> &MeanCrown {
        &self.crown
    }

    /// The masks of a layer on a ground with these face groups, with what was computed for them there.
    pub fn on(
        document: &Document,
        layer: &Layer,
        ground: GroundId,
        groups: &[String],
        given: &Given,
    ) -> Self {
        let rules = Self::with(Masks::on(document, layer, ground, groups, given)).growing(document, layer);
        let zone = |i: usize| rules.masks.zone(i).cloned();
        let clear = Clear::new(document, layer, &given.claims, &given.obstacles, zone);
        let on_plan =
            document.placed(ground).is_none_or(|g| g.source.has_plan()) && ground != GroundId::PLANTS;
        let tending = Arc::new(Tending::new(layer, ground, on_plan));
        let drifting = Arc::new(Drifting::new(layer, ground));
        Self { clear, tending, drifting, ..rules }
    }
}

/// Asked as its masks are.
impl Deref for Rules {
    type Target = Masks;

    fn deref(&self) -> &Masks {
        &self.masks
    }
}
