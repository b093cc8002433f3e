//! Names for derived data: a hash of exactly what the data depends on.

use super::{Amount, Ground, Layer, Mask, Obstacle, Pattern, SpeciesId, Stance};
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

/// Part of every key: raised when the same settings come to give other grounds or other plants.
const EPOCH: u32 = 2;

/// Names a ground's model.
pub fn ground_key(ground: &Ground) -> ContentKey {
    content_key("ground", &(EPOCH, ground))
}

/// Names an obstacle's mesh. Its name and whether it is hidden are not part of it.
pub fn obstacle_key(ground: ContentKey, obstacle: &Obstacle) -> ContentKey {
    let Obstacle { id, shape, x_m, z_m, lift_m, on_ground, turn_deg, scale, .. } = obstacle;
    let stand = (x_m, z_m, lift_m, on_ground, turn_deg, scale);
    content_key("obstacle", &(EPOCH, ground.to_string(), id, shape, stand))
}

/// Names a layer's plants. A layer's name, its place, its eye and its lock are not part of it.
pub fn layer_key(ground: ContentKey, layer: &Layer) -> ContentKey {
    #[derive(Serialize)]
    struct Inputs<'a> {
        epoch: u32,
        ground: String,
        species: &'a SpeciesId,
        seed: u32,
        pattern: Pattern,
        amount: Amount,
        cap: u32,
        masks: &'a [Mask],
        stance: Stance,
    }
    let Layer { species, seed, pattern, amount, cap, masks, stance, .. } = layer;
    let inputs = Inputs {
        epoch: EPOCH,
        ground: ground.to_string(),
        species,
        seed: *seed,
        pattern: *pattern,
        amount: *amount,
        cap: *cap,
        masks,
        stance: *stance,
    };
    content_key("plants", &inputs)
}

impl std::fmt::Display for ContentKey {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.0.iter().try_for_each(|b| write!(f, "{b:02x}"))
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
    use crate::scene::kittiwake_head;

    #[test]
    fn names_change_with_what_matters_and_only_with_that() {
        let document = kittiwake_head();
        let ground = ground_key(&document.ground);
        let layer = &document.layers[0];
        let key = layer_key(ground, layer);
        let same = Layer {
            name: "Other".into(),
            visible: false,
            locked: true,
            id: crate::scene::LayerId(77),
            ..layer.clone()
        };
        assert_eq!(layer_key(ground, &same), key);
        assert_ne!(layer_key(ground, &Layer { seed: layer.seed + 1, ..layer.clone() }), key);
        assert_ne!(layer_key(content_key("ground", &1), layer), key);
    }

    #[test]
    fn a_files_name_is_its_published_hash() {
        // FIPS 180-2, example B.1.
        assert_eq!(blob_id(b"abc").0, "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    }

    #[test]
    fn numbers_stay_short() {
        assert_eq!(to_json(&2.4_f32).to_string(), "2.4");
    }
}
