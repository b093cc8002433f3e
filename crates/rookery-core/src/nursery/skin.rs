//! Pictures on a mesh: image textures that came with it.

use super::Mesh;
use glam::{Vec2, Vec3, vec2, vec3};
use std::sync::{Arc, LazyLock};

/// A picture that lies on a mesh, repeated in both directions.
#[derive(Clone, PartialEq)]
pub struct Picture {
    /// What the file calls it; empty when it does not.
    pub name: String,
    /// Width, pixels, at least 1.
    pub width_px: u32,
    /// Height, pixels, at least 1.
    pub height_px: u32,
    /// Row by row from the top: sRGB and cover. Where cover is under a half there is a hole.
    pub rgba: Vec<[u8; 4]>,
}

impl std::fmt::Debug for Picture {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "Picture({}, {} x {})", self.name, self.width_px, self.height_px)
    }
}

/// The sRGB transfer curve, IEC 61966-2-1, from a byte to linear light.
pub fn srgb_to_linear(byte: u8) -> f32 {
    static TABLE: LazyLock<[f32; 256]> = LazyLock::new(|| {
        std::array::from_fn(|i| {
            let c = i as f32 / 255.0;
            if c <= 0.04045 { c / 12.92 } else { libm::powf((c + 0.055) / 1.055, 2.4) }
        })
    });
    TABLE[usize::from(byte)]
}

impl Picture {
    /// Colour (linear) and cover at a place of the picture, blended between the four nearest pixels. (0, 0) is its upper left
    /// corner, (1, 1) its lower right one; beyond them it begins again when it repeats, and its edge goes on otherwise.
    pub fn at(&self, uv: Vec2, repeats: bool) -> (Vec3, f32) {
        let (w, h) = (self.width_px as i64, self.height_px as i64);
        let uv = if repeats { uv - uv.floor() } else { uv.clamp(Vec2::ZERO, Vec2::ONE) };
        let at = vec2(uv.x * w as f32 - 0.5, uv.y * h as f32 - 0.5);
        let pixel = |i: i64, of: i64| if repeats { i.rem_euclid(of) } else { i.clamp(0, of - 1) };
        let (x, y) = (at.x.floor(), at.y.floor());
        let (fx, fy) = (at.x - x, at.y - y);
        let (mut colour, mut cover) = (Vec3::ZERO, 0.0);
        for (dx, dy, weight) in [
            (0, 0, (1.0 - fx) * (1.0 - fy)),
            (1, 0, fx * (1.0 - fy)),
            (0, 1, (1.0 - fx) * fy),
            (1, 1, fx * fy),
        ] {
            let (px, py) = (pixel(x as i64 + dx, w), pixel(y as i64 + dy, h));
            let [r, g, b, a] = self.rgba[(py * w + px) as usize];
            let shown = weight * f32::from(a) / 255.0;
            colour += vec3(srgb_to_linear(r), srgb_to_linear(g), srgb_to_linear(b)) * shown;
            cover += shown;
        }
        (if cover > 0.0 { colour / cover } else { colour }, cover)
    }

    /// Whether it has holes.
    pub fn holes(&self) -> bool {
        self.rgba.iter().any(|p| p[3] < 128)
    }

    /// A copy no larger than a side length, each pixel the mean of those it stands for.
    pub fn within(&self, side_px: u32) -> Self {
        let (w, h) = (self.width_px.min(side_px), self.height_px.min(side_px));
        self.resized(w.max(1), h.max(1))
    }

    /// A copy of another size; colours are blended as light, weighted by their cover.
    pub fn resized(&self, width_px: u32, height_px: u32) -> Self {
        if (width_px, height_px) == (self.width_px, self.height_px) {
            return self.clone();
        }
        let span = |i: u32, of: u32, to: u32| {
            let (a, b) = (u64::from(i) * u64::from(of) / u64::from(to), u64::from(i + 1) * u64::from(of));
            let b = b.div_ceil(u64::from(to));
            a as u32..(b as u32).max(a as u32 + 1).min(of)
        };
        let mut rgba = Vec::with_capacity((width_px * height_px) as usize);
        for y in 0..height_px {
            for x in 0..width_px {
                let (mut colour, mut cover, mut count) = (Vec3::ZERO, 0.0, 0.0);
                for row in span(y, self.height_px, height_px) {
                    for column in span(x, self.width_px, width_px) {
                        let [r, g, b, a] = self.rgba[(row * self.width_px + column) as usize];
                        let a = f32::from(a) / 255.0;
                        colour += vec3(srgb_to_linear(r), srgb_to_linear(g), srgb_to_linear(b)) * a;
                        (cover, count) = (cover + a, count + 1.0);
                    }
                }
                let c = if cover > 0.0 { colour / cover } else { Vec3::ZERO };
                rgba.push([
                    linear_to_srgb(c.x),
                    linear_to_srgb(c.y),
                    linear_to_srgb(c.z),
                    byte(cover / count),
                ]);
            }
        }
        Self { name: self.name.clone(), width_px, height_px, rgba }
    }
}

