//! Mesh files as grounds: by part, mended, scaled; and the buffer the view reads.

use glam::Vec3;
use rookery_core::ground::{AnyGround, MeshModel, MeshSurface};
use rookery_core::scene::*;
use rookery_formats::mesh::{
    MeshFile, MeshFinding, inspect_mesh, placed_mesh, placed_surface, read_mesh, read_mesh_and_uvs,
};
use rookery_formats::view::encode_mesh_ground;
use rookery_formats::{GroundError, placed_model};

/// Three groups: a ring of 256 triangles, and the sides and ends of a block of 1 x 2 x 4 m.
const OBJ: &[u8] = include_bytes!("../data/two.obj");

fn placing() -> MeshPlacing {
    MeshPlacing { unit_m: 1.0, up: UpAxis::Y, recentre: false, turn_over: false, mend: false }
}

fn ground(source: PlacedSource) -> PlacedGround {
    PlacedGround {
        id: GroundId(3),
        name: "Stone".into(),
        source,
        x_m: 1.0,
        y_m: 2.0,
        z_m: 3.0,
        turn_deg: 0.0,
        scale: 1.0,
        upright: Upright::Gravity,
        earths: Earths::default(),
        strokes: Vec::new(),
        hidden: false,
        moves: None,
    }
}

fn from_file(parts: &[&str]) -> PlacedGround {
    let parts = parts.iter().map(|p| (*p).to_owned()).collect();
    let blob = blob_id(OBJ);
    ground(PlacedSource::Mesh(MeshGround { blob, name: "ring.obj".into(), placing: placing(), parts }))
}

fn mesh(ground: &PlacedGround) -> MeshModel {
    match placed_model(ground, None, |_| Some(OBJ.to_vec())).unwrap() {
        AnyGround::Mesh(m) => m,
        AnyGround::Terrain(_) => panic!("it is a mesh"),
    }
}

#[test]
fn a_file_is_taken_whole_or_by_part_and_its_parts_are_face_groups() {
    let whole = mesh(&from_file(&[]));
    assert_eq!(whole.groups, ["Ring", "sides", "ends"]);
    assert_eq!(whole.mesh.triangles(), 268);
    // Source: trimesh 4, `remake_meshes.py`: area 118.86029, of which the ring has 90.86031.
    assert!((whole.true_area_m2() - 118.860_29).abs() < 1e-3, "{}", whole.true_area_m2());
    let block = mesh(&from_file(&["sides", "ends"]));
    assert_eq!((block.groups.as_slice(), block.mesh.triangles()), (&["sides".into(), "ends".into()][..], 12));
    assert!((block.true_area_m2() - 28.0).abs() < 1e-3, "{}", block.true_area_m2());
    let none = placed_model(&from_file(&["Lid"]), None, |_| Some(OBJ.to_vec())).unwrap_err();
    assert_eq!(none.to_string(), "none of its parts is called Lid");
    let missing = placed_model(&from_file(&[]), None, |_| None).unwrap_err();
    assert!(matches!(missing, GroundError::MissingFile { .. }), "{missing}");
}

#[test]
fn a_ground_twice_as_large_has_four_times_the_area() {
    let small = from_file(&["sides", "ends"]);
    let large = PlacedGround { scale: 2.0, ..small.clone() };
    assert!((mesh(&large).true_area_m2() - 4.0 * mesh(&small).true_area_m2()).abs() < 1e-2);
    let noise = NoiseGround { size_m: 20.0, samples: 33, ..NoiseGround::default() };
    let terrain = PlacedGround { scale: 0.5, ..ground(PlacedSource::Noise(noise)) };
    let AnyGround::Terrain(t) = placed_model(&terrain, Some(2.0), |_| None).unwrap() else {
        panic!("it is a terrain")
    };
    assert_eq!((t.terrain.plan_area_m2(), t.base_m, t.water_m), (100.0, 2.0, Some(0.0)));
}

#[test]
fn parts_have_a_label_each_whatever_the_file_calls_them() {
    let mut file = read_mesh(OBJ).unwrap();
    let part = file.parts[0].clone();
    let named = |name: &str, material: &str| {
        let mut p = part.clone();
        (p.name, p.material) = (name.into(), material.into());
        p
    };
    file.parts = vec![
        named("", ""),
        named("Wall", "lime"),
        named("Wall", "slate"),
        named("", "lime"),
        named("Wall", "slate"),
    ];
    assert_eq!(file.labels(), ["Part 1", "Wall", "Wall, slate", "lime", "Wall 5"]);
}

/// The volume inside by the divergence theorem.
fn volume(s: &MeshSurface) -> f32 {
    let at = |i: u32| s.positions[i as usize] - s.positions[s.indices[0] as usize];
    s.indices.chunks_exact(3).map(|t| at(t[0]).dot(at(t[1]).cross(at(t[2])))).sum::<f32>() / 6.0
}

