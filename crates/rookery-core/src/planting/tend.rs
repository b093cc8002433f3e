//! Plants set by hand, and spots cleared by hand, on one ground.

use super::clearance::{Ball, Body, Clear};
use super::{Mix, Plant, PlantId, drift_number};
use crate::document::{GroundId, Layer, Origin, Pose, SpeciesId, Tended};
use crate::ground::{Frame, GroundRef, Surface};
use crate::habitat::Crowns;
use glam::{Quat, Vec2, Vec3};
use rustc_hash::FxHashSet;

/// The level in [`PlantId`] of what was set by hand.
const LEVEL: u64 = 253;

/// What was tended of a layer on one ground.
#[derive(Clone, Debug, Default)]
pub struct Tending {
    /// Plants that were taken in hand and do not grow by themselves.
    taken: FxHashSet<PlantId>,
    /// Spots that stay clear, with how far they reach; on the plan where the ground has one.
    clear: Crowns,
    set: Vec<(PlantId, Vec3, u8, Pose)>,
}

impl Tending {
    /// Of a layer on one of its grounds.
    pub fn new(layer: &Layer, ground: GroundId, on_plan: bool) -> Self {
        let here = || layer.tended.iter().filter(|t| t.ground == ground);
        let seeded = |o: &Origin| o.plant().filter(|id| layer.seed_of(*id) == Some(o.seed));
        let spot = |t: &Tended| (flat(Vec3::from(t.at_m), on_plan), t.room_m);
        let lead = layer.lead();
        let place = |id: &SpeciesId| layer.mix.iter().position(|m| m.species == *id);
        let species = |p: &Pose| place(&p.species).or_else(|| place(lead)).unwrap_or(0) as u8;
        let set = |t: &Tended| {
            let pose = t.plant.clone()?;
            Some((PlantId(LEVEL << 56 | u64::from(t.id.0)), Vec3::from(t.at_m), species(&pose), pose))
        };
        Self {
            taken: here().filter_map(|t| t.from.as_ref().and_then(seeded)).collect(),
            clear: Crowns::new(here().filter(|t| t.plant.is_none() && t.room_m > 0.0).map(spot).collect()),
            set: here().filter_map(set).collect(),
        }
    }

    /// Whether nothing was.
    pub fn is_none(&self) -> bool {
        self.taken.is_empty() && self.clear.is_empty() && self.set.is_empty()
    }

    /// Whether a plant that grew by itself may not stand: it was taken in hand, or its spot is to stay clear.
    pub fn refuses(&self, id: PlantId, at_m: Vec3, on_plan: bool) -> bool {
        self.taken.contains(&id) || self.clear.nearer_than(flat(at_m, on_plan), 0.0)
    }

    /// The plants set by hand, as they stand on the ground now.
    pub fn plants<'a, S: Surface>(&'a self, ground: &'a S, mix: &'a Mix) -> impl Iterator<Item = Plant> + 'a {
        self.set.iter().map(|(id, at_m, species, pose)| {
            let footing = ground.footing(&ground.spot_near(*at_m));
            Plant {
                id: *id,
                ground: GroundId::LAND,
                carrier: ground.carrier(&ground.spot_near(*at_m)),
                position_m: footing.position_m + footing.up * pose.lift_m,
                rotation: rotation(pose, footing.up),
                size: pose.size,
                stretch: pose.stretch,
                species: *species,
                form: pose.form % mix.kin(*species).forms.max(1),
                tint: pose.tint,
                colour: pose.colour,
            }
        })
    }

    /// What they keep their own kind away with.
    pub fn balls<S: Surface>(&self, ground: &S, mix: &Mix, clear: &Clear) -> Vec<Ball> {
        let ball = |p: Plant| (p.position_m, clear.own_reach_m(mix, &Body::new(&p)));
        self.plants(ground, mix).map(ball).filter(|(_, r)| *r > 0.0).collect()
    }
}

impl Layer {
    /// The arrangement that a plant of the layer is part of: the layer's, or that of the drift that strewed it; none where that is gone.
    pub fn seed_of(&self, id: PlantId) -> Option<u32> {
        match drift_number(id) {
            Some(drift) => self.drifts.iter().find(|d| d.id.0 == drift).map(|d| d.seed),
            None => Some(self.seed),
        }
    }
}

/// Which thing tended a plant is, by its number; none for one that grew by itself.
pub fn tended_number(id: PlantId) -> Option<u32> {
    (id.0 >> 56 == LEVEL).then_some(id.0 as u32)
}

