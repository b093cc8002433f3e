//! What grows otherwise than before, and which scenes that concerns.

use crate::document::*;
use crate::nursery::{EDITION, Species, remade_since};
use serde::Serialize;

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// A fault that was mended, so that some plants are not where they were.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
pub struct Change {
    /// Its number, see [`EPOCH`].
    pub epoch: u32,
    /// What is otherwise.
    pub what: &'static str,
    /// Why it had to be.
    pub why: &'static str,
}

/// What this program does otherwise than the one that a scene was made with, as far as it concerns the scene.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
pub struct News {
    /// The latest edition of the ready species.
    pub edition: u32,
    /// Names of species that grow in the scene and are otherwise in that edition.
    pub remade: Vec<String>,
    /// The number of the latest change.
    pub epoch: u32,
    /// What grows otherwise, of what the artist does not know yet; the latest first.
    pub changes: Vec<Change>,
}

/// All of them, the latest first.
pub const CHANGES: [Change; 5] = [
    Change {
        epoch: 10,
        what: "Where layers keep clear of one another, the one whose tallest species grows lower gives way",
        why: "A size range or a share of a mix could turn the order round",
    },
    Change {
        epoch: 10,
        what: "Meshes with faces that are there twice hold no more plants than others",
        why: "The ground of such faces counted twice",
    },
    Change {
        epoch: 9,
        what: "Some plants of layers with a total on several grounds, and with masks of openness or hours of sun",
        why: "Area is counted between the samples of a ground, and horizons stepped over walls of one to three samples",
    },
    Change {
        epoch: 8,
        what: "All places of layers that grow on the plants of another",
        why: "One boulder more moved the moss of all the others; moss hangs on its own boulder alone now",
    },
    Change {
        epoch: 7,
        what: "Some plants of layers with a total on several grounds, where another ground was moved under a zone",
        why: "One scene could grow different plants by the way it came about",
    },
];

const _: () = assert!(CHANGES[0].epoch == EPOCH, "a new number needs an entry");

/// Whether each of them is of any concern to a scene.
const CONCERN: [fn(&Document) -> bool; CHANGES.len()] = [
    |d| d.layers.iter().filter(|l| l.clearance.others.is_on()).count() > 1,
    |d| d.grounds.iter().any(|g| matches!(g.source, PlacedSource::Mesh(_))),
    |d| d.layers.iter().any(|l| shares_a_total(d, l) || looks_at_horizons(l)),
    |d| d.layers.iter().any(|l| l.on_plants.is_some()),
    |d| d.layers.iter().any(|l| shares_a_total(d, l)),
];

fn shares_a_total(document: &Document, layer: &Layer) -> bool {
    matches!(layer.amount, Amount::Total { .. }) && document.grounds_of(layer).len() > 1
}

fn looks_at_horizons(layer: &Layer) -> bool {
    layer.masks.iter().any(|m| m.enabled && matches!(m.quantity, Quantity::Openness | Quantity::SunHours))
}

impl Document {
    /// What grows otherwise than when the scene was made, of what its artist does not know yet.
    pub fn changes(&self) -> impl Iterator<Item = &'static Change> {
        let told = CHANGES.iter().zip(CONCERN).filter(|(c, concerns)| c.epoch > self.epoch && concerns(self));
        told.map(|(c, _)| c)
    }

    /// What there is to tell of, see [`News`].
    pub fn news(&self) -> News {
        News {
            edition: EDITION,
            remade: self.remade().map(|s| s.plural.clone()).collect(),
            epoch: EPOCH,
            changes: self.changes().copied().collect(),
        }
    }

    /// The species that grow here and were remade since the scene's edition of the ready ones, as they are today.
    pub fn remade(&self) -> impl Iterator<Item = &'static Species> {
        let grows = |s: &&Species| self.layers.iter().any(|l| l.grows(&s.id));
        let own = |s: &&Species| self.species.iter().any(|own| own.id == s.id);
        remade_since(self.edition).filter(move |s| grows(s) && !own(s))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::scene::kittiwake_head;

    #[test]
    fn a_scene_of_before_is_told_what_concerns_it_until_it_is_known() {
        let mut scene = kittiwake_head();
        assert_eq!(scene.changes().count(), 0);
        scene.epoch = 0;
        let told = |d: &Document| d.changes().map(|c| c.epoch).collect::<Vec<_>>();
        assert_eq!(told(&scene), [10, 8]);
        scene.epoch = 8;
        assert_eq!(told(&scene), [10]);
        scene.layers.truncate(1);
        assert!(told(&scene).is_empty(), "one layer has nothing to give way to");
    }

    #[test]
    fn every_change_is_written_down() {
        let told = include_str!("../../../../docs/changes.md");
        for change in CHANGES {
            let line = format!("| {} | {} | {} |", change.epoch, change.what, change.why);
            assert!(told.contains(&line), "docs/changes.md lacks: {line}");
        }
    }
}
