//! `RKCD`: one form as two crossed pictures.

use super::head;
use rookery_core::proxy::Card;
use serde::Serialize;

#[derive(Serialize)]
struct Head {
    width_px: u32,
    height_px: u32,
    half_m: f32,
    low_m: f32,
    high_m: f32,
    covered_m2: f32,
}

/// Cards one after the other, each with a `u32` length before it and padded to four bytes, as forms are. Head:
/// `{width_px, height_px, half_m, low_m, high_m, covered_m2}`. Arrays, the picture from +Z, then the one from +X:
///
/// | array | type | meaning |
/// |---|---|---|
/// | colour | 2 x pixels x 4 x u8 | square roots of reflectance, and cover |
/// | normal | 2 x pixels x 4 x u8 | -1 to 1 as 0 to 255; and how much of the sky the form leaves what is seen |
pub fn encode_cards(cards: &[Card]) -> Vec<u8> {
    let mut out = Vec::new();
    for c in cards {
        let Card { width_px, height_px, half_m, low_m, high_m, covered_m2, .. } = *c;
        let info = Head { width_px, height_px, half_m, low_m, high_m, covered_m2 };
        let mut one = head(b"RKCD", &info, (width_px * height_px) as usize * 16);
        one.extend(c.colours.iter().flatten().flatten());
        one.extend(c.normals.iter().flatten().flatten());
        out.extend_from_slice(&(one.len() as u32).to_le_bytes());
        out.extend_from_slice(&one);
        out.resize(out.len().next_multiple_of(4), 0);
    }
    out
}
