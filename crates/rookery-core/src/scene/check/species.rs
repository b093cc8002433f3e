//! What a species may be.

use super::{Document, Refusal, count, name, within};
use crate::nursery::{Colours, Imported, Plan, Season, Species};
use crate::scene::SpeciesId;

const MAX_TAGS: usize = 12;
/// Parts of a file that are named one by one.
const MAX_PARTS: usize = 256;
const MAX_SPECIES: usize = 200;

/// Checks a species.
///
/// # Errors
/// The first thing found wrong.
pub fn species(species: &Species) -> Result<(), Refusal> {
    let id = &species.id.0;
    let plain = |b: u8| b.is_ascii_lowercase() || b.is_ascii_digit() || b == b'-';
    if id.is_empty() || id.len() > 60 || !id.bytes().all(plain) {
        return Err(Refusal::BadSpeciesId { id: id.chars().take(80).collect() });
    }
    name("the species' name", &species.name)?;
    name("the species' plural", &species.plural)?;
    count("tags", species.tags.len(), MAX_TAGS)?;
    for tag in &species.tags {
        if tag.trim().is_empty() || tag.chars().count() > 30 {
            return Err(Refusal::BadName { field: "a tag", length: tag.chars().count() });
        }
    }
    within("forms", f32::from(species.forms), 1.0, 32.0, "")?;
    for (setting, value) in species.plan.settings().iter().zip(species.plan.numbers()) {
        let unit = match setting.unit {
            "m" => " m",
            "mm" => " mm",
            other => other,
        };
        within(setting.label, value, setting.low, setting.high, unit)?;
    }
    if let Plan::Imported(i) = &species.plan {
        imported(i)?;
    }
    colours(&species.colours)?;
    within("evergreen", species.year.evergreen, 0.0, 1.0, "")?;
    within("the flowering season", species.year.flowers_at, 0.0, Season::LAST, "")?;
    within("how long it flowers", species.year.flowers_for, 0.1, Season::LAST, " seasons")?;
    if let Some(s) = &species.sways {
        within("stiffness", s.stiffness, 0.1, 10.0, " times")?;
        within("damping", s.damping, 0.05, 1.0, "")?;
        within("how far it may bend", s.most_deg, 1.0, 80.0, " degrees")?;
        within("what of it stays lying", s.lodging, 0.0, 1.0, "")?;
    }
    species.season.map_or(Ok(()), season)
}

fn imported(i: &Imported) -> Result<(), Refusal> {
    super::blob(&i.blob)?;
    name("the file's name", &i.name)?;
    within("the unit of a mesh", i.placing.unit_m, 1e-6, 10_000.0, " m")?;
    count("parts", i.parts.len(), MAX_PARTS)?;
    within("height as the file has it", i.tall_m, 1e-5, 1e5, " m")?;
    within("radius as the file has it", i.wide_m, 1e-5, 1e5, " m")
}

fn colours(c: &Colours) -> Result<(), Refusal> {
    for colour in [c.root, c.leaf, c.tip, c.old, c.wood, c.flower, c.eye] {
        for channel in colour {
            within("a colour's share", channel, 0.0, 1.0, "")?;
        }
    }
    within("spread of tones", c.spread, 0.0, 1.0, "")?;
    within("light through leaves", c.through, 0.0, 1.0, "")?;
    within("sheen", c.sheen, 0.0, 1.0, "")?;
    within("glow", c.glow, 0.0, 20.0, "")
}

/// Checks a season.
///
/// # Errors
/// When it is not from 0 to 4.
pub fn season(season: Season) -> Result<(), Refusal> {
    within("the season", season.0, 0.0, Season::LAST, "")
}

/// Checks that there are not too many species and no two of one id.
pub(in crate::scene) fn own_species(document: &Document) -> Result<(), Refusal> {
    count("species", document.species.len(), MAX_SPECIES)?;
    for (i, s) in document.species.iter().enumerate() {
        species(s)?;
        if document.species[..i].iter().any(|other| other.id == s.id) {
            return Err(Refusal::SpeciesTaken { id: s.id.0.clone() });
        }
    }
    season(document.season)
}

/// Whether every layer still has its species.
pub(in crate::scene) fn still_there(document: &Document, id: &SpeciesId) -> Result<(), Refusal> {
    let user = document.layers.iter().find(|l| l.grows(id));
    match user {
        Some(layer) if document.species(id).is_none() => {
            Err(Refusal::SpeciesInUse { id: id.0.clone(), layer: layer.name.clone() })
        }
        _ => Ok(()),
    }
}
