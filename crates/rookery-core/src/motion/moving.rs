//! All that moves by itself in a scene, over time and at a moment.

use super::blowing::{BlowerNow, BlowerTrack};
use super::course::{Place, place_at, places};
use super::fall::Around;
use super::gusts::{Gusts, GustsNow};
use super::pressing::{BodyNow, BodyTrack};
use super::riding::{Ride, RideKey, RideNow};
use super::shape::body_mesh;
use crate::cancel::{CancelToken, Cancelled};
use crate::document::{Body, BodyId, Document, GroundId};
use crate::ground::Terrain;
use crate::nursery::Mesh;
use glam::Vec3;
use pulp::Arch;
use serde::Serialize;
use std::collections::BTreeMap;
use std::sync::Arc;

/// Longest pieces of ways, metres.
const BLOWER_STEP_M: f32 = 1.0;
const BODY_STEP_M: f32 = 0.25;
/// How far below all that there is a body is gone, metres.
const FALLS_AWAY_M: f32 = 20.0;

/// What moves by itself in a scene.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Moving {
    /// Blowers that blow.
    pub blowers: Vec<BlowerTrack>,
    /// Bodies that are shown.
    pub bodies: Vec<BodyTrack>,
    /// Grounds that move, of those that are shown.
    pub grounds: Vec<Ride>,
}

/// The meshes of bodies that come from files, each about its own middle and as large as it is.
pub type BodyMeshes = BTreeMap<BodyId, Mesh>;

impl Moving {
    /// What moves in a scene over its land, among the grounds beside it and its obstacles. A body from a file is a ball.
    ///
    /// # Errors
    /// When it was stopped.
    pub fn over(
        document: &Document,
        land: Option<&Terrain>,
        solids: &[&Mesh],
        cancel: &CancelToken,
    ) -> Result<Self, Cancelled> {
        Self::with_meshes(document, land, solids, &BodyMeshes::new(), cancel)
    }

    /// The same with the meshes of bodies that come from files.
    ///
    /// # Errors
    /// When it was stopped.
    pub fn with_meshes(
        document: &Document,
        land: Option<&Terrain>,
        solids: &[&Mesh],
        meshes: &BodyMeshes,
        cancel: &CancelToken,
    ) -> Result<Self, Cancelled> {
        let mesh = |b: &Body| meshes.get(&b.id).cloned().unwrap_or_else(|| body_mesh(&b.form));
        let shapes: Vec<Arc<Mesh>> = document.bodies.iter().map(|b| Arc::new(mesh(b))).collect();
        let middle = |mesh: &Mesh| -mesh.bounds().0.y;
        let each = document.bodies.iter().zip(&shapes);
        let ways = each.map(|(b, mesh)| places(&b.course, land, middle(mesh), BODY_STEP_M));
        let mut ways: Vec<Vec<Place>> = ways.collect();
        Around { document, land, solids, shapes: &shapes }.go_on(&mut ways, cancel)?;
        let blowers = document.blowers.iter().filter(|b| b.enabled && b.speed_m_per_s > 0.0);
        let bodies = document.bodies.iter().zip(ways).zip(shapes).filter(|((b, _), _)| !b.hidden);
        Ok(Self {
            grounds: document.grounds.iter().filter(|g| !g.hidden).filter_map(Ride::new).collect(),
            blowers: blowers
                .map(|b| BlowerTrack::new(b, places(&b.course, land, 0.0, BLOWER_STEP_M)))
                .collect(),
            bodies: bodies
                .map(|((b, way), mesh)| {
                    let leaves_s = way.iter().find(|p| off(land, solids, p)).map(|p| p.time_s);
                    let begins_inside = solids.iter().any(|m| inside(m, way[0].at_m));
                    let track = BodyTrack::new(b, middle(&mesh), way);
                    BodyTrack { leaves_s, begins_inside, mesh, ..track }
                })
                .collect(),
        })
    }

    /// The bodies as meshes with their names, where they stand at the start of time.
    pub fn at_rest(&self, document: &Document) -> Vec<(String, Mesh)> {
        let named =
            self.bodies.iter().filter_map(|t| Some((t, document.bodies.iter().find(|b| b.id == t.id)?)));
        let placed = named.map(|(track, body)| {
            let Place { at_m, turn, .. } = place_at(&track.places, 0.0);
            let mut mesh = Mesh::clone(&track.mesh);
            mesh.positions.iter_mut().for_each(|p| *p = at_m + turn * *p);
            mesh.normals.iter_mut().for_each(|n| *n = turn * *n);
            (body.name.clone(), mesh)
        });
        placed.collect()
    }

    /// How much memory it takes.
    pub fn bytes(&self) -> usize {
        let ways = self.blowers.iter().map(|b| &b.places).chain(self.bodies.iter().map(|b| &b.places));
        let points = self.bodies.iter().map(|b| {
            b.points.len() * size_of::<[f32; 4]>() + b.mesh.positions.len() * 36 + b.mesh.indices.len() * 4
        });
        let keys = self.grounds.iter().map(|g| g.keys.len() * size_of::<RideKey>());
        ways.map(|w| w.len() * size_of::<Place>()).chain(points).chain(keys).sum::<usize>()
            + size_of::<Self>()
    }
}

