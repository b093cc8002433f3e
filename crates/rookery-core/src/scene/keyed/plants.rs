//! Names of what grows.

use super::{Keyed, What, things};
use crate::document::EPOCH;
use crate::habitat::source;
use crate::names::{ContentKey, Namer};
use crate::nursery::Kind;
use crate::planting::{MeanCrown, grown_on};
use crate::scene::*;
use serde::Serialize;
use std::sync::PoisonError;

/// What is named of a layer on a ground beside the names of other things.
#[derive(Serialize)]
struct Inputs {
    epoch: u32,
    id: GroundId,
    /// Of each species of the mix its kind and how many forms it has; none where it is gone.
    mix: Vec<Option<(u16, Kind)>>,
    /// What covers the ground, where that is what is asked for.
    crown: Option<MeanCrown>,
    /// Where what is drawn on the plan meets a ground that stands somewhere.
    place: Option<[f32; 3]>,
}

impl Keyed {
    /// Whether a layer is one of the document's own. One that was made from it for a moment may have its id and other settings.
    fn is_own(&self, layer: &Layer) -> bool {
        self.layer(layer.id).is_some_and(|l| std::ptr::eq(l, layer) || l == layer)
    }

    /// Names the plants of a layer of the document, on one ground or on all, once.
    fn known(&self, layer: &Layer, on: Option<GroundId>) -> Option<ContentKey> {
        let held = || self.layers.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(key) = held().get(&(layer.id, on)) {
            return Some(*key);
        }
        let key = match on {
            Some(ground) => self.within_cap(layer, self.plants_key(layer, ground)?),
            None => self.all_of(layer, true),
        };
        held().insert((layer.id, on), key);
        Some(key)
    }

    /// Names all plants of a layer where they stand.
    pub fn layer_key(&self, layer: &Layer) -> ContentKey {
        let known = if self.is_own(layer) { self.known(layer, None) } else { None };
        known.unwrap_or_else(|| self.all_of(layer, false))
    }

    fn all_of(&self, layer: &Layer, own: bool) -> ContentKey {
        let mut name = Namer::new("layer");
        for id in grown_on(self, layer) {
            let place = self.stand(id);
            let key = match (own, self.cap) {
                (true, None) => self.known(layer, Some(id)),
                _ => self.plants_key(layer, id),
            };
            if let Some(key) = key {
                name = name.key(key).value(&place);
            }
        }
        self.within_cap(layer, name.end())
    }

    /// The name of plants that the cap of the scene may cut off: with the cap, and all that is served before them.
    fn within_cap(&self, layer: &Layer, plants: ContentKey) -> ContentKey {
        let Some(cap) = self.cap else { return plants };
        let before = self.served_before(layer.id).iter();
        let before = before.filter_map(|id| self.known(self.layer(*id)?, None));
        Namer::new("within cap").key(plants).value(&cap).keys(before).end()
    }

    /// Names all plants of a layer that grows on one ground alone, by the name of what grows there; none where it grows on several.
    pub fn layer_from(&self, layer: &Layer, plants: &ContentKey) -> Option<ContentKey> {
        let [id] = grown_on(self, layer)[..] else { return None };
        Some(Namer::new("layer").key(*plants).value(&self.stand(id)).end())
    }

    /// Where a ground beside the land stands.
    fn stand(&self, id: GroundId) -> Option<[f32; 4]> {
        self.placed(id).map(|g| [g.x_m, g.y_m, g.z_m, g.turn_deg])
    }

    /// Names the model of a ground that a layer grows on; none when there is no such ground. The plants of another layer are named
    /// by themselves and the meshes of their species.
    pub fn ground_key_of(&self, layer: &Layer, ground: GroundId) -> Option<ContentKey> {
        if ground != GroundId::PLANTS {
            return self.ground_key(ground);
        }
        let host = self.layer(layer.on_plants?)?;
        Some(Namer::new("host").maybe(self.known(host, None)).keys(self.looks_of(host)).end())
    }

    /// Names a layer's plants on a ground; none when there is no such ground. A layer's name, its place, its eye and its
    /// lock are not part of it.
    pub fn plants_key(&self, layer: &Layer, ground: GroundId) -> Option<ContentKey> {
        self.named(layer, ground, What::All)
    }

    /// Names a layer's plants on a ground but for the obstacles they keep clear of, the plants that claim first, and what was tended.
    pub fn plants_key_but_for_what_is_around(&self, layer: &Layer, ground: GroundId) -> Option<ContentKey> {
        self.named(layer, ground, What::ButAround)
    }

