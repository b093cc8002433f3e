//! The land seen from straight above, as pictures for programs that cannot lay textures as we do.

use super::Soils;
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::GroundModel;
use crate::nursery::five;
use crate::textures::{Bare, Sheets, on_ground};
use glam::{Vec2, Vec3, vec2};
use rayon::prelude::*;

/// Looks at each pixel, along a side: a pixel has the mean of what lies in it.
const LOOKS: usize = 2;
/// Seen from so far, metres: relief is whole, grains of their own do not show.
const AWAY_M: f32 = 10.0;

/// Pictures over the plan, from west to east and then to the south.
#[derive(Clone, Debug, PartialEq)]
pub struct FromAbove {
    /// Pixels from west to east and from north to south.
    pub pixels: [usize; 2],
    /// Reflectance, sRGB: with all that earths, soils and textures make of it.
    pub colours: Vec<[u8; 3]>,
    /// Normals of the relief against those of the surface, as glTF keeps them: red to the east, green to the north, blue off the surface.
    pub normals: Vec<[u8; 3]>,
}

impl FromAbove {
    /// Looks down on a land. `most` are pixels along its longer side; `means` the usual mean colours of the earths.
    ///
    /// # Errors
    /// When it was cancelled.
    pub fn of(
        land: &GroundModel,
        soils: Option<&Soils>,
        sheets: &Sheets,
        means: &[Vec3; 5],
        most: usize,
        cancel: &CancelToken,
    ) -> Result<Self, Cancelled> {
        let size = land.terrain.size_m();
        let pixels = [size.x, size.y]
            .map(|side| ((most as f32 * side / size.max_element()).round() as usize).clamp(1, most.max(1)));
        let lies = Lying::new(land);
        let rows: Vec<Vec<([u8; 3], [u8; 3])>> = (0..pixels[1])
            .into_par_iter()
            .map(|row| {
                if cancel.is_cancelled() {
                    return Err(Cancelled);
                }
                Ok((0..pixels[0])
                    .map(|column| {
                        let (mut colour, mut normal) = (Vec3::ZERO, Vec3::ZERO);
                        for look in 0..LOOKS * LOOKS {
                            let within =
                                vec2((look % LOOKS) as f32 + 0.5, (look / LOOKS) as f32 + 0.5) / LOOKS as f32;
                            let at = (vec2(column as f32, row as f32) + within)
                                / vec2(pixels[0] as f32, pixels[1] as f32);
                            let (own, tilted) = lies.at((at - 0.5) * size, soils, sheets, means);
                            colour += own;
                            normal += tilted;
                        }
                        let colour = colour / (LOOKS * LOOKS) as f32;
                        let normal = normal.normalize_or(Vec3::Z) * 0.5 + 0.5;
                        let byte = |v: f32| (v.clamp(0.0, 1.0) * 255.0).round() as u8;
                        (colour.to_array().map(|v| byte(encoded(v))), normal.to_array().map(byte))
                    })
                    .collect())
            })
            .collect::<Result<_, Cancelled>>()?;
        let (colours, normals) = rows.into_iter().flatten().unzip();
        Ok(Self { pixels, colours, normals })
    }
}

/// Source: IEC 61966-2-1 (sRGB), the encoding function.
fn encoded(v: f32) -> f32 {
    if v <= 0.003_130_8 { v * 12.92 } else { 1.055 * libm::powf(v, 1.0 / 2.4) - 0.055 }
}

/// A land with what lies at each of its samples.
struct Lying<'a> {
    land: &'a GroundModel,
    colours: Vec<[f32; 3]>,
    earths: Vec<[u8; 4]>,
}

impl<'a> Lying<'a> {
    fn new(land: &'a GroundModel) -> Self {
        let samples = land.terrain.nx() * land.terrain.nz();
        let earths = (0..samples).into_par_iter().map(|i| land.earths_of(i)).collect();
        Self { land, colours: land.colours(), earths }
    }