fn byte(share: f32) -> u8 {
    (share.clamp(0.0, 1.0) * 255.0).round() as u8
}

fn linear_to_srgb(c: f32) -> u8 {
    byte(if c <= 0.003_130_8 { c * 12.92 } else { 1.055 * libm::powf(c, 1.0 / 2.4) - 0.055 })
}

/// Which picture lies where on a mesh.
#[derive(Clone, Debug, PartialEq)]
pub struct Skin {
    /// Place in the picture, for every vertex.
    pub uv: Vec<Vec2>,
    /// Which picture, for every vertex, the same at all corners of a triangle; [`Skin::NONE`] where there is none.
    pub picture: Vec<u16>,
    /// The pictures. Their colour is multiplied with that of the vertices.
    pub pictures: Arc<Vec<Picture>>,
    /// Whether pictures begin again beyond their edges; their edge pixels go on otherwise.
    pub repeats: bool,
}

impl Skin {
    /// No picture lies here.
    pub const NONE: u16 = u16::MAX;
}

impl Mesh {
    /// Reflectance and cover at a point of a triangle, by the weights of its corners. Cover is 1 where no picture has holes.
    pub fn colour_at(&self, triangle: usize, weights: [f32; 3]) -> (Vec3, f32) {
        let corners = [0, 1, 2].map(|i| self.indices[triangle * 3 + i] as usize);
        let own: Vec3 = corners.iter().zip(weights).map(|(c, w)| self.colours[*c] * w).sum();
        let Some(skin) = &self.skin else { return (own, 1.0) };
        let Some(picture) = skin.pictures.get(usize::from(skin.picture[corners[0]])) else {
            return (own, 1.0);
        };
        let uv: Vec2 = corners.iter().zip(weights).map(|(c, w)| skin.uv[*c] * w).sum();
        let (colour, cover) = picture.at(uv, skin.repeats);
        (own * colour, cover)
    }

    /// Whether any of its pictures has holes.
    pub fn holes(&self) -> bool {
        self.skin.as_ref().is_some_and(|s| s.pictures.iter().any(Picture::holes))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Left half red, right half a hole.
    fn half() -> Picture {
        let row = [[255, 0, 0, 255], [255, 0, 0, 255], [0, 0, 0, 0], [0, 0, 0, 0]];
        Picture { name: String::new(), width_px: 4, height_px: 2, rgba: [row, row].concat() }
    }

    #[test]
    fn a_picture_is_looked_up_from_its_upper_left_corner_and_begins_again() {
        let p = half();
        assert_eq!(p.at(vec2(0.25, 0.5), true), (vec3(1.0, 0.0, 0.0), 1.0));
        assert_eq!(p.at(vec2(0.75, 0.5), true).1, 0.0);
        assert_eq!(p.at(vec2(-0.75, 3.5), true), p.at(vec2(0.25, 0.5), true));
        assert!(p.holes());
        assert_eq!(p.at(vec2(0.0, 0.5), false).1, 1.0, "its edge goes on");
        assert_eq!(
            p.at(vec2(0.0, 0.5), true).1,
            0.5,
            "half of what lies before its left edge is its right one"
        );
    }

    #[test]
    fn the_edge_of_a_hole_keeps_the_colour_of_what_is_there() {
        let (colour, cover) = half().at(vec2(0.5, 0.5), true);
        assert_eq!((colour, cover), (vec3(1.0, 0.0, 0.0), 0.5));
    }

    #[test]
    fn a_smaller_copy_blends_light_and_not_bytes() {
        let p = Picture {
            name: String::new(),
            width_px: 2,
            height_px: 1,
            rgba: vec![[0, 0, 0, 255], [255, 255, 255, 255]],
        };
        // Half the light is byte 188 by IEC 61966-2-1.
        assert_eq!(p.within(1).rgba, vec![[188, 188, 188, 255]]);
        assert_eq!(half().resized(8, 4).resized(4, 2), half());
    }
}
