//! Plants as the wind bends them at a moment, in a still: few shapes for many plants.
//!
//! A form is bent once for each direction and amount in steps, and a plant takes the shape next to its own, turned and scaled about
//! its foot so that its tip is where it should be. How far that leaves its outermost parts from where they belong is measured for
//! every plant; where it would show, steps become finer, and at last the plant gets a shape of its own.

mod choice;
mod scene;

pub(crate) use scene::Loose;

use crate::accel::MeshBvh;
use choice::{Step, choose};
use glam::Vec3;
use rayon::prelude::*;
use rookery_core::math::limb::Turn;
use rookery_core::motion::{MotionFacts, Now, SpeciesMotion};
use rookery_core::nursery::{Hung, Mesh, Pose};
use rookery_core::scene::{Document, Shot};
use std::borrow::Cow;
use std::collections::BTreeSet;

/// How far off a part of a plant may be on the picture, pixels: the first with which the shapes stay below the ceiling.
const TRIED_PX: [f32; 8] = [0.5, 0.75, 1.0, 1.5, 2.0, 4.0, 8.0, f32::INFINITY];
/// Triangles of all shapes together, at most: about 400 MB.
const MOST_TRIANGLES: usize = 3_000_000;

/// A moment of a scene, and who looks at it.
pub struct Moment<'a> {
    /// How the scene moves.
    pub facts: &'a MotionFacts,
    /// All that moves it at that moment.
    pub now: Now,
    time_s: f64,
    eye: Eye,
}

impl<'a> Moment<'a> {
    /// A time of a scene, seconds, looked at through a shot.
    pub fn new(document: &Document, facts: &'a MotionFacts, time_s: f64, shot: &Shot) -> Self {
        Self { facts, now: Now::new(document, &facts.moving, time_s), time_s, eye: Eye::new(shot) }
    }
}

/// What a picture sees how large.
#[derive(Clone, Copy)]
struct Eye {
    at: Vec3,
    forward: Vec3,
    /// Of the angle between the middle of the picture and its corner.
    corner_tan: f32,
    /// Size of a pixel one metre away, metres.
    pixel: f32,
}

impl Eye {
    fn new(shot: &Shot) -> Self {
        let half = libm::tanf(shot.view_deg.to_radians() * 0.5);
        let aspect = shot.width_px as f32 / shot.height_px as f32;
        Self {
            at: shot.eye_m.into(),
            forward: (Vec3::from(shot.target_m) - Vec3::from(shot.eye_m)).normalize_or(Vec3::NEG_Z),
            corner_tan: half * (1.0 + aspect * aspect).sqrt(),
            pixel: 2.0 * half / shot.height_px as f32,
        }
    }

    /// Size of a pixel on a plant that reaches so far from its foot, metres, and whether any of it can be on the picture.
    fn pixel_at(&self, foot: Vec3, reach: f32) -> (f32, bool) {
        let to = foot - self.at;
        let pixel = (to.length() - reach).max(0.1) * self.pixel;
        let ahead = to.dot(self.forward);
        let aside = (to - self.forward * ahead).length();
        let beyond = reach * (1.0 + self.corner_tan * self.corner_tan).sqrt();
        (pixel, aside <= ahead * self.corner_tan + beyond)
    }
}

/// A form that bends.
struct Form {
    mesh: Mesh,
    /// What blows through its leaves; none where it has none that flutter.
    blown: Option<SpeciesMotion>,
    marks: Vec<Hung>,
    tall: f32,
    reach: f32,
}

impl Form {
    /// A form, the height of its species, metres, and what blows on it.
    pub fn new(mesh: Mesh, tall: f32, blown: Option<SpeciesMotion>) -> Self {
        let blown = blown.filter(|_| !mesh.shares.flaps.is_empty());
        let marks = mesh.telling(tall);
        let reach = mesh.positions.iter().map(|p| p.length()).fold(tall, f32::max);
        Self { mesh, blown, marks, tall, reach }
    }
}

