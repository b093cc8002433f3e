//! The pictures of a scene: those that are drawn here, but for earths that wear others.

use super::worn::Worn;
use super::{SHEETS, Sheet, Texture};
use glam::Vec3;
use std::sync::Arc;

/// A picture for each [`Texture`], and the colours of earths that have brought theirs.
#[derive(Clone, Debug)]
pub struct Sheets {
    sheets: [Arc<Sheet>; 10],
    own: [Option<Vec3>; 5],
}

impl Default for Sheets {
    fn default() -> Self {
        Self::usual()
    }
}

impl Sheets {
    /// Those that are drawn here.
    pub fn usual() -> Self {
        Self { sheets: Texture::ALL.map(|t| SHEETS[usize::from(t.number())].clone()), own: [None; 5] }
    }

    /// The picture of a texture.
    pub fn of(&self, texture: Texture) -> &Sheet {
        &self.sheets[usize::from(texture.number())]
    }

    /// All, in the order of their numbers.
    pub fn all(&self) -> impl Iterator<Item = &Sheet> {
        self.sheets.iter().map(|s| &**s)
    }

    /// Lets an earth, by its number, wear what was brought for it. Rock shows it where it breaks as well.
    pub fn wear(&mut self, earth: usize, worn: &Worn) {
        let (sheet, mean) = worn.sheet();
        let sheet = Arc::new(sheet);
        if earth == usize::from(Texture::Rock.number()) {
            // There it stays at its height.
            let face = Sheet { shifts: [1.0, 0.0], ..Sheet::clone(&sheet) };
            self.sheets[usize::from(Texture::Face.number())] = Arc::new(face);
        }
        self.sheets[earth] = sheet;
        self.own[earth] = Some(mean);
    }

    /// The mean colour of an earth, which is `usual` where it has brought none.
    pub fn mean(&self, earth: usize, usual: Vec3) -> Vec3 {
        self.own[earth].unwrap_or(usual)
    }

    /// Whether an earth wears pictures.
    pub fn wears(&self, earth: usize) -> bool {
        self.own[earth].is_some()
    }

    /// The colour of ground where so much of each earth lies, their usual means being these, once some of them wear their pictures: their patches stay,
    /// lighter and darker, but not in the hues of another earth.
    pub fn recoloured(&self, colour: Vec3, earths: [f32; 5], means: &[Vec3; 5]) -> Vec3 {
        if self.own.iter().all(Option::is_none) {
            return colour;
        }
        let usual: Vec3 = (0..5).map(|k| means[k] * earths[k]).sum();
        let patch = lighter(colour, usual);
        let each = |k: usize| self.own[k].map_or(colour, |own| own * patch) * earths[k];
        (0..5).map(each).sum::<Vec3>() / earths.iter().sum::<f32>().max(1e-6)
    }
}

/// So many times as light is one colour as another (luminance, ITU-R BT.709).
pub(super) fn lighter(colour: Vec3, than: Vec3) -> f32 {
    const LUMINANCE: Vec3 = Vec3::new(0.2126, 0.7152, 0.0722);
    colour.dot(LUMINANCE) / than.dot(LUMINANCE).max(1e-6)
}
