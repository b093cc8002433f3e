//! What a layer grew before something beside it changed: an obstacle, what was tended, plants that claim their ground first. Where
//! that changed only within a part of the plan, the rest still holds.

use super::Growths;
use crate::db::Db;
use crate::error::ApiError;
use glam::{Vec2, Vec3};
use rookery_core::ground::{Frame, PlanBox};
use rookery_core::habitat::{Needs, reach_of_stroke};
use rookery_core::planting::Rules;
use rookery_core::planting::{Growth, Plant, grown_on};
use rookery_core::scene::{
    Clearance, ContentKey, Document, Drives, GroundId, Keyed, Layer, LayerId, ObstacleId, Stroke, Tended,
};
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

/// What the last edit changed.
pub(super) enum Changed {
    /// The ground itself, under this stroke, and what lies around within these parts of the plan.
    Sculpted(Stroke, Vec<PlanBox>),
    /// A painting, or what lies around, within these parts of the plan.
    Within(Vec<PlanBox>),
    /// Curves of its masks, which were these.
    Curves(Box<Rules>),
}

/// Growths that are remembered, at most.
const REMEMBERED: usize = 256;

/// All that may change beside a layer without changing the rest of it.
#[derive(Clone)]
pub(super) struct Around {
    obstacles: Vec<(ObstacleId, ContentKey, Option<PlanBox>)>,
    tended: Vec<Tended>,
    claims: Vec<(LayerId, ContentKey)>,
}

/// The last growth of each layer as it is but for what lies around it.
#[derive(Default)]
pub(super) struct Lasts(Mutex<HashMap<ContentKey, (ContentKey, Around)>>);

impl Lasts {
    /// Remembers what grew under a name.
    pub fn put(&self, rest: ContentKey, key: ContentKey, around: Around) {
        let mut held = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if held.len() >= REMEMBERED {
            held.clear();
        }
        held.insert(rest, (key, around));
    }

    fn get(&self, rest: &ContentKey) -> Option<(ContentKey, Around)> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner).get(rest).cloned()
    }
}

/// An earlier growth with its name, and where anything around it changed since.
type Found = (Arc<Growth>, ContentKey, Vec<PlanBox>);

/// Parts of the plan, each by itself.
#[derive(Default)]
struct Parts(Vec<PlanBox>);

impl Parts {
    fn add(&mut self, low: Vec2, high: Vec2) {
        self.0.push(PlanBox { low, high });
    }

    fn add_ball(&mut self, at: Vec3, radius_m: f32) {
        let at = Vec2::new(at.x, at.z);
        self.add(at - radius_m, at + radius_m);
    }
}

impl Growths {
    /// What a layer grew on a ground before the last stroke of a tool or a brush, when that is at hand, and what the stroke
    /// changed.
    pub(super) fn before_stroke(
        &self,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
    ) -> Option<(Arc<Growth>, ContentKey, Changed)> {
        let needs = Needs::with(document, document.claims(), layer);
        let looked_at = || needs.claims.iter().chain(&needs.layers).filter_map(|id| document.layer(*id));
        let kept = |before: &Keyed| {
            let key = before.plants_key(layer, id)?;
            Some((self.plants.get(&key)?, key))
        };
        // Whichever of the two was made last, the other is the same before and after.
        for paint in layer.masks.iter().filter_map(|m| m.paint) {
            let mut before = Document::clone(document);
            let stroke = before.paints.iter_mut().find(|p| p.id == paint).and_then(|p| p.strokes.pop());
            // Paint changes nothing else that a layer looks at but plants of layers that look at it too.
            let before = document.after(before);
            let plants = |d: &Keyed| -> Vec<ContentKey> { looked_at().map(|l| d.layer_key(l)).collect() };
            if plants(&before) != plants(document) {
                continue;
            }
            if let Some(((found, key), stroke)) = stroke.and_then(|s| Some((kept(&before)?, s))) {
                return Some((found, key, Changed::Within(vec![reach_of_stroke(&stroke)])));
            }
        }
        // What is worked out of the whole ground, or of other things that stand on it, changes elsewhere too.
        if !needs.local() {
            return None;
        }
        let (before, stroke) = document.before_last_stroke(id)?;
        let (found, key) = kept(&document.after(before))?;
        Some((found, key, Changed::Sculpted(stroke, Vec::new())))
    }

    /// What lies around a layer on a ground; none where it looks at more than can be told apart so.
    pub(super) async fn around(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
    ) -> Result<Option<(ContentKey, Around)>, ApiError> {
        let driven = layer.masks.iter().any(|m| m.enabled && matches!(m.drives, Drives::Size { .. }));
        let Some(rest) = document.plants_key_but_for_what_is_around(layer, id).filter(|_| !driven) else {
            return Ok(None);
        };
        let mut around = Around { obstacles: Vec::new(), tended: layer.tended.clone(), claims: Vec::new() };
        if layer.clearance.obstacles.is_on() {
            for o in &document.obstacles {
                let bounds = self.distance_to(db, document, o).await?.bounds();
                let plan = |p: Vec3| Vec2::new(p.x, p.z);
                let bounds = bounds.map(|(low, high)| PlanBox { low: plan(low), high: plan(high) });
                around.obstacles.push((o.id, document.obstacle_key(o), bounds));
            }
        }
        if layer.clearance.others.is_on() {
            for id in document.claims().over(layer.id) {
                let Some(other) = document.layer(*id) else { continue };
                around.claims.push((*id, document.layer_key(other)));
            }
        }
        Ok(Some((rest, around)))
    }

