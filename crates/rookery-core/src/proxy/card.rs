//! A form as two crossed pictures.

use crate::nursery::{Mesh, Picture, Skin};
use glam::{Vec3, vec2, vec3};
use std::sync::Arc;

/// Two upright pictures of a form, crossed over its base point.
#[derive(Clone, Debug, PartialEq)]
pub struct Card {
    /// Width of each picture, pixels.
    pub width_px: u32,
    /// Height of each picture, pixels.
    pub height_px: u32,
    /// Half the width of each picture, metres.
    pub half_m: f32,
    /// Its lower edge over the base point, metres.
    pub low_m: f32,
    /// Its upper edge over the base point, metres.
    pub high_m: f32,
    /// What the form covers of a picture, the mean of eight sides, m2; the card covers as much.
    pub covered_m2: f32,
    /// Seen from +Z, then from +X; row by row from the top. Square roots of reflectance, and cover, 0 to 255.
    pub colours: [Vec<[u8; 4]>; 2],
    /// Unit normals in the form's frame, each number from -1 to 1 as 0 to 255; and how much of the sky the form leaves what is seen, 0 to 255.
    pub normals: [Vec<[u8; 4]>; 2],
}

/// The sRGB byte of a reflectance that is kept as its square root.
fn srgb(root: u8) -> u8 {
    let linear = (f32::from(root) / 255.0) * (f32::from(root) / 255.0);
    let encoded =
        if linear <= 0.003_130_8 { linear * 12.92 } else { 1.055 * libm::powf(linear, 1.0 / 2.4) - 0.055 };
    (encoded * 255.0).round() as u8
}

impl Card {
    /// The two sheets as a mesh with their pictures on it; holes are where cover is under a half.
    pub fn mesh(&self) -> Mesh {
        let pictures = self.colours.iter().map(|pixels| Picture {
            name: String::new(),
            width_px: self.width_px,
            height_px: self.height_px,
            rgba: pixels.iter().map(|[r, g, b, a]| [srgb(*r), srgb(*g), srgb(*b), *a]).collect(),
        });
        let mut skin = Skin {
            uv: Vec::new(),
            picture: Vec::new(),
            pictures: Arc::new(pictures.collect()),
            repeats: false,
        };
        let mut mesh = Mesh::default();
        // The picture from +Z has +X on its right, the one from +X has -Z there.
        for (number, right) in [Vec3::X, Vec3::NEG_Z].into_iter().enumerate() {
            let corners = [(-1.0, 1.0), (1.0, 1.0), (1.0, 0.0), (-1.0, 0.0)];
            let [a, b, c, d] = corners.map(|(x, v)| {
                skin.uv.push(vec2(x * 0.5 + 0.5, v));
                skin.picture.push(number as u16);
                let height = self.high_m + (self.low_m - self.high_m) * v;
                mesh.vertex(right * (x * self.half_m) + vec3(0.0, height, 0.0), Vec3::Y, Vec3::ONE)
            });
            mesh.indices.extend([a, b, c, a, c, d]);
        }
        mesh.skin = Some(skin);
        mesh
    }
}
