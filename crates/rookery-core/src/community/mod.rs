//! Communities: layers that belong together, dropped whole on a ground and ordinary layers from then on.

mod forecast;
mod ready;

pub use forecast::{Forecast, LayerForecast, forecast};
pub use ready::ready_communities;

use crate::document::{BlobId, Document, GroundId, Layer, LayerId, MixPart, SpeciesId};
use crate::nursery::{Plan, Species};
use crate::scene::{Command, Refusal, check_document, check_species};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// A set of layers, with the species they need that are not ready ones. Without any layer it is a set of species.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Community {
    /// For people, 1 to 80 characters.
    pub name: String,
    /// Where it belongs, in a sentence; at most 400 characters.
    #[serde(default)]
    pub about: String,
    /// Species that are not ready ones, or not as those are.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub species: Vec<Species>,
    /// Its layers, upper profile first. Their ids count only within the community; zones and grounds are left behind.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub layers: Vec<Layer>,
    /// In a file: the files of its imported species by their hash, in base64. Empty where those are kept elsewhere.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub files: BTreeMap<String, String>,
}

/// Takes layers of a scene as a community. Masks that look at a zone stay behind, since the zone does.
pub fn of_layers(document: &Document, layers: &[LayerId], name: &str, about: &str) -> Community {
    let taken = document.layers.iter().filter(|l| layers.contains(&l.id));
    let layers: Vec<Layer> = taken
        .map(|l| Layer {
            grounds: Vec::new(),
            on_plants: None,
            // What was set by hand belongs to its place.
            tended: Vec::new(),
            drifts: Vec::new(),
            locked: false,
            visible: true,
            masks: l.masks.iter().filter(|m| m.zone.is_none()).copied().collect(),
            ..l.clone()
        })
        .collect();
    let needed = document.species.iter().filter(|s| layers.iter().any(|l| l.grows(&s.id)));
    let species = needed.cloned().collect();
    Community { name: name.to_owned(), about: about.to_owned(), species, layers, files: BTreeMap::new() }
}

impl Community {
    /// Checks a community read from a file.
    ///
    /// # Errors
    /// The first thing found wrong.
    pub fn check(&self) -> Result<(), Refusal> {
        for species in &self.species {
            check_species(species)?;
        }
        if self.about.chars().count() > 400 {
            return Err(Refusal::TooMany {
                what: "characters about it",
                count: self.about.chars().count(),
                limit: 400,
            });
        }
        // As the only content of a scene it is held to all that scenes are.
        let mut alone = crate::document::bare();
        alone.name.clone_from(&self.name);
        (alone.layers, alone.species) = (self.layers.clone(), self.species.clone());
        check_document(&alone)
    }

    /// The files that its species are read from: hash and name.
    pub fn needs(&self) -> Vec<(&BlobId, &str)> {
        let imported = self.species.iter().filter_map(|s| match &s.plan {
            Plan::Imported(i) => Some((&i.blob, i.name.as_str())),
            _ => None,
        });
        imported.collect()
    }

    /// The change that drops it on a ground of a scene, or on all of them: its species that the scene lacks, then its layers
    /// on top of the profile, with names of their own.
    pub fn dropped(&self, document: &Document, ground: Option<GroundId>) -> Command {
        let mut commands = Vec::new();
        let mut named = Vec::<(SpeciesId, SpeciesId)>::new();
        for species in &self.species {
            match document.species.iter().find(|s| s.id == species.id) {
                Some(own) if own == species => {}
                // The scene means another species by that name, or grows the ready one: both are kept apart.
                _ => {
                    let id = free_id(document, &species.id, &named);
                    named.push((species.id.clone(), id.clone()));
                    let value = Box::new(Species { id, ..species.clone() });
                    commands.push(Command::PutSpecies { value, place: None });
                }
            }
        }
        let first = document.layers.iter().map(|l| l.id.0).max().unwrap_or(0);
        for (i, layer) in self.layers.iter().enumerate() {
            let own = |id: &SpeciesId| {
                let renamed = named.iter().find(|(old, _)| old == id);
                renamed.map_or_else(|| id.clone(), |(_, new)| new.clone())
            };
            let mix = layer.mix.iter().map(|m| MixPart { species: own(&m.species), share: m.share });
            let layer = Layer {
                id: LayerId(first + 1 + i as u32),
                name: free_name(document, &layer.name),
                mix: mix.collect(),
                grounds: ground.into_iter().collect(),
                // Two drops of one community do not stand on each other.
                seed: layer.seed.wrapping_add(first.wrapping_mul(0x9E37)),
                ..layer.clone()
            };
            commands.push(Command::AddLayer { layer, place: i as u32 });
        }
        Command::All { commands }
    }
}

