//! Blades and stems that lean and wrap around an obstacle.
//!
//! Every vertex slides on its sphere about the base point, away from what presses it, to the first place that is clear: lengths
//! along a blade stay about what they are, and neighbours move alike, so what hangs on a stem stays on it. What lies nearer to
//! the foot on the same side leans along, so that a blade bends from its root and does not break where it meets the obstacle.

use super::Fitted;
use crate::math::mesh_distance::MeshDistance;
use crate::planting::Plant;
use crate::planting::clearance::{Clear, room_beside};
use glam::{Quat, Vec3};

/// How far from the obstacle vertices are held, metres, at the first to the last try: straight pieces between them cut corners.
const SKINS_M: [f32; 3] = [0.003, 0.012, 0.035];
/// The widest of them.
pub(super) const WIDEST_M: f32 = SKINS_M[2];
/// Nearer than this to being clear is clear, metres.
const SLACK_M: f32 = 1e-4;
/// The least step of a turn, radians.
const STEP: f32 = 0.004;
/// Steps of a turn, at most.
const MOST_STEPS: u32 = 64;
/// Cosine of the angle within which what leans takes its neighbours along: 22 degrees.
const ALONG: f32 = 0.927;
/// How much smaller a plant becomes with each further try, and how often.
const SMALLER: f32 = 0.75;
const MOST_SMALLER: u32 = 6;

/// A plant with what presses it.
pub(super) struct Pressed<'a> {
    /// Obstacles within reach, each with whether it holds the foot.
    meshes: Vec<(&'a MeshDistance, bool)>,
    foot: Vec3,
    /// Unit vector, where everything leans to.
    towards: Vec3,
    margin_m: f32,
    /// What is nearer to the base point does not move, metres.
    own_m: f32,
}

impl<'a> Pressed<'a> {
    /// Of all obstacles that a plant keeps clear of; `reach_m` is how far it reaches from its base point.
    pub fn new(clear: &'a Clear, plant: &Plant, own_m: f32, reach_m: f32) -> Self {
        let foot = plant.position_m;
        let up = plant.rotation * Vec3::Y;
        let margin_m = clear.settings().obstacles.margin_m.max(0.0);
        let limit = reach_m + margin_m + WIDEST_M;
        let near =
            clear.obstacles.iter().filter_map(|(_, m)| Some((m.as_ref(), m.nearest_point(foot, limit)?)));
        let near: Vec<(&MeshDistance, Vec3)> = near.collect();
        let meshes = near.iter().map(|(m, _)| (*m, m.holds(foot))).collect();
        let each = near.iter().map(|(_, point)| *point);
        let nearest = each.min_by(|a, b| a.distance_squared(foot).total_cmp(&b.distance_squared(foot)));
        let away = foot - nearest.unwrap_or(foot - Vec3::X);
        // Under an overhang there is no way aside that is better than another.
        let flat = (away - up * away.dot(up)).normalize_or(plant.rotation * Vec3::X);
        // Not into the ground: what lies flat still rises a little.
        let towards = (flat + up * 0.45).normalize();
        Self { meshes, foot, towards, margin_m, own_m }
    }

    /// Bends a plant until no part of it is in an obstacle; where that fails it is made smaller.
    pub fn bend(&self, indices: &[u32], fitted: &mut Fitted) {
        let (whole, faced) = (fitted.positions.clone(), fitted.normals.clone());
        for k in 0..=MOST_SMALLER {
            let size = SMALLER.powi(k as i32);
            for skin in SKINS_M {
                let need = self.margin_m + skin;
                let scaled: Vec<Vec3> = whole.iter().map(|v| *v * size).collect();
                let Some(turns) = self.turns(&scaled, need) else {
                    if k == 0 && !self.cuts(&scaled, indices) {
                        return;
                    }
                    continue;
                };
                self.turn(&scaled, &faced, &turns, need, fitted);
                if !self.cuts(&fitted.positions, indices) {
                    fitted.how.bent = true;
                    fitted.how.smaller = k > 0;
                    return;
                }
            }
        }
        fitted.positions.fill(Vec3::ZERO);
        fitted.how.gone = true;
    }

