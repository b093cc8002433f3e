//! `RKFT`: plants of a layer that have forms of their own.

use super::head;
use rookery_core::nursery::Detail;
use rookery_core::planting::Plant;
use rookery_core::planting::clearance::fit::Fits;
use serde::Serialize;

#[derive(Serialize)]
struct Head<'a> {
    /// Names the plants these are among.
    plants: &'a str,
    /// How fine the forms are: 0 full, 1 light, 2 far.
    detail: u8,
    count: usize,
    vertices: usize,
    bent: usize,
    trimmed: usize,
    /// Of those bent, made smaller as well.
    smaller: usize,
    /// Left out because nothing helped.
    gone: usize,
    /// Not fitted because there are too many.
    left: usize,
}

/// Head: `{plants, detail, count, vertices, bent, trimmed, smaller, gone, left}`. Arrays:
///
/// | array | type | meaning |
/// |---|---|---|
/// | place | count x u32 | among the plants of its species, in the order of the plants buffer |
/// | length | count x u32 | vertices of it, as many as its form has; 0 where it is left out |
/// | species | count x u8 | place in the layer's mix |
/// | position | vertices x 3 x f32 | metres from the plant's base point, turned as in the scene |
/// | normal | vertices x 4 x i8 | unit times 127, and a zero |
pub fn encode_fits(plants: &[Plant], fits: &Fits, key: &str) -> Vec<u8> {
    let shown = || fits.plants.iter().filter(|f| !f.how.gone);
    let info = Head {
        plants: key,
        detail: match fits.detail {
            Detail::Full => 0,
            Detail::Light => 1,
            Detail::Far => 2,
        },
        count: fits.plants.len(),
        vertices: shown().map(|f| f.positions.len()).sum(),
        bent: fits.count(|h| h.bent),
        trimmed: fits.count(|h| h.trimmed),
        smaller: fits.count(|h| h.smaller),
        gone: fits.count(|h| h.gone),
        left: fits.left,
    };
    let mut out = head(b"RKFT", &info, info.count * 12 + info.vertices * 16);
    let mut seen = [0_u32; 256];
    let mut fitted = fits.plants.iter().peekable();
    for (i, p) in plants.iter().enumerate() {
        if fitted.next_if(|f| f.plant as usize == i).is_some() {
            out.extend_from_slice(&seen[usize::from(p.species)].to_le_bytes());
        }
        seen[usize::from(p.species)] += 1;
    }
    let length = |gone: bool, n: usize| if gone { 0 } else { n as u32 };
    out.extend(fits.plants.iter().flat_map(|f| length(f.how.gone, f.positions.len()).to_le_bytes()));
    out.extend(fits.plants.iter().map(|f| plants[f.plant as usize].species));
    super::pad(&mut out);
    for v in shown().flat_map(|f| &f.positions) {
        out.extend_from_slice(bytemuck::bytes_of(&v.to_array()));
    }
    for n in shown().flat_map(|f| &f.normals) {
        let [x, y, z] = n.to_array().map(|c| (c.clamp(-1.0, 1.0) * 127.0).round() as i8);
        out.extend_from_slice(bytemuck::bytes_of(&[x, y, z, 0]));
    }
    out
}
