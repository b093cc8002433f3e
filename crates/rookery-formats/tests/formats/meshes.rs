//! Meshes: the same faces as another reader finds, and clear words about bad and odd ones.

use glam::{Vec3, vec3};
use proptest::prelude::*;
use rookery_core::scene::{MeshPlacing, UpAxis};
use rookery_formats::mesh::{MeshFile, MeshFinding, inspect_mesh, placed_mesh, read_mesh};

const OBJ: &[u8] = include_bytes!("../data/two.obj");
const GLB: &[u8] = include_bytes!("../data/two.glb");
const PLYS: [&[u8]; 3] = [
    include_bytes!("../data/ring_little.ply"),
    include_bytes!("../data/ring_big.ply"),
    include_bytes!("../data/ring_ascii.ply"),
];

fn faces(mesh: &MeshFile) -> impl Iterator<Item = [Vec3; 3]> + '_ {
    let all = mesh.parts.iter().flat_map(|p| p.indices.chunks_exact(3));
    all.map(|t| [0, 1, 2].map(|i| mesh.positions[t[i] as usize]))
}

fn area(mesh: &MeshFile) -> f32 {
    faces(mesh).map(|[a, b, c]| (b - a).cross(c - a).length() * 0.5).sum()
}

fn volume(mesh: &MeshFile) -> f32 {
    faces(mesh).map(|[a, b, c]| a.dot(b.cross(c)) / 6.0).sum()
}

/// Source: trimesh 4, `remake_meshes.py`: 268 faces, area 118.86029, volume 41.25108.
#[test]
fn an_obj_has_the_faces_that_trimesh_reads_and_keeps_its_groups() {
    let mesh = read_mesh(OBJ).unwrap();
    assert_eq!(mesh.triangles(), 268);
    assert!((area(&mesh) - 118.860_29).abs() < 1e-3 && (volume(&mesh) - 41.251_08).abs() < 1e-3);
    let parts: Vec<_> =
        mesh.parts.iter().map(|p| (p.name.as_str(), p.material.as_str(), p.indices.len() / 3)).collect();
    assert_eq!(parts, [("Ring", "lichen", 256), ("sides", "stone", 8), ("ends", "stone", 4)]);
    let found = inspect_mesh(&mesh);
    assert_eq!((found.low, found.high), ([-3.8, -3.8, -2.0], [9.0, 3.8, 2.0]));
    assert_eq!(found.findings, []);
}

/// Source: trimesh 4: 256 faces, area 90.86031, volume 33.25109.
#[test]
fn plys_of_all_codings_have_the_same_faces() {
    for file in PLYS {
        let mesh = read_mesh(file).unwrap();
        assert_eq!(mesh.triangles(), 256);
        assert!((area(&mesh) - 90.860_31).abs() < 1e-3 && (volume(&mesh) - 33.251_09).abs() < 1e-3);
        assert_eq!(inspect_mesh(&mesh).findings, []);
    }
}

/// Source: trimesh 4: 268 faces, area 118.86031, bounds -3.8, -3.8, -6.3276 to 8.172, 6.0, 0.8.
#[test]
fn a_glb_has_its_nodes_where_their_transforms_put_them() {
    let mesh = read_mesh(GLB).unwrap();
    assert_eq!(mesh.triangles(), 268);
    assert!((area(&mesh) - 118.860_31).abs() < 1e-3);
    let found = inspect_mesh(&mesh);
    for (got, expected) in found.low.iter().chain(&found.high).zip([-3.8, -3.8, -6.3276, 8.172, 6.0, 0.8]) {
        assert!((got - expected).abs() < 1e-3, "{found:?}");
    }
    let names: Vec<_> = found.parts.iter().map(|p| (p.name.as_str(), p.triangles)).collect();
    assert_eq!(names, [("Ring", 256), ("Block", 12)]);
}

fn placing() -> MeshPlacing {
    MeshPlacing { unit_m: 1.0, up: UpAxis::Y, recentre: false, turn_over: false, mend: false }
}

