//! `RKME`: one form at one level of detail.

use super::head;
use rookery_core::nursery::{Dress, Mesh, Skin, open_to_sky};
use serde::Serialize;

#[derive(Serialize)]
struct Head {
    vertices: usize,
    triangles: usize,
    /// Whether places in pictures follow.
    skinned: bool,
    /// How many limbs bend; 0 for what is stiff.
    limbs: usize,
    /// Whether any leaf flutters.
    flutters: bool,
    /// What it is made of: `plain`, `stone`, `ground` or `built`.
    dress: &'static str,
}

/// All forms of a species at all details in one answer: for each, a `u32` with the length of its `RKME` buffer, then the
/// buffer, padded to a multiple of four bytes.
pub fn encode_forms(meshes: &[Mesh]) -> Vec<u8> {
    let mut out = Vec::new();
    for mesh in meshes {
        let one = encode(mesh, &open_to_sky(mesh));
        out.extend_from_slice(&(one.len() as u32).to_le_bytes());
        out.extend_from_slice(&one);
        out.resize(out.len().next_multiple_of(4), 0);
    }
    out
}

/// Head: `{vertices, triangles, skinned, limbs, flutters, dress}`. Arrays:
///
/// | array | type | meaning |
/// |---|---|---|
/// | position | vertices x 3 x f32 | metres, base point at the origin |
/// | normal | vertices x 3 x f32 | unit |
/// | colour | vertices x 3 x f32 | reflectance, linear |
/// | light | vertices x 4 x u8 | how much light goes through; how much of the sky it leaves itself, of forms of plants; nothing, twice; in 255ths |
/// | uv | vertices x 2 x f32, when `skinned` | place in the picture |
/// | picture | vertices x f32, when `skinned` | which of the species' pictures (`RKPX`); -1 for none |
/// | share | vertices x f32, when there are `limbs` | where along its limb a vertex hangs, 0 (does not move) to 1 |
/// | limb | vertices x u32, when there are `limbs` | which limb it hangs on |
/// | limbs | limbs x 9 x f32 | of each its foot, where it sets out to and how it curves: `foot + set s + curve s^2 / 2`, metres |
/// | flap | vertices x 8 x i16, when it `flutters` | the stalk of its leaf, a unit vector times 32767; kind and phase, 0 to 4 times 8191; where the vertex goes by a radian about the stalk, half metres times 32767; nothing |
/// | earths | vertices x 4 x u8, when the dress is `ground` | how much peat, sand, shingle and rock lies there, in 255ths; the rest is turf |
/// | place | vertices x 3 x f32, when it is `built` | place on its face, metres along the level and up, and which of the textures (`RKTX`) lies there; -1 for none |
/// | index | triangles x 3 x u32 | counter-clockwise seen from outside |
pub fn encode_mesh(mesh: &Mesh) -> Vec<u8> {
    encode(mesh, &[])
}

fn encode(mesh: &Mesh, open: &[f32]) -> Vec<u8> {
    let info = Head {
        vertices: mesh.positions.len(),
        triangles: mesh.triangles(),
        skinned: mesh.skin.is_some(),
        limbs: mesh.shares.limbs.len(),
        flutters: !mesh.shares.flaps.is_empty(),
        dress: match *mesh.dress {
            Dress::Plain => "plain",
            Dress::Stone => "stone",
            Dress::Ground(_) => "ground",
            Dress::Built { .. } => "built",
        },
    };
    let mut out = head(b"RKME", &info, info.vertices * 40 + info.triangles * 12);
    for list in [&mesh.positions, &mesh.normals, &mesh.colours] {
        for v in list {
            out.extend_from_slice(bytemuck::bytes_of(&v.to_array()));
        }
    }
    let byte =
        |share: Option<&f32>, usual: u8| share.map_or(usual, |s| (s.clamp(0.0, 1.0) * 255.0).round() as u8);
    out.extend((0..info.vertices).flat_map(|i| [byte(mesh.through.get(i), 0), byte(open.get(i), 255), 0, 0]));
    if let Some(skin) = &mesh.skin {
        out.extend(skin.uv.iter().flat_map(|uv| [uv.x.to_le_bytes(), uv.y.to_le_bytes()]).flatten());
        let number = |p: &u16| if *p == Skin::NONE { -1.0 } else { f32::from(*p) };
        out.extend(skin.picture.iter().flat_map(|p| number(p).to_le_bytes()));
    }
    if info.limbs > 0 {
        let shares = &mesh.shares;
        out.extend_from_slice(bytemuck::cast_slice(&shares.share));
        out.extend(shares.limb.iter().flat_map(|l| u32::from(*l).to_le_bytes()));
        for limb in &shares.limbs {
            for v in [limb.foot, limb.set, limb.curve] {
                out.extend_from_slice(bytemuck::bytes_of(&v.to_array()));
            }
        }
    }
    if info.flutters {
        for flap in &mesh.shares.flaps {
            out.extend_from_slice(bytemuck::bytes_of(&flap.0));
        }
    }
    match &*mesh.dress {
        Dress::Plain | Dress::Stone => {}
        Dress::Ground(earths) => out.extend_from_slice(bytemuck::cast_slice(earths)),
        Dress::Built { places_m, textures } => {
            let number = |t: u8| if t == Dress::BARE { -1.0 } else { f32::from(t) };
            let all = places_m.iter().zip(textures).flat_map(|(p, t)| [p.x, p.y, number(*t)]);
            out.extend(all.flat_map(f32::to_le_bytes));
        }
    }
    out.extend_from_slice(bytemuck::cast_slice(&mesh.indices));
    out
}
