//! `RKTX`: what grounds and built things are made of.

use super::head;
use rookery_core::ground::colour::means;
use rookery_core::textures::{SIDE, Sheets};
use serde_json::json;

/// Head: `{side, sheets, means, own, worn, amiss}`: samples along a side of a picture; of each picture, in the order of their numbers, `{size_m, shine}`, shine being its mean gloss, 0 to 1; the usual mean
/// colours of the five earths, those they have in this scene, and whether they wear pictures; and what is wrong with pictures of earths that go without, in words. See `rookery-core/src/textures`. Then of picture after picture, row by row, four bytes a sample: its colour against its
/// mean, 127.5 being that, and its height; then of picture after picture four bytes a sample: how it rises along either side, 128 being level and 255 two metres to a metre, its gloss, and 0.
pub fn encode_textures(sheets: &Sheets, amiss: &[String]) -> Vec<u8> {
    let means = means();
    let own: Vec<_> = means.iter().enumerate().map(|(k, mean)| sheets.mean(k, *mean).to_array()).collect();
    let worn = [0, 1, 2, 3, 4].map(|k| sheets.wears(k));
    let sheets: Vec<_> = sheets.all().collect();
    let facts: Vec<_> = sheets.iter().map(|s| json!({"size_m": s.size_m, "shine": s.shine})).collect();
    let means = means.map(|m| m.to_array());
    let facts =
        json!({"side": SIDE, "sheets": facts, "means": means, "own": own, "worn": worn, "amiss": amiss});
    let mut out = head(b"RKTX", &facts, sheets.len() * SIDE * SIDE * 8);
    for sheet in &sheets {
        out.extend_from_slice(bytemuck::cast_slice(&sheet.texels));
    }
    for sheet in &sheets {
        out.extend_from_slice(bytemuck::cast_slice(&sheet.slopes));
    }
    out
}
