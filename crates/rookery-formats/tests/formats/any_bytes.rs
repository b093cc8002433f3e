//! Every reader with a fixed number of broken files: good ones with bytes changed, cut, doubled and mixed. The same each time.
//! `cargo xtask fuzz` tries a million of each, led by what the readers do with them.

use crate::readers::READERS;
use std::path::Path;

/// Broken files tried on each reader.
const INPUTS: usize = 20_000;

/// Numbers that look random and are the same each time (SplitMix64, public domain, from memory).
struct Random(u64);

impl Random {
    /// 0 to `ways` - 1.
    fn below(&mut self, ways: usize) -> usize {
        self.0 = self.0.wrapping_add(0x9E37_79B9_7F4A_7C15);
        let z = (self.0 ^ (self.0 >> 30)).wrapping_mul(0xBF58_476D_1CE4_E5B9);
        let z = (z ^ (z >> 27)).wrapping_mul(0x94D0_49BB_1331_11EB);
        (z ^ (z >> 31)) as usize % ways.max(1)
    }
}

/// Good files of all kinds: those of the tests, and those of the fuzzer.
fn good_files() -> Vec<Vec<u8>> {
    let home = Path::new(env!("CARGO_MANIFEST_DIR"));
    let places = [
        "tests/data",
        "../../fuzz/corpus/mesh",
        "../../fuzz/corpus/outlines",
        "../../fuzz/corpus/found",
        "../rookery-core/tests/data/layout-1",
    ];
    let mut out = Vec::new();
    for place in places {
        let mut files: Vec<_> = std::fs::read_dir(home.join(place))
            .into_iter()
            .flatten()
            .filter_map(|f| Some(f.ok()?.path()))
            .collect();
        files.sort();
        for file in files {
            let bytes = std::fs::read(&file).unwrap();
            // Each command by itself.
            match serde_json::from_slice::<Vec<serde_json::Value>>(&bytes) {
                Ok(commands) => out.extend(commands.iter().map(|c| c.to_string().into_bytes())),
                Err(_) => out.push(bytes),
            }
        }
    }
    out.push(rookery_formats::picture::png_srgb8(7, 5, &(0..105).collect::<Vec<u8>>()).unwrap());
    out
}

/// A good file with some of it broken.
fn broken(good: &[Vec<u8>], rng: &mut Random) -> Vec<u8> {
    let mut bytes = good[rng.below(good.len())].clone();
    for _ in 0..=rng.below(6) {
        let (at, most) = (rng.below(bytes.len()), bytes.len());
        let length = rng.below(40).min(most - at.min(most));
        match rng.below(8) {
            0 if most > 0 => bytes[at] ^= 1 << rng.below(8),
            1 if most > 0 => {
                bytes[at] = [0, 1, 0x7F, 0x80, 0xFF, b'0', b'9', b'-', b'"', b'{'][rng.below(10)]
            }
            2 => drop(bytes.drain(at..at + length)),
            3 => bytes.truncate(at),
            4 => {
                let part = bytes[at..at + length].to_vec();
                let to = rng.below(most);
                bytes.splice(to..to, part);
            }
            5 => {
                let number: &[u8] =
                    [&b"1e38"[..], b"-1", b"4294967295", b"0", b"nan", b"null", b"[]"][rng.below(7)];
                bytes.splice(at..at, number.iter().copied());
            }
            6 if length >= 4 => {
                let number = [0_u32, 1, 0x7FFF_FFFF, 0x8000_0000, 0xFFFF_FFFF, 0x0100_0000][rng.below(6)];
                bytes[at..at + 4].copy_from_slice(&number.to_le_bytes());
            }
            _ => {
                let other = &good[rng.below(good.len())];
                let from = rng.below(other.len());
                bytes.splice(at..at, other[from..(from + length).min(other.len())].iter().copied());
            }
        }
    }
    bytes
}

#[test]
fn no_reader_breaks_down_over_any_bytes() {
    let good = good_files();
    assert!(good.len() > 100, "{}", good.len());
    for (name, reader) in READERS {
        good.iter().for_each(|file| reader(file));
        let mut rng = Random(7);
        for i in 0..INPUTS {
            let bytes = broken(&good, &mut rng);
            let done = std::panic::catch_unwind(|| reader(&bytes));
            assert!(done.is_ok(), "{name} broke down over input {i}: {:?}", String::from_utf8_lossy(&bytes));
        }
    }
}
