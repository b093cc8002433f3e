//! Names that are hashes of what they name.

use serde::Serialize;
use sha2::{Digest, Sha256};

/// The name of a piece of derived data. Equal inputs, equal name.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct ContentKey(pub [u8; 32]);

impl std::fmt::Display for ContentKey {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        // There may be hundreds to write after each edit.
        let digit = |half: u8| char::from_digit(u32::from(half), 16).unwrap_or('0') as u8;
        let digits: Vec<u8> = self.0.iter().flat_map(|b| [digit(b >> 4), digit(b & 15)]).collect();
        f.write_str(std::str::from_utf8(&digits).unwrap_or_default())
    }
}

/// Hashes what derived data depends on. `purpose` keeps different kinds of data apart.
pub fn content_key(purpose: &str, inputs: &impl Serialize) -> ContentKey {
    Namer::new(purpose).value(inputs).end()
}

/// Puts a name together of values and of other names. They count in their order. On the heap, for names are made while others are:
/// a hasher takes 2 KB of the stack each time it is handed on.
pub(crate) struct Namer(Box<blake3::Hasher>);

impl Namer {
    pub fn new(purpose: &str) -> Self {
        let mut hasher = blake3::Hasher::new();
        hasher.update(purpose.as_bytes()).update(&[0]);
        Self(Box::new(hasher))
    }

    /// Adds a value.
    pub fn value(mut self, value: &impl Serialize) -> Self {
        let json = serde_json::to_vec(value).expect("documents are plain data and always become JSON");
        self.0.update(&json.len().to_le_bytes()).update(&json);
        self
    }

    /// Adds a name.
    pub fn key(mut self, key: ContentKey) -> Self {
        self.0.update(&key.0);
        self
    }

    /// Adds names, and how many there are.
    pub fn keys(mut self, keys: impl IntoIterator<Item = ContentKey>) -> Self {
        // Hashed in one go: there may be hundreds.
        let all: Vec<u8> = keys.into_iter().flat_map(|key| key.0).collect();
        self.0.update(&all).update(&all.len().to_le_bytes());
        self
    }

    /// Adds a name, or that there is none.
    pub fn maybe(self, key: Option<ContentKey>) -> Self {
        self.keys(key)
    }

    /// The name.
    pub fn end(self) -> ContentKey {
        ContentKey(self.0.finalize().into())
    }
}

/// The names of files: the SHA-256 of their bytes in hexadecimal digits.
pub fn blob_id(bytes: &[u8]) -> super::BlobId {
    super::BlobId(ContentKey(Sha256::digest(bytes).into()).to_string())
}

/// As JSON, every number as short as it can be written (a plain conversion would turn 2.4 into 2.4000000953674316).
pub fn to_json(data: &impl Serialize) -> serde_json::Value {
    let text = serde_json::to_string(data).expect("documents are plain data and always become JSON");
    serde_json::from_str(&text).expect("what was written can be read")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_files_name_is_its_published_hash() {
        // FIPS 180-2, example B.1.
        assert_eq!(blob_id(b"abc").0, "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    }

    #[test]
    fn numbers_stay_short() {
        assert_eq!(to_json(&2.4_f32).to_string(), "2.4");
    }

    #[test]
    fn names_tell_lists_from_one_another() {
        let [a, b] = [1, 2].map(|i| content_key("test", &i));
        let of = |lists: [&[ContentKey]; 2]| {
            lists.iter().fold(Namer::new("test"), |n, list| n.keys(list.iter().copied())).end()
        };
        assert_ne!(of([&[a, b], &[]]), of([&[a], &[b]]));
        assert_ne!(of([&[a], &[b]]), of([&[b], &[a]]));
        assert_ne!(Namer::new("x").key(a).end(), Namer::new("y").key(a).end());
    }
}
