//! Bodies left to themselves: they fall, bounce and roll on the true ground and what stands on it, and float on water.
//!
//! All of them at once in steps of a fixed length from the moment that the first is let go, by `rapier3d` on one thread; what comes of it is looked at as a way like any other, so that any moment can be told by itself.

use super::course::{Place, place_at};
use super::gusts::Gusts;
use super::moving::lowest;
use super::profile::{Canopy, Profile};
use crate::cancel::{CancelToken, Cancelled};
use crate::document::{Body, BodyForm, Document, Loose, WaterPlane};
use crate::ground::Terrain;
use crate::nursery::Mesh;
use glam::{Vec3, vec3};
use rapier3d::parry::utils::Array2;
use rapier3d::prelude::*;
use std::sync::Arc;

/// Steps a second.
const STEPS_A_S: u32 = 240;
/// Steps from one place that is kept to the next.
const KEPT_EVERY: u32 = 8;
/// Longest time that is worked out after the first body is let go, seconds.
pub const LONGEST_S: f32 = 120.0;
/// Triangles of a mesh whose seams are smoothed, at most.
const MOST_SMOOTH: usize = 500_000;
/// Rolling resistance against its weight: turf holds what presses it down. By eye, after values for balls on long grass from memory.
const TURF: f32 = 0.05;
/// The same on bare ground.
const BARE: f32 = 0.01;
/// kg/m3.
const WATER: f32 = 1000.0;
const AIR: f32 = 1.2;
/// A body is no thinner than this share of its extent.
const THINNEST: f32 = 0.01;
/// Drag of a round thing against its face, from memory.
const DRAG: f32 = 0.5;

/// What bodies meet.
pub(super) struct Around<'a> {
    pub document: &'a Document,
    pub land: Option<&'a Terrain>,
    pub solids: &'a [&'a Mesh],
    /// What bodies look like, in their order.
    pub shapes: &'a [Arc<Mesh>],
}

/// A body that is let go.
struct Let<'a> {
    nth: usize,
    body: &'a Body,
    loose: &'a Loose,
    handle: Option<(RigidBodyHandle, ColliderHandle)>,
    rests: bool,
}