fn block(change: impl Fn(&mut Vec<[u32; 3]>)) -> MeshFile {
    let mut file = read_mesh(OBJ).unwrap();
    file.parts.remove(0);
    let all = file.parts.iter().flat_map(|p| p.indices.chunks_exact(3));
    let mut faces: Vec<[u32; 3]> = all.map(|t| [t[0], t[1], t[2]]).collect();
    change(&mut faces);
    file.parts.truncate(1);
    file.parts[0].indices = faces.into_flattened();
    file
}

#[test]
fn single_faces_that_look_the_wrong_way_are_turned_and_repeats_left_out() {
    let broken = block(|t| {
        t[1].swap(0, 1);
        t[7].swap(1, 2);
        t.push(t[3]);
        t.push([t[0][0], t[0][1], t[0][0]]);
    });
    let found = inspect_mesh(&broken).findings;
    assert!(found.contains(&MeshFinding::Duplicate { count: 1 }), "{found:?}");
    let mended = placed_surface(&broken, &MeshPlacing { mend: true, ..placing() }, &[]).unwrap();
    assert_eq!(mended.indices.len(), 36);
    assert!((volume(&mended) - 8.0).abs() < 1e-4, "{}", volume(&mended));
    let inwards = block(|t| t.iter_mut().for_each(|t| t.swap(0, 1)));
    let mended = placed_surface(&inwards, &MeshPlacing { mend: true, ..placing() }, &[]).unwrap();
    assert!((volume(&mended) - 8.0).abs() < 1e-4, "turned once, not twice: {}", volume(&mended));
    // An open sheet keeps the side that most of it looked to.
    let sheet = block(|t| {
        t.truncate(11);
        t[2].swap(0, 1);
    });
    let kept = placed_mesh(&sheet, &MeshPlacing { mend: true, ..placing() });
    let middle = (kept.bounds().0 + kept.bounds().1) * 0.5;
    let outwards = |i: usize| kept.normals[i].dot(kept.positions[i] - middle) > 0.0;
    assert!((0..kept.positions.len()).all(outwards));
}

#[test]
fn the_views_buffer_of_a_mesh_ground_holds_what_its_layout_says() {
    let m = mesh(&from_file(&[]));
    let bytes = encode_mesh_ground(&m);
    let length = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
    let head: serde_json::Value = serde_json::from_slice(&bytes[8..8 + length]).unwrap();
    let (v, t) = (m.mesh.positions.len(), m.mesh.triangles());
    assert_eq!((&bytes[..4], &head["groups"][1]), (b"RKMG".as_slice(), &serde_json::json!("sides")));
    assert_eq!((head["vertices"].as_u64(), head["triangles"].as_u64()), (Some(v as u64), Some(t as u64)));
    let arrays = (8 + length).next_multiple_of(4);
    assert_eq!(bytes.len(), arrays + v * 40 + t * 12);
    let float = |at: usize| f32::from_le_bytes(bytes[at..at + 4].try_into().unwrap());
    let first = Vec3::new(float(arrays), float(arrays + 4), float(arrays + 8));
    assert_eq!(first, m.mesh.positions[0]);
    assert_eq!(float(arrays + v * 32), m.slopes_deg()[0]);
    // Altitudes are in the scene: the ground stands 2 m up.
    assert_eq!(float(arrays + v * 36), m.mesh.positions[0].y + 2.0);
    assert_eq!(bytes[bytes.len() - 4..], m.mesh.indices.last().unwrap().to_le_bytes());
    let areas: f64 = head["slope"]["areas_m2"].as_array().unwrap().iter().map(|a| a.as_f64().unwrap()).sum();
    assert!((areas - m.true_area_m2()).abs() < 0.01, "{areas}");
}

/// Two triangles of a square, the second turned over, with their places in a picture; v counts from below in an OBJ.
#[test]
fn places_in_pictures_stay_with_their_corners_when_faces_are_mended() {
    let obj =
        b"v 0 0 0\nv 1 0 0\nv 1 0 1\nv 0 0 1\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nf 1/1 3/3 2/2\nf 1/1 3/3 4/4\n";
    let read = read_mesh_and_uvs(obj).unwrap();
    for mend in [false, true] {
        let surface = placed_surface(&read, &MeshPlacing { mend, ..placing() }, &[]).unwrap();
        assert_eq!(surface.uvs.len(), 2);
        for (t, uvs) in surface.indices.chunks_exact(3).zip(&surface.uvs) {
            for (i, uv) in t.iter().zip(uvs) {
                let p = surface.positions[*i as usize];
                assert_eq!([uv.x, uv.y], [p.x, 1.0 - p.z], "mended: {mend}");
            }
        }
    }
    // A file without any has none.
    let plain = read_mesh_and_uvs(b"v 0 0 0\nv 1 0 0\nv 1 0 1\nf 1 2 3\n").unwrap();
    assert!(placed_surface(&plain, &placing(), &[]).unwrap().uvs.is_empty());
}
