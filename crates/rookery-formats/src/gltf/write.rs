//! Writing a scene as GLB.

use super::buffer::Binary;
use super::material::Materials;
use super::tangents::tangents;
use super::textured::raised;
use crate::{GrownLayer, Handoff};
use glam::{Vec2, Vec3, vec2};
use gltf::binary::{Glb, Header};
use gltf::json;
use gltf::json::mesh::{Mode, Primitive, Semantic};
use gltf::json::validation::Checked::{self, Valid};
use gltf::json::validation::USize64;
use gltf::json::{Accessor, Index, Material, Node, Value};
use rookery_core::math::limb::Limb;
use rookery_core::motion::{LayerMotion, MotionFacts, SpeciesMotion};
use rookery_core::nursery::{Detail, Dress, Mesh, Season, Species};
use rookery_core::planting::Plant;
use rookery_core::planting::clearance::fit::{Fits, Fitted};
use rookery_core::scene::{Document, SpeciesId};
use rookery_core::textures::{Sheets, Texture};
use std::collections::BTreeMap;
use thiserror::Error;

/// The extension that names all plants of a form in one node.
const INSTANCING: &str = "EXT_mesh_gpu_instancing";

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
    let mut binary = Binary::default();
    let materials = Materials::new(&mut binary);
    let (ground, solid) = (materials.ground, materials.solid);
    let sways = handoff.motion.is_some();
    let sheets = handoff.textures.as_ref().map(|t| t.sheets);
    let mut glb = Writer {
        binary,
        materials,
        forms: BTreeMap::new(),
        instanced: false,
        sways,
        sheets,
        raised: sheets.map_or([1.0; 10], raised),
    };
    let mut top = Vec::new();
    let grounds = handoff.grounds.iter().map(|(name, mesh)| (name, mesh, ground));
    let obstacles = handoff.obstacles.iter().map(|(name, mesh)| (name, mesh, solid));
    let seen = handoff
        .textures
        .as_ref()
        .and_then(|t| t.land)
        .map(|seen| glb.materials.land_from_above(&mut glb.binary, seen));
    let all = grounds.chain(obstacles).enumerate();
    for (nth, (name, mesh, material)) in all.filter(|(_, (_, m, _))| !m.indices.is_empty()) {
        let mesh = Some(match seen.filter(|_| nth == 0) {
            Some(seen) => glb.seen_from_above(name, mesh, seen),
            None => glb.mesh(name, mesh, material),
        });
        top.push(glb.node(Node { mesh, ..named(name) }));
    }
    for grown in &handoff.layers {
        let layer = handoff.motion.as_ref().and_then(|m| m.layers.iter().find(|l| l.id == grown.layer.id));
        top.extend(glb.layer(handoff.document, grown, layer));
    }
    let wind = handoff.motion.as_ref().map(|m| wind_of(handoff.document, m));
    glb.finish(&handoff.document.name, top, wind)
}

fn named(name: &str) -> Node {
    Node { name: Some(name.to_owned()), ..Node::default() }
}

struct Writer<'a> {
    binary: Binary,
    materials: Materials,
    /// Meshes already written, by species and form.
    forms: BTreeMap<(SpeciesId, u16), Index<json::Mesh>>,
    instanced: bool,
    /// Whether forms carry what bends of them.
    sways: bool,
    /// What built things are made of; none for their colours alone.
    sheets: Option<&'a Sheets>,
    /// By how much the colours of their corners are raised.
    raised: [f32; 10],
}

/// The wind as an engine needs it to sway the plants, see `docs/handoff.md`.
fn wind_of(document: &Document, motion: &MotionFacts) -> serde_json::Value {
    serde_json::json!({"wind": {
        "speed_m_per_s": document.motion.wind.speed_m_per_s,
        "from_deg": document.motion.wind.from_deg,
        "heading": motion.heading,
        "gust_size_m": motion.size_m,
        "strength": motion.strength,
        "waves": motion.waves,
    }})
}

fn list(v: &[Vec3]) -> Vec<[f32; 3]> {
    v.iter().map(|p| p.to_array()).collect()
}

/// JSON that goes along with a part of the file.
fn along(value: &serde_json::Value) -> json::Extras {
    serde_json::value::to_raw_value(value).ok()
}

