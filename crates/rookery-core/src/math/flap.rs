//! A vertex of a leaf that turns about its stalk.

use glam::Vec3;

/// How a vertex of a leaf turns about the leaf's stalk, in whole numbers as the view takes it.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[repr(transparent)]
pub struct Flap(pub [i16; 8]);

/// Whole numbers to a unit of direction, to a quarter of the phase, and to half a metre.
const WHOLE: f32 = 32_767.0;
/// Furthest that a vertex may lie from the stalk, metres.
pub const FLAP_REACH_M: f32 = 0.5;
/// Kinds of leaves by how fast they turn.
pub const FLAP_KINDS: usize = 4;

impl Flap {
    /// A vertex of a leaf whose stalk begins at a base and runs along a unit vector; `phase` from 0 to 4 holds its kind and its phase.
    pub fn new(vertex: Vec3, base: Vec3, along: Vec3, phase: f32) -> Self {
        let off = along.cross(vertex - base) / FLAP_REACH_M;
        let whole = |v: f32| (v.clamp(-1.0, 1.0) * WHOLE) as i16;
        let [x, y, z] = along.to_array().map(whole);
        let [p, q, r] = off.to_array().map(whole);
        Self([x, y, z, whole(phase / FLAP_KINDS as f32), p, q, r, 0])
    }

    /// The stalk, the way that the vertex goes by a radian, metres, and the phase.
    pub fn parts(self) -> (Vec3, Vec3, f32) {
        let [x, y, z, phase, p, q, r, _] = self.0.map(|v| f32::from(v) / WHOLE);
        (Vec3::new(x, y, z), Vec3::new(p, q, r) * FLAP_REACH_M, phase * FLAP_KINDS as f32)
    }

    /// All of it so many times as large.
    pub fn scaled(&mut self, times: f32) {
        for v in &mut self.0[4..7] {
            *v = (f32::from(*v) * times).clamp(-WHOLE, WHOLE) as i16;
        }
    }
}
