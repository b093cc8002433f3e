//! Which layers claim ground before which.

use super::{Document, GroundId, Layer, LayerId, Near, Yield};
use crate::nursery::{Kind, Species};
use rustc_hash::FxHashMap;

/// Heights from which the bands of the profile begin, metres, from the top down; the lowest begins at the ground.
pub const BANDS_M: [f32; 4] = [5.0, 2.0, 1.0, 0.3];

/// For each layer those that it yields to, in the order in which layers claim ground.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Claims(Vec<(LayerId, Vec<LayerId>)>);

impl Claims {
    /// The layers that a layer yields to.
    pub fn over(&self, layer: LayerId) -> &[LayerId] {
        self.0.iter().find(|(id, _)| *id == layer).map_or(&[], |(_, over)| over)
    }

    /// All layers in the order in which they claim ground, exceptions apart.
    pub fn order(&self) -> impl Iterator<Item = LayerId> + '_ {
        self.0.iter().map(|(id, _)| *id)
    }
}

/// How soon a layer claims: stones lie before anything grows, then come the bands of the profile from the top down. The tallest of a
/// mix decides, by the height that its species has when full grown: no size range and no share makes the order jump.
fn rank(document: &Document, layer: &Layer) -> usize {
    let of = |species: &Species| match species.kind {
        Kind::Rock => 0,
        _ => 1 + BANDS_M.iter().position(|from| species.height_m() >= *from).unwrap_or(BANDS_M.len()),
    };
    layer.mix.iter().filter_map(|m| document.species(&m.species)).map(of).min().unwrap_or(BANDS_M.len() + 1)
}

/// All that decides of a layer who yields to whom.
#[derive(Clone, Debug, PartialEq)]
struct Claimant {
    id: LayerId,
    rank: usize,
    /// Whether it keeps clear of others at all.
    clears: bool,
    on_plants: Option<LayerId>,
    grounds: Vec<GroundId>,
    /// Layers that it has to grow after.
    looks_at: Vec<LayerId>,
}

/// All that decides who yields to whom: the layers as they claim, and the table.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Claimants {
    layers: Vec<Claimant>,
    yields: Vec<Yield>,
}

/// The layers that must grow before a layer: those whose plants it grows on or looks at, whether its masks are on or off, and those
/// that the table says it yields to.
pub fn looks_at<'a>(document: &'a Document, layer: &'a Layer) -> impl Iterator<Item = LayerId> + 'a {
    let looked = layer.masks.iter().filter_map(|m| match m.near {
        Some(Near::Layer { id }) => Some(id),
        _ => None,
    });
    let yields = document.yields.iter().filter(|y| y.yields && y.layer == layer.id).map(|y| y.to);
    layer.on_plants.into_iter().chain(looked).chain(yields)
}

impl Document {
    /// What decides who yields to whom.
    pub(crate) fn claimants(&self) -> Claimants {
        let claimant = |l: &Layer| Claimant {
            id: l.id,
            rank: rank(self, l),
            clears: l.clearance.others.is_on(),
            on_plants: l.on_plants,
            grounds: self.grounds_of(l),
            looks_at: looks_at(self, l).collect(),
        };
        let mut layers: Vec<Claimant> = self.layers.iter().map(claimant).collect();
        layers.sort_by_key(|l| l.rank);
        Claimants { layers, yields: self.yields.clone() }
    }

    /// Works out who yields to whom. Of two layers that both keep clear of others, the lower in the profile yields to the higher, and
    /// plants to stones, unless the table says otherwise or the one that would claim looks at the other, directly or through
    /// more layers: then it has to grow later, and neither yields.
    pub fn claims(&self) -> Claims {
        self.claimants().claims()
    }

    /// The layers that must grow before a layer, each after those that it itself waits for: with a cap on the scene all that are
    /// served before it.
    pub fn grows_after(&self, layer: LayerId) -> Vec<LayerId> {
        let claims = self.claims();
        if self.cap.is_none() {
            return claims.grows_after(self, layer);
        }
        let mut served = claims.served(self);
        served.truncate(served.iter().position(|id| *id == layer).unwrap_or(0));
        served
    }
}

