//! Writing a scene as GLB.

use super::buffer::{Buffer, Target};
use crate::picture::png_rgba8;
use crate::{GrownLayer, Handoff};
use glam::Vec3;
use rookery_core::nursery::{Detail, Mesh, Picture, Season, Species};
use rookery_core::planting::Plant;
use rookery_core::planting::clearance::fit::{Fits, Fitted};
use rookery_core::scene::{BlobId, Document, SpeciesId, blob_id};
use serde_json::{Value, json};
use std::collections::BTreeMap;
use thiserror::Error;

/// Why a scene cannot be written as GLB.
#[derive(Debug, Error)]
pub enum GlbError {
    /// GLB counts its bytes in 32 bits.
    #[error("the file would have {0} bytes, more than a GLB can hold (4 GiB); hand off fewer plants")]
    TooLarge(u64),
}

/// Writes the grounds, the obstacles and all plants at full detail.
///
/// # Errors
/// [`GlbError::TooLarge`].
pub fn write_glb(handoff: &Handoff<'_>) -> Result<Vec<u8>, GlbError> {
    let mut glb = Writer::default();
    let mut top = Vec::new();
    let grounds = handoff.grounds.iter().map(|(name, mesh)| (name, mesh, glb_material::GROUND));
    let obstacles = handoff.obstacles.iter().map(|(name, mesh)| (name, mesh, glb_material::SOLID));
    for (name, mesh, material) in grounds.chain(obstacles).filter(|(_, m, _)| !m.indices.is_empty()) {
        let mesh = glb.mesh(name, mesh, material);
        glb.nodes.push(json!({"name": name, "mesh": mesh}));
        top.push(glb.nodes.len() - 1);
    }
    for grown in &handoff.layers {
        if let Some(node) = glb.layer(handoff.document, grown) {
            top.push(node);
        }
    }
    glb.finish(&handoff.document.name, &top)
}

/// Places in the list of materials that [`Writer::finish`] writes.
mod glb_material {
    pub const GROUND: usize = 0;
    pub const SOLID: usize = 1;
    pub const THIN: usize = 2;
    /// Materials with pictures begin here.
    pub const OWN: usize = 3;
}

#[derive(Default)]
struct Writer {
    buffer: Buffer,
    meshes: Vec<Value>,
    nodes: Vec<Value>,
    /// Meshes already written, by species and form.
    forms: BTreeMap<(SpeciesId, u16), usize>,
    /// Materials with pictures, by the hash of the picture.
    known_pictures: BTreeMap<BlobId, usize>,
    images: Vec<Value>,
    /// Whether each image begins again beyond its edges.
    repeats: Vec<bool>,
    materials: Vec<Value>,
    instanced: bool,
}

impl Writer {
    fn mesh(&mut self, name: &str, mesh: &Mesh, material: usize) -> usize {
        let list = |v: &[Vec3]| -> Vec<[f32; 3]> { v.iter().map(|p| p.to_array()).collect() };
        let position = self.buffer.floats(&list(&mesh.positions), Target::Vertices, true);
        let normal = self.buffer.floats(&list(&mesh.normals), Target::Vertices, false);
        let colour = self.buffer.floats(&list(&mesh.colours), Target::Vertices, false);
        let material =
            if mesh.sheen > 0.0 || mesh.glow > 0.0 { self.glossy(material, mesh) } else { material };
        let mut attributes = json!({"POSITION": position, "NORMAL": normal, "COLOR_0": colour});
        let mut primitives = Vec::new();
        if let Some(skin) = &mesh.skin {
            let uv: Vec<[f32; 2]> = skin.uv.iter().map(|uv| uv.to_array()).collect();
            attributes["TEXCOORD_0"] = json!(self.buffer.floats(&uv, Target::Vertices, false));
            // A material has one picture: the faces of each make a primitive of their own.
            let thin = if mesh.through.is_empty() { glb_material::SOLID } else { glb_material::THIN };
            let mut by_picture = BTreeMap::<u16, Vec<u32>>::new();
            for t in mesh.indices.chunks_exact(3) {
                by_picture.entry(skin.picture[t[0] as usize]).or_default().extend_from_slice(t);
            }
            for (picture, indices) in by_picture {
                let own = skin.pictures.get(usize::from(picture));
                let material = own.map_or(material, |p| self.picture_material(p, thin, mesh));
                let indices = self.buffer.indices(&indices);
                primitives.push(json!({"attributes": attributes, "indices": indices, "material": material}));
            }
        } else {
            let indices = self.buffer.indices(&mesh.indices);
            primitives.push(json!({"attributes": attributes, "indices": indices, "material": material}));
        }
        self.meshes.push(json!({"name": name, "primitives": primitives}));
        self.meshes.len() - 1
    }