    /// The last growth of the layer and the part of the plan where anything around it changed since; none where that cannot be told.
    pub(super) async fn before_change(
        &self,
        db: &Db,
        document: &Keyed,
        (layer, id): (&Layer, GroundId),
        rest: &ContentKey,
        now: &Around,
    ) -> Result<Option<Found>, ApiError> {
        let Some((key, then)) = self.lasts.get(rest) else { return Ok(None) };
        let Some(growth) = self.plants.get(&key) else { return Ok(None) };
        let mut reach = Parts::default();
        let frame = document.frame(id);
        for (a, b) in [(&then, now), (now, &then)] {
            for o in a.obstacles.iter().filter(|o| !b.obstacles.iter().any(|p| (p.0, p.1) == (o.0, o.1))) {
                let Some(bounds) = o.2 else { continue };
                reach.add(bounds.low, bounds.high);
            }
            for t in a.tended.iter().filter(|t| t.ground == id && !b.tended.contains(t)) {
                let size = t.plant.as_ref().map_or(0.0, |p| p.size * p.stretch[1].max(1.0));
                reach.add_ball(frame.point(t.at_m.into()), t.room_m + size * widest_m(document, layer));
                // The plant it was taken from stood somewhere else, maybe.
                let Some(from) = t.from.as_ref().filter(|o| o.seed == layer.seed).and_then(|o| o.plant())
                else {
                    continue;
                };
                let Some(spot) = growth.place_of(from) else { return Ok(None) };
                let spot = frame.plan(spot);
                reach.add(spot, spot);
            }
        }
        // Otherwise the reasons that were noted down mean others now.
        if then.claims.len() != now.claims.len() || then.obstacles.is_empty() != now.obstacles.is_empty() {
            return Ok(None);
        }
        for ((id, old), (other_id, new)) in then.claims.iter().zip(&now.claims) {
            let Some(other) = document.layer(*id).filter(|_| id == other_id) else { return Ok(None) };
            if old == new {
                continue;
            }
            let grown = Box::pin(self.plants_next(db, document, other)).await?;
            let since = grown.since.filter(|since| document.layer_from(other, since) == Some(*old));
            let Some(from) = since.and_then(|since| self.plants.get(&since)) else { return Ok(None) };
            let Some(spans) = grown.spans() else { return Ok(None) };
            let widest = widest_m(document, other);
            // Those of before lie in the frame of their one ground.
            let theirs = grown_on(document, other).first().map_or(Frame::SCENE, |id| document.frame(*id));
            let mut changed = |frame: &Frame, p: &Plant| {
                reach.add_ball(frame.point(p.position_m), widest * p.size * p.stretch[1].max(1.0));
            };
            let (mut old, mut new, mut old_at) = (from.plants.iter(), grown.plants.iter(), 0);
            for span in spans {
                let left = span.kept.start.saturating_sub(old_at);
                old.by_ref().take(left).for_each(|p| changed(&theirs, p));
                let kept = span.kept.end.max(old_at) - (old_at + left);
                old.by_ref().take(kept).for_each(drop);
                old_at += left + kept;
                new.by_ref().take(span.kept.len()).for_each(drop);
                new.by_ref().take(span.grown).for_each(|p| changed(&Frame::SCENE, p));
            }
            old.for_each(|p| changed(&theirs, p));
        }
        let c = &layer.clearance;
        let margin = [c.own, c.others, c.obstacles].iter().map(|k| k.margin_m).fold(0.0, f32::max);
        let stance = &layer.stance;
        let across = stance.size.max * stance.deep.max.max(1.0);
        // Beside what a plant reaches, a little for what is lost in rounding.
        let own = widest_m(document, layer) * across + margin + stance.shift_m + 0.01;
        Ok(Some((growth, key, reach.0.iter().map(|b| b.grown(own)).collect())))
    }

    /// What a layer grew on a ground before its last stroke of a sculpting tool, where only what lies around it may have changed besides.
    pub(super) async fn before_sculpting(
        &self,
        db: &Db,
        document: &Keyed,
        (layer, id): (&Layer, GroundId),
        now: &Around,
    ) -> Result<Option<(Arc<Growth>, ContentKey, Changed)>, ApiError> {
        let by_masks_alone = Layer { clearance: Clearance::default(), ..layer.clone() };
        let Some((before, stroke)) = document.before_last_stroke(id) else { return Ok(None) };
        if !Needs::with(document, document.claims(), &by_masks_alone).local() {
            return Ok(None);
        }
        let Some(rest) = document.after(before).plants_key_but_for_what_is_around(layer, id) else {
            return Ok(None);
        };
        let found = self.before_change(db, document, (layer, id), &rest, now).await?;
        Ok(found.map(|(growth, key, reach)| (growth, key, Changed::Sculpted(stroke, reach))))
    }
}

/// How far the widest species of a layer reaches at full size, metres.
fn widest_m(document: &Keyed, layer: &Layer) -> f32 {
    document.mix_of(layer).map(|(_, s)| s.radius_m().max(s.footprint_m())).fold(0.0, f32::max)
}
