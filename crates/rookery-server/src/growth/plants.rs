//! What layers grow.

use super::Growths;
use super::curves::but_for_curves;
use super::local::Changed;
use crate::db::Db;
use crate::error::ApiError;
use rookery_core::ground::sculpt::reach_on_plan;
use rookery_core::ground::{GroundRef, KeptEven, PlanBox, PlanBoxes};
use rookery_core::planting::{GrowError, Growth, gather, grown_on, layer_on, must_share_out, within_cap};
use rookery_core::scene::{GroundId, Keyed, Layer};
use std::borrow::Cow;
use std::sync::Arc;

impl Growths {
    /// The plants of a layer on all its grounds, where they stand. When the caller goes away, so does the work.
    ///
    /// # Errors
    /// When a ground cannot be made or the amount is too much.
    pub async fn plants(&self, db: &Db, document: &Keyed, layer: &Layer) -> Result<Arc<Growth>, ApiError> {
        // One after the other, so that none has to wait for a chain of others within its own work.
        for other in document.grows_after(layer.id) {
            if let Some(other) = document.layer(other) {
                Box::pin(self.plants_next(db, document, other)).await?;
            }
        }
        Box::pin(self.plants_next(db, document, layer)).await
    }

    /// The plants of a layer, where those that it waits for are at hand; otherwise they are grown within this.
    pub(super) async fn plants_next(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
    ) -> Result<Arc<Growth>, ApiError> {
        if document.cap.is_none() {
            return self.grow_anew(db, document, layer).await;
        }
        // With a cap each layer asks for all before it, and those for all before them: each is looked for by its name first.
        let key = document.layer_key(layer);
        if let Some(found) = self.layers.get(&key) {
            return Ok(found);
        }
        let grown = self.grow_anew(db, document, layer).await?;
        self.layers.put(key, grown.clone(), grown.bytes());
        Ok(grown)
    }

    async fn grow_anew(&self, db: &Db, document: &Keyed, layer: &Layer) -> Result<Arc<Growth>, ApiError> {
        let mut on = grown_on(document, layer);
        if layer.on_plants.is_some() && self.ground_of(db, document, layer, GroundId::PLANTS).await?.is_none()
        {
            on.clear();
        }
        if let ([id], true) = (on.as_slice(), document.grounds_of(layer).len() == 1)
            && [GroundId::LAND, GroundId::PLANTS].contains(id)
        {
            let layer = self.within_cap(db, document, layer).await?;
            return self.plants_on(db, document, &layer, *id, &[]).await;
        }
        let make = async {
            let layer = &*self.within_cap(db, document, layer).await?;
            let allowed = self.allowed(db, document, layer).await?;
            let mut grown = Vec::new();
            for id in on {
                let growth = self.plants_on(db, document, layer, id, &allowed).await?;
                grown.push((id, document.frame(id), growth));
            }
            let layer = layer.clone();
            self.pool
                .run(move |_| {
                    let parts: Vec<_> =
                        grown.iter().map(|(id, frame, g)| (*id, *frame, g.as_ref())).collect();
                    let growth = gather(&layer, &parts);
                    let bytes = growth.bytes();
                    Ok((growth, bytes))
                })
                .await
        };
        self.layers.get_or_make(document.layer_key(layer), make).await
    }

