//! What a GLB says about looks: normals, colours, places in pictures, and the pictures of its materials.
//!
//! Source: Khronos glTF 2.0, sections 3.7.2 (meshes) and 3.9 (materials).

use super::{Builder, MeshError, PartLook};
use crate::picture::decode;
use glam::{Mat3, Mat4, Vec2, Vec3};
use gltf::Primitive;
use gltf::material::AlphaMode;
use gltf::mesh::util::{ReadColors, ReadTexCoords};
use rookery_core::nursery::Picture;
use std::collections::BTreeMap;

/// Side of a picture that is kept, pixels; larger ones are made smaller.
const KEPT_SIDE_PX: u32 = 2048;
/// Pictures of one file, at most.
const MOST_PICTURES: usize = 32;

/// The pictures met so far, by the number of their image and where they are cut, in 255ths.
#[derive(Default)]
pub(super) struct Pictures {
    known: BTreeMap<(usize, u8), usize>,
}

impl Pictures {
    /// The look of a primitive's material; its picture is read when it is met for the first time.
    pub fn look(
        &mut self,
        primitive: &Primitive<'_>,
        blob: &[u8],
        builder: &mut Builder,
    ) -> Result<PartLook, MeshError> {
        let material = primitive.material();
        let base = material.pbr_metallic_roughness();
        for (there, what) in [
            (material.normal_texture().is_some(), "normal pictures"),
            (base.metallic_roughness_texture().is_some(), "roughness pictures"),
            (material.emissive_texture().is_some(), "glow pictures"),
            (material.occlusion_texture().is_some(), "occlusion pictures"),
        ] {
            if there {
                builder.left_out(what);
            }
        }
        let [r, g, b, _] = base.base_color_factor();
        let colour = Some(Vec3::new(r, g, b).clamp(Vec3::ZERO, Vec3::ONE));
        let double_sided = material.double_sided();
        let Some(texture) = base.base_color_texture() else {
            return Ok(PartLook { colour, picture: None, double_sided });
        };
        let cut = match material.alpha_mode() {
            AlphaMode::Opaque => 0,
            AlphaMode::Mask => {
                (material.alpha_cutoff().unwrap_or(0.5).clamp(0.004, 1.0) * 255.0).round() as u8
            }
            AlphaMode::Blend => 128,
        };
        let image = texture.texture().source();
        let key = (image.index(), cut);
        let picture = match self.known.get(&key) {
            Some(number) => *number,
            None => {
                let number = builder.mesh.pictures.len();
                if number >= MOST_PICTURES {
                    return Err(MeshError::TooMuch { what: "pictures", limit: MOST_PICTURES });
                }
                let bad = |why: String| MeshError::BadPicture { number: image.index() + 1, why };
                let gltf::image::Source::View { view, .. } = image.source() else {
                    return Err(bad("it lies in another file; save it with everything inside".to_owned()));
                };
                // Views were checked to lie within the numbers.
                let bytes = &blob[view.offset()..view.offset() + view.length()];
                builder.mesh.pictures.push(read(bytes, image.name().unwrap_or_default(), cut).map_err(bad)?);
                self.known.insert(key, number);
                number
            }
        };
        Ok(PartLook { colour, picture: Some(picture), double_sided })
    }
}

/// Reads a PNG or JPEG. Cover is all or nothing where `cut` says: under it there is a hole; 0 has none.
fn read(bytes: &[u8], name: &str, cut: u8) -> Result<Picture, String> {
    let image = decode(bytes)?.into_rgba8();
    let (width_px, height_px) = image.dimensions();
    let rgba = image.pixels().map(|p| [p[0], p[1], p[2], if p[3] >= cut { 255 } else { 0 }]).collect();
    let name = name.chars().filter(|c| !c.is_control()).take(80).collect();
    Ok(Picture { name, width_px, height_px, rgba }.within(KEPT_SIDE_PX))
}

/// Normals, colours and places of a primitive's vertices, one after the other.
pub(super) struct Dress {
    normals: std::vec::IntoIter<Vec3>,
    colours: std::vec::IntoIter<Vec3>,
    uvs: std::vec::IntoIter<Vec2>,
}

impl Dress {
    /// `place` is the transform of its node; nothing is read unless looks are wanted.
    pub fn new(primitive: &Primitive<'_>, place: Mat4, blob: &[u8], looks: bool) -> Self {
        let (mut normals, mut colours, mut uvs) = (Vec::new(), Vec::new(), Vec::new());
        if looks {
            let reader = primitive.reader(|_| Some(blob));
            let turn = Mat3::from_mat4(place).inverse().transpose();
            let turned = |n: [f32; 3]| {
                let n = turn * Vec3::from(n);
                if n.is_finite() { n.normalize_or_zero() } else { Vec3::ZERO }
            };
            normals = reader.read_normals().into_iter().flatten().map(turned).collect();
            let colour = |c: [f32; 3]| Vec3::from(c).clamp(Vec3::ZERO, Vec3::ONE);
            colours = match reader.read_colors(0) {
                Some(ReadColors::RgbU8(i)) => i.map(|c| colour(c.map(|v| f32::from(v) / 255.0))).collect(),
                Some(ReadColors::RgbU16(i)) => i.map(|c| colour(c.map(|v| f32::from(v) / 65535.0))).collect(),
                Some(ReadColors::RgbF32(i)) => i.map(colour).collect(),
                Some(ReadColors::RgbaU8(i)) => {
                    i.map(|[r, g, b, _]| colour([r, g, b].map(|v| f32::from(v) / 255.0))).collect()
                }
                Some(ReadColors::RgbaU16(i)) => {
                    i.map(|[r, g, b, _]| colour([r, g, b].map(|v| f32::from(v) / 65535.0))).collect()
                }
                Some(ReadColors::RgbaF32(i)) => i.map(|[r, g, b, _]| colour([r, g, b])).collect(),
                None => Vec::new(),
            };
            let set = primitive
                .material()
                .pbr_metallic_roughness()
                .base_color_texture()
                .map_or(0, |t| t.tex_coord());
            let finite = |uv: [f32; 2]| Some(Vec2::from(uv)).filter(|v| v.is_finite()).unwrap_or_default();
            uvs = match reader.read_tex_coords(set) {
                Some(ReadTexCoords::F32(i)) => i.map(finite).collect(),
                Some(ReadTexCoords::U16(i)) => i.map(|c| finite(c.map(|v| f32::from(v) / 65535.0))).collect(),
                Some(ReadTexCoords::U8(i)) => i.map(|c| finite(c.map(|v| f32::from(v) / 255.0))).collect(),
                None => Vec::new(),
            };
        }
        Self { normals: normals.into_iter(), colours: colours.into_iter(), uvs: uvs.into_iter() }
    }

    /// Dresses the vertex that was added last.
    pub fn next(&mut self, builder: &mut Builder) {
        if builder.looks {
            builder.dress(self.normals.next(), self.colours.next(), self.uvs.next());
        }
    }
}
