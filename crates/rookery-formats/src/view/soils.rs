//! `RKSO`: what outlines lay over the land.

use super::head;
use rookery_core::soils::Soils;
use serde_json::json;

/// Head: `{first, size_m, samples}`, see `rookery-core/src/soils`; then four bytes for each of the samples, from west to east and then to the south: the root of
/// red, green and blue reflectance times the share of what is laid there, and that share, in 255ths; then four more for each: how much peat, sand, shingle and rock of that share it is. No samples where nothing is laid.
pub fn encode_soils(soils: Option<&Soils>) -> Vec<u8> {
    let texels = soils.map_or(&[][..], |s| bytemuck::cast_slice(&s.texels));
    let facts = match soils {
        Some(s) => json!({"first": s.first, "size_m": s.size_m, "samples": s.samples}),
        None => json!({"first": [0, 0], "size_m": [0, 0], "samples": [0, 0]}),
    };
    let earths = soils.map_or(&[][..], |s| bytemuck::cast_slice(&s.earths));
    let mut out = head(b"RKSO", &facts, texels.len() + earths.len());
    out.extend_from_slice(texels);
    out.extend_from_slice(earths);
    out
}
