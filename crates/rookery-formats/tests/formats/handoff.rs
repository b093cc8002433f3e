//! GLB and the plant table, read back.

use glam::{Quat, Vec2, Vec3};
use gltf::texture::WrappingMode;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{Frame, GroundModel, GroundRef, noise_terrain, obstacle};
use rookery_core::math::limb::Turn;
use rookery_core::motion::{MotionFacts, Standing};
use rookery_core::nursery::{Detail, Mesh, Picture, Pose, Skin};
use rookery_core::planting::clearance::fit::{Fits, Fitted, How};
use rookery_core::planting::{Plant, grow};
use rookery_core::scene::{Amount, Document, Layer, NoiseGround, kittiwake_head};
use rookery_formats::gltf::write_glb;
use rookery_formats::table::{COLUMNS, write_csv};
use rookery_formats::{GrownLayer, Handoff};
use serde_json::Value;
use std::sync::Arc;

struct Scene {
    document: Document,
    ground: GroundModel,
    grown: Vec<(Layer, Vec<Plant>)>,
    fits: Fits,
}

fn scene() -> Scene {
    let mut document = kittiwake_head();
    document.layers[0].amount = Amount::Total { value: 800 };
    document.layers[0].name = "Marram, \"tall\"".into();
    let noise = NoiseGround { samples: 65, ..NoiseGround::default() };
    let ground = GroundModel::new(noise_terrain::build(&noise).unwrap(), Some(0.0), 1);
    let never = CancelToken::default();
    let grown =
        document.layers.iter().map(|l| (l.clone(), grow(&ground, l, &never).unwrap().plants)).collect();
    Scene { document, ground, grown, fits: Fits::default() }
}

impl Scene {
    fn handoff(&self) -> Handoff<'_> {
        let layers =
            self.grown.iter().map(|(layer, plants)| GrownLayer { layer, plants, fits: &self.fits }).collect();
        let obstacles = self.document.obstacles.iter().filter(|o| !o.hidden);
        let obstacles =
            obstacles.map(|o| (o.name.clone(), obstacle::mesh(o, &self.ground.terrain, None))).collect();
        let land = GroundRef::from(&self.ground).mesh(&Frame::SCENE);
        let grounds = vec![("Land".to_owned(), land)];
        Handoff { document: &self.document, grounds, obstacles, layers, motion: None, textures: None }
    }
}

fn parts(glb: &[u8]) -> (Value, &[u8]) {
    let word = |at: usize| u32::from_le_bytes(glb[at..at + 4].try_into().unwrap()) as usize;
    assert_eq!((&glb[..4], word(4), word(8)), (b"glTF".as_slice(), 2, glb.len()));
    let json = word(12);
    assert_eq!(&glb[16..20], b"JSON");
    let bin = 20 + json;
    assert_eq!(&glb[bin + 4..bin + 8], b"BIN\0");
    assert_eq!(word(bin) + bin + 8, glb.len());
    (serde_json::from_slice(&glb[20..bin]).unwrap(), &glb[bin + 8..])
}

fn floats(root: &Value, bin: &[u8], accessor: &Value) -> Vec<Vec<f32>> {
    let a = &root["accessors"][accessor.as_u64().unwrap() as usize];
    assert_eq!(a["componentType"], 5126);
    let wide = match a["type"].as_str().unwrap() {
        "VEC2" => 2,
        "VEC3" => 3,
        "VEC4" => 4,
        other => panic!("{other}"),
    };
    let view = &root["bufferViews"][a["bufferView"].as_u64().unwrap() as usize];
    let from = view["byteOffset"].as_u64().unwrap() as usize;
    let count = a["count"].as_u64().unwrap() as usize;
    assert_eq!(from % 4, 0);
    assert_eq!(view["byteLength"].as_u64().unwrap() as usize, count * wide * 4);
    let numbers: Vec<f32> = bin[from..from + count * wide * 4]
        .chunks_exact(4)
        .map(|b| f32::from_le_bytes(b.try_into().unwrap()))
        .collect();
    numbers.chunks_exact(wide).map(<[f32]>::to_vec).collect()
}

