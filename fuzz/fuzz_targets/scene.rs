//! Any bytes as a scene file: read and checked, or refused.
#![no_main]

use libfuzzer_sys::fuzz_target;
use rookery_core::scene::{Document, check_document};

fuzz_target!(|bytes: &[u8]| {
    if let Ok(document) = serde_json::from_slice::<Document>(bytes) {
        let _ = check_document(&document);
    }
});
