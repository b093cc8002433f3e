//! Names for derived data: a hash of exactly what the data depends on.

use serde::Serialize;
use sha2::{Digest, Sha256};

/// The name of a piece of derived data. Equal inputs, equal name.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct ContentKey(pub [u8; 32]);

/// Hashes what derived data depends on. `purpose` keeps different kinds of data apart.
pub fn content_key(purpose: &str, inputs: &impl Serialize) -> ContentKey {
    let mut hasher = Sha256::new();
    hasher.update(purpose.as_bytes());
    hasher.update([0]);
    hasher.update(serde_json::to_vec(inputs).expect("documents are plain data and always become JSON"));
    ContentKey(hasher.finalize().into())
}

impl std::fmt::Display for ContentKey {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.0.iter().try_for_each(|b| write!(f, "{b:02x}"))
    }
}