/// The text of EXT_mesh_gpu_instancing: equal counts, unit quaternions, and the same transforms as ours.
#[test]
fn instances_read_back_are_the_plants() {
    let scene = scene();
    let glb = write_glb(&scene.handoff()).unwrap();
    let (root, bin) = parts(&glb);
    assert_eq!(root["extensionsUsed"][0], "EXT_mesh_gpu_instancing");
    let mut read = Vec::new();
    for node in root["nodes"].as_array().unwrap() {
        let attributes = &node["extensions"]["EXT_mesh_gpu_instancing"]["attributes"];
        if attributes.is_null() {
            continue;
        }
        let [t, r, s] = ["TRANSLATION", "ROTATION", "SCALE"].map(|k| floats(&root, bin, &attributes[k]));
        assert!(t.len() == r.len() && r.len() == s.len() && !t.is_empty());
        for ((t, r), s) in t.iter().zip(&r).zip(&s) {
            let q = Quat::from_xyzw(r[0], r[1], r[2], r[3]);
            assert!((q.length() - 1.0).abs() < 1e-5);
            assert!(s[0] == s[1] && s[1] == s[2]);
            read.push((Vec3::new(t[0], t[1], t[2]), q, s[0]));
        }
    }
    let mut plants: Vec<_> =
        scene.grown.iter().flat_map(|(_, p)| p).map(|p| (p.position_m, p.rotation, p.size)).collect();
    assert_eq!(read.len(), plants.len());
    let key = |p: &(Vec3, Quat, f32)| p.0.to_array().map(|c| (c * 1e4) as i64);
    read.sort_by_key(key);
    plants.sort_by_key(key);
    for (a, b) in read.iter().zip(&plants) {
        assert_eq!((a.0, a.2), (b.0, b.2));
        assert!(a.1.dot(b.1).abs() > 1.0 - 1e-6);
    }
}

#[test]
fn every_accessor_stays_within_the_buffer_and_every_index_within_its_mesh() {
    let scene = scene();
    let glb = write_glb(&scene.handoff()).unwrap();
    let (root, bin) = parts(&glb);
    assert_eq!(root["buffers"][0]["byteLength"].as_u64().unwrap() as usize, bin.len());
    for mesh in root["meshes"].as_array().unwrap() {
        let primitive = &mesh["primitives"][0];
        let vertices = floats(&root, bin, &primitive["attributes"]["POSITION"]).len();
        for n in floats(&root, bin, &primitive["attributes"]["NORMAL"]) {
            assert!((n.iter().map(|c| c * c).sum::<f32>() - 1.0).abs() < 1e-3);
        }
        let a = &root["accessors"][primitive["indices"].as_u64().unwrap() as usize];
        let from = root["bufferViews"][a["bufferView"].as_u64().unwrap() as usize]["byteOffset"]
            .as_u64()
            .unwrap() as usize;
        let count = a["count"].as_u64().unwrap() as usize;
        assert_eq!(count % 3, 0);
        for b in bin[from..from + count * 4].chunks_exact(4) {
            assert!((u32::from_le_bytes(b.try_into().unwrap()) as usize) < vertices);
        }
    }
}

#[test]
fn obstacles_stand_in_the_handoff_by_name_and_hidden_ones_do_not() {
    let mut scene = scene();
    scene.grown.clear();
    let names = |scene: &Scene| -> Vec<String> {
        let (root, _) = parts(&write_glb(&scene.handoff()).unwrap());
        root["nodes"].as_array().unwrap().iter().map(|n| n["name"].as_str().unwrap().to_owned()).collect()
    };
    assert_eq!(names(&scene), ["Land", "Keeper\u{2019}s cottage", "Garth wall"]);
    scene.document.obstacles[0].hidden = true;
    assert_eq!(names(&scene), ["Land", "Garth wall"]);
}

#[test]
fn an_empty_scene_is_still_a_glb() {
    let mut scene = scene();
    scene.grown.clear();
    scene.document.obstacles.clear();
    let glb = write_glb(&scene.handoff()).unwrap();
    let (root, _) = parts(&glb);
    assert!(root["extensionsUsed"].is_null());
    assert_eq!(root["nodes"].as_array().unwrap().len(), 1);
}