#[test]
fn a_mesh_is_placed_in_metres_upright_with_its_base_where_it_stands() {
    let mesh = read_mesh(OBJ).unwrap();
    let placed =
        placed_mesh(&mesh, &MeshPlacing { unit_m: 0.01, up: UpAxis::Z, recentre: true, ..placing() });
    let (low, high) = placed.bounds();
    assert!((low - vec3(-0.064, 0.0, -0.038)).length() < 1e-5, "{low}");
    assert!((high - vec3(0.064, 0.04, 0.038)).length() < 1e-5, "{high}");
    assert!(placed.normals.iter().all(|n| (n.length() - 1.0).abs() < 1e-4));
}

/// A block whose faces are turned over, doubled, flattened or missing.
fn block(change: impl Fn(&mut Vec<[u32; 3]>)) -> MeshFile {
    let mut mesh = read_mesh(OBJ).unwrap();
    mesh.parts.remove(0);
    let mut triangles: Vec<[u32; 3]> =
        mesh.parts.iter().flat_map(|p| p.indices.chunks_exact(3).map(|t| [t[0], t[1], t[2]])).collect();
    change(&mut triangles);
    mesh.parts.truncate(1);
    mesh.parts[0].indices = triangles.into_flattened();
    mesh
}

#[test]
fn what_is_odd_about_a_mesh_is_found() {
    let findings = |mesh: &MeshFile| inspect_mesh(mesh).findings;
    assert_eq!(findings(&block(|_| ())), []);
    assert_eq!(findings(&block(|t| t.push(t[3]))), [MeshFinding::Duplicate { count: 1 }]);
    assert_eq!(
        findings(&block(|t| t.push([t[0][0], t[0][1], t[0][0]]))),
        [MeshFinding::Degenerate { count: 1 }]
    );
    assert_eq!(findings(&block(|t| t[5].swap(0, 1))), [MeshFinding::Flipped { edges: 3 }]);
    assert_eq!(findings(&block(|t| t.truncate(11))), [MeshFinding::Open { edges: 3 }]);
    let inside_out = block(|t| t.iter_mut().for_each(|t| t.swap(0, 1)));
    assert_eq!(findings(&inside_out), [MeshFinding::InsideOut]);
    // It is turned over by itself when it is used.
    let placed = placed_mesh(&inside_out, &placing());
    let sum: f32 = placed
        .indices
        .chunks_exact(3)
        .map(|t| [0, 1, 2].map(|i| placed.positions[t[i] as usize] - vec3(8.0, 0.5, 0.0)))
        .map(|[a, b, c]| a.dot(b.cross(c)) / 6.0)
        .sum();
    assert!((sum - 8.0).abs() < 1e-3, "{sum}");
    // An open sheet is found when it looks down.
    let sheet = |over: bool| {
        let mut mesh = block(|_| ());
        let at = |x: f32, z: f32| vec3(x, 0.2 * (x * z).sin() + 1.0, -z);
        mesh.positions = (0..36).map(|i| at((i % 6) as f32, (i / 6) as f32)).collect();
        let squares = (0..25).map(|i| (i / 5 * 6 + i % 5) as u32);
        let faces = squares.flat_map(|a| [[a, a + 1, a + 7], [a, a + 7, a + 6]]);
        mesh.parts[0].indices =
            faces.flat_map(|[a, b, c]| if over { [a, c, b] } else { [a, b, c] }).collect();
        findings(&mesh)
    };
    assert_eq!(sheet(false), [MeshFinding::Open { edges: 20 }]);
    assert_eq!(sheet(true), [MeshFinding::Open { edges: 20 }, MeshFinding::LooksDown]);
    let mut moved = block(|_| ());
    moved.positions.iter_mut().for_each(|p| p.x += 5000.0);
    assert_eq!(findings(&moved), [MeshFinding::FarOff]);
    moved.positions.iter_mut().for_each(|p| *p = (*p - vec3(5008.0, 0.0, 0.0)) * 1000.0);
    assert_eq!(findings(&moved), [MeshFinding::TooLarge]);
}

/// Found by `damaged_meshes_are_read_or_refused`: the crate that reads GLB panicked.
#[test]
fn a_glb_that_names_places_it_does_not_have_is_refused() {
    let text = br#"{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],
        "meshes":[{"primitives":[{"attributes":{"POSITION":1}}]}]}"#;
    let mut json = text.to_vec();
    json.resize(json.len().next_multiple_of(4), b' ');
    let mut glb = b"glTF".to_vec();
    for word in [2, 20 + json.len() as u32, json.len() as u32] {
        glb.extend(word.to_le_bytes());
    }
    glb.extend(b"JSON");
    glb.extend(json);
    assert_eq!(error(&glb), "the GLB cannot be read: it names accessor 1 and has 0");
}