    fn named(&self, layer: &Layer, ground: GroundId, what: What) -> Option<ContentKey> {
        let (things, masks) = (&self.things, &layer.masks);
        let laid = matches!(layer.pattern, Pattern::Rows | Pattern::Along);
        let zones = masks.iter().filter_map(|m| m.zone);
        let zones: Vec<&Zone> = zones.filter_map(|id| self.zones.iter().find(|z| z.id == id)).collect();
        let on_plan = laid
            || zones.iter().any(|z| self.outlines.iter().any(|o| z.outlines.contains(&o.id)))
            || masks.iter().any(|m| source(m.quantity).of_the_scene())
            || matches!(layer.stance.lean, LeanTo::Bearing { .. });
        let beneath = ground.is_water() && masks.iter().any(|m| source(m.quantity).of_the_land());
        let inputs = Inputs {
            epoch: EPOCH,
            id: ground,
            mix: layer.mix.iter().map(|m| self.species(&m.species).map(|s| (s.forms, s.kind))).collect(),
            crown: matches!(layer.amount, Amount::Cover { .. }).then(|| MeanCrown::new(self, layer)),
            place: self.placed(ground).filter(|_| on_plan).map(|g| [g.x_m, g.z_m, g.turn_deg]),
        };
        let own = if self.is_own(layer) {
            things.own(layer, ground, what)
        } else {
            things::own(layer, ground, what)
        };
        let mut name = Namer::new("plants")
            .key(self.ground_key_of(layer, ground)?)
            .value(&inputs)
            .key(own)
            .keys(zones.iter().map(|z| things.zone(self, z)))
            .value(
                &masks
                    .iter()
                    .any(|m| source(m.quantity).of_waters())
                    .then_some((self.ground.water_m, &self.waters)),
            )
            .maybe(beneath.then(|| self.land_key()))
            .keys(masks.iter().filter_map(|m| m.near).map(|n| self.near(n)))
            .maybe(layer.rows.line.filter(|_| laid).and_then(|id| things.outline(self, id)));
        for mask in masks {
            name = name
                .maybe(mask.paint.and_then(|id| things.paint(self, id)))
                .maybe(mask.shot.and_then(|id| things.view(self, id)))
                .maybe(mask.picture.and_then(|look| things.picture(self, look.id)))
                .maybe(mask.wind.map(|wind| self.flow_key(wind.from_deg)));
        }
        if !layer.clearance.is_off() {
            name = self.clear(name, layer, ground, what != What::ButAround);
        }
        // A total and a cap are shared out by the area that is allowed on each ground of the layer.
        let all = self.grounds_of(layer);
        if what != What::Allowed && all.len() > 1 {
            name = name.keys(all.into_iter().filter_map(|id| self.named(layer, id, What::Allowed)));
        }
        Some(name.end())
    }

    /// Adds all that a layer keeps clear of: how far its species reach, and what else claims ground.
    fn clear(&self, name: Namer, layer: &Layer, ground: GroundId, whole: bool) -> Namer {
        let c = layer.clearance;
        let obstacles = whole && c.obstacles.is_on() && !self.obstacles.is_empty();
        let over = if c.others.is_on() { self.claims.over(layer.id) } else { &[] };
        let others = self.others(over, ground, whole);
        let apart = obstacles || others.iter().any(|(_, together)| !together);
        let place = self.placed(ground).filter(|_| apart).map(|g| [g.x_m, g.z_m, g.turn_deg]);
        name.value(&(self.reaches(layer), place))
            .maybe(obstacles.then(|| self.things.obstacles(self)))
            .maybe(c.tracks.is_on().then(|| self.things.tracks(self)))
            .keys(others.into_iter().map(|(key, _)| key))
    }

    /// How far the species of a layer reach.
    fn reaches(&self, layer: &Layer) -> Vec<[f32; 2]> {
        self.mix_of(layer).map(|(_, s)| [s.footprint_m(), s.radius_m()]).collect()
    }

    /// Names what other layers that claim their ground first are to one on a ground, each once, and tells whether they go along when
    /// that ground is moved: they do where they grow there alone.
    fn others(&self, over: &[LayerId], ground: GroundId, whole: bool) -> Vec<(ContentKey, bool)> {
        let held = || self.others.lock().unwrap_or_else(PoisonError::into_inner);
        // Looked up all at once: there may be as many as there are layers, for each layer.
        let known: Vec<Option<_>> = {
            let held = held();
            over.iter().map(|id| held.get(&(*id, ground, whole)).copied()).collect()
        };
        let name = |id: LayerId| {
            let layer = self.layer(id);
            let together = layer.is_none_or(|l| l.on_plants.is_none() && grown_on(self, l) == [ground]);
            let mut name = Namer::new("other").value(&(id, together, layer.is_some()));
            if let Some(l) = layer {
                name = name.value(&(l.clearance.others.by, self.reaches(l)));
                if whole {
                    name = name.maybe(self.known(l, together.then_some(ground)));
                }
            }
            let named = (name.end(), together);
            held().insert((id, ground, whole), named);
            named
        };
        over.iter().zip(known).map(|(id, known)| known.unwrap_or_else(|| name(*id))).collect()
    }

    /// Names what a distance is measured to. Water is part of the ground.
    fn near(&self, near: Near) -> ContentKey {
        let name = Namer::new("near").value(&near);
        let name = match near {
            Near::Water => name.key(self.land_key()),
            Near::Outline { id } => name.maybe(self.things.outline(self, id)),
            Near::Tracks => name.key(self.things.tracks(self)),
            Near::Obstacle { id } => {
                let found = self.obstacles.iter().find(|o| o.id == id);
                name.maybe(found.map(|o| self.things.obstacle(self, o)))
            }
            Near::Obstacles => name.key(self.things.obstacles(self)),
            Near::Straight { .. } | Near::Ball { .. } | Near::Cylinder { .. } | Near::Box { .. } => name,
            Near::Camera { id } => name.value(&self.shots.iter().find(|s| s.id == id).map(|s| s.eye_m)),
            // Documents hold no layers that wait for one another, so this ends.
            Near::Layer { id } => {
                let layer = self.layer(id);
                let radii: Vec<f32> =
                    layer.map_or(Vec::new(), |l| self.mix_of(l).map(|(_, s)| s.radius_m()).collect());
                name.value(&radii).maybe(layer.and_then(|l| self.known(l, None)))
            }
        };
        name.end()
    }
}
