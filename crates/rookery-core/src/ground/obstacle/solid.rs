//! Building blocks with flat faces.

use crate::nursery::{Dress, Mesh};
use crate::textures::{Texture, place_on};
use glam::{Vec2, Vec3, vec3};

/// A mesh put together from flat faces, each with its own colour.
#[derive(Default)]
pub(super) struct Solid {
    mesh: Mesh,
    places_m: Vec<Vec2>,
    textures: Vec<u8>,
    texture: Option<Texture>,
    shift_m: Vec2,
}

impl Solid {
    /// What the next faces are made of, and how far its picture is shifted on them; colours are all there is to them with none.
    pub fn of(&mut self, texture: impl Into<Option<Texture>>, shift_m: Vec2) -> &mut Self {
        (self.texture, self.shift_m) = (texture.into(), shift_m);
        self
    }

    /// A flat face, counter-clockwise seen from outside.
    pub fn face(&mut self, corners: &[Vec3], colour: Vec3) {
        let normal = (corners[1] - corners[0]).cross(corners[2] - corners[0]).normalize_or(Vec3::Y);
        let first = self.mesh.positions.len() as u32;
        for corner in corners {
            self.mesh.vertex(*corner, normal, colour);
            self.places_m.push(place_on(*corner, normal) + self.shift_m);
            self.textures.push(self.texture.map_or(Dress::BARE, Texture::number));
        }
        for i in 2..corners.len() as u32 {
            self.mesh.indices.extend([first, first + i - 1, first + i]);
        }
    }

    /// An upright block between two corners.
    pub fn block(&mut self, low: Vec3, high: Vec3, colour: Vec3) {
        self.hexahedron(corners(low, high), colour);
    }

    /// Six faces between eight corners, numbered as by [`corners`].
    pub fn hexahedron(&mut self, c: [Vec3; 8], colour: Vec3) {
        for f in [[0, 1, 3, 2], [4, 6, 7, 5], [0, 4, 5, 1], [2, 3, 7, 6], [0, 2, 6, 4], [1, 5, 7, 3]] {
            self.face(&f.map(|i| c[i]), colour);
        }
    }

    /// An upright round block about the origin.
    pub fn cylinder(&mut self, radius: f32, low: f32, high: f32, colour: Vec3) {
        let sides = 40;
        let at = |i: usize, y: f32| {
            let angle = i as f32 / sides as f32 * std::f32::consts::TAU;
            vec3(radius * libm::cosf(angle), y, -radius * libm::sinf(angle))
        };
        let span = std::f32::consts::TAU * radius / sides as f32;
        for i in 0..sides {
            let first = self.places_m.len();
            self.face(&[at(i, low), at(i + 1, low), at(i + 1, high), at(i, high)], colour);
            // Its picture goes on around it.
            for (place, (along, up)) in
                self.places_m[first..].iter_mut().zip([(0, low), (1, low), (1, high), (0, high)])
            {
                *place = Vec2::new((i + along) as f32 * span, up);
            }
        }
        let top: Vec<Vec3> = (0..sides).map(|i| at(i, high)).collect();
        let bottom: Vec<Vec3> = (0..sides).rev().map(|i| at(i, low)).collect();
        self.face(&top, colour);
        self.face(&bottom, colour);
    }

    pub fn finish(self) -> Mesh {
        let dress = Dress::Built { places_m: self.places_m, textures: self.textures };
        Mesh { dress: Box::new(dress), ..self.mesh }
    }
}

/// The corners of a block: bit 0 is east, bit 1 south, bit 2 up.
pub(super) fn corners(low: Vec3, high: Vec3) -> [Vec3; 8] {
    [0, 1, 2, 3, 4, 5, 6, 7].map(|i| {
        let pick = |bit: usize, a: f32, b: f32| if i >> bit & 1 == 1 { b } else { a };
        vec3(pick(0, low.x, high.x), pick(2, low.y, high.y), pick(1, low.z, high.z))
    })
}
