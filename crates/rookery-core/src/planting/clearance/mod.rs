//! What plants of a layer keep clear of on one ground.

mod apart;
pub mod fit;

pub use apart::{Ball, stand_apart};

use super::{Mix, Plant, Reason, tended_number};
use crate::document::{
    Clearance, Combine, Document, Drives, Keep, Layer, LayerId, ObstacleId, OutlineKind, Quantity, Reach,
    TooClose,
};
use crate::ground::OutlineField;
use crate::habitat::{Crowns, ZoneField};
use crate::math::mesh_distance::MeshDistance;
use crate::plan::outline::OutlineLine;
use glam::{Vec2, Vec3};
use std::sync::Arc;

/// A plant as clearance sees it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Body {
    /// Where it meets the ground, in the ground's own frame, metres.
    pub at_m: Vec3,
    /// Its species, by its place in the mix.
    pub species: u8,
    /// Its size across, against the species' full size.
    pub across: f32,
}

impl Body {
    /// Of a plant that stands.
    pub fn new(plant: &Plant) -> Self {
        Self {
            at_m: plant.position_m,
            species: plant.species,
            across: plant.size * plant.stretch[1].max(1.0),
        }
    }
}

/// What a plant comes to.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Room {
    /// It stands, at this share of its size.
    Stands(f32),
    /// It does not, for the reason at this place of [`Clear::reasons`].
    Refused(usize),
}

/// Everything that the plants of a layer keep clear of on one ground.
#[derive(Clone, Debug, Default)]
pub struct Clear {
    settings: Clearance,
    /// The middle of the layer's sizes.
    middling: f32,
    /// Plants that claim their ground first, with what they claim, where they stand in the scene.
    layers: Vec<(LayerId, Arc<Crowns>)>,
    obstacles: Vec<(ObstacleId, Arc<MeshDistance>)>,
    /// Zones that masks let through; false where it is what lies beside them.
    edges: Vec<(Arc<ZoneField>, bool)>,
    tracks: Arc<[OutlineField]>,
}

impl Clear {
    /// Of a layer's own kind alone.
    pub fn of_own(layer: &Layer) -> Self {
        let off = Keep::default();
        let settings = Clearance { others: off, obstacles: off, edges: off, tracks: off, ..layer.clearance };
        Self { settings, middling: middling(layer), ..Self::default() }
    }

    /// Of all that it keeps clear of, as it was computed. `zone` gives where a zone lies on the ground.
    pub fn new(
        document: &Document,
        layer: &Layer,
        layers: &[(LayerId, Arc<Crowns>)],
        obstacles: &[(ObstacleId, Arc<MeshDistance>)],
        zone: impl Fn(usize) -> Option<Arc<ZoneField>>,
    ) -> Self {
        let settings = layer.clearance;
        let narrows = |c: Combine| matches!(c, Combine::Multiply | Combine::Lowest);
        let edges = if settings.edges.is_on() {
            let zones = layer.masks.iter().enumerate().filter(|(_, m)| {
                m.enabled && m.quantity == Quantity::Zone && m.drives == Drives::Amount && narrows(m.combine)
            });
            zones.filter_map(|(i, m)| Some((zone(i)?, !m.response.inverted))).collect()
        } else {
            Vec::new()
        };
        let on = |keep: &Keep| keep.is_on();
        let tracks =
            document.outlines.iter().filter(|o| settings.tracks.is_on() && o.kind == OutlineKind::Track);
        Self {
            settings,
            middling: middling(layer),
            layers: if on(&settings.others) { layers.to_vec() } else { Vec::new() },
            obstacles: if on(&settings.obstacles) { obstacles.to_vec() } else { Vec::new() },
            edges,
            tracks: tracks.map(|o| OutlineField::new(OutlineLine::new(o))).collect(),
        }
    }

    /// The middle of the layer's sizes, against full size.
    pub fn middling(&self) -> f32 {
        self.middling
    }

    /// The settings it follows.
    pub fn settings(&self) -> &Clearance {
        &self.settings
    }