fn free_id(document: &Document, wanted: &SpeciesId, named: &[(SpeciesId, SpeciesId)]) -> SpeciesId {
    let taken = |id: &SpeciesId| document.species(id).is_some() || named.iter().any(|(_, new)| new == id);
    if !taken(wanted) {
        return wanted.clone();
    }
    let stem: String = wanted.0.chars().take(50).collect();
    let mut numbered = (2..).map(|n| SpeciesId(format!("{stem}-{n}")));
    numbered.find(|id| !taken(id)).expect("a scene has fewer species than there are numbers")
}

fn free_name(document: &Document, wanted: &str) -> String {
    let taken = |name: &str| document.layers.iter().any(|l| l.name == name);
    if !taken(wanted) {
        return wanted.to_owned();
    }
    let stem: String = wanted.chars().take(70).collect();
    let mut numbered = (2..).map(|n| format!("{stem} {n}"));
    numbered.find(|name| !taken(name)).expect("a scene has fewer layers than there are numbers")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::bare;
    use crate::scene::{apply, kittiwake_head};

    #[test]
    fn every_ready_community_can_be_dropped_and_taken_back() {
        let before = bare();
        for c in ready_communities() {
            c.check().unwrap_or_else(|why| panic!("{}: {why}", c.name));
            let applied = apply(&before, &c.dropped(&before, None)).unwrap();
            assert_eq!(applied.document.layers.len(), c.layers.len(), "{}", c.name);
            assert_eq!(apply(&applied.document, &applied.inverse).unwrap().document, before, "{}", c.name);
        }
        assert!(ready_communities().len() >= 6);
    }

    #[test]
    fn dropped_twice_it_has_layers_of_other_names_and_arrangements() {
        let c = &ready_communities()[0];
        let once = apply(&bare(), &c.dropped(&bare(), None)).unwrap().document;
        let twice = apply(&once, &c.dropped(&once, Some(GroundId::LAND))).unwrap().document;
        let n = c.layers.len();
        assert_eq!(twice.layers.len(), 2 * n);
        for (new, old) in twice.layers[..n].iter().zip(&twice.layers[n..]) {
            assert!(new.name != old.name && new.seed != old.seed && new.id != old.id);
            assert_eq!(new.grounds, [GroundId::LAND]);
        }
    }

    #[test]
    fn layers_taken_from_a_scene_bring_their_edited_species_and_keep_them_apart() {
        let mut scene = kittiwake_head();
        let mut gorse = scene.species(&SpeciesId("gorse".into())).unwrap().clone();
        gorse.forms = 3;
        scene = apply(&scene, &Command::PutSpecies { value: Box::new(gorse.clone()), place: None })
            .unwrap()
            .document;
        let layer = scene.layers.iter().find(|l| l.lead().0 == "gorse").unwrap();
        let c = of_layers(&scene, &[layer.id], "Scrub", "");
        c.check().unwrap();
        assert_eq!((c.layers.len(), &c.species), (1, &vec![gorse]));
        assert!(c.layers[0].masks.iter().all(|m| m.zone.is_none()));
        // Where the scene has the same species nothing is added; elsewhere it comes under a name of its own.
        let again = apply(&scene, &c.dropped(&scene, None)).unwrap().document;
        assert_eq!(again.species.len(), 1);
        let fresh = apply(&bare(), &c.dropped(&bare(), None)).unwrap().document;
        assert_eq!(
            (fresh.species[0].id.0.as_str(), fresh.layers[0].lead().0.as_str()),
            ("gorse-2", "gorse-2")
        );
    }
}