impl Around<'_> {
    /// Lets bodies go on from where their ways end; `ways` in the order of the document's bodies.
    pub fn go_on(&self, ways: &mut [Vec<Place>], cancel: &CancelToken) -> Result<(), Cancelled> {
        let bodies = &self.document.bodies;
        let mut loose: Vec<Let> = bodies
            .iter()
            .enumerate()
            .filter(|(_, b)| !b.hidden)
            .filter_map(|(nth, body)| {
                let loose = body.loose.as_ref()?;
                Some(Let { nth, body, loose, handle: None, rests: false })
            })
            .collect();
        let Some(start) = loose.iter().map(|l| l.loose.at_s).min_by(f32::total_cmp) else { return Ok(()) };
        let end = self.document.motion.clock.length_s.min(start + LONGEST_S);
        let mut world = self.still();
        world.integration_parameters.dt = 1.0 / STEPS_A_S as f32;
        let led: Vec<(usize, RigidBodyHandle)> = bodies
            .iter()
            .enumerate()
            .filter(|(_, b)| !b.hidden && b.loose.is_none())
            .map(|(nth, b)| {
                let at = place_at(&ways[nth], f64::from(start));
                let held =
                    RigidBodyBuilder::kinematic_position_based().pose(Pose::from_parts(at.at_m, at.turn));
                (nth, world.insert(held, collider(&b.form, &self.shapes[nth]).friction(1.0)).0)
            })
            .collect();
        let steps = ((end - start).max(0.0) * STEPS_A_S as f32).ceil() as u32;
        let gusts = Gusts::new(&self.document.motion.wind);
        let lowest = lowest(self.land, self.solids);
        let wind = Profile::new(self.document.motion.wind.speed_m_per_s, Canopy::default());
        for step in 0..=steps {
            if cancel.is_cancelled() {
                return Err(Cancelled);
            }
            let time = f64::from(start) + f64::from(step) / f64::from(STEPS_A_S);
            for one in &mut loose {
                if one.handle.is_none() && time >= f64::from(one.loose.at_s) {
                    one.handle = Some(let_go(&mut world, one, &self.shapes[one.nth], &ways[one.nth]));
                    let last = ways[one.nth][ways[one.nth].len() - 1];
                    let at_s = time as f32;
                    if at_s > last.time_s {
                        ways[one.nth].push(Place { time_s: at_s, ..last });
                    }
                }
            }
            for (nth, handle) in &led {
                let next = place_at(&ways[*nth], time + 1.0 / f64::from(STEPS_A_S));
                if let Some(body) = world.bodies.get_mut(*handle) {
                    body.set_next_kinematic_position(Pose::from_parts(next.at_m, next.turn));
                }
            }
            let now = gusts.at(time);
            for one in loose.iter_mut().filter(|l| !l.rests) {
                self.acts(&mut world, one, |at| {
                    let gust = now.field(now.frame(at.x, at.z));
                    let speed = wind.speed(at.y.max(0.1));
                    let [hx, hz] = now.heading;
                    let (along, aside) =
                        (speed * (1.0 + now.strength * gust[0]), speed * now.strength * gust[1]);
                    vec3(along * hx - aside * hz, 0.0, along * hz + aside * hx)
                });
            }
            world.step();
            for one in &mut loose {
                let Some((handle, _)) = one.handle else { continue };
                let Some(body) = world.bodies.get(handle) else { continue };
                if one.rests || (step % KEPT_EVERY != 0 && step != steps) {
                    continue;
                }
                let place = Place {
                    time_s: (time + 1.0 / f64::from(STEPS_A_S)) as f32,
                    at_m: body.translation(),
                    turn: *body.rotation(),
                };
                // What was thrown apart beyond all numbers stays where it was last.
                if !(place.at_m.is_finite() && place.turn.is_finite()) {
                    one.rests = true;
                    continue;
                }
                one.rests = body.is_sleeping() || place.at_m.y < lowest;
                ways[one.nth].push(place);
            }
            if !loose.is_empty() && loose.iter().all(|l| l.rests) {
                break;
            }
        }
        Ok(())
    }

    /// Ground and obstacles, to their very triangles.
    fn still(&self) -> PhysicsWorld {
        let mut world = PhysicsWorld::new();
        let put = |world: &mut PhysicsWorld, c: ColliderBuilder| {
            world.insert_collider(
                c.friction(2.0)
                    .restitution(1.0)
                    .friction_combine_rule(CoefficientCombineRule::Min)
                    .restitution_combine_rule(CoefficientCombineRule::Min),
                None,
            );
        };
        if let Some(t) = self.land {
            let smooth = HeightFieldFlags::FIX_INTERNAL_EDGES;
            let heights = Array2::from_fn(t.nz(), t.nx(), |row, column| t.sample(column, row));
            let size = t.size_m();
            let mut field = HeightField::with_flags(heights, vec3(size.x, 1.0, size.y), smooth);
            // The same diagonal as the ground's own triangles.
            for row in 0..t.nz() - 1 {
                for column in 0..t.nx() - 1 {
                    field.set_cell_status(row, column, HeightFieldCellStatus::ZIGZAG_SUBDIVISION);
                }
            }
            put(&mut world, ColliderBuilder::new(SharedShape::new(field)));
        }
        for mesh in self.solids.iter().filter(|m| !m.indices.is_empty()) {
            let corners: Vec<_> = mesh.indices.chunks_exact(3).map(|t| [t[0], t[1], t[2]]).collect();
            // Seams between triangles are smoothed where that does not take more memory than the mesh is worth.
            let flags = match corners.len() <= MOST_SMOOTH {
                true => TriMeshFlags::FIX_INTERNAL_EDGES,
                false => TriMeshFlags::empty(),
            };
            let shape = ColliderBuilder::trimesh_with_flags(mesh.positions.clone(), corners, flags);
            if let Ok(shape) = shape {
                put(&mut world, shape);
            }
        }
        world
    }

    /// Wind, water, and what holds a rolling body back.
    fn acts(&self, world: &mut PhysicsWorld, one: &Let, wind: impl Fn(Vec3) -> Vec3) {
        let Some((handle, collider)) = one.handle else { return };
        let touches = world.narrow_phase.contact_pairs_with(collider).any(|p| p.has_any_active_contact());
        let Some(body) = world.bodies.get_mut(handle) else { return };
        let dt = 1.0 / STEPS_A_S as f32;
        let (at, moves, spins, mass) = (body.translation(), body.linvel(), body.angvel(), body.mass());
        let radius = one.body.form.radius_m();
        let face = std::f32::consts::PI * radius * radius;
        if one.loose.wind_share > 0.0 {
            let against = wind(at) * one.loose.wind_share - moves;
            let push = against * against.length() * (0.5 * AIR * DRAG * face * dt);
            // Never more than brings it to the wind's own speed.
            body.apply_impulse(push.clamp_length_max(against.length() * mass), true);
        }
        let volume = mass / one.loose.density_kg_per_m3;
        if let Some(level) = self.water_over(at) {
            let deep = ((level - (at.y - radius)) / (2.0 * radius)).clamp(0.0, 1.0);
            // The share of a ball that lies below a level, by the height of its cap.
            let share = deep * deep * (3.0 - 2.0 * deep);
            if share > 0.0 {
                body.apply_impulse(vec3(0.0, WATER * 9.81 * volume * share * dt, 0.0), true);
                let slows = (0.5 * WATER * DRAG * face * share * moves.length() / mass * dt).min(0.5);
                let creeps = (1.5 * share * dt).min(0.5);
                body.apply_impulse(moves * (-mass * (slows + creeps).min(0.9)), false);
                body.set_angvel(spins * (1.0 - (2.0 * share * dt).min(0.5)), false);
            }
        }
        if touches && spins.length() > 1e-4 {
            let hold = if one.body.felt { TURF } else { BARE } * 9.81 * dt / (0.4 * radius);
            let left = (spins.length() - hold).max(0.0);
            body.set_angvel(spins * (left / spins.length()), false);
        }
    }

    /// The highest water over a point of the plan.
    fn water_over(&self, at: Vec3) -> Option<f32> {
        let sheets = self.document.waters.iter().filter(|w: &&WaterPlane| w.covers(at.x, at.z));
        sheets.map(|w| w.height_m).chain(self.document.ground.water_m).max_by(f32::total_cmp)
    }
}

