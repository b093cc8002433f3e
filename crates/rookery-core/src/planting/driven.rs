//! What masks change about the plants of a place, beside whether they stand.

use super::{Rules, Weights, by_map, tint_towards};
use crate::document::Drives;
use crate::ground::Surface;
use glam::Vec3;

/// What the masks of a layer come to at one place.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Driven {
    /// Times their size.
    pub size: f32,
    /// What their colours are multiplied with.
    pub colour: Vec3,
    /// Weights of the species of the mix, where a map says which grows.
    pub weights: Option<Weights>,
}

impl Default for Driven {
    fn default() -> Self {
        Self { size: 1.0, colour: Vec3::ONE, weights: None }
    }
}

impl Rules {
    /// Whether any mask changes more than the amount.
    pub fn drives(&self) -> bool {
        (0..self.count()).any(|i| self.mask(i).enabled && !self.mask(i).counts())
    }

    /// What the masks come to at a point. Several of a kind work one after the other.
    pub fn driven<S: Surface>(&self, ground: &S, spot: &S::Spot) -> Driven {
        let mut driven = Driven::default();
        for i in (0..self.count()).filter(|i| self.mask(*i).enabled && !self.mask(*i).counts()) {
            let (mask, value) = (self.mask(i), self.response(i, ground, spot));
            match mask.drives {
                Drives::Amount => {}
                Drives::Size { low, high } => {
                    driven.size *= 1.0 + (low + (high - low) * value - 1.0) * mask.strength;
                }
                Drives::Mix => {
                    let mix = self.mix();
                    let weights = driven.weights.get_or_insert_with(|| mix.shares());
                    by_map(weights, mix.len(), value, mask.strength);
                }
                Drives::Tint { colour } => driven.colour *= tint_towards(colour, value * mask.strength),
            }
        }
        driven
    }
}