/// RFC 4180: lines end in CRLF, fields with quotes or commas are quoted and their quotes doubled, every line has as many
/// fields as the head.
#[test]
fn the_plant_table_follows_rfc_4180_and_reads_back() {
    let scene = scene();
    let mut out = Vec::new();
    write_csv(&scene.handoff(), &mut out).unwrap();
    let text = String::from_utf8(out.clone()).unwrap();
    assert!(text.starts_with("layer,species,form,id,x_m"));
    assert!(text.contains("\"Marram, \"\"tall\"\"\",marram,"));
    assert_eq!(text.matches('\n').count(), text.matches("\r\n").count());
    let mut reader = csv::Reader::from_reader(out.as_slice());
    let plants: Vec<(&Layer, &Plant)> =
        scene.grown.iter().flat_map(|(l, p)| p.iter().map(move |p| (l, p))).collect();
    let rows: Vec<csv::StringRecord> = reader.records().map(Result::unwrap).collect();
    assert_eq!(rows.len(), plants.len());
    for (row, (layer, plant)) in rows.iter().zip(plants) {
        let own = scene.document.species_of(layer, plant).unwrap();
        assert_eq!(row.len(), COLUMNS.len());
        assert_eq!(u64::from_str_radix(&row[3], 16).unwrap(), plant.id.0);
        let number = |i: usize| row[i].parse::<f32>().unwrap();
        assert_eq!([number(4), number(5), number(6)], plant.position_m.to_array());
        assert_eq!(number(11), plant.size);
        assert!((0.0..=360.0).contains(&number(12)));
        let widest = plant.size * plant.stretch[1].max(1.0);
        assert_eq!(number(18), own.footprint_m() * widest);
        assert_eq!(number(19), own.radius_m() * widest);
        // The scene has no map of its own: north is against Z.
        let on_map = Vec2::new(number(20), number(21));
        assert!(on_map.distance(Vec2::new(plant.position_m.x, -plant.position_m.z)) < 1e-3);
    }
}

/// A plant that is bent has a mesh of its own where it stands and is no instance; one that cannot be shown is in neither.
#[test]
fn fitted_plants_have_meshes_of_their_own() {
    let mut scene = scene();
    let usual = |scene: &Scene| -> usize {
        let glb = write_glb(&scene.handoff()).unwrap();
        let (root, bin) = parts(&glb);
        let counts = root["nodes"].as_array().unwrap().iter().filter_map(|n| {
            let at = n["extensions"]["EXT_mesh_gpu_instancing"]["attributes"]["TRANSLATION"].clone();
            (!at.is_null()).then(|| floats(&root, bin, &at).len())
        });
        counts.sum()
    };
    let before = usual(&scene);
    let layer = scene.grown[0].0.clone();
    scene.grown.truncate(1);
    let alone = usual(&scene);
    let plant = scene.grown[0].1[5];
    let form = scene.document.species_of(&scene.document.layers[0], &plant).unwrap();
    let form = form.build(plant.form, Detail::Full, scene.document.season);
    let leaning: Vec<Vec3> = form.positions.iter().map(|v| *v + Vec3::X * (v.y * 0.5)).collect();
    let bent = |plant, how| Fitted { plant, positions: leaning.clone(), normals: form.normals.clone(), how };
    let (bends, gone) = (How { bent: true, ..How::default() }, How { gone: true, ..How::default() });
    scene.fits = Fits { plants: vec![bent(5, bends), bent(9, gone)], ..Fits::default() };
    assert_eq!(usual(&scene), alone - 2);
    assert!(alone < before);
    let glb = write_glb(&scene.handoff()).unwrap();
    let (root, bin) = parts(&glb);
    let nodes = root["nodes"].as_array().unwrap();
    let own: Vec<&Value> =
        nodes.iter().filter(|n| n["name"].as_str().unwrap_or_default().contains(" fitted ")).collect();
    let [own] = own.as_slice() else { panic!("{own:?}") };
    let at: Vec<f32> =
        own["translation"].as_array().unwrap().iter().map(|v| v.as_f64().unwrap() as f32).collect();
    assert_eq!(Vec3::from_slice(&at), plant.position_m);
    let mesh = &root["meshes"][own["mesh"].as_u64().unwrap() as usize]["primitives"][0];
    let read = floats(&root, bin, &mesh["attributes"]["POSITION"]);
    assert!(read.iter().map(|v| Vec3::from_slice(v)).eq(leaning.iter().copied()));
    assert!(nodes.iter().any(|n| n["name"] == layer.name.as_str()));
}

/// A square with a picture that it holds twice, side by side.
fn pictured(repeats: bool) -> Mesh {
    let corners = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)];
    let mut mesh = Mesh {
        positions: corners.map(|(x, y)| Vec3::new(x, y, 0.0)).to_vec(),
        normals: vec![Vec3::Z; 4],
        colours: vec![Vec3::ONE; 4],
        indices: vec![0, 1, 2, 0, 2, 3],
        ..Mesh::default()
    };
    let picture =
        Picture { name: "Leaf".into(), width_px: 2, height_px: 1, rgba: vec![[90, 120, 40, 255]; 2] };
    mesh.skin = Some(Skin {
        uv: mesh.positions.iter().map(|p| Vec2::new(p.x * 2.0, p.y)).collect(),
        picture: vec![0; 4],
        pictures: Arc::new(vec![picture]),
        repeats,
    });
    mesh
}