/// What a body is to the others. Its surface decides alone how it bounces and holds.
fn collider(form: &BodyForm, mesh: &Mesh) -> ColliderBuilder {
    let shape = match form {
        BodyForm::Ball { radius_m } | BodyForm::Buoy { radius_m } => ColliderBuilder::ball(*radius_m),
        BodyForm::Barrel { radius_m, length_m } => {
            let lying = Pose::from_parts(Vec3::ZERO, Rotation::from_rotation_z(std::f32::consts::FRAC_PI_2));
            ColliderBuilder::cylinder(0.5 * length_m, *radius_m).position(lying)
        }
        BodyForm::Boulder { size_m, .. } | BodyForm::Mesh { size_m, .. } => {
            let (low, high) = mesh.bounds();
            let half = (high - low) * 0.5;
            // A hull without a volume has no weight: a plate or a rod is a thin block.
            let least = half.max_element() * THINNEST;
            if half.min_element() < least {
                ColliderBuilder::cuboid(half.x.max(least), half.y.max(least), half.z.max(least))
            } else {
                let hull = ColliderBuilder::convex_hull(&mesh.positions);
                hull.unwrap_or_else(|| ColliderBuilder::ball(0.5 * size_m))
            }
        }
    };
    shape
        .friction_combine_rule(CoefficientCombineRule::Min)
        .restitution_combine_rule(CoefficientCombineRule::Min)
}

/// Puts a body in where its way ends, as fast as it went there and as it is pushed.
fn let_go(
    world: &mut PhysicsWorld,
    one: &Let,
    mesh: &Mesh,
    way: &[Place],
) -> (RigidBodyHandle, ColliderHandle) {
    let last = way[way.len() - 1];
    let led = way.len().checked_sub(2).map(|i| way[i]).filter(|_| last.time_s >= one.loose.at_s);
    let went = led.map_or(Vec3::ZERO, |p| (last.at_m - p.at_m) / (last.time_s - p.time_s));
    let rolled = led
        .map_or(Vec3::ZERO, |p| (last.turn * p.turn.inverse()).to_scaled_axis() / (last.time_s - p.time_s));
    let body = RigidBodyBuilder::dynamic()
        .pose(Pose::from_parts(last.at_m, last.turn))
        .linvel(went + Vec3::from(one.loose.velocity_m_per_s))
        .angvel(rolled + Vec3::from(one.loose.spin_rad_per_s))
        .ccd_enabled(true);
    let loose = one.loose;
    let surface = collider(&one.body.form, mesh)
        .density(loose.density_kg_per_m3)
        .friction(loose.friction)
        .restitution(loose.bounce);
    world.insert(body, surface)
}

#[cfg(test)]
mod tests;
