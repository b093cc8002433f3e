//! Pictures over the ground, asked at places in them.

use crate::document::{GroundPicture, PictureChannel, PictureLaid, PictureLook, Pixels};
use glam::{Vec2, Vec3};
use std::sync::Arc;

/// A picture as one mask looks at it.
#[derive(Clone)]
pub struct PictureField {
    pixels: Arc<Pixels>,
    middle: Vec2,
    /// To the picture's right, and down it, each over its own length, 1/m.
    right: Vec2,
    down: Vec2,
    repeats: bool,
    channel: PictureChannel,
    colour: Vec3,
    by_uv: bool,
}

impl PictureField {
    /// The picture where it lies; none when its pixels are not held.
    pub fn new(picture: &GroundPicture, look: &PictureLook) -> Option<Self> {
        let (s, c) = libm::sincosf(picture.turn_deg.to_radians());
        Some(Self {
            pixels: picture.held.0.clone()?,
            middle: Vec2::new(picture.x_m, picture.z_m),
            right: Vec2::new(c, s) / picture.width_m,
            down: Vec2::new(-s, c) / picture.depth_m,
            repeats: picture.repeats,
            channel: look.channel,
            colour: Vec3::from(look.colour),
            by_uv: look.laid == PictureLaid::Uv,
        })
    }

    /// Whether it is laid by the ground's own places in pictures.
    pub fn by_uv(&self) -> bool {
        self.by_uv
    }

    /// Where a point of the plan lies in the picture: 0 to 1 from its left and from its upper edge.
    pub fn uv_of(&self, plan: Vec2) -> Vec2 {
        let to = plan - self.middle;
        Vec2::new(to.dot(self.right), to.dot(self.down)) + 0.5
    }

    /// A place in the picture, in pixels from its upper left corner; none beside it.
    fn at(&self, mut uv: Vec2) -> Option<Vec2> {
        if self.repeats {
            uv -= uv.floor();
        } else if uv.cmplt(Vec2::ZERO).any() || uv.cmpgt(Vec2::ONE).any() {
            return None;
        }
        Some(uv * Vec2::new(self.pixels.width as f32, self.pixels.height as f32))
    }

    fn pixel(&self, column: i32, row: i32) -> [u16; 4] {
        let (w, h) = (self.pixels.width as i32, self.pixels.height as i32);
        let (column, row) = if self.repeats {
            (column.rem_euclid(w), row.rem_euclid(h))
        } else {
            (column.clamp(0, w - 1), row.clamp(0, h - 1))
        };
        self.pixels.rgba[(row * w + column) as usize]
    }

    /// The channel at a place in the picture, between the four nearest pixels, 0 to 1; 0 beside the picture.
    pub fn value(&self, uv: Vec2) -> f32 {
        let Some(p) = self.at(uv) else { return 0.0 };
        let (corner, f) = ((p - 0.5).floor(), (p - 0.5) - (p - 0.5).floor());
        let value = |dx: i32, dy: i32| {
            let [r, g, b, a] =
                self.pixel(corner.x as i32 + dx, corner.y as i32 + dy).map(|c| f32::from(c) / 65535.0);
            match self.channel {
                PictureChannel::Grey => 0.2126 * r + 0.7152 * g + 0.0722 * b,
                PictureChannel::Red => r,
                PictureChannel::Green => g,
                PictureChannel::Blue => b,
                PictureChannel::Cover => a,
            }
        };
        let row = |dy: i32| value(0, dy) + (value(1, dy) - value(0, dy)) * f.x;
        row(0) + (row(1) - row(0)) * f.y
    }

    /// How far the nearest pixel's colour is from the picked one, 0 to 1: its straight distance in sRGB against that of black
    /// from white. 1 beside the picture and where it is clear.
    pub fn away(&self, uv: Vec2) -> f32 {
        let Some(p) = self.at(uv) else { return 1.0 };
        let [r, g, b, a] = self.pixel(p.x as i32, p.y as i32);
        if a < 0x8000 {
            return 1.0;
        }
        let own = Vec3::from([r, g, b].map(|c| f32::from(c) / 65535.0));
        own.distance(self.colour) / 3.0_f32.sqrt()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{BlobId, HeldPixels, PictureId};
    use glam::vec2;

    /// Two by two: black, red; green, white.
    fn picture(turn_deg: f32, repeats: bool) -> GroundPicture {
        let full = 65535;
        let rgba = vec![[0, 0, 0, full], [full, 0, 0, full], [0, full, 0, full], [full, full, full, full]];
        GroundPicture {
            id: PictureId(1),
            name: "Map".into(),
            blob: BlobId(String::new()),
            file: "map.png".into(),
            x_m: 10.0,
            z_m: 0.0,
            width_m: 4.0,
            depth_m: 8.0,
            turn_deg,
            repeats,
            held: HeldPixels(Some(Arc::new(Pixels { width: 2, height: 2, rgba }))),
        }
    }

    fn look(channel: PictureChannel, colour: [f32; 3]) -> PictureLook {
        PictureLook { id: PictureId(1), channel, colour, laid: PictureLaid::Plan }
    }

    #[test]
    fn its_upper_edge_lies_to_the_north_and_its_left_to_the_west() {
        let red = PictureField::new(&picture(0.0, false), &look(PictureChannel::Red, [0.0; 3])).unwrap();
        assert_eq!(
            [vec2(9.0, -2.0), vec2(11.0, -2.0), vec2(9.0, 2.0), vec2(11.0, 2.0)]
                .map(|p| red.value(red.uv_of(p))),
            [0.0, 1.0, 0.0, 1.0]
        );
        assert_eq!(
            (red.value(red.uv_of(vec2(10.0, -2.0))), red.value(red.uv_of(vec2(14.0, 0.0)))),
            (0.5, 0.0)
        );
        // A quarter turn clockwise takes its upper edge to the east.
        let turned = PictureField::new(&picture(90.0, false), &look(PictureChannel::Red, [0.0; 3])).unwrap();
        assert!(
            (turned.value(turned.uv_of(vec2(12.0, 1.0))) - 1.0).abs() < 1e-5
                && turned.value(turned.uv_of(vec2(12.0, -1.0))).abs() < 1e-5
        );
    }

    #[test]
    fn flat_colours_are_met_exactly_and_not_blended() {
        let green =
            PictureField::new(&picture(0.0, false), &look(PictureChannel::Grey, [0.0, 1.0, 0.0])).unwrap();
        assert_eq!(green.away(green.uv_of(vec2(9.9, 0.1))), 0.0);
        assert!((green.away(green.uv_of(vec2(9.9, -0.1))) - 1.0 / 3.0_f32.sqrt()).abs() < 1e-6);
        assert_eq!(green.away(green.uv_of(vec2(50.0, 0.0))), 1.0);
    }

    #[test]
    fn it_begins_again_where_it_repeats() {
        let red = PictureField::new(&picture(0.0, true), &look(PictureChannel::Red, [0.0; 3])).unwrap();
        for p in [vec2(9.3, -1.2), vec2(11.7, 3.0)] {
            assert!((red.value(red.uv_of(p)) - red.value(red.uv_of(p + vec2(8.0, -16.0)))).abs() < 1e-4);
        }
    }
}
