//! What a layer grows on all its grounds, as one.

use super::clearance::fit::{Details, Fits, fits};
use super::{AmountIn, GrowError, Growth, Reason, Refused, Tally, host_model, layer_on};
use crate::air::{Flow, heading};
use crate::cancel::{CancelToken, Cancelled};
use crate::document::{Document, GroundId, Layer, LayerId, Obstacle, WindFrom};
use crate::ground::{Frame, GroundRef, Terrain};
use crate::habitat::Given;
use crate::nursery::Mesh;
use crate::planting::Rules;
use std::borrow::Cow;
use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// The grounds a layer grows on that are not hidden, in the order of the document.
pub fn grown_on(document: &Document, layer: &Layer) -> Vec<GroundId> {
    let shown = |id: &GroundId| document.placed(*id).is_none_or(|g| !g.hidden);
    document.grounds_of(layer).into_iter().filter(shown).collect()
}

/// Whether a layer's total and cap must be shared out among its grounds before it can grow on one of them.
pub fn must_share_out(document: &Document, layer: &Layer) -> bool {
    document.grounds_of(layer).len() > 1
}

/// Puts what grew on each ground together in the scene's own frame. The masks of the layer are the same on all of them. Of one ground
/// alone it is known still from what its plants were grown again.
pub fn gather(layer: &Layer, parts: &[(GroundId, Frame, &Growth)]) -> Growth {
    let mut plants = Vec::with_capacity(parts.iter().map(|(_, _, g)| g.plants.len()).sum());
    for (id, frame, growth) in parts {
        plants.extend(growth.plants.iter().map(|p| frame.plant(p, *id)));
    }
    let tallies: Vec<&Tally> = parts.iter().map(|(_, _, g)| &g.tally).collect();
    let sum = |of: fn(&Tally) -> u64| tallies.iter().map(|t| of(t)).sum();
    let ground_m2: f64 = tallies.iter().map(|t| t.ground_m2).sum();
    let masks = layer.masks.iter().map(|m| Reason::Mask { id: m.id, quantity: m.quantity });
    let mut refused: Vec<_> = masks.chain([Reason::Cap]).map(|reason| Refused { reason, count: 0 }).collect();
    for fallen in tallies.iter().flat_map(|t| &t.refused) {
        match refused.iter_mut().find(|r| r.reason == fallen.reason) {
            Some(known) => known.count += fallen.count,
            // The cap stays last.
            None => refused.insert(refused.len() - 1, *fallen),
        }
    }
    let share = |i: usize| {
        let weighed: f64 = tallies.iter().map(|t| f64::from(t.mask_shares[i]) * t.ground_m2).sum();
        (weighed / ground_m2.max(f64::MIN_POSITIVE)) as f32
    };
    let allowed_m2: f64 = tallies.iter().map(|t| t.allowed_m2).sum();
    let mean = |of: fn(&Tally) -> f32| {
        let weighed: f64 = tallies.iter().map(|t| f64::from(of(t)) * t.allowed_m2).sum();
        (weighed / allowed_m2.max(f64::MIN_POSITIVE)) as f32
    };
    let per_m2 = mean(|t| t.amount.per_m2);
    let amount = AmountIn {
        per_m2,
        total: sum(|t| t.amount.total),
        cover: mean(|t| t.amount.cover),
        spacing_m: (per_m2 > 0.0).then(|| 1.0 / per_m2.sqrt()),
    };
    let tally = Tally {
        asked: sum(|t| t.asked),
        cap: layer.cap,
        amount,
        placed: sum(|t| t.placed),
        per_species: (0..layer.mix.len())
            .map(|i| tallies.iter().filter_map(|t| t.per_species.get(i)).sum())
            .collect(),
        by_hand: sum(|t| t.by_hand),
        in_drifts: sum(|t| t.in_drifts),
        candidates: sum(|t| t.candidates),
        refused,
        ground_m2,
        allowed_m2,
        room: tallies.iter().map(|t| t.room).sum(),
        mask_shares: (0..layer.masks.len()).map(share).collect(),
    };
    let mut growth = Growth::new(plants, tally);
    if let [(_, _, one)] = parts {
        (growth.kept.spans, growth.since) = (one.kept.spans.clone(), one.since);
    }
    growth
}

