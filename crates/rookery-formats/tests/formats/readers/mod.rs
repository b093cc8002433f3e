//! Every reader of files from outside, as it is given any bytes at all: it reads them or refuses them, and what it read makes sense.
//! The fuzzer of `cargo xtask fuzz` calls the same functions.

use rookery_core::community::Community;
use rookery_core::scene::{
    MeshPlacing, UpAxis, apply, check_document, kittiwake_head, read_command, read_document,
};
use rookery_formats::heightmap::inspect;
use rookery_formats::mesh::{inspect_mesh, placed_mesh, read_mesh, read_mesh_and_looks};
use rookery_formats::outlines::{read_outlines, write_geojson};
use rookery_formats::picture::{flat_colours, read_pixels};

/// Tries one reader on some bytes; fails where it breaks a promise.
pub type Reader = fn(&[u8]);

/// All of them, by name.
pub const READERS: [(&str, Reader); 8] = [
    ("heights", heights),
    ("picture", picture),
    ("mesh", mesh),
    ("looks", looks),
    ("outlines", outlines),
    ("scene", scene),
    ("command", command),
    ("community", community),
];

fn heights(bytes: &[u8]) {
    if let Ok(found) = inspect(bytes) {
        assert!(found.low <= found.high && found.nx * found.nz <= 4096 * 4096, "{found:?}");
    }
}

fn picture(bytes: &[u8]) {
    if let Ok(pixels) = read_pixels(bytes) {
        assert_eq!(pixels.rgba.len(), pixels.width * pixels.height);
        assert!(flat_colours(&pixels).iter().flatten().all(|c| (0.0..=1.0).contains(c)));
    }
}

fn mesh(bytes: &[u8]) {
    if let Ok(mesh) = read_mesh(bytes) {
        assert!(mesh.parts.iter().flat_map(|p| &p.indices).all(|i| (*i as usize) < mesh.positions.len()));
        let _ = inspect_mesh(&mesh);
        for (up, turn_over) in [(UpAxis::Z, false), (UpAxis::Y, true)] {
            let placing = MeshPlacing { unit_m: 1.0, up, recentre: true, turn_over, mend: turn_over };
            let _ = placed_mesh(&mesh, &placing);
        }
    }
}

fn looks(bytes: &[u8]) {
    if let Ok(mesh) = read_mesh_and_looks(bytes) {
        assert!(mesh.parts.iter().flat_map(|p| &p.indices).all(|i| (*i as usize) < mesh.positions.len()));
    }
}

fn outlines(bytes: &[u8]) {
    for middle in [[0.0; 2], [3_500_000.0, 5_400_000.0]] {
        if let Ok(read) = read_outlines(bytes, middle) {
            let again = read_outlines(&write_geojson(&read, middle), middle).map(|o| o.len());
            assert_eq!(again.ok(), Some(read.len()), "what is written cannot be read");
        }
    }
}

fn scene(bytes: &[u8]) {
    if let Ok(value) = serde_json::from_slice(bytes)
        && let Ok(document) = read_document(value)
    {
        let _ = check_document(&document);
    }
}

fn command(bytes: &[u8]) {
    if let Ok(value) = serde_json::from_slice(bytes)
        && let Ok(command) = read_command(1, value)
    {
        let document = kittiwake_head();
        if let Ok(done) = apply(&document, &command) {
            check_document(&done.document).expect("what was accepted keeps the rules");
            let back = apply(&done.document, &done.inverse).expect("what was done can be taken back");
            assert!(back.document == document, "taking back leaves something behind");
        }
    }
}

fn community(bytes: &[u8]) {
    if let Ok(community) = serde_json::from_slice::<Community>(bytes) {
        let _ = community.check();
    }
}