/// Whether a place is beyond the edge of the land, or below all that there is.
fn off(land: Option<&Terrain>, solids: &[&Mesh], p: &Place) -> bool {
    land.map_or(p.at_m.y < lowest(land, solids), |t| !t.contains(p.at_m.x, p.at_m.z))
}

/// Height below which a body is gone for good, metres.
pub(super) fn lowest(land: Option<&Terrain>, solids: &[&Mesh]) -> f32 {
    let lows = solids.iter().filter(|m| !m.indices.is_empty()).map(|m| m.bounds().0.y);
    let low = lows.chain(land.map(|t| t.height_range_m().0)).min_by(f32::total_cmp);
    low.unwrap_or(0.0) - FALLS_AWAY_M
}

/// Whether a point is inside a mesh of closed bodies, which may reach into one another: a line up from it comes out of them more often
/// than it goes in.
fn inside(mesh: &Mesh, at: Vec3) -> bool {
    let (low, high) = mesh.bounds();
    if at.cmplt(low).any() || at.cmpgt(high).any() {
        return false;
    }
    // A hair aside, so that the line meets no edge of what stands upright and even.
    let at = at + Vec3::new(1.7e-4, 0.0, 0.9e-4);
    let side = |p: Vec3, q: Vec3| p.x * q.z - p.z * q.x;
    let crossed = |t: &[u32]| {
        let [a, b, c] = [t[0], t[1], t[2]].map(|i| mesh.positions[i as usize] - at);
        let (u, v, w) = (side(a, b), side(b, c), side(c, a));
        let all = u + v + w;
        let within = (u >= 0.0) == (v >= 0.0) && (v >= 0.0) == (w >= 0.0) && all != 0.0;
        // Where its line meets the triangle, and whether that looks up.
        match within && (c.y * u + a.y * v + b.y * w) / all > 0.0 {
            true if all < 0.0 => 1,
            true => -1,
            false => 0,
        }
    };
    mesh.indices.chunks_exact(3).map(crossed).sum::<i32>() > 0
}

/// A moment of a scene: all that is needed to tell how any plant stands then.
#[derive(Clone, Debug)]
pub struct Now {
    /// The gusts.
    pub gusts: GustsNow,
    /// Blowers where they are and were.
    pub blowers: Vec<BlowerNow>,
    /// Bodies that plants feel.
    pub bodies: Vec<BodyNow>,
    /// Grounds that move.
    pub grounds: Vec<RideNow>,
    /// How much of the processor is there to work with.
    pub(super) lanes: Arch,
}

impl Now {
    /// A moment of gusts alone.
    pub fn windy(gusts: GustsNow) -> Self {
        Self { gusts, blowers: Vec::new(), bodies: Vec::new(), grounds: Vec::new(), lanes: Arch::new() }
    }

    /// A time of a scene, seconds.
    pub fn new(document: &Document, moving: &Moving, time_s: f64) -> Self {
        Self {
            gusts: Gusts::new(&document.motion.wind).at(time_s),
            blowers: moving.blowers.iter().map(|b| b.at(time_s)).collect(),
            bodies: moving.bodies.iter().filter(|b| b.felt).map(|b| b.at(time_s)).collect(),
            grounds: moving.grounds.iter().map(|g| g.at(time_s)).collect(),
            lanes: Arch::new(),
        }
    }

    /// The ground that carries what stands on it, if it moves.
    pub fn ride(&self, ground: GroundId) -> Option<&RideNow> {
        self.grounds.iter().find(|g| g.ground == ground)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{BodyForm, Obstacle, ObstacleId, Shape};
    use crate::ground::obstacle;
    use glam::{Vec2, vec3};

    #[test]
    fn what_begins_within_a_block_or_a_ball_is_told() {
        let flat = Terrain::new(41, 41, Vec2::ONE, vec![0.0; 41 * 41]).unwrap();
        let block = Obstacle {
            id: ObstacleId(1),
            name: "Block".into(),
            shape: Shape::Box { width_m: 9.0, depth_m: 5.0, height_m: 4.0 },
            x_m: 2.0,
            z_m: 1.0,
            lift_m: 0.0,
            on_ground: true,
            turn_deg: 30.0,
            scale: 1.0,
            hidden: false,
        };
        let block = obstacle::mesh(&block, &flat, None);
        for (at, within) in [
            (vec3(2.0, 0.7, 1.0), true),
            (vec3(2.0, 3.5, 1.0), true),
            (vec3(2.0, 9.0, 1.0), false),
            (vec3(2.0, 0.7, 8.0), false),
        ] {
            assert_eq!(inside(&block, at), within, "{at}");
        }
        let ball = body_mesh(&BodyForm::Ball { radius_m: 1.0 });
        assert!(inside(&ball, vec3(0.2, 0.1, -0.3)) && !inside(&ball, vec3(0.9, 0.9, 0.0)));
    }
}