/// The layer with no more plants than the cap of the scene leaves it, after these counts of all that are served before it.
pub fn within_cap<'l>(document: &Document, layer: &'l Layer, before: &[u64]) -> Cow<'l, Layer> {
    let left = document.cap.map(|cap| u64::from(cap).saturating_sub(before.iter().sum()));
    match left {
        Some(left) if left < u64::from(layer.cap) => Cow::Owned(Layer { cap: left as u32, ..layer.clone() }),
        _ => Cow::Borrowed(layer),
    }
}

/// Layers of one document that have grown already, by id.
#[derive(Debug, Default)]
pub struct Grown(Mutex<BTreeMap<LayerId, Arc<Growth>>>);

impl Grown {
    fn held(&self) -> MutexGuard<'_, BTreeMap<LayerId, Arc<Growth>>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

/// Grows a layer of the document on all its grounds, in the scene's own frame, and before it whatever layers it looks at or yields
/// to, each once. `model` gives the ground of an id, `obstacle` the mesh of an obstacle where it stands.
///
/// # Errors
/// [`GrowError`], of the first ground that cannot be grown on.
pub fn grow_everywhere<'a>(
    document: &Document,
    layer: &Layer,
    model: &dyn Fn(GroundId) -> Option<GroundRef<'a>>,
    obstacle: &dyn Fn(&Obstacle) -> Option<Mesh>,
    cancel: &CancelToken,
) -> Result<Growth, GrowError> {
    Sowing { document, model, obstacle, grown: &Grown::default(), cancel }.anew(layer)
}

/// Grows layers of one document, see [`grow_everywhere`], and keeps them in `grown`.
#[derive(Clone, Copy)]
pub struct Sowing<'s, 'a> {
    /// The scene.
    pub document: &'s Document,
    /// The ground of an id.
    pub model: &'s dyn Fn(GroundId) -> Option<GroundRef<'a>>,
    /// The mesh of an obstacle where it stands.
    pub obstacle: &'s dyn Fn(&Obstacle) -> Option<Mesh>,
    /// What has grown already.
    pub grown: &'s Grown,
    /// Stops the work.
    pub cancel: &'s CancelToken,
}

impl Sowing<'_, '_> {
    /// A layer of the document.
    ///
    /// # Errors
    /// As [`grow_everywhere`].
    pub fn layer(&self, layer: &Layer) -> Result<Arc<Growth>, GrowError> {
        if let Some(known) = self.grown.held().get(&layer.id) {
            return Ok(known.clone());
        }
        let growth = Arc::new(self.anew(layer)?);
        self.grown.held().insert(layer.id, growth.clone());
        Ok(growth)
    }

    /// The mean wind from a side over all that is shown but what grows.
    fn flow(&self, wind: WindFrom) -> Result<Flow, Cancelled> {
        let d = self.document;
        let land = (self.model)(GroundId::LAND);
        // A scene may do without the land.
        let none = Terrain::new(2, 2, glam::Vec2::ONE, vec![0.0; 4]).ok();
        let terrain = land.as_ref().and_then(GroundRef::terrain).or(none.as_ref());
        let beside = d.ground_ids().into_iter().filter(|id| *id != GroundId::LAND);
        let shown = beside.filter(|id| d.placed(*id).is_none_or(|g| !g.hidden));
        let mut bodies: Vec<Mesh> =
            shown.filter_map(|id| Some((self.model)(id)?.mesh(&d.frame(id)))).collect();
        bodies.extend(d.obstacles.iter().filter(|o| !o.hidden).filter_map(|o| (self.obstacle)(o)));
        let bodies: Vec<&Mesh> = bodies.iter().collect();
        let terrain = terrain.expect("four heights make a terrain");
        Flow::over_scene(d, terrain, &bodies, heading(wind.from_deg), self.cancel)
    }

