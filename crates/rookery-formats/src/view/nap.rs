//! `RKNP`: the nap of a square of the ground.

use super::head;
use rookery_core::nap::Tuft;
use serde::Serialize;

#[derive(Serialize)]
struct Head {
    count: usize,
}

/// Head: `{count}`. Arrays, `count` long each:
///
/// | array | type | meaning |
/// |---|---|---|
/// | position | 3 x f32 | where, metres |
/// | size | f32 | against full size |
/// | rotation | 4 x i16 | unit quaternion x, y, z, w times 32767 |
/// | colour | 4 x u8 | what the colours of its form are multiplied with, in 128ths; last its rank, 0 to 255: the smaller, the farther it is seen |
/// | what | 4 x u8 | its kind, its form, and two numbers of its own for colour |
pub fn encode_nap(tufts: &[Tuft]) -> Vec<u8> {
    let mut out = head(b"RKNP", &Head { count: tufts.len() }, tufts.len() * 32);
    for t in tufts {
        out.extend_from_slice(bytemuck::bytes_of(&t.position.to_array()));
    }
    for t in tufts {
        out.extend_from_slice(&t.size.to_le_bytes());
    }
    for t in tufts {
        let turn = t.rotation.to_array().map(|v| (v * 32767.0).round() as i16);
        out.extend_from_slice(bytemuck::bytes_of(&turn));
    }
    for t in tufts {
        out.extend(t.colour());
        out.push((t.rank * 255.0) as u8);
    }
    for t in tufts {
        let [light, warm] = t.tint.to_le_bytes();
        out.extend([t.nap.number(), t.form, light, warm]);
    }
    out
}
