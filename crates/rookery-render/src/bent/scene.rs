//! A scene bent by the wind of a moment, again and again.

use super::{BentFacts, Form, Moment, Swaying, settle};
use crate::accel::Instance;
use crate::scene::RenderScene;
use rayon::prelude::*;
use rookery_core::math::limb::Turn;
use rookery_core::motion::{LayerMotion, Moving, Place, SpeciesMotion, place_at};
use rookery_core::nursery::{Mesh, Pose};
use rookery_core::planting::Plant;
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::scene::{Document, GroundId, Layer};
use std::collections::BTreeMap;

/// Plants that a wind can bend, and how they stand without it.
#[derive(Default)]
pub(crate) struct Loose {
    /// Instance, layer and plant of that layer.
    plants: Vec<[u32; 3]>,
    /// Instances of bodies, in their order.
    bodies: Vec<usize>,
    /// Instances that a moving ground carries, itself among them.
    carried: Vec<(u32, GroundId)>,
    /// All instances, and the number of parts, before anything was bent.
    rest: Option<(Vec<Instance>, usize)>,
}

impl Loose {
    pub fn add(&mut self, instance: usize, layer: usize, plant: usize) {
        self.plants.push([instance, layer, plant].map(|n| n as u32));
    }

    pub fn carry(&mut self, instance: usize, by: GroundId) {
        self.carried.push((instance as u32, by));
    }
}

/// A body where it is.
fn standing(mesh: u32, place: &Place) -> Instance {
    Instance { position: place.at_m.into(), rotation: place.turn, ..Instance::new(mesh) }
}

impl RenderScene {
    /// Puts bodies in where they are at the start of time.
    pub fn put_in(&mut self, moving: &Moving) {
        let mut list = self.placed().to_vec();
        for track in &moving.bodies {
            let mesh = self.add_part(Mesh::clone(&track.mesh));
            self.loose.bodies.push(list.len());
            list.push(standing(mesh, &place_at(&track.places, 0.0)));
        }
        self.place(list);
    }

    /// Bends the plants as the wind does at a moment, whatever they were bent like before. `document` and `layers` are those that the scene
    /// was made of.
    pub fn bend(&mut self, document: &Document, layers: &[(&Layer, &[Plant], &Fits)], moment: &Moment) {
        self.light.clouds.drift_m =
            moment.facts.clouds_m_per_s.map(|v| (f64::from(v) * moment.time_s) as f32);
        self.sea = self.sea.sea.at(moment.time_s);
        let turns: Vec<Vec<Turn>> = layers
            .iter()
            .map(|(layer, plants, _)| {
                let blown = moment.facts.layers.iter().find(|l| l.id == layer.id);
                blown.map(|l| turns(moment, l, plants)).unwrap_or_default()
            })
            .collect();
        let (mut list, parts) =
            self.loose.rest.take().unwrap_or_else(|| (self.placed().to_vec(), self.parts.len()));
        self.parts.truncate(parts);
        self.bvhs.truncate(parts);
        let rest = list.clone();
        for (instance, by) in &self.loose.carried {
            let Some(ride) = moment.now.ride(*by) else { continue };
            let it = &mut list[*instance as usize];
            (it.position, it.rotation) =
                (ride.carry(it.position.into()).into(), (ride.turn * it.rotation).normalize());
        }
        let (mut forms, mut of_part, mut swaying) = (Vec::new(), BTreeMap::new(), Vec::new());
        for &[instance, layer, plant] in &self.loose.plants {
            let turn = turns[layer as usize].get(plant as usize).copied().filter(|t| t.angle > 0.0);
            let Some(turn) = turn else { continue };
            let (layer, plants, _) = layers[layer as usize];
            let p = &plants[plant as usize];
            let part = list[instance as usize].mesh;
            // The leaves of one species flutter otherwise where another wind blows on its layer.
            let blown = moment.facts.species_motion(layer.id, p.species);
            let leafy = !self.parts[part as usize].shares.flaps.is_empty();
            let form = *of_part.entry((part, leafy.then_some(layer.id))).or_insert_with(|| {
                let tall = document.species_of(layer, p).map_or(1.0, |s| s.height_m());
                forms.push((part, tall, blown.cloned()));
                forms.len() - 1
            });
            let stands = &list[instance as usize];
            let pose = Pose { rotation: stands.rotation, scale: p.scale() };
            let foot = stands.position.into();
            swaying.push(Swaying { instance: instance as usize, form, foot, pose, turn });
        }
        let form = |(part, tall, blown): &(u32, f32, Option<SpeciesMotion>)| {
            Form::new(self.parts[*part as usize].clone(), *tall, blown.clone())
        };
        let forms: Vec<Form> = forms.par_iter().map(form).collect();
        self.bent = BentFacts::default();
        for (instance, body) in self.loose.bodies.iter().zip(&moment.facts.moving.bodies) {
            list[*instance] = standing(list[*instance].mesh, &place_at(&body.places, moment.time_s));
        }
        if !swaying.is_empty() {
            let (stands, shapes, facts) = settle(&forms, &swaying, moment);
            for (mesh, bvh) in shapes {
                self.parts.push(mesh);
                self.bvhs.push(bvh);
            }
            for s in stands {
                let instance = &mut list[s.instance];
                (instance.rotation, instance.scale) = (s.pose.rotation, s.pose.scale.into());
                if let Some(shape) = s.shape {
                    instance.mesh = (parts + shape) as u32;
                }
            }
            self.bent = facts;
        }
        self.place(list);
        self.loose.rest = Some((rest, parts));
    }
}

/// How every plant of a layer is turned at a moment; empty where nothing moves it.
fn turns(moment: &Moment, layer: &LayerMotion, plants: &[Plant]) -> Vec<Turn> {
    if !moment.facts.moves(layer) {
        return Vec::new();
    }
    plants.par_iter().map(|p| Turn::towards(moment.facts.turned(layer, p, &moment.now))).collect()
}
