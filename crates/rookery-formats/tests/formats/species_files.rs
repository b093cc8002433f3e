//! Species from mesh files: what trimesh wrote is what is held, seen and handed off.

use glam::{Vec3, vec2};
use rookery_core::nursery::{Detail, Held, Imported, Kind, Mesh, Plan, Season, Skin, Species};
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::planting::{Plant, PlantId};
use rookery_core::scene::{Document, Layer, LayerId, MeshPlacing, UpAxis, bare, blob_id};
use rookery_formats::gltf::write_glb;
use rookery_formats::mesh::{SpeciesFileError, hold, measure, read_mesh_and_looks};
use rookery_formats::{GrownLayer, Handoff};
use std::sync::Arc;

const WILLOW: &[u8] = include_bytes!("../data/dwarf_willow.glb");
const OBJ: &[u8] = include_bytes!("../data/two.obj");

fn plan(bytes: &[u8]) -> Imported {
    Imported { blob: blob_id(bytes), name: "file".into(), ..Imported::default() }
}

fn area(mesh: &Mesh) -> f32 {
    let corner = |i: u32| mesh.positions[i as usize];
    mesh.indices
        .chunks_exact(3)
        .map(|t| (corner(t[1]) - corner(t[0])).cross(corner(t[2]) - corner(t[0])).length() * 0.5)
        .sum()
}

/// Source: trimesh 5.2, `remake_species.py`: 36 faces, area 2.97694, bounds -0.6, 0, -0.6 to 0.6, 1.4, 0.6, 43.1 % of the
/// picture covered, its pixel in column 32 of row 40 is (90, 60, 40).
#[test]
fn a_glb_with_pictures_is_held_as_trimesh_wrote_it() {
    let forms = hold(&Imported { thin: true, ..plan(WILLOW) }, WILLOW).unwrap();
    assert_eq!(forms.len(), 1);
    let mesh = &forms[0][0];
    assert_eq!(mesh.triangles(), 36);
    assert!((area(mesh) - 2.976_94).abs() < 1e-3);
    let (low, high) = mesh.bounds();
    assert!(
        (low - Vec3::new(-0.6, 0.0, -0.6)).length() < 1e-4
            && (high - Vec3::new(0.6, 1.4, 0.6)).length() < 1e-4
    );
    let skin = mesh.skin.as_ref().unwrap();
    assert_eq!(skin.pictures.len(), 1);
    let picture = &skin.pictures[0];
    assert_eq!((picture.width_px, picture.height_px, picture.holes()), (64, 64, true));
    let covered = picture.rgba.iter().filter(|p| p[3] > 127).count() as f32 / 4096.0;
    assert!((covered - 0.431_15).abs() < 1e-4, "{covered}");
    assert_eq!(picture.rgba[40 * 64 + 32], [90, 60, 40, 255]);
    // Light goes through the sheets and not through the stem, which has a colour and no picture.
    for (i, p) in mesh.positions.iter().enumerate() {
        let leaf = skin.picture[i] == 0;
        assert_eq!(mesh.through[i], if leaf { 1.0 } else { 0.0 }, "at {p}");
        assert!(
            leaf || (skin.picture[i] == Skin::NONE
                && (mesh.colours[i] - Vec3::new(0.2, 0.12, 0.08)).length() < 1e-2)
        );
        // The picture's upper edge lies at the top.
        assert!(!leaf || (skin.uv[i].y < 0.5) == (p.y > 0.8), "uv {} at {p}", skin.uv[i]);
    }
}

#[test]
fn it_is_measured_before_it_is_taken() {
    let found = measure(&plan(WILLOW), WILLOW).unwrap();
    assert!((found.tall_m - 1.4).abs() < 1e-4 && (found.wide_m - 0.6).abs() < 1e-4, "{found:?}");
    assert_eq!((found.forms, found.in_file, found.looks_thin), (1, 36, true));
    assert!(found.base_off_m < 1e-4 && found.left_out.is_empty());
    let each = measure(&Imported { each: true, ..plan(OBJ) }, OBJ).unwrap();
    assert_eq!((each.forms, each.in_file), (3, 256));
    assert_eq!(each.left_out.len(), 1, "the materials of an OBJ lie elsewhere: {:?}", each.left_out);
    let missing = Imported { parts: vec!["nothing".into()], ..plan(OBJ) };
    assert!(matches!(measure(&missing, OBJ), Err(SpeciesFileError::NoSuchPart(_))));
    assert!(matches!(measure(&plan(OBJ), b"v 0 0 0"), Err(SpeciesFileError::BadMesh { .. })));
}

