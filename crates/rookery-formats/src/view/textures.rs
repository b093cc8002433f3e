//! `RKTX`: what grounds and built things are made of.

use super::head;
use rookery_core::ground::colour::means;
use rookery_core::textures::{SIDE, Texture};
use serde_json::json;

/// Head: `{side, sheets, means}`: samples along a side of a picture; of each picture, in the order of their numbers, `{size_m, shifts}`; and the mean colours of the five earths. See
/// `rookery-core/src/textures`. Then of picture after picture, row by row, four bytes a sample: its colour against its mean, 127.5 being that, and its height; then of picture after picture two
/// bytes a sample: how it rises along either side, 128 being level and 255 two metres to a metre.
pub fn encode_textures() -> Vec<u8> {
    let sheets: Vec<_> = Texture::ALL.iter().map(|t| t.sheet()).collect();
    let facts: Vec<_> = sheets.iter().map(|s| json!({"size_m": s.size_m, "shifts": s.shifts})).collect();
    let facts = json!({"side": SIDE, "sheets": facts, "means": means().map(|m| m.to_array())});
    let mut out = head(b"RKTX", &facts, sheets.len() * SIDE * SIDE * 6);
    for sheet in &sheets {
        out.extend_from_slice(bytemuck::cast_slice(&sheet.texels));
    }
    for sheet in &sheets {
        out.extend_from_slice(bytemuck::cast_slice(&sheet.slopes));
    }
    out
}
