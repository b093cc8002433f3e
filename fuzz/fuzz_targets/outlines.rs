//! Any bytes as outlines: what is read can be written and read again.
#![no_main]

use libfuzzer_sys::fuzz_target;
use rookery_formats::outlines::{read_outlines, write_geojson};

fuzz_target!(|bytes: &[u8]| {
    if let Ok(outlines) = read_outlines(bytes) {
        assert_eq!(read_outlines(&write_geojson(&outlines)).map(|o| o.len()).ok(), Some(outlines.len()));
    }
});