    /// Whether no plant can fall by it.
    pub fn is_off(&self) -> bool {
        !self.settings.own.is_on() && !self.looks_around()
    }

    /// Whether it looks at anything beside plants of the layer itself.
    pub fn looks_around(&self) -> bool {
        !(self.layers.is_empty()
            && self.obstacles.is_empty()
            && self.edges.is_empty()
            && self.tracks.is_empty())
    }

    /// Whether plants may be made smaller.
    pub fn shrinks(&self) -> bool {
        let shrinks = |k: &Keep| k.is_on() && k.response == TooClose::Shrink;
        let c = &self.settings;
        self.looks_around() && [c.obstacles, c.edges, c.tracks].iter().any(shrinks)
    }

    /// Why plants may fall by it, in the order they are looked at.
    pub fn reasons(&self) -> Vec<Reason> {
        let edge = (!self.edges.is_empty()).then_some(Reason::Edge);
        let track = (!self.tracks.is_empty()).then_some(Reason::Track);
        let obstacle = (!self.obstacles.is_empty()).then_some(Reason::Obstacle);
        let layers = self.layers.iter().map(|(id, _)| Reason::Layer { id: *id });
        let own = self.settings.own.is_on().then_some(Reason::OwnKind);
        edge.into_iter().chain(track).chain(obstacle).chain(layers).chain(own).collect()
    }

    /// The place of [`Reason::OwnKind`] among the reasons.
    pub fn own_place(&self) -> usize {
        [self.edges.is_empty(), self.tracks.is_empty(), self.obstacles.is_empty()]
            .iter()
            .filter(|none| !**none)
            .count()
            + self.layers.len()
    }

    /// How far a plant keeps its own kind away from its base point; half the margin is each one's.
    pub fn own_reach_m(&self, mix: &Mix, body: &Body) -> f32 {
        let keep = &self.settings.own;
        (reach_m(keep, mix, body) + keep.margin_m * 0.5).max(0.0)
    }

    /// What edges, obstacles and other layers leave a plant at a point of the scene.
    pub fn room(&self, mix: &Mix, body: &Body, at_m: Vec3) -> Room {
        let mut share = 1.0_f32;
        let mut place = 0;
        if !self.edges.is_empty() {
            match self.given(&self.settings.edges, mix, body, self.edge_m(Vec2::new(at_m.x, at_m.z))) {
                Some(s) => share = share.min(s),
                None => return Room::Refused(place),
            }
            place += 1;
        }
        if !self.tracks.is_empty() {
            match self.given(&self.settings.tracks, mix, body, self.track_m(Vec2::new(at_m.x, at_m.z))) {
                Some(s) => share = share.min(s),
                None => return Room::Refused(place),
            }
            place += 1;
        }
        if !self.obstacles.is_empty() {
            let keep = &self.settings.obstacles;
            let asked = reach_m(keep, mix, body) + keep.margin_m;
            for (_, mesh) in &self.obstacles {
                match self.given(keep, mix, body, room_beside(mesh, at_m, asked.max(0.0))) {
                    Some(s) => share = share.min(s),
                    None => return Room::Refused(place),
                }
            }
            place += 1;
        }
        let keep = &self.settings.others;
        for (_, crowns) in &self.layers {
            let asked = reach_m(keep, mix, body) * share + keep.margin_m;
            // Those that overlap are at distance 0, those that may not be nearer than a negative margin deeper still.
            if crowns.nearer_than(at_m, asked) {
                return Room::Refused(place);
            }
            place += 1;
        }
        Room::Stands(share)
    }

    /// The share of its size that a plant may have with so much room; none where it does not stand.
    fn given(&self, keep: &Keep, mix: &Mix, body: &Body, room_m: f32) -> Option<f32> {
        let reach = reach_m(keep, mix, body);
        let left = room_m - keep.margin_m;
        if left >= reach {
            return Some(1.0);
        }
        let share = left / reach.max(f32::MIN_POSITIVE);
        (keep.response == TooClose::Shrink && share >= self.settings.least).then_some(share)
    }

