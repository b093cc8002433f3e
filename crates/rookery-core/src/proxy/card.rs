//! A form as two crossed pictures.

/// Two upright pictures of a form, crossed over its base point.
#[derive(Clone, Debug, PartialEq)]
pub struct Card {
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
    /// Seen from +Z, then from +X; row by row from the top. Square roots of reflectance, and cover, 0 to 255.
    pub colours: [Vec<[u8; 4]>; 2],
    /// Unit normals in the form's frame, each number from -1 to 1 as 0 to 255.
    pub normals: [Vec<[u8; 3]>; 2],
}