    /// The masks of a layer on a ground, and what it keeps clear of there.
    ///
    /// # Errors
    /// As [`grow_everywhere`].
    pub fn rules(&self, layer: &Layer, id: GroundId, ground: &GroundRef<'_>) -> Result<Rules, GrowError> {
        let plants = |other: &Layer| self.layer(other);
        let land = (self.model)(GroundId::LAND);
        let land = land.as_ref().and_then(GroundRef::terrain);
        let flow = |wind: WindFrom| self.flow(wind).map(Some);
        let given = Given::compute(
            self.document,
            layer,
            (id, ground),
            (land, &flow),
            self.obstacle,
            plants,
            self.cancel,
        )?;
        Ok(Rules::on(self.document, layer, id, ground.groups(), &given))
    }

    /// The plants of a layer that have forms of their own, see [`fits`].
    ///
    /// # Errors
    /// As [`grow_everywhere`].
    pub fn fits(&self, layer: &Layer, details: Details) -> Result<Fits, GrowError> {
        if !layer.clearance.fits() {
            return Ok(Fits::default());
        }
        let growth = self.layer(layer)?;
        let mut on = Vec::new();
        for id in grown_on(self.document, layer) {
            if let Some(ground) = (self.model)(id) {
                on.push((id, self.rules(layer, id, &ground)?));
            }
        }
        let on: Vec<_> = on.iter().map(|(id, rules)| (*id, rules.clear())).collect();
        Ok(fits(self.document, layer, &on, &growth.plants, details, self.cancel)?)
    }

    /// The layer with no more plants than the cap of the scene leaves it.
    fn within_cap<'l>(&self, layer: &'l Layer) -> Result<Cow<'l, Layer>, GrowError> {
        let mut before = Vec::new();
        if self.document.cap.is_some() {
            for id in self.document.grows_after(layer.id) {
                if let Some(other) = self.document.layer(id) {
                    before.push(self.layer(other)?.tally.placed);
                }
            }
        }
        Ok(within_cap(self.document, layer, &before))
    }

    fn anew(&self, layer: &Layer) -> Result<Growth, GrowError> {
        let Self { document, model, cancel, .. } = *self;
        let layer = &*self.within_cap(layer)?;
        if let Some(host) = layer.on_plants {
            let Some(other) = document.layer(host) else { return Ok(gather(layer, &[])) };
            let plants = self.layer(other)?;
            let Some(host) = host_model(document, other, &plants.plants)? else {
                return Ok(gather(layer, &[]));
            };
            let ground = GroundRef::Mesh(&host);
            let rules = self.rules(layer, GroundId::PLANTS, &ground)?;
            let own = layer_on(layer, GroundId::PLANTS, &[]);
            let growth = ground.grow(&own, &rules, &mut ground.no_even_places(own.seed), cancel)?;
            return Ok(gather(layer, &[(GroundId::PLANTS, Frame::SCENE, &growth)]));
        }
        let mut allowed = Vec::new();
        if must_share_out(document, layer) {
            for id in document.grounds_of(layer) {
                if let Some(ground) = model(id) {
                    let rules = self.rules(layer, id, &ground)?;
                    allowed.push((id, ground.shares(&rules).allowed_m2));
                }
            }
        }
        let mut grown = Vec::new();
        for id in grown_on(document, layer) {
            let Some(ground) = model(id) else { continue };
            let (own, rules) = (layer_on(layer, id, &allowed), self.rules(layer, id, &ground)?);
            let growth = ground.grow(&own, &rules, &mut ground.no_even_places(own.seed), cancel)?;
            grown.push((id, document.frame(id), growth));
        }
        let parts: Vec<_> = grown.iter().map(|(id, frame, growth)| (*id, *frame, growth)).collect();
        Ok(gather(layer, &parts))
    }
}
