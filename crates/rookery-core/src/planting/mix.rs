//! Which species of a layer's mix a plant is.

use crate::document::{Document, Layer};
use crate::math::hash::{Channel, draw, unit};
use crate::nursery::{Kind, MostStance, Species};
use crate::planting::PlantId;

/// Species of one mix, at most.
pub const MOST_SPECIES: usize = 16;

/// Weights of the species of a mix, in its order.
pub type Weights = [f32; MOST_SPECIES];

/// One species of a mix, as growth needs it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Kin {
    /// Its own number, from its id alone: shares of others and its place in the list do not matter.
    salt: u32,
    /// Its share.
    share: f32,
    /// Different individuals it has, at least 1.
    pub forms: u16,
    /// How far it may leave the upright.
    pub most: MostStance,
    /// How far what stands on the ground reaches at full size, metres.
    pub footprint_m: f32,
    /// How far it reaches seen from above at full size, metres.
    pub crown_m: f32,
    /// Whether it can be bent aside.
    pub bends: bool,
}

/// The species of a layer.
#[derive(Clone, Debug, PartialEq)]
pub struct Mix {
    /// In the order of the layer; those that are gone have no share.
    kin: Vec<Kin>,
}

impl Mix {
    /// The mix of a layer.
    pub fn new(document: &Document, layer: &Layer) -> Self {
        let free = layer.stance.beyond;
        let kin = layer.mix.iter().map(|part| {
            let species = document.species(&part.species);
            let most = species.filter(|_| !free).map_or(Kind::Rock, |s| s.kind).most();
            // FNV-1a, so that the number lasts.
            let salt = part
                .species
                .0
                .bytes()
                .fold(0x811C_9DC5_u32, |h, b| (h ^ u32::from(b)).wrapping_mul(0x0100_0193));
            Kin {
                salt,
                share: species.map_or(0.0, |_| part.share),
                forms: species.map_or(1, |s| s.forms),
                most,
                footprint_m: species.map_or(0.0, Species::footprint_m),
                crown_m: species.map_or(0.0, Species::radius_m),
                bends: species.is_some_and(Species::bends_aside),
            }
        });
        Self { kin: kin.take(MOST_SPECIES).collect() }
    }

    /// One species with so many forms, held to nothing.
    pub fn alone(forms: u16) -> Self {
        let most = Kind::Rock.most();
        Self {
            kin: vec![Kin { salt: 0, share: 1.0, forms, most, footprint_m: 0.0, crown_m: 0.0, bends: false }],
        }
    }

    /// The species at a place of the mix.
    pub fn kin(&self, place: u8) -> &Kin {
        &self.kin[usize::from(place)]
    }

    /// The place of the species with the greatest share.
    pub fn lead(&self) -> u8 {
        let most = self.kin.iter().map(|k| k.share).fold(0.0, f32::max);
        self.kin.iter().position(|k| k.share >= most).unwrap_or(0) as u8
    }

    /// How many species.
    pub fn len(&self) -> usize {
        self.kin.len()
    }

    /// Whether it has none; a layer always has some.
    pub fn is_empty(&self) -> bool {
        self.kin.is_empty()
    }

    /// Their shares as weights.
    pub fn shares(&self) -> Weights {
        let mut weights = [0.0; MOST_SPECIES];
        weights.iter_mut().zip(&self.kin).for_each(|(w, k)| *w = k.share);
        weights
    }

    /// The species of a plant: the one whose own number, drawn for this plant, comes first when those with more weight come
    /// sooner. A species that gains weight takes plants from the others and leaves all the rest as they are.
    ///
    /// Source: Efraimidis & Spirakis, "Weighted random sampling with a reservoir", Information Processing Letters 97(5), 2006.
    #[inline]
    pub fn choose(&self, seed: u32, id: PlantId, weights: Option<&Weights>) -> u8 {
        if self.kin.len() < 2 {
            return 0;
        }
        let shares;
        let weights = match weights {
            Some(w) if w.iter().any(|w| *w > 0.0) => w,
            _ => {
                shares = self.shares();
                &shares
            }
        };
        let mut best = (f32::INFINITY, 0);
        for (i, kin) in self.kin.iter().enumerate().filter(|(i, _)| weights[*i] > 0.0) {
            let u = unit(draw(seed ^ kin.salt, id.0, Channel::Mix)[0]);
            let arrives = -libm::logf(1.0 - u) / weights[i];
            if arrives < best.0 {
                best = (arrives, i as u8);
            }
        }
        best.1
    }
}

/// What a map from 0 to 1 leaves of each of `count` species: the first alone at 0, the last alone at 1, between two neighbours
/// in the order by how near each is.
#[inline]
pub fn by_map(weights: &mut Weights, count: usize, value: f32, strength: f32) {
    let at = value.clamp(0.0, 1.0) * count.saturating_sub(1) as f32;
    for (i, w) in weights.iter_mut().take(count).enumerate() {
        let own = (1.0 - (at - i as f32).abs()).max(0.0);
        *w *= 1.0 - strength + strength * own;
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{MixPart, SpeciesId};
    use crate::scene::kittiwake_head;

    fn mix(shares: &[(&str, f32)]) -> Mix {
        let document = kittiwake_head();
        let mut layer = document.layers[0].clone();
        layer.mix = shares
            .iter()
            .map(|(id, share)| MixPart { species: SpeciesId((*id).into()), share: *share })
            .collect();
        Mix::new(&document, &layer)
    }

    fn counts(mix: &Mix) -> Vec<usize> {
        let mut counts = vec![0; mix.len()];
        (0..20_000).for_each(|i| counts[usize::from(mix.choose(7, PlantId(i), None))] += 1);
        counts
    }

    #[test]
    fn plants_come_in_their_shares() {
        // Three standard deviations of a share of one in five of 20,000 are 170.
        let got = counts(&mix(&[("marram", 0.3), ("thrift", 0.1), ("fescue", 0.1)]));
        assert!(got[0].abs_diff(12_000) < 210 && got[1].abs_diff(4000) < 170, "{got:?}");
    }

    #[test]
    fn a_species_that_gains_takes_from_the_others_and_swaps_nothing_among_them() {
        let before = mix(&[("marram", 0.5), ("thrift", 0.3), ("fescue", 0.2)]);
        let after = mix(&[("marram", 0.5), ("thrift", 0.3), ("fescue", 0.6)]);
        // In another order they are still the same species.
        let turned = mix(&[("fescue", 0.2), ("marram", 0.5), ("thrift", 0.3)]);
        for id in (0..5000).map(PlantId) {
            let (a, b) = (before.choose(3, id, None), after.choose(3, id, None));
            assert!(a == b || b == 2, "{id:?} went from {a} to {b}");
            assert_eq!((a + 1) % 3, turned.choose(3, id, None));
        }
    }

    #[test]
    fn a_map_leads_from_the_first_species_to_the_last() {
        let weights = |v: f32, s: f32| {
            let mut w = [1.0; MOST_SPECIES];
            by_map(&mut w, 3, v, s);
            [w[0], w[1], w[2]]
        };
        assert_eq!(weights(0.0, 1.0), [1.0, 0.0, 0.0]);
        assert_eq!(weights(0.25, 1.0), [0.5, 0.5, 0.0]);
        assert_eq!(weights(1.0, 1.0), [0.0, 0.0, 1.0]);
        assert_eq!(weights(1.0, 0.0), [1.0; 3]);
    }
}