    /// Reflectance at a point of the plan, and the normal of the relief against that of the surface: east, north, off it.
    fn at(&self, p: Vec2, soils: Option<&Soils>, sheets: &Sheets, means: &[Vec3; 5]) -> (Vec3, Vec3) {
        let t = &self.land.terrain;
        let last = [t.nx() - 1, t.nz() - 1];
        let at = (p - t.min_xz()) / t.cell_m();
        let cell = [at.x, at.y].map(|v| v.max(0.0) as usize);
        let cell = [cell[0].min(last[0] - 1), cell[1].min(last[1] - 1)];
        let [u, v] = [at.x - cell[0] as f32, at.y - cell[1] as f32].map(|v| v.clamp(0.0, 1.0));
        let corners =
            [(0, 0, (1.0 - u) * (1.0 - v)), (1, 0, u * (1.0 - v)), (0, 1, (1.0 - u) * v), (1, 1, u * v)];
        let (mut colour, mut normal, mut earths) = (Vec3::ZERO, Vec3::ZERO, [0.0; 5]);
        for (dx, dz, weight) in corners {
            let (column, row) = (cell[0] + dx, cell[1] + dz);
            let sample = row * t.nx() + column;
            colour += Vec3::from(self.colours[sample]) * weight;
            normal += t.smooth_normal(column, row) * weight;
            earths.iter_mut().zip(five(self.earths[sample])).for_each(|(e, own)| *e += own * weight);
        }
        let normal = normal.normalize_or(Vec3::Y);
        if let Some(soils) = soils {
            colour = soils.over(p, colour);
            earths = soils.earths_over(p, earths);
        }
        let point = Vec3::new(p.x, t.height_at(p.x, p.y), p.y);
        let laid = on_ground(sheets, point, normal, &Bare { colour, earths, means }, AWAY_M);
        let tilted = (normal + laid.tilt).normalize_or(normal);
        let east = (Vec3::X - normal * normal.x).normalize_or(Vec3::X);
        let north = normal.cross(east);
        (
            (colour * laid.tone).min(Vec3::ONE),
            Vec3::new(tilted.dot(east), tilted.dot(north), tilted.dot(normal)),
        )
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Earth, Earths};
    use crate::ground::Terrain;
    use crate::ground::colour::means;

    fn shingle() -> GroundModel {
        let heights = (0..33 * 17).map(|i| (i % 33) as f32 * 0.5).collect();
        let terrain = Terrain::new(33, 17, Vec2::ONE, heights).unwrap();
        let all = Earth::Shingle;
        let earths = Earths { cover: all, steep: all, shore: all, patches: 0.0, ..Earths::default() };
        GroundModel::with_earths(terrain, None, earths, 3)
    }

    #[test]
    fn a_land_from_above_has_its_shape_its_colour_and_its_relief() {
        let land = shingle();
        let sheets = Sheets::usual();
        let seen = FromAbove::of(&land, None, &sheets, &means(), 256, &CancelToken::default()).unwrap();
        assert_eq!(seen.pixels, [256, 128]);
        assert_eq!((seen.colours.len(), seen.normals.len()), (256 * 128, 256 * 128));
        let linear = |v: u8| {
            let v = f32::from(v) / 255.0;
            if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) }
        };
        let mean =
            seen.colours.iter().map(|c| Vec3::from(c.map(linear))).sum::<Vec3>() / seen.colours.len() as f32;
        let own = Vec3::from(land.colours()[40]);
        assert!(((mean - own) / own).abs().max_element() < 0.05, "{mean} {own}");
        // It is not of one tone, and its normals stand off the surface on the whole, but for what steep relief on a slope comes to.
        let reds = seen.colours.iter().map(|c| c[0]);
        assert!(reds.clone().max().unwrap() - reds.min().unwrap() > 25);
        let normal = seen.normals.iter().map(|n| Vec3::from(n.map(f32::from))).sum::<Vec3>()
            / seen.normals.len() as f32;
        assert!(
            (normal.x - 127.5).abs() < 8.0 && (normal.y - 127.5).abs() < 3.0 && normal.z > 230.0,
            "{normal}"
        );
        assert!(seen.normals.iter().any(|n| n[0].abs_diff(128) > 25));
    }

    #[test]
    fn it_can_be_stopped() {
        let cancel = CancelToken::default();
        cancel.cancel();
        assert!(FromAbove::of(&shingle(), None, &Sheets::usual(), &means(), 64, &cancel).is_err());
    }
}
