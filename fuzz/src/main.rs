//! One reader, named by `ROOKERY_READER`, under a fuzzer that follows which branches inputs take.
#![no_main]

#[path = "../../crates/rookery-formats/tests/formats/readers/mod.rs"]
mod readers;

use libfuzzer_sys::fuzz_target;
use readers::{READERS, Reader};
use std::sync::LazyLock;

static READER: LazyLock<Reader> = LazyLock::new(|| {
    let wanted = std::env::var("ROOKERY_READER").unwrap_or_default();
    let found = READERS.iter().find(|(name, _)| *name == wanted);
    found.unwrap_or_else(|| panic!("ROOKERY_READER must be one of {:?}", READERS.map(|(name, _)| name))).1
});

fuzz_target!(|bytes: &[u8]| READER(bytes));
