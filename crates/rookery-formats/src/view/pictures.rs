//! `RKPX`: the pictures of an imported species, all of one size.

use super::head;
use rookery_core::nursery::Picture;
use serde::Serialize;

/// Side of the pictures, pixels, at most.
const MOST_SIDE_PX: u32 = 1024;

#[derive(Serialize)]
struct Head {
    side_px: u32,
    pictures: usize,
}

/// Head: `{side_px, pictures}`. One array: pictures x side x side x 4 x u8, row by row from the top, sRGB and cover. Each
/// picture is stretched to a square whose side is a power of two, no larger than 1024.
pub fn encode_pictures(pictures: &[Picture]) -> Vec<u8> {
    let largest = pictures.iter().map(|p| p.width_px.max(p.height_px)).max().unwrap_or(1);
    let side_px = largest.next_power_of_two().min(MOST_SIDE_PX);
    let info = Head { side_px, pictures: pictures.len() };
    let mut out = head(b"RKPX", &info, pictures.len() * (side_px * side_px * 4) as usize);
    for p in pictures {
        out.extend_from_slice(bytemuck::cast_slice(&p.resized(side_px, side_px).rgba));
    }
    out
}