    /// Distance to the nearest obstacle, below zero inside it; beyond `limit` any number above it.
    ///
    /// What can be reached in a straight line from a foot outside is outside: a short ray tells that sooner than asking whether the
    /// mesh holds the point.
    fn room(&self, v: Vec3, limit: f32) -> f32 {
        let (p, far) = (self.foot + v, v.length());
        let each = self.meshes.iter().map(|(mesh, held)| {
            if *held || far > 0.0 && mesh.blocks(self.foot, v / far, far) {
                room_beside(mesh, p, limit)
            } else {
                mesh.distance(p, limit)
            }
        });
        each.fold(f32::INFINITY, f32::min)
    }

    fn turned(&self, v: Vec3, angle: f32) -> Quat {
        let axis = v.cross(self.towards).normalize_or(Vec3::X);
        Quat::from_axis_angle(axis, angle)
    }

    /// The least turn, not below `from`, at which a vertex is clear, radians; none where no turn is enough.
    ///
    /// No distance grows faster than the way that is gone, so steps of what is missing never leap over a clear place.
    fn clear_turn(&self, v: Vec3, from: f32, need: f32) -> Option<f32> {
        let radius = v.length();
        let most = v.angle_between(self.towards);
        let mut turn = from.min(most);
        for _ in 0..MOST_STEPS {
            let missing = need - self.room(self.turned(v, turn) * v, need);
            if missing <= SLACK_M {
                return Some(turn);
            }
            if turn >= most {
                return None;
            }
            turn = (turn + (missing / radius).max(STEP)).min(most);
        }
        None
    }

    /// How far every vertex leans; none where all are clear as they are.
    fn turns(&self, positions: &[Vec3], need: f32) -> Option<Vec<f32>> {
        let moves = |v: &Vec3| v.length() > self.own_m;
        let alone: Vec<f32> = positions
            .iter()
            .map(|v| {
                if !moves(v) || self.room(*v, need) >= need - SLACK_M {
                    return 0.0;
                }
                self.clear_turn(*v, 0.0, need).unwrap_or_else(|| v.angle_between(self.towards))
            })
            .collect();
        let pressed: Vec<(Vec3, f32, f32)> = positions
            .iter()
            .zip(&alone)
            .filter(|(_, turn)| **turn > 0.0)
            .map(|(v, turn)| (v.normalize(), v.length() - self.own_m, *turn))
            .collect();
        if pressed.is_empty() {
            return None;
        }
        let along = |(v, own): (&Vec3, &f32)| {
            if !moves(v) {
                return 0.0;
            }
            let (way, far) = (v.normalize(), v.length() - self.own_m);
            pressed.iter().fold(*own, |most, (theirs, theirs_far, turn)| {
                let near = ((way.dot(*theirs) - ALONG) / (1.0 - ALONG)).clamp(0.0, 1.0);
                let share = near * near * (3.0 - 2.0 * near) * (far / theirs_far).min(1.0);
                most.max(turn * share)
            })
        };
        Some(positions.iter().zip(&alone).map(along).collect())
    }

    /// Leans every vertex as far as it is told and further where that is not clear.
    fn turn(&self, positions: &[Vec3], faced: &[Vec3], turns: &[f32], need: f32, fitted: &mut Fitted) {
        for (i, (v, turn)) in positions.iter().zip(turns).enumerate() {
            (fitted.positions[i], fitted.normals[i]) = (*v, faced[i]);
            if *turn <= 0.0 {
                continue;
            }
            let clear = self.clear_turn(*v, *turn, need);
            let lean = self.turned(*v, clear.unwrap_or_else(|| v.angle_between(self.towards)));
            fitted.positions[i] = lean * *v;
            fitted.normals[i] = lean * faced[i];
            if clear.is_none() {
                fitted.positions[i] = self.drawn_in(fitted.positions[i], need);
            }
        }
    }

    /// As far out on the way to a vertex as is clear.
    fn drawn_in(&self, v: Vec3, need: f32) -> Vec3 {
        let (way, far) = (v.normalize_or(Vec3::Y), v.length());
        let mut at = 0.0;
        for _ in 0..MOST_STEPS {
            let spare = self.room(way * at, far) - need;
            if spare <= SLACK_M {
                break;
            }
            at += spare;
            if at >= far {
                return v;
            }
        }
        way * at
    }

    /// Whether any part of a mesh goes through an obstacle.
    fn cuts(&self, positions: &[Vec3], indices: &[u32]) -> bool {
        indices.chunks_exact(3).any(|t| {
            let corners = [0, 1, 2].map(|i| self.foot + positions[t[i] as usize]);
            self.meshes.iter().any(|(m, _)| m.meets(&corners))
        })
    }
}
