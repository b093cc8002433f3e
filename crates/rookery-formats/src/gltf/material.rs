//! The materials of a GLB: three that all meshes share, glossy ones, and those with pictures.

use super::buffer::Binary;
use crate::picture::png_rgba8;
use glam::Vec3;
use gltf::json::extensions::texture::Info as InfoExtensions;
use gltf::json::image::MimeType;
use gltf::json::material::{AlphaMode, EmissiveFactor, PbrMetallicRoughness, StrengthFactor};
use gltf::json::texture::{Info, MagFilter, MinFilter, Sampler, WrappingMode};
use gltf::json::validation::Checked::Valid;
use gltf::json::{Image, Index, Material, Texture};
use rookery_core::nursery::{Mesh, Picture};
use rookery_core::scene::{BlobId, blob_id};
use std::collections::BTreeMap;

/// The materials that are written so far. What is the same is written once.
pub(super) struct Materials {
    pub ground: Index<Material>,
    pub solid: Index<Material>,
    /// Seen from both sides.
    pub thin: Index<Material>,
    /// By whether they are thin, and by the bits of their light and their roughness.
    glossy: BTreeMap<(bool, [u32; 4]), Index<Material>>,
    /// With pictures, by the hash of the picture.
    pictured: BTreeMap<BlobId, Index<Material>>,
    /// For pictures that end at their edges, and for those that begin again; made when they are first needed.
    samplers: [Option<Index<Sampler>>; 2],
    /// What built things are made of, by its number.
    pub(super) made: BTreeMap<u8, Index<Material>>,
}

pub(super) fn material(name: &str, thin: bool, roughness: f32) -> Material {
    Material {
        name: Some(name.to_owned()),
        double_sided: thin,
        pbr_metallic_roughness: PbrMetallicRoughness {
            metallic_factor: StrengthFactor(0.0),
            roughness_factor: StrengthFactor(roughness),
            ..Default::default()
        },
        ..Default::default()
    }
}

impl Materials {
    /// The three that all meshes share.
    pub fn new(glb: &mut Binary) -> Self {
        let mut make = |name: &str, thin| glb.root.push(material(name, thin, 0.9));
        Self {
            ground: make("Ground", false),
            solid: make("Solid", false),
            thin: make("Leaves", true),
            glossy: BTreeMap::new(),
            pictured: BTreeMap::new(),
            samplers: [None; 2],
            made: BTreeMap::new(),
        }
    }

    /// The one for a mesh without pictures, like one of the three.
    pub fn like(&mut self, glb: &mut Binary, like: Index<Material>, mesh: &Mesh) -> Index<Material> {
        if mesh.sheen <= 0.0 && mesh.glow <= 0.0 {
            return like;
        }
        // glTF has one colour of light for a material: the mean of its vertices.
        let mean = mesh.colours.iter().sum::<Vec3>() / mesh.colours.len().max(1) as f32;
        let light = (mean * mesh.glow).clamp(Vec3::ZERO, Vec3::ONE).to_array();
        let (thin, roughness) = (like.value() == self.thin.value(), roughness(mesh));
        let key = (thin, [light[0], light[1], light[2], roughness].map(f32::to_bits));
        *self.glossy.entry(key).or_insert_with(|| {
            let emissive_factor = EmissiveFactor(light);
            glb.root.push(Material { emissive_factor, ..material("Glossy", thin, roughness) })
        })
    }

    /// One with a picture of a mesh.
    pub fn pictured(&mut self, glb: &mut Binary, picture: &Picture, mesh: &Mesh) -> Index<Material> {
        let (thin, repeats) = (!mesh.through.is_empty(), mesh.skin.as_ref().is_some_and(|s| s.repeats));
        let look = [u8::from(thin), u8::from(repeats)];
        let key = blob_id(
            &[
                bytemuck::cast_slice(&picture.rgba),
                &picture.width_px.to_le_bytes()[..],
                &roughness(mesh).to_le_bytes(),
                &look,
            ]
            .concat(),
        );
        if let Some(known) = self.pictured.get(&key) {
            return *known;
        }
        let png = png_rgba8(picture.width_px, picture.height_px, bytemuck::cast_slice(&picture.rgba))
            .expect("a picture has as many pixels as it says");
        let texture = self.texture(glb, &picture.name, &png, repeats);
        let mut made = material(&format!("Picture {}", texture.value() + 1), thin, roughness(mesh));
        made.pbr_metallic_roughness.base_color_texture = Some(Info {
            index: texture,
            tex_coord: 0,
            extensions: None::<InfoExtensions>,
            extras: Default::default(),
        });
        if picture.holes() {
            made.alpha_mode = Valid(AlphaMode::Mask);
        }
        let index = glb.root.push(made);
        self.pictured.insert(key, index);
        index
    }

    /// A picture, by the bytes of its PNG.
    pub(super) fn texture(
        &mut self,
        glb: &mut Binary,
        name: &str,
        png: &[u8],
        repeats: bool,
    ) -> Index<Texture> {
        let view = glb.view(png, None);
        let source = glb.root.push(Image {
            buffer_view: Some(view),
            mime_type: Some(MimeType("image/png".to_owned())),
            name: Some(name.to_owned()),
            uri: None,
            extensions: None,
            extras: Default::default(),
        });
        let sampler = *self.samplers[usize::from(repeats)].get_or_insert_with(|| {
            let wrap = Valid(if repeats { WrappingMode::Repeat } else { WrappingMode::ClampToEdge });
            glb.root.push(Sampler {
                // Smooth between pixels, between smaller copies too.
                mag_filter: Some(Valid(MagFilter::Linear)),
                min_filter: Some(Valid(MinFilter::LinearMipmapLinear)),
                wrap_s: wrap,
                wrap_t: wrap,
                ..Default::default()
            })
        });
        glb.root.push(Texture {
            name: None,
            sampler: Some(sampler),
            source,
            extensions: None,
            extras: Default::default(),
        })
    }
}

fn roughness(mesh: &Mesh) -> f32 {
    0.9 - 0.6 * mesh.sheen
}