impl Claimants {
    /// Who yields to whom, see [`Document::claims`].
    pub(crate) fn claims(&self) -> Claims {
        let layers = &self.layers;
        let place: FxHashMap<LayerId, usize> = layers.iter().enumerate().map(|(i, l)| (l.id, i)).collect();
        let mut waits = Reachable::new(layers.len());
        for (i, layer) in layers.iter().enumerate() {
            layer.looks_at.iter().filter_map(|id| place.get(id)).for_each(|other| waits.add(i, *other));
        }
        let mut over: Vec<Vec<usize>> = vec![Vec::new(); layers.len()];
        for low in 0..layers.len() {
            // The nearest above comes first: what it waits for is then waited for already. The order changes nothing else, for no way
            // that begins at `low` makes another come to it.
            for high in (0..low).rev().chain(low + 1..layers.len()) {
                if low == high || !layers[low].meets(&layers[high]) {
                    continue;
                }
                let said = self.yields.iter().find(|y| y.is_of(layers[low].id, layers[high].id));
                let yields = match said {
                    Some(y) => y.yields && y.layer == layers[low].id,
                    None => high < low && !waits.reaches(high, low),
                };
                if yields {
                    waits.add(low, high);
                    over[low].push(high);
                }
            }
        }
        let by_rank = |mut list: Vec<usize>| {
            list.sort_unstable();
            list.into_iter().map(|i| layers[i].id).collect()
        };
        Claims(layers.iter().map(|l| l.id).zip(over.into_iter().map(by_rank)).collect())
    }
}

impl Claimant {
    /// Whether two layers may be in each other's way.
    fn meets(&self, other: &Self) -> bool {
        // Moss keeps clear of no boulder that it grows on.
        let apart = self.on_plants == Some(other.id) || other.on_plants == Some(self.id);
        let anywhere = self.on_plants.is_some() || other.on_plants.is_some();
        let share_ground = || self.grounds.iter().any(|g| other.grounds.contains(g));
        self.clears && other.clears && !apart && (anywhere || share_ground())
    }
}

/// Adds a layer to a list after all that it waits for. Documents hold no layers that wait for one another, so this ends.
fn visit(document: &Document, claims: &Claims, id: LayerId, done: &mut Vec<LayerId>) {
    let Some(layer) = document.layer(id).filter(|_| !done.contains(&id)) else { return };
    for other in looks_at(document, layer).chain(claims.over(id).iter().copied()) {
        visit(document, claims, other, done);
    }
    done.push(id);
}

impl Claims {
    /// The layers that must grow before a layer, each after those that it itself waits for, whatever cap the scene has.
    pub(crate) fn grows_after(&self, document: &Document, layer: LayerId) -> Vec<LayerId> {
        let mut done = Vec::new();
        visit(document, self, layer, &mut done);
        done.retain(|id| *id != layer);
        done
    }

    /// All layers in the order in which the cap of a scene is given to them.
    pub(crate) fn served(&self, document: &Document) -> Vec<LayerId> {
        let mut order = Vec::new();
        self.order().for_each(|id| visit(document, self, id, &mut order));
        order
    }
}

/// What can be reached from what, kept true as ways are added.
struct Reachable {
    words: usize,
    /// For each, what it reaches.
    to: Vec<u64>,
    /// For each, what reaches it.
    from: Vec<u64>,
}

impl Reachable {
    fn new(count: usize) -> Self {
        let words = count.div_ceil(64).max(1);
        Self { words, to: vec![0; words * count], from: vec![0; words * count] }
    }

    fn reaches(&self, from: usize, to: usize) -> bool {
        self.to[from * self.words + to / 64] >> (to % 64) & 1 == 1
    }

    fn add(&mut self, from: usize, to: usize) {
        if self.reaches(from, to) {
            return;
        }
        let row = |list: &[u64], i: usize, words: usize| {
            let mut row = list[i * words..(i + 1) * words].to_vec();
            row[i / 64] |= 1 << (i % 64);
            row
        };
        // All that comes to `from`, and itself, comes to all that `to` comes to, and to it.
        let gained = row(&self.to, to, self.words);
        let gaining = row(&self.from, from, self.words);
        spread(&mut self.to, &gaining, &gained, self.words);
        spread(&mut self.from, &gained, &gaining, self.words);
    }
}

/// Adds `what` to the rows of all that are set in `rows`.
fn spread(list: &mut [u64], rows: &[u64], what: &[u64], words: usize) {
    for (word, bits) in rows.iter().enumerate() {
        let mut left = *bits;
        while left != 0 {
            let i = word * 64 + left.trailing_zeros() as usize;
            left &= left - 1;
            let own = &mut list[i * words..(i + 1) * words];
            own.iter_mut().zip(what).for_each(|(o, w)| *o |= w);
        }
    }
}
