//! `RKPL`: the plants of one layer.

use super::head;
use rookery_core::planting::{Growth, Tally};
use serde::Serialize;

#[derive(Serialize)]
struct Head<'a> {
    count: usize,
    tally: &'a Tally,
}

/// Head: `{count, tally}`. Arrays, `count` long each:
///
/// | array | type | meaning |
/// |---|---|---|
/// | position | 3 x f32 | base point, metres |
/// | size | f32 | against full size |
/// | rotation | 4 x i16 | unit quaternion x, y, z, w times 32767 |
/// | form | u16 | which individual |
/// | tint | u16 | 0 to 65535 |
pub fn encode_plants(growth: &Growth) -> Vec<u8> {
    let plants = &growth.plants;
    let mut out = head(b"RKPL", &Head { count: plants.len(), tally: &growth.tally }, plants.len() * 28);
    for p in plants {
        out.extend_from_slice(bytemuck::bytes_of(&p.position_m.to_array()));
    }
    out.extend(plants.iter().flat_map(|p| p.size.to_le_bytes()));
    for p in plants {
        let q = p.rotation.to_array().map(|c| (c.clamp(-1.0, 1.0) * 32_767.0).round() as i16);
        out.extend_from_slice(bytemuck::bytes_of(&q));
    }
    out.extend(plants.iter().flat_map(|p| p.form.to_le_bytes()));
    super::pad(&mut out);
    out.extend(plants.iter().flat_map(|p| p.tint.to_le_bytes()));
    super::pad(&mut out);
    out
}
