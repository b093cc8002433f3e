//! `RKCD`: one form as two crossed pictures.

use super::head;
use serde::Serialize;

/// Two crossed pictures of a form.
#[derive(Clone, Debug)]
pub struct CardPicture {
    /// Width of each picture, pixels.
    pub width_px: u32,
    /// Height of each picture, pixels.
    pub height_px: u32,
    /// Half the width of each picture, metres.
    pub half_m: f32,
    /// Its lower edge over the base point, metres.
    pub low_m: f32,
    /// Its upper edge over the base point, metres.
    pub high_m: f32,
    /// Seen from +Z, then from +X; row by row from the top. Square roots of reflectance, and cover.
    pub colours: [Vec<[u8; 4]>; 2],
    /// Unit normals in the form's frame, -1 to 1 as 0 to 255.
    pub normals: [Vec<[u8; 3]>; 2],
}

#[derive(Serialize)]
struct Head {
    width_px: u32,
    height_px: u32,
    half_m: f32,
    low_m: f32,
    high_m: f32,
}

/// Cards one after the other, each with a `u32` length before it and padded to four bytes, as forms are. Head:
/// `{width_px, height_px, half_m, low_m, high_m}`. Arrays, the picture from +Z, then the one from +X:
///
/// | array | type | meaning |
/// |---|---|---|
/// | colour | 2 x pixels x 4 x u8 | square roots of reflectance, and cover |
/// | normal | 2 x pixels x 4 x u8 | -1 to 1 as 0 to 255; the fourth is 255 |
pub fn encode_cards(cards: &[CardPicture]) -> Vec<u8> {
    let mut out = Vec::new();
    for c in cards {
        let CardPicture { width_px, height_px, half_m, low_m, high_m, .. } = *c;
        let info = Head { width_px, height_px, half_m, low_m, high_m };
        let mut one = head(b"RKCD", &info, (width_px * height_px) as usize * 16);
        one.extend(c.colours.iter().flatten().flatten());
        one.extend(c.normals.iter().flatten().flat_map(|[x, y, z]| [*x, *y, *z, 255]));
        out.extend_from_slice(&(one.len() as u32).to_le_bytes());
        out.extend_from_slice(&one);
        out.resize(out.len().next_multiple_of(4), 0);
    }
    out
}