    /// The layer with no more plants than the cap of the scene leaves it.
    pub(super) async fn within_cap<'l>(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &'l Layer,
    ) -> Result<Cow<'l, Layer>, ApiError> {
        let mut before = Vec::new();
        if document.cap.is_some() {
            for id in document.grows_after(layer.id) {
                if let Some(other) = document.layer(id) {
                    before.push(Box::pin(self.plants_next(db, document, other)).await?.tally.placed);
                }
            }
        }
        Ok(within_cap(document, layer, &before))
    }

    /// The area that a layer's masks allow on each of its grounds, where its amount must be shared out.
    pub(super) async fn allowed(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
    ) -> Result<Vec<(GroundId, f64)>, ApiError> {
        let mut out = Vec::new();
        if must_share_out(document, layer) {
            for id in document.grounds_of(layer) {
                let ground = self.any(db, document, id).await?;
                let rules = self.rules(db, document, layer, id, &ground).await?;
                out.push((id, self.pool.run(move |_| Ok(ground.as_ref().shares(&rules).allowed_m2)).await?));
            }
        }
        Ok(out)
    }

    /// The plants of a layer on one ground, in the ground's own frame.
    pub(super) async fn plants_on(
        &self,
        db: &Db,
        document: &Keyed,
        layer: &Layer,
        id: GroundId,
        allowed: &[(GroundId, f64)],
    ) -> Result<Arc<Growth>, ApiError> {
        let key = document.plants_key(layer, id).ok_or(ApiError::NotFound("ground"))?;
        if let Some(found) = self.plants.get(&key) {
            return Ok(found);
        }
        let make = async {
            let ground =
                self.ground_of(db, document, layer, id).await?.ok_or(ApiError::NotFound("ground"))?;
            let rules = self.rules(db, document, layer, id, &ground).await?;
            let own = layer_on(layer, id, allowed);
            let frame = document.frame(id);
            let alone = allowed.is_empty() && id != GroundId::PLANTS;
            let mut before = if alone { self.before_stroke(document, layer, id) } else { None };
            let around = if alone { self.around(db, document, layer, id).await? } else { None };
            if let (None, Some((rest, around))) = (&before, &around) {
                let found = self.before_change(db, document, (layer, id), rest, around).await?;
                before = found
                    .filter(|(_, _, reach)| !reach.is_empty())
                    .map(|(growth, key, reach)| (growth, key, Changed::Within(reach)));
                if before.is_none() {
                    before = self.before_sculpting(db, document, (layer, id), around).await?;
                }
            }
            let drawn = but_for_curves(document, layer, id);
            if let (None, Some(rest)) = (&before, &drawn) {
                let found = self.before_curve(db, document, layer, (id, &ground), rest).await?;
                before = found.map(|(growth, key, was)| (growth, key, Changed::Curves(Box::new(was))));
            }
            // Waited for here and handed over locked: see `slots::Value`.
            let (even_key, even) = self.evens.get(document, id, &ground, &own);
            let mut kept = even.clone().lock_owned().await;
            let evens = self.evens.clone();
            let (grown, bytes) = self
                .pool
                .run(move |cancel| {
                    let ground = ground.as_ref();
                    let within = |before: &Growth, kept: &mut KeptEven, changed: Vec<PlanBox>| {
                        ground.regrow(&own, &rules, kept, before, &PlanBoxes::new(changed), cancel)
                    };
                    let grown: Result<Growth, GrowError> = match (&before, &ground) {
                        (Some((before, _, Changed::Sculpted(stroke, around))), GroundRef::Terrain(t)) => {
                            let own = frame.box_on_plan(&reach_on_plan(&t.terrain, stroke));
                            let parts = around.iter().copied().chain([own]).collect();
                            within(before, &mut kept, parts)
                        }
                        (Some((before, _, Changed::Within(parts))), _) => {
                            within(before, &mut kept, parts.clone())
                        }
                        (Some((before, _, Changed::Curves(was))), _) => {
                            ground.regrow_curves(&own, &rules, &mut kept, (before, was), cancel)
                        }
                        _ => ground.grow(&own, &rules, &mut kept, cancel),
                    };
                    // Those found so far are kept when the work is stopped, too: it is begun again with the next touch of a setting.
                    if let Some(key) = even_key {
                        evens.keep(key, &even, kept.bytes());
                    }
                    let mut grown = grown?;
                    grown.since = before.map(|(_, key, _)| key);
                    let bytes = grown.bytes();
                    Ok((grown, bytes))
                })
                .await?;
            if let Some((rest, around)) = around {
                self.lasts.put(rest, key, around);
            }
            if let Some(rest) = drawn {
                self.drawn.put(rest, key, layer.masks.clone());
            }
            Ok((grown, bytes))
        };
        self.plants.get_or_make(key, make).await
    }
}