    /// A material as glossy and glowing as a mesh. glTF has one colour of light for a material: the mean of its vertices.
    fn glossy(&mut self, like: usize, mesh: &Mesh) -> usize {
        let mean = mesh.colours.iter().sum::<Vec3>() / mesh.colours.len().max(1) as f32;
        let light = (mean * mesh.glow).clamp(Vec3::ZERO, Vec3::ONE).to_array();
        let material = json!({"name": "Glossy", "doubleSided": like == glb_material::THIN, "emissiveFactor": light,
            "pbrMetallicRoughness": {"metallicFactor": 0.0, "roughnessFactor": 0.9 - 0.6 * mesh.sheen}});
        let known = self.materials.iter().position(|m| *m == material);
        glb_material::OWN
            + known.unwrap_or_else(|| {
                self.materials.push(material);
                self.materials.len() - 1
            })
    }

    /// A material with a picture; the same picture again is the same material.
    fn picture_material(&mut self, picture: &Picture, like: usize, mesh: &Mesh) -> usize {
        let key = blob_id(
            &[bytemuck::cast_slice(&picture.rgba), &picture.width_px.to_le_bytes(), &[like as u8]].concat(),
        );
        if let Some(known) = self.known_pictures.get(&key) {
            return *known;
        }
        let png = png_rgba8(picture.width_px, picture.height_px, bytemuck::cast_slice(&picture.rgba))
            .expect("a picture has as many pixels as it says");
        let view = self.buffer.bytes_view(&png);
        self.images.push(json!({"name": picture.name, "bufferView": view, "mimeType": "image/png"}));
        let texture = self.images.len() - 1;
        self.repeats.push(mesh.skin.as_ref().is_some_and(|s| s.repeats));
        let mut material = json!({"name": format!("Picture {}", texture + 1), "doubleSided": like == glb_material::THIN,
            "pbrMetallicRoughness": {"metallicFactor": 0.0, "roughnessFactor": 0.9 - 0.6 * mesh.sheen, "baseColorTexture": {"index": texture}}});
        if picture.holes() {
            material["alphaMode"] = json!("MASK");
        }
        self.materials.push(material);
        let number = glb_material::OWN + self.materials.len() - 1;
        self.known_pictures.insert(key, number);
        number
    }

    /// The layer's node, with a child for each form that grows in it; none when nothing grows.
    fn layer(&mut self, document: &Document, grown: &GrownLayer<'_>) -> Option<usize> {
        let mut by_form = BTreeMap::<(u8, u16), Vec<&Plant>>::new();
        let mut children = Vec::new();
        let mut fitted = grown.fits.plants.iter().peekable();
        for (i, p) in grown.plants.iter().enumerate() {
            match fitted.next_if(|f| f.plant as usize == i) {
                Some(own) if own.how.gone => {}
                Some(own) => children.extend(self.fitted(document, grown, p, own)),
                None => by_form.entry((p.species, p.form)).or_default().push(p),
            }
        }
        let instanced = by_form.iter().filter_map(|((_, form), plants)| {
            let species = document.species_of(grown.layer, plants.first()?)?;
            Some(self.instances(grown, species, document.season, *form, plants))
        });
        children.extend(instanced);
        if children.is_empty() {
            return None;
        }
        self.nodes.push(json!({"name": grown.layer.name, "children": children}));
        Some(self.nodes.len() - 1)
    }

    /// A plant with a mesh of its own, its colour in the vertices.
    fn fitted(
        &mut self,
        document: &Document,
        grown: &GrownLayer<'_>,
        plant: &Plant,
        own: &Fitted,
    ) -> Option<usize> {
        let species = document.species_of(grown.layer, plant)?;
        let mut mesh = Fits::mesh(own, &species.build(plant.form, grown.fits.detail, document.season));
        let colour = Vec3::from(plant.colour.map(|c| f32::from(c) / 128.0));
        mesh.colours.iter_mut().for_each(|c| *c *= colour);
        let material = if species.leafy() { glb_material::THIN } else { glb_material::SOLID };
        let name = format!("{} {} fitted {}", grown.layer.name, species.name.to_lowercase(), own.plant);
        let mesh = self.mesh(&name, &mesh, material);
        self.nodes.push(json!({"name": name, "mesh": mesh, "translation": plant.position_m.to_array()}));
        Some(self.nodes.len() - 1)
    }

