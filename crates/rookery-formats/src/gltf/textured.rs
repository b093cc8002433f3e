//! Surfaces as they look up close: the land in one picture of it, built things in what they are made of.

use super::buffer::Binary;
use super::material::{Materials, material};
use crate::picture::png_srgb8;
use gltf::json::material::NormalTexture;
use gltf::json::texture::Info;
use gltf::json::{Index, Material, Texture};
use rookery_core::soils::FromAbove;
use rookery_core::textures::{SIDE, Sheet, Sheets, Texture as Made};

/// So much lighter than their mean the lightest samples of each texture are: pictures are kept against that, and colours of corners are raised by as much.
pub(super) fn raised(sheets: &Sheets) -> [f32; 10] {
    Made::ALL.map(|made| sheets.of(made).lightest().max(1.0))
}

fn info(index: Index<Texture>) -> Info {
    Info { index, tex_coord: 0, extensions: None, extras: Default::default() }
}

fn wearing(
    glb: &mut Binary,
    materials: &mut Materials,
    name: &str,
    [colours, normals]: [&[u8]; 2],
    pixels: [usize; 2],
    repeats: bool,
) -> Material {
    let mut texture = |what: &str, rgb: &[u8]| {
        let png = png_srgb8(pixels[0] as u32, pixels[1] as u32, rgb).expect("as many pixels as it says");
        materials.texture(glb, &format!("{name} {what}"), &png, repeats)
    };
    let [colour, normal] = [texture("colour", colours), texture("normals", normals)];
    let mut made = material(name, false, 0.95);
    made.pbr_metallic_roughness.base_color_texture = Some(info(colour));
    made.normal_texture = Some(NormalTexture {
        index: normal,
        scale: 1.0,
        tex_coord: 0,
        extensions: None,
        extras: Default::default(),
    });
    made
}

impl Materials {
    /// The land in its picture from above.
    pub fn land_from_above(&mut self, glb: &mut Binary, seen: &FromAbove) -> Index<Material> {
        let pictures = [bytemuck::cast_slice(&seen.colours), bytemuck::cast_slice(&seen.normals)];
        let made = wearing(glb, self, "Land", pictures, seen.pixels, false);
        glb.root.push(made)
    }

    /// What a built thing is made of, by its number.
    pub fn made_of(&mut self, glb: &mut Binary, texture: u8, sheets: &Sheets) -> Option<Index<Material>> {
        let made = *Made::ALL.get(usize::from(texture))?;
        if let Some(known) = self.made.get(&texture) {
            return Some(*known);
        }
        let sheet = sheets.of(made);
        let most = 127.5 * sheet.lightest().max(1.0);
        let colours: Vec<u8> =
            sheet.texels.iter().flat_map(|[r, g, b, _]| [*r, *g, *b]).map(|v| encoded(v, most)).collect();
        let normals: Vec<u8> = sheet.slopes.iter().flat_map(|s| normal([s[0], s[1]])).collect();
        let own = wearing(glb, self, &format!("{made:?}"), [&colours, &normals], [SIDE; 2], true);
        let index = glb.root.push(own);
        self.made.insert(texture, index);
        Some(index)
    }
}

/// A share of the most light as a byte of sRGB (IEC 61966-2-1).
fn encoded(v: u8, most: f32) -> u8 {
    let v = (f32::from(v) / most).min(1.0);
    let v = if v <= 0.003_130_8 { v * 12.92 } else { 1.055 * v.powf(1.0 / 2.4) - 0.055 };
    (v * 255.0).round() as u8
}

/// A normal from how a picture rises along both sides. In glTF green leads up the picture, whose rows go down.
fn normal(slopes: [u8; 2]) -> [u8; 3] {
    let [u, v] = Sheet::slope(slopes);
    let long = (u * u + v * v + 1.0).sqrt();
    [-u / long, v / long, 1.0 / long].map(|c| ((c * 0.5 + 0.5) * 255.0).round() as u8)
}
