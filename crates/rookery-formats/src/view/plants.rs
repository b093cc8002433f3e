//! `RKPL`: the plants of one layer.

use super::head;
use rookery_core::planting::{Growth, Plant, Tally};
use serde::Serialize;

#[derive(Serialize)]
struct Head<'a> {
    count: usize,
    /// Whether several species grow.
    mixed: bool,
    /// Whether any is stretched.
    stretched: bool,
    /// Whether any colour is laid over them.
    coloured: bool,
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
/// | species | u8 | place in the layer's mix; only where `mixed` |
/// | stretch | 2 x u8 | height and depth against size: 2 to the power of (value - 128) / 64; only where `stretched` |
/// | colour | 3 x u8 | what colours are multiplied with, in 128ths; only where `coloured` |
pub fn encode_plants(growth: &Growth) -> Vec<u8> {
    let plants = &growth.plants;
    let mixed = plants.iter().any(|p| p.species != 0);
    let stretched = plants.iter().any(|p| p.stretch != [1.0; 2]);
    let coloured = plants.iter().any(|p| p.colour != Plant::UPRIGHT.colour);
    let head_of = Head { count: plants.len(), mixed, stretched, coloured, tally: &growth.tally };
    let mut out = head(b"RKPL", &head_of, plants.len() * 34);
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
    if mixed {
        out.extend(plants.iter().map(|p| p.species));
        super::pad(&mut out);
    }
    if stretched {
        let byte = |s: f32| (128.0 + 64.0 * s.log2()).round().clamp(0.0, 255.0) as u8;
        out.extend(plants.iter().flat_map(|p| p.stretch.map(byte)));
        super::pad(&mut out);
    }
    if coloured {
        out.extend(plants.iter().flat_map(|p| p.colour));
        super::pad(&mut out);
    }
    out
}
