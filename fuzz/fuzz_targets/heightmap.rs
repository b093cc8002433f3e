//! Any bytes as a heightmap: read or refused, never a panic.
#![no_main]

use libfuzzer_sys::fuzz_target;
use rookery_formats::heightmap::inspect;

fuzz_target!(|bytes: &[u8]| {
    if let Ok(found) = inspect(bytes) {
        assert!(found.low <= found.high && found.nx * found.nz <= 4096 * 4096);
    }
});
