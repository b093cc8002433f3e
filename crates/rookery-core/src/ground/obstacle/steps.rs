//! A flight of stone steps.

use super::{FOOT_M, STONE, solid::Solid};
use crate::nursery::Mesh;
use crate::textures::Texture;
use glam::{vec2, vec3};

/// Rises to the north; the first riser stands at the origin.
pub(super) fn build(width_m: f32, count: u32, rise_m: f32, tread_m: f32) -> Mesh {
    let mut solid = Solid::default();
    for i in 0..count {
        let tone = 1.0 + 0.12 * ((i * 7 % 5) as f32 / 2.0 - 1.0);
        let near = -(i as f32) * tread_m;
        // Each reaches a little under the next, so that no gap shows.
        let far = near - tread_m * 1.06;
        let top = (i + 1) as f32 * rise_m;
        let half = width_m * 0.5;
        solid.of(Texture::Rock, vec2(0.83, 0.31) * i as f32);
        solid.block(vec3(-half, -FOOT_M, far), vec3(half, top, near), STONE * tone);
    }
    solid.finish()
}