    fn instances(
        &mut self,
        grown: &GrownLayer<'_>,
        species: &Species,
        season: Season,
        form: u16,
        plants: &[&Plant],
    ) -> usize {
        let mesh = match self.forms.get(&(species.id.clone(), form)) {
            Some(mesh) => *mesh,
            None => {
                let material = if species.leafy() { glb_material::THIN } else { glb_material::SOLID };
                let built = species.build(form, Detail::Full, season);
                let mesh = self.mesh(&format!("{} {}", species.name, form + 1), &built, material);
                self.forms.insert((species.id.clone(), form), mesh);
                mesh
            }
        };
        let translations: Vec<[f32; 3]> = plants.iter().map(|p| p.position_m.to_array()).collect();
        let rotations: Vec<[f32; 4]> = plants.iter().map(|p| p.rotation.normalize().to_array()).collect();
        let scales: Vec<[f32; 3]> = plants.iter().map(|p| p.scale().to_array()).collect();
        let translation = self.buffer.floats(&translations, Target::Instances, false);
        let rotation = self.buffer.floats(&rotations, Target::Instances, false);
        let scale = self.buffer.floats(&scales, Target::Instances, false);
        let mut attributes = json!({"TRANSLATION": translation, "ROTATION": rotation, "SCALE": scale});
        if plants.iter().any(|p| p.colour != Plant::UPRIGHT.colour) {
            // An attribute of its own, as the extension allows: what the colours of each plant are multiplied with.
            let colours: Vec<[f32; 3]> =
                plants.iter().map(|p| p.colour.map(|c| f32::from(c) / 128.0)).collect();
            attributes["_COLOR"] = json!(self.buffer.floats(&colours, Target::Instances, false));
        }
        self.instanced = true;
        self.nodes.push(json!({
            "name": format!("{} {} {}", grown.layer.name, species.name.to_lowercase(), form + 1),
            "mesh": mesh,
            "extensions": {"EXT_mesh_gpu_instancing": {
                "attributes": attributes,
            }},
        }));
        self.nodes.len() - 1
    }

    fn finish(self, name: &str, top: &[usize]) -> Result<Vec<u8>, GlbError> {
        let material = |name: &str, double: bool| {
            json!({"name": name, "doubleSided": double,
                "pbrMetallicRoughness": {"metallicFactor": 0.0, "roughnessFactor": 0.9}})
        };
        let mut materials =
            vec![material("Ground", false), material("Solid", false), material("Leaves", true)];
        materials.extend(self.materials);
        let mut root = json!({
            "asset": {"version": "2.0", "generator": "Rookery"},
            "scene": 0,
            "scenes": [{"name": name, "nodes": top}],
            "nodes": self.nodes,
            "meshes": self.meshes,
            "materials": materials,
            "buffers": [{"byteLength": self.buffer.bytes.len()}],
            "bufferViews": self.buffer.views,
            "accessors": self.buffer.accessors,
        });
        if !self.images.is_empty() {
            let textures: Vec<Value> = self
                .repeats
                .iter()
                .enumerate()
                .map(|(i, r)| json!({"source": i, "sampler": u8::from(*r)}))
                .collect();
            root["textures"] = json!(textures);
            root["images"] = json!(self.images);
            // Smooth between pixels, between smaller copies too; begun again beyond the edges.
            root["samplers"] =
                json!([{"magFilter": 9729, "minFilter": 9987, "wrapS": 10497, "wrapT": 10497}]);
        }
        if self.instanced {
            root["extensionsUsed"] = json!(["EXT_mesh_gpu_instancing"]);
            root["extensionsRequired"] = json!(["EXT_mesh_gpu_instancing"]);
        }
        let mut text = serde_json::to_vec(&root).expect("plain data");
        text.resize(text.len().next_multiple_of(4), b' ');
        let total = 12 + 8 + text.len() as u64 + 8 + self.buffer.bytes.len() as u64;
        let short = |n: u64| u32::try_from(n).map_err(|_| GlbError::TooLarge(total));
        let mut out = Vec::with_capacity(short(total)? as usize);
        out.extend_from_slice(b"glTF");
        for word in [2, short(total)?, text.len() as u32] {
            out.extend_from_slice(&word.to_le_bytes());
        }
        out.extend_from_slice(b"JSON");
        out.extend_from_slice(&text);
        out.extend_from_slice(&short(self.buffer.bytes.len() as u64)?.to_le_bytes());
        out.extend_from_slice(b"BIN\0");
        out.extend_from_slice(&self.buffer.bytes);
        Ok(out)
    }
}
