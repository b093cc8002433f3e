//! Any bytes as a mesh: what is read names only vertices that are there.
#![no_main]

use libfuzzer_sys::fuzz_target;
use rookery_core::scene::{MeshPlacing, UpAxis};
use rookery_formats::mesh::{inspect_mesh, placed_mesh, read_mesh};

fuzz_target!(|bytes: &[u8]| {
    if let Ok(mesh) = read_mesh(bytes) {
        assert!(mesh.parts.iter().flat_map(|p| &p.indices).all(|i| (*i as usize) < mesh.positions.len()));
        let _ = inspect_mesh(&mesh);
        let placing = MeshPlacing { unit_m: 1.0, up: UpAxis::Z, recentre: true, turn_over: false };
        let _ = placed_mesh(&mesh, &placing);
    }
});