fn flat(p: Vec3, on_plan: bool) -> Vec3 {
    if on_plan { Vec3::new(p.x, 0.0, p.z) } else { p }
}

fn upright(up: Vec3) -> Quat {
    if up == Vec3::Y { Quat::IDENTITY } else { Quat::from_rotation_arc(Vec3::Y, up) }
}

/// From a plant's own frame to its ground's, where this way is up.
fn rotation(pose: &Pose, up: Vec3) -> Quat {
    let about_y = |deg: f32| Quat::from_rotation_y(-deg.to_radians());
    // About the axis to the right of the way it tilts to.
    let axis = about_y(pose.tilt_to_deg) * Vec3::X;
    upright(up) * Quat::from_axis_angle(axis, -pose.tilt_deg.to_radians()) * about_y(pose.turn_deg)
}

/// Turn, tilt and the way of the tilt of a plant, degrees: what [`Pose`] says of it.
fn angles(rotation: Quat, up: Vec3) -> [f32; 3] {
    let own = upright(up).inverse() * rotation;
    let stem = own * Vec3::Y;
    let away = Vec2::new(stem.x, -stem.z);
    let tilt_deg = libm::atan2f(away.length(), stem.y).to_degrees();
    let tilt_to_deg = if tilt_deg < 1e-3 { 0.0 } else { libm::atan2f(away.x, away.y).to_degrees() };
    let axis = Quat::from_rotation_y(-tilt_to_deg.to_radians()) * Vec3::X;
    let turned = Quat::from_axis_angle(axis, tilt_deg.to_radians()) * own;
    let north = turned * Vec3::NEG_Z;
    [libm::atan2f(north.x, -north.z).to_degrees(), tilt_deg, tilt_to_deg]
}

/// A plant as it would have to be set by hand to stand exactly so. `plant` and the result are in the ground's own frame.
pub fn pose_of<S: Surface>(ground: &S, layer: &Layer, plant: &Plant) -> (Vec3, Pose) {
    let footing = ground.footing(&ground.spot_near(plant.position_m));
    let [turn_deg, tilt_deg, tilt_to_deg] = angles(plant.rotation, footing.up);
    let species = layer.mix.get(usize::from(plant.species)).map_or_else(|| layer.lead(), |m| &m.species);
    let pose = Pose {
        species: species.clone(),
        form: plant.form,
        size: plant.size,
        stretch: plant.stretch,
        turn_deg,
        tilt_deg,
        tilt_to_deg,
        lift_m: (plant.position_m - footing.position_m).dot(footing.up),
        tint: plant.tint,
        colour: plant.colour,
    };
    (footing.position_m, pose)
}

/// A plant of the scene as it would have to be set by hand on its ground, see [`pose_of`].
pub fn pose_in(ground: &GroundRef<'_>, frame: &Frame, layer: &Layer, plant: &Plant) -> (Vec3, Pose) {
    let local = Plant {
        position_m: frame.local(plant.position_m),
        rotation: frame.turn.inverse() * plant.rotation,
        ..*plant
    };
    match ground {
        GroundRef::Terrain(t) => pose_of(*t, layer, &local),
        GroundRef::Mesh(m) => pose_of(*m, layer, &local),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn a_pose_says_how_a_plant_is_turned(
            axis in prop::array::uniform3(-1.0_f32..1.0), angle in -3.1_f32..3.1, up in prop::array::uniform3(-1.0_f32..1.0),
        ) {
            let (axis, up) = (Vec3::from(axis), Vec3::from(up));
            prop_assume!(axis.length() > 0.1 && up.length() > 0.1 && up.normalize().y > -0.99);
            let (turned, up) = (Quat::from_axis_angle(axis.normalize(), angle), up.normalize());
            let [turn_deg, tilt_deg, tilt_to_deg] = angles(turned, up);
            let pose = Pose {
                species: SpeciesId("marram".into()), form: 0, size: 1.0, stretch: [1.0; 2], turn_deg, tilt_deg, tilt_to_deg,
                lift_m: 0.0, tint: 0, colour: [128; 3],
            };
            let again = rotation(&pose, up);
            for v in [Vec3::X, Vec3::Y, Vec3::Z] {
                prop_assert!((again * v).distance(turned * v) < 2e-3, "{v}: {} for {}", again * v, turned * v);
            }
        }
    }
}
