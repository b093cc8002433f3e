//! Compact buffers for the view. Little-endian; every array starts at a multiple of four bytes.
//!
//! All begin alike: four letters, a `u32` with the length of a JSON head, the head, and zeros up to a multiple of
//! four. The arrays that follow are listed beside each encoder. The one decoder is in `web/src/api/buffers`.

mod card;
mod fits;
mod flow;
mod ground;
mod mask;
mod mesh;
mod mesh_ground;
mod nap;
mod pictures;
mod plants;
mod reading;
mod soils;
mod textures;
mod waves;

pub use card::encode_cards;
pub use fits::encode_fits;
pub use flow::encode_flow;
pub use ground::{VIEW_SAMPLES, encode_ground};
pub use mask::encode_mask;
pub use mesh::{encode_forms, encode_mesh};
pub use mesh_ground::encode_mesh_ground;
pub use nap::encode_nap;
pub use pictures::encode_pictures;
pub use plants::{encode_changes, encode_plants};
pub use reading::encode_reading;
pub use soils::encode_soils;
pub use textures::encode_textures;
pub use waves::encode_waves;

use rookery_core::habitat::Histogram;
use serde::Serialize;

#[derive(Serialize)]
struct Steps {
    low: f32,
    high: f32,
    areas_m2: Vec<f32>,
}

impl From<&Histogram> for Steps {
    fn from(h: &Histogram) -> Self {
        Self { low: h.low, high: h.high, areas_m2: h.areas_m2.clone() }
    }
}

fn head(letters: &[u8; 4], head: &impl Serialize, room: usize) -> Vec<u8> {
    let json = serde_json::to_vec(head).expect("heads are plain data");
    let mut out = Vec::with_capacity(8 + json.len() + 3 + room);
    out.extend_from_slice(letters);
    out.extend_from_slice(&(json.len() as u32).to_le_bytes());
    out.extend_from_slice(&json);
    pad(&mut out);
    out
}

fn pad(out: &mut Vec<u8>) {
    out.resize(out.len().next_multiple_of(4), 0);
}