fn error(bytes: &[u8]) -> String {
    read_mesh(bytes).unwrap_err().to_string()
}

#[test]
fn bad_meshes_are_refused_with_the_line_or_the_byte_and_the_reason() {
    assert_eq!(error(b"hello there"), "this is none of the kinds that meshes are read from: OBJ, PLY, GLB");
    assert_eq!(error(b"v 0 0 0\nv 1 0 0\nv 0 1 0\n"), "the file has no faces");
    assert_eq!(error(b"v 0 0 0\nv 1 x 0\n"), "line 2: y is \u{201c}x\u{201d}, not a number");
    assert_eq!(error(b"v 0 0 0\nv 1 0\n"), "line 2: a vertex has no z");
    assert_eq!(error(b"v 0 0 0\nv 1 0 0\nf 1 2\n"), "line 3: a face has 2 corners; it needs three");
    assert_eq!(error(b"v 0 0 0\nf 1 2 3\n"), "line 2: a corner names vertex 2, but there are 1 so far");
    assert_eq!(error(b"v 0 0 0\nf 1 -2 1\n"), "line 2: a corner names vertex -2, but there are 1 so far");
    let ply = |body: &str| {
        error(format!("ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n{body}").as_bytes())
    };
    assert_eq!(ply("0 0 0\n1 0 0\n"), "line 12: the line ends early");
    assert_eq!(ply("0 0 0\n1 0 0\n0 1 0\n3 0 1 7\n"), "line 13: a face names vertex 7, but there are 3");
    assert_eq!(ply("0 0 0\n1 zero 0\n"), "line 11: \u{201c}zero\u{201d} is not a number");
    assert_eq!(error(&PLYS[0][..700]), "byte 699: the file ends early");
    assert_eq!(
        error(b"ply\nformat ascii 1.0\nelement vertex 99999999999\nproperty float x\nend_header\n"),
        "it has more than 12000000 vertices; simplify it first"
    );
    assert!(error(&GLB[..GLB.len() / 2]).starts_with("the GLB cannot be read"));
}

#[test]
fn a_face_of_many_corners_is_cut_into_triangles_and_names_are_kept_short() {
    let ring: String = (0..50)
        .map(|i| f32::to_radians(i as f32 * 7.2))
        .map(|a| format!("v {} {} 0\n", a.cos(), a.sin()))
        .collect();
    let face: String = (1..=50).map(|i| format!(" {i}")).collect();
    let mesh = read_mesh(format!("g {}\n{ring}f{face}\n", "x".repeat(300)).as_bytes()).unwrap();
    assert_eq!((mesh.triangles(), mesh.parts[0].name.len()), (48, 40));
    assert!((area(&mesh) - std::f32::consts::PI).abs() < 0.02);
}

proptest! {
    #[test]
    fn damaged_meshes_are_read_or_refused(which in 0_usize..5, at: proptest::sample::Index, to: u8, cut: bool) {
        let mut file = [OBJ, GLB, PLYS[0], PLYS[1], PLYS[2]][which].to_vec();
        let at = at.index(file.len());
        file[at] = to;
        if cut {
            file.truncate(at);
        }
        match read_mesh(&file) {
            Ok(mesh) => {
                prop_assert!(mesh.parts.iter().flat_map(|p| &p.indices).all(|i| (*i as usize) < mesh.positions.len()));
                let _ = inspect_mesh(&mesh);
                let _ = placed_mesh(&mesh, &placing());
            }
            Err(e) => prop_assert!(!e.to_string().is_empty()),
        }
    }

    #[test]
    fn any_text_is_read_or_refused(text in "(v|f|g|o|usemtl|ply|format|element| |[0-9./-]|\n){0,120}") {
        let _ = read_mesh(text.as_bytes());
        let _ = read_mesh(format!("v 1 2 3\n{text}").as_bytes());
        let _ = read_mesh(format!("ply\n{text}\nend_header\n").as_bytes());
    }
}