/// The faces of one material: their corners, and where its picture of normals runs.
type Faces = (Index<Material>, Index<Accessor>, Option<Index<Accessor>>);

impl Writer<'_> {
    fn node(&mut self, node: Node) -> Index<Node> {
        self.binary.root.push(node)
    }

    /// The land with its picture from above, which has all of its colour.
    fn seen_from_above(&mut self, name: &str, mesh: &Mesh, seen: Index<Material>) -> Index<json::Mesh> {
        let plan = |p: &Vec3| vec2(p.x, p.z);
        let low = mesh.positions.iter().map(plan).fold(Vec2::MAX, Vec2::min);
        let high = mesh.positions.iter().map(plan).fold(Vec2::MIN, Vec2::max);
        let size = (high - low).max(Vec2::splat(1e-6));
        let uv: Vec<[f32; 2]> = mesh.positions.iter().map(|p| ((plan(p) - low) / size).to_array()).collect();
        let attributes = BTreeMap::from([
            (Valid(Semantic::Positions), self.binary.vertices(&list(&mesh.positions), true)),
            (Valid(Semantic::Normals), self.binary.vertices(&list(&mesh.normals), false)),
            (Valid(Semantic::TexCoords(0)), self.binary.vertices(&uv, false)),
        ]);
        let along = self.binary.vertices(&tangents(mesh, &uv), false);
        let indices = self.binary.indices(&mesh.indices);
        self.primitives(name, &attributes, vec![(seen, indices, Some(along))])
    }

    fn mesh(&mut self, name: &str, mesh: &Mesh, like: Index<Material>) -> Index<json::Mesh> {
        let built = match (&*mesh.dress, self.sheets) {
            (Dress::Built { places_m, textures }, Some(sheets)) => Some((places_m, textures, sheets)),
            _ => None,
        };
        let light = |i: usize| {
            let own = built.and_then(|(_, textures, _)| self.raised.get(usize::from(textures[i])));
            (mesh.colours[i] * own.copied().unwrap_or(1.0)).min(Vec3::ONE)
        };
        let colours: Vec<[f32; 3]> = (0..mesh.colours.len()).map(|i| light(i).to_array()).collect();
        let mut attributes = BTreeMap::from([
            (Valid(Semantic::Positions), self.binary.vertices(&list(&mesh.positions), true)),
            (Valid(Semantic::Normals), self.binary.vertices(&list(&mesh.normals), false)),
            (Valid(Semantic::Colors(0)), self.binary.vertices(&colours, false)),
        ]);
        if self.sways && !mesh.shares.limbs.is_empty() {
            let hung = |of: &dyn Fn(&Limb, f32) -> [f32; 4]| -> Vec<[f32; 4]> {
                let each = mesh.shares.limb.iter().zip(&mesh.shares.share);
                each.map(|(limb, share)| of(&mesh.shares.limbs[usize::from(*limb)], *share)).collect()
            };
            let three =
                |v: Vec<[f32; 4]>| -> Vec<[f32; 3]> { v.iter().map(|[x, y, z, _]| [*x, *y, *z]).collect() };
            let foot = hung(&|l, share| l.foot.extend(share).to_array());
            let set = three(hung(&|l, _| l.set.extend(0.0).to_array()));
            let curve = three(hung(&|l, _| l.curve.extend(0.0).to_array()));
            let own = |name: &str| Valid(Semantic::Extras(name.to_owned()));
            attributes.insert(own("LIMB_FOOT"), self.binary.vertices(&foot, false));
            attributes.insert(own("LIMB_SET"), self.binary.vertices(&set, false));
            attributes.insert(own("LIMB_CURVE"), self.binary.vertices(&curve, false));
        }
        let plain = self.materials.like(&mut self.binary, like, mesh);
        // A material has one picture: the faces of each make a primitive of their own.
        let mut by_material = Vec::new();
        if let Some(skin) = &mesh.skin {
            let uv: Vec<[f32; 2]> = skin.uv.iter().map(|uv| uv.to_array()).collect();
            attributes.insert(Valid(Semantic::TexCoords(0)), self.binary.vertices(&uv, false));
            let mut by_picture = BTreeMap::<u16, Vec<u32>>::new();
            for t in mesh.indices.chunks_exact(3) {
                by_picture.entry(skin.picture[t[0] as usize]).or_default().extend_from_slice(t);
            }
            for (picture, indices) in by_picture {
                let own = skin.pictures.get(usize::from(picture));
                let material = own.map_or(plain, |p| self.materials.pictured(&mut self.binary, p, mesh));
                by_material.push((material, self.binary.indices(&indices), None));
            }
        } else if let Some((places, textures, sheets)) = built {
            let size =
                |i: usize| Texture::ALL.get(usize::from(textures[i])).map_or(1.0, |t| sheets.of(*t).size_m);
            let uv: Vec<[f32; 2]> =
                places.iter().enumerate().map(|(i, place)| (*place / size(i)).to_array()).collect();
            attributes.insert(Valid(Semantic::TexCoords(0)), self.binary.vertices(&uv, false));
            let along = self.binary.vertices(&tangents(mesh, &uv), false);
            let mut by_texture = BTreeMap::<u8, Vec<u32>>::new();
            for t in mesh.indices.chunks_exact(3) {
                by_texture.entry(textures[t[0] as usize]).or_default().extend_from_slice(t);
            }
            for (texture, indices) in by_texture {
                let own = self.materials.made_of(&mut self.binary, texture, sheets);
                let indices = self.binary.indices(&indices);
                by_material.push((own.unwrap_or(plain), indices, own.map(|_| along)));
            }
        } else {
            by_material.push((plain, self.binary.indices(&mesh.indices), None));
        }
        self.primitives(name, &attributes, by_material)
    }

    fn primitives(
        &mut self,
        name: &str,
        attributes: &BTreeMap<Checked<Semantic>, Index<Accessor>>,
        by_material: Vec<Faces>,
    ) -> Index<json::Mesh> {
        let with = |tangents: Option<Index<Accessor>>| {
            let own = tangents.map(|t| (Valid(Semantic::Tangents), t));
            attributes.clone().into_iter().chain(own).collect()
        };
        let primitives = by_material.into_iter().map(|(material, indices, tangents)| Primitive {
            attributes: with(tangents),
            indices: Some(indices),
            material: Some(material),
            mode: Valid(Mode::Triangles),
            targets: None,
            extensions: None,
            extras: Default::default(),
        });
        self.binary.root.push(json::Mesh {
            primitives: primitives.collect(),
            name: Some(name.to_owned()),
            weights: None,
            extensions: None,
            extras: Default::default(),
        })
    }

    /// What plants of a species are made of where no picture lies on them.
    fn material_of(&self, species: &Species) -> Index<Material> {
        if species.leafy() { self.materials.thin } else { self.materials.solid }
    }

    /// The layer's node, with a child for each form that grows in it; none when nothing grows.
    fn layer(
        &mut self,
        document: &Document,
        grown: &GrownLayer<'_>,
        motion: Option<&LayerMotion>,
    ) -> Option<Index<Node>> {
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
        let instanced = by_form.iter().filter_map(|((nth, form), plants)| {
            let species = document.species_of(grown.layer, plants.first()?)?;
            let sways = motion.and_then(|m| m.species.get(usize::from(*nth))).filter(|s| s.sway.is_some());
            Some(self.instances(grown, (species, document.season), *form, plants, sways))
        });
        children.extend(instanced);
        if children.is_empty() {
            return None;
        }
        Some(self.node(Node { children: Some(children), ..named(&grown.layer.name) }))
    }

    /// A plant with a mesh of its own, its colour in the vertices.
    fn fitted(
        &mut self,
        document: &Document,
        grown: &GrownLayer<'_>,
        plant: &Plant,
        own: &Fitted,
    ) -> Option<Index<Node>> {
        let species = document.species_of(grown.layer, plant)?;
        let mut mesh = Fits::mesh(own, &species.build(plant.form, grown.fits.detail, document.season));
        let colour = Vec3::from(plant.colour.map(|c| f32::from(c) / 128.0));
        mesh.colours.iter_mut().for_each(|c| *c *= colour);
        let name = format!("{} {} fitted {}", grown.layer.name, species.name.to_lowercase(), own.plant);
        let mesh = Some(self.mesh(&name, &mesh, self.material_of(species)));
        Some(self.node(Node { mesh, translation: Some(plant.position_m.to_array()), ..named(&name) }))
    }

    fn instances(
        &mut self,
        grown: &GrownLayer<'_>,
        (species, season): (&Species, Season),
        form: u16,
        plants: &[&Plant],
        sways: Option<&SpeciesMotion>,
    ) -> Index<Node> {
        let mesh = match self.forms.get(&(species.id.clone(), form)) {
            Some(mesh) => *mesh,
            None => {
                let built = species.build(form, Detail::Full, season);
                let name = format!("{} {}", species.name, form + 1);
                let mesh = self.mesh(&name, &built, self.material_of(species));
                self.forms.insert((species.id.clone(), form), mesh);
                mesh
            }
        };
        let translations: Vec<[f32; 3]> = plants.iter().map(|p| p.position_m.to_array()).collect();
        let rotations: Vec<[f32; 4]> = plants.iter().map(|p| p.rotation.normalize().to_array()).collect();
        let scales: Vec<[f32; 3]> = plants.iter().map(|p| p.scale().to_array()).collect();
        let mut attributes = BTreeMap::from([
            ("TRANSLATION", self.binary.instances(&translations)),
            ("ROTATION", self.binary.instances(&rotations)),
            ("SCALE", self.binary.instances(&scales)),
        ]);
        if plants.iter().any(|p| p.colour != Plant::UPRIGHT.colour) {
            // An attribute of its own, as the extension allows: what the colours of each plant are multiplied with.
            let colours: Vec<[f32; 3]> =
                plants.iter().map(|p| p.colour.map(|c| f32::from(c) / 128.0)).collect();
            attributes.insert("_COLOR", self.binary.instances(&colours));
        }
        if sways.is_some() {
            // Two numbers of each plant's own, so that no two are in step.
            let own: Vec<[f32; 2]> = plants.iter().map(|p| p.tint.to_le_bytes().map(f32::from)).collect();
            attributes.insert("_OWN", self.binary.instances(&own));
        }
        self.instanced = true;
        let attributes = attributes.into_iter().map(|(name, at)| (name.to_owned(), Value::from(at.value())));
        let attributes = Value::Object(attributes.collect());
        let others = [(
            INSTANCING.to_owned(),
            Value::Object([("attributes".to_owned(), attributes)].into_iter().collect()),
        )];
        let extensions = Some(json::extensions::scene::Node { others: others.into_iter().collect() });
        let name = format!("{} {} {}", grown.layer.name, species.name.to_lowercase(), form + 1);
        let extras = sways.and_then(|s| along(&serde_json::json!({"sway": s.sway, "push": s.push})));
        self.node(Node { mesh: Some(mesh), extensions, extras, ..named(&name) })
    }

    fn finish(
        self,
        name: &str,
        nodes: Vec<Index<Node>>,
        wind: Option<serde_json::Value>,
    ) -> Result<Vec<u8>, GlbError> {
        let Binary { mut root, bytes } = self.binary;
        root.asset.generator = Some("Rookery".to_owned());
        let extras = wind.as_ref().and_then(along);
        let scene = json::Scene { nodes, name: Some(name.to_owned()), extensions: None, extras };
        root.scene = Some(root.push(scene));
        root.push(json::Buffer {
            byte_length: USize64::from(bytes.len()),
            name: None,
            uri: None,
            extensions: None,
            extras: Default::default(),
        });
        if self.instanced {
            root.extensions_used = vec![INSTANCING.to_owned()];
            root.extensions_required = vec![INSTANCING.to_owned()];
        }
        let text = root.to_vec().expect("plain data");
        let length = 12 + 8 + text.len().next_multiple_of(4) as u64 + 8 + bytes.len() as u64;
        let header = Header {
            magic: *b"glTF",
            version: 2,
            length: u32::try_from(length).map_err(|_| GlbError::TooLarge(length))?,
        };
        let glb = Glb { header, json: text.into(), bin: Some(bytes.into()) };
        Ok(glb.to_vec().expect("memory takes all that is written"))
    }
}