#[test]
fn upright_unit_size_and_base_point_are_as_asked() {
    let placing = MeshPlacing { unit_m: 0.01, up: UpAxis::Z, recentre: true, turn_over: false, mend: false };
    let asked = Imported { placing, scale: 10.0, ..plan(OBJ) };
    let forms = hold(&asked, OBJ).unwrap();
    let (low, high) = forms[0][0].bounds();
    // The file is 12.8 wide, 7.6 deep and 4 high once Z is up, in centimetres, ten times as large.
    assert!(((high - low) - Vec3::new(1.28, 0.4, 0.76)).length() < 1e-3, "{}", high - low);
    assert!(low.y.abs() < 1e-5);
}

#[test]
fn a_heavy_form_is_simplified_and_says_how_far_it_is_off() {
    let asked = Imported { most_triangles: 90.0, ..plan(OBJ) };
    let found = measure(&asked, OBJ).unwrap();
    assert!(found.triangles[0] <= 99 && found.in_file == 268 && found.error_m > 0.0, "{found:?}");
    assert!(found.triangles[2] <= found.triangles[1] && found.triangles[1] <= found.triangles[0]);
}

#[test]
fn vertex_colours_of_ply_and_obj_are_kept_as_light() {
    let ply = b"ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n\
        property uchar red\nproperty uchar green\nproperty uchar blue\nelement face 1\nproperty list uchar int vertex_indices\n\
        end_header\n0 0 0 188 0 255\n1 0 0 188 0 255\n0 1 0 188 0 255\n3 0 1 2\n";
    let obj = b"v 0 0 0 0.7373 0 1\nv 1 0 0 0.7373 0 1\nv 0 1 0 0.7373 0 1\nf 1 2 3\n";
    for file in [ply.as_slice(), obj.as_slice()] {
        let mesh = read_mesh_and_looks(file).unwrap();
        // Byte 188 of sRGB is half the light, IEC 61966-2-1.
        assert!((mesh.colours[2] - Vec3::new(0.503, 0.0, 1.0)).length() < 2e-3, "{:?}", mesh.colours);
    }
    let textured = b"v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nvn 0 0 1\nf 1/1/1 2/2/1 3/3/1\nf 1/2/1 3/3/1 2/2/1\n";
    let mesh = read_mesh_and_looks(textured).unwrap();
    assert_eq!(mesh.positions.len(), 4, "a corner with another place in the picture is another vertex");
    assert_eq!(mesh.uvs[0], vec2(0.0, 1.0));
}

#[test]
fn handoff_has_the_pictures_and_reading_it_back_gives_the_same_form() {
    let held = hold(&Imported { thin: true, ..plan(WILLOW) }, WILLOW).unwrap();
    let full = held[0][0].clone();
    let imported = Imported { thin: true, held: Held::new(Arc::new(held)), ..plan(WILLOW) };
    let species = Species::imported(imported, Kind::Shrub, "Dwarf willow", 1, |_| false);
    let layer = Layer::usual(&species, LayerId(1), "Willows");
    let document = Document { species: vec![species], layers: vec![layer.clone()], ..bare() };
    let Plan::Imported(plan) = &document.species[0].plan else { unreachable!() };
    assert!(plan.held.is_some());
    assert_eq!(document.species[0].build(0, Detail::Full, Season::SUMMER).triangles(), 36);
    let plants = [Plant { id: PlantId(1), ..Plant::UPRIGHT }];
    let fits = Fits::default();
    let layers = vec![GrownLayer { layer: &layer, plants: &plants, fits: &fits }];
    let mut glb = write_glb(&Handoff {
        document: &document,
        grounds: Vec::new(),
        obstacles: Vec::new(),
        layers,
        motion: None,
        textures: None,
    })
    .unwrap();
    // Our own reader takes meshes, not instances: without the word that it must, it reads what lies in the file.
    let word = b"extensionsRequired";
    let at = glb.windows(word.len()).position(|w| w == word).unwrap();
    glb[at..at + word.len()].copy_from_slice(b"extensionsWordless");
    let back = read_mesh_and_looks(&glb).unwrap();
    assert_eq!(back.triangles(), 36);
    assert_eq!(back.pictures[0].rgba, full.skin.unwrap().pictures[0].rgba);
    let looks: Vec<_> = back.parts.iter().map(|p| (p.look.picture, p.look.double_sided)).collect();
    assert!(looks.contains(&(Some(0), true)), "{looks:?}");
}