/// Broke: what begins again named a sampler that the file did not have, so that no strict reader took it; what ends began again.
#[test]
fn pictures_begin_again_or_end_as_the_mesh_says() {
    for repeats in [false, true] {
        let document = kittiwake_head();
        let obstacles = vec![("Sheet".to_owned(), pictured(repeats))];
        let handoff = Handoff {
            document: &document,
            grounds: Vec::new(),
            obstacles,
            layers: Vec::new(),
            motion: None,
            textures: None,
        };
        let read = gltf::Gltf::from_slice(&write_glb(&handoff).unwrap()).expect("a strict reader takes it");
        let primitive = read.meshes().next().unwrap().primitives().next().unwrap();
        let material = primitive.material();
        let sampler = material.pbr_metallic_roughness().base_color_texture().unwrap().texture().sampler();
        let expected = if repeats { WrappingMode::Repeat } else { WrappingMode::ClampToEdge };
        assert_eq!((sampler.wrap_s(), sampler.wrap_t()), (expected, expected));
    }
}

/// What an engine needs to sway the plants: from the file alone, by the formula of `docs/handoff.md`, every vertex comes where core bends it to.
#[test]
fn plants_can_be_swayed_from_the_file_alone() {
    let scene = scene();
    let calm = write_glb(&scene.handoff()).unwrap();
    let standing: Vec<Standing> = scene.grown.iter().map(|(l, p)| (l, p.as_slice(), 0.5)).collect();
    let facts = MotionFacts::of(&scene.document, &standing);
    let glb = write_glb(&Handoff { motion: Some(facts.clone()), ..scene.handoff() }).unwrap();
    let (root, bin) = parts(&glb);
    let (rest, _) = parts(&calm);
    assert!(!rest.to_string().contains("_LIMB_FOOT") && !rest.to_string().contains("extras"));
    let wind = &root["scenes"][0]["extras"]["wind"];
    assert_eq!(wind["waves"].as_array().unwrap().len(), 24);
    assert_eq!(wind["speed_m_per_s"], 7.5);

    let mut swaying = 0;
    for node in root["nodes"].as_array().unwrap().iter().filter(|n| n["extras"]["sway"].is_object()) {
        let attributes = &node["extensions"]["EXT_mesh_gpu_instancing"]["attributes"];
        let own = floats(&root, bin, &attributes["_OWN"]);
        assert_eq!(own.len(), floats(&root, bin, &attributes["TRANSLATION"]).len());
        assert!(own.iter().flatten().all(|v| (0.0..=255.0).contains(v) && v.fract() == 0.0));
        assert!(node["extras"]["push"]["load"].as_f64().unwrap() > 0.0, "{}", node["extras"]);
        swaying += 1;
    }
    assert!(swaying > 10, "{swaying}");

    // The first marram, its tips turned by half a radian to the east.
    let marram = scene.document.species(&scene.document.layers[0].mix[0].species).unwrap();
    let mesh = root["meshes"].as_array().unwrap().iter().find(|m| m["name"] == format!("{} 1", marram.name));
    let a = &mesh.expect("there is one")["primitives"][0]["attributes"];
    let [places, foot, set, curve] =
        ["POSITION", "_LIMB_FOOT", "_LIMB_SET", "_LIMB_CURVE"].map(|k| floats(&root, bin, &a[k]));
    let three = |v: &[f32]| Vec3::new(v[0], v[1], v[2]);
    let turn = |v: Vec3, angle: f32| Quat::from_rotation_z(-angle) * v;
    let gamma = |s: f32| 1.0 - (1.0 - s).powi(3);
    let angle = 0.5_f32;
    let built = marram.build(0, Detail::Full, scene.document.season);
    let theta = Turn::towards([angle, 0.0]);
    let core = built.turned(&Pose::AS_MADE, &theta, marram.height_m());
    let mut moved = 0.0_f32;
    for (i, wanted) in core.positions.iter().enumerate() {
        let (p, f, s) = (three(&places[i]), three(&foot[i]), foot[i][3]);
        let (set, curve) = (three(&set[i]), three(&curve[i]));
        let axis = |s: f32| f + set * s + curve * (s * s / 2.0);
        // In a hundred small steps along the limb instead of three places of a rule.
        let steps = 100;
        let along: Vec3 = (0..steps)
            .map(|k| {
                let at = s * (k as f32 + 0.5) / steps as f32;
                turn(set + curve * at, angle * gamma(at)) * (s / steps as f32)
            })
            .sum();
        let bent = f + along + turn(p - axis(s), angle * gamma(s));
        assert!(bent.distance(*wanted) < 2e-3, "{bent} for {wanted}");
        moved = moved.max(bent.distance(p));
    }
    assert!(moved > 0.2, "{moved}");
}
