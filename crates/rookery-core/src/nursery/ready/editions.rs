//! Ready species of before. A scene keeps the edition that it was made with, so that what grows in it stays as it is.

use super::{ready, ready_species};
use crate::names::SpeciesId;
use crate::nursery::Species;
use std::sync::LazyLock;

/// The number of the ready species as they are today. Raised when any is remade: what it was is then kept in `EARLIER`.
pub const EDITION: u32 = 3;

/// Species as they were, each with the last edition that they were so in, and how they were written down.
const EARLIER: [(u32, &str); 2] =
    [(1, include_str!("earlier/scree-1.json")), (2, include_str!("earlier/moor-grass-2.json"))];

static KEPT: LazyLock<Vec<(u32, Species)>> = LazyLock::new(|| {
    let read = |(last, text): (u32, &str)| (last, serde_json::from_str(text).expect("a test reads them all"));
    EARLIER.map(read).into()
});

/// The ready species with this id as an edition has it.
pub fn ready_in(edition: u32, id: &SpeciesId) -> Option<&'static Species> {
    if edition >= EDITION {
        return ready_species(id);
    }
    let earlier = KEPT.iter().filter(|(last, s)| edition <= *last && s.id == *id);
    earlier.min_by_key(|(last, _)| *last).map(|(_, s)| s).or_else(|| ready_species(id))
}

/// The ready species that were remade since an edition, as they are today.
pub fn remade_since(edition: u32) -> impl Iterator<Item = &'static Species> {
    ready()
        .iter()
        .filter(move |now| edition < EDITION && ready_in(edition, &now.id).is_some_and(|then| then != *now))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::scene::check_species;

    #[test]
    fn an_edition_has_each_species_as_it_was_then() {
        let scree = SpeciesId("scree".into());
        let [first, today] = [1, EDITION].map(|edition| ready_in(edition, &scree).unwrap());
        assert_eq!(today, ready_species(&scree).unwrap());
        assert_ne!(first, today);
        assert!(remade_since(1).any(|s| s.id == scree) && remade_since(EDITION).next().is_none());
        for (last, kept) in KEPT.iter() {
            check_species(kept).unwrap();
            assert!(*last < EDITION && ready_in(*last, &kept.id) == Some(kept));
            assert_ne!(ready_species(&kept.id), Some(kept), "it is kept for nothing");
        }
        let marram = SpeciesId("marram".into());
        assert_eq!(ready_in(1, &marram), ready_species(&marram));
    }
}