/// A plant that the wind bends.
struct Swaying {
    /// Its place in the list of instances.
    pub instance: usize,
    pub form: usize,
    pub foot: Vec3,
    pub pose: Pose,
    pub turn: Turn,
}

/// How a plant is shown.
struct Stands {
    pub instance: usize,
    /// Its place in the list of shapes; none for the form at rest.
    pub shape: Option<usize>,
    pub pose: Pose,
}

/// A shape with what rays need.
type Shape = (Mesh, MeshBvh);

/// What it took to bend the plants of a still.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct BentFacts {
    /// Plants that the wind bends.
    pub plants: usize,
    /// Shapes that they share.
    pub shapes: usize,
    /// How many of these are of one plant alone.
    pub own: usize,
    /// Triangles of all shapes.
    pub triangles: usize,
    /// No part that was measured is further from its place, pixels; without end where the ceiling left no choice.
    pub within_px: f32,
}

/// A shape, by what it is bent like.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
enum Key {
    /// One of the bank: form, steps all round, then steps of direction, of rise and of amount.
    Bank(usize, u16, u16, i16, u16),
    /// That of one plant.
    Own(usize),
}

/// Settles which shape every plant takes, and makes the shapes.
fn settle(forms: &[Form], plants: &[Swaying], moment: &Moment) -> (Vec<Stands>, Vec<Shape>, BentFacts) {
    let mut tried = TRIED_PX.into_iter();
    let (chosen, keys, within_px) = loop {
        let px = tried.next().unwrap_or(f32::INFINITY);
        let chosen: Vec<(Option<Key>, Pose)> = plants
            .par_iter()
            .enumerate()
            .map(|(i, p)| choose(&forms[p.form], i, p, &moment.eye, px))
            .collect();
        let keys: BTreeSet<Key> = chosen.iter().filter_map(|(key, _)| *key).collect();
        let triangles: usize = keys.iter().map(|k| of_key(forms, plants, k).0.mesh.triangles()).sum();
        if triangles <= MOST_TRIANGLES || px == f32::INFINITY {
            break (chosen, Vec::from_iter(keys), px);
        }
    };
    let shapes: Vec<Shape> = keys
        .par_iter()
        .map(|key| {
            let (form, pose, turn) = of_key(forms, plants, key);
            let leaves = |s| form.mesh.fluttering(&MotionFacts::flutter(s, turn.angle, moment.time_s));
            let mesh = form.blown.as_ref().map_or(Cow::Borrowed(&form.mesh), |s| Cow::Owned(leaves(s)));
            let mesh = mesh.turned(&pose, &turn, form.tall);
            let bvh = MeshBvh::quick(&mesh);
            (mesh, bvh)
        })
        .collect();
    let facts = BentFacts {
        plants: plants.len(),
        shapes: shapes.len(),
        own: keys.iter().filter(|k| matches!(k, Key::Own(_))).count(),
        triangles: shapes.iter().map(|(m, _)| m.triangles()).sum(),
        within_px,
    };
    let stands = plants.iter().zip(chosen).map(|(p, (key, pose))| Stands {
        instance: p.instance,
        shape: key.map(|k| keys.binary_search(&k).expect("every key that was chosen is in the list")),
        pose,
    });
    (stands.collect(), shapes, facts)
}

/// What a shape is made of.
fn of_key<'a>(forms: &'a [Form], plants: &[Swaying], key: &Key) -> (&'a Form, Pose, Turn) {
    match *key {
        Key::Bank(form, steps, way, rise, amount) => {
            (&forms[form], Pose::AS_MADE, Step { steps, way, rise, amount }.turn())
        }
        Key::Own(plant) => {
            let p = &plants[plant];
            (&forms[p.form], p.pose, p.turn)
        }
    }
}

#[cfg(test)]
mod tests;