    /// How far a point of the plan lies within all edges, metres; below zero outside.
    pub fn edge_m(&self, plan: Vec2) -> f32 {
        self.edges.iter().map(|(zone, within)| zone.depth_m(plan, *within)).fold(f32::INFINITY, f32::min)
    }

    /// How far a point of the plan lies beside all tracks, metres; below zero on one.
    pub fn track_m(&self, plan: Vec2) -> f32 {
        self.tracks.iter().map(|t| t.distance_m(plan)).fold(f32::INFINITY, f32::min)
    }

    /// How far a point of the plan lies within all edges and beside all tracks, metres.
    pub fn within_m(&self, plan: Vec2) -> f32 {
        self.edge_m(plan).min(self.track_m(plan))
    }

    /// The lines of all edges and tracks.
    pub fn lines(&self) -> impl Iterator<Item = &OutlineLine> {
        self.edges.iter().flat_map(|(zone, _)| zone.lines()).chain(self.tracks.iter()).map(OutlineField::line)
    }

    /// The obstacle nearest to a point of the scene, with the distance; below zero inside it.
    pub fn nearest_obstacle(&self, at_m: Vec3) -> Option<(ObstacleId, f32)> {
        let each = self.obstacles.iter().map(|(id, mesh)| (*id, room_beside(mesh, at_m, f32::INFINITY)));
        each.min_by(|a, b| a.1.total_cmp(&b.1))
    }

    /// How near the nearest plant of each layer that claims first is, metres; 0 within its reach.
    pub fn nearest_layers(&self, at_m: Vec3, limit: f32) -> impl Iterator<Item = (LayerId, f32)> + '_ {
        self.layers.iter().map(move |(id, crowns)| (*id, crowns.distance(at_m, limit)))
    }
}

fn middling(layer: &Layer) -> f32 {
    (layer.stance.size.min + layer.stance.size.max) * 0.5
}

/// How far what must have room reaches from a plant's base point, metres: what is bent aside or trimmed needs none.
pub fn reach_m(keep: &Keep, mix: &Mix, body: &Body) -> f32 {
    let kin = mix.kin(body.species);
    body.across
        * match (keep.by, keep.response) {
            (Reach::Nothing, _) | (_, TooClose::Trim) => 0.0,
            (_, TooClose::Bend) if kin.bends => kin.footprint_m,
            (Reach::Footprint, _) => kin.footprint_m,
            (Reach::Crown, _) => kin.crown_m,
        }
}

/// Distance to a mesh, below zero inside it. What lies farther than `limit` may give any number above it.
fn room_beside(mesh: &MeshDistance, p: Vec3, limit: f32) -> f32 {
    let inside = mesh.holds(p);
    if inside {
        return -mesh.distance(p, f32::INFINITY);
    }
    mesh.distance(p, limit)
}

/// Where a plant meets the ground, as near as its layer's sink tells; on grounds without a plan its base point. How deep a layer
/// is sunk is to change nothing about who stands.
pub fn foot_m(document: &Document, layer: &Layer, plant: &Plant) -> Vec3 {
    let stance = &layer.stance;
    let even = stance.lift_m.min >= stance.lift_m.max && tended_number(plant.id).is_none();
    let on_plan =
        layer.on_plants.is_none() && document.placed(plant.ground).is_none_or(|g| g.source.has_plan());
    let raised = if even && on_plan { stance.lift_m.min - stance.sink_m } else { 0.0 };
    plant.position_m - Vec3::Y * raised
}

/// What the plants of a layer claim for themselves, as balls about their base points in the scene.
pub fn claimed(document: &Document, layer: &Layer, plants: &[Plant]) -> Crowns {
    let mix = Mix::new(document, layer);
    let keep = layer.clearance.others;
    let ball = |p: &Plant| (foot_m(document, layer, p), reach_m(&keep, &mix, &Body::new(p)));
    Crowns::new(plants.iter().map(ball).collect())
}
