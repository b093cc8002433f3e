//! The plant table: one row a plant, as CSV by RFC 4180.

use crate::Handoff;
use csv::{Terminator, WriterBuilder};
use rookery_core::nursery::Species;
use std::io::Write;

/// Head of the table. An id is one plant's within its layer and ground (0 is the land). Places in metres (Y up, +X east, -Z north), rotations as unit quaternions. `tall` and `deep` are height
/// and depth against size; `colour` is what its colours are multiplied with, red, green, blue. `footprint_m` and `crown_m` are how far its base and its crown reach from its stem, as
/// it stands; `map_east_m` and `map_north_m` say where it stands on the map that the land's file speaks of, or from the land's middle where none does.
pub const COLUMNS: [&str; 22] = [
    "layer",
    "species",
    "form",
    "id",
    "x_m",
    "y_m",
    "z_m",
    "qx",
    "qy",
    "qz",
    "qw",
    "size",
    "turn_deg",
    "tint",
    "tall",
    "deep",
    "colour",
    "ground",
    "footprint_m",
    "crown_m",
    "map_east_m",
    "map_north_m",
];

/// Writes all plants of all layers.
///
/// # Errors
/// When the writer fails.
pub fn write_csv(handoff: &Handoff<'_>, out: impl Write) -> Result<(), csv::Error> {
    let mut csv = WriterBuilder::new().terminator(Terminator::CRLF).from_writer(out);
    csv.write_record(COLUMNS)?;
    let [east, north] = handoff.document.map_middle_m();
    for grown in &handoff.layers {
        for p in grown.plants {
            let species = grown.layer.mix.get(usize::from(p.species)).map_or("", |m| m.species.0.as_str());
            let own = handoff.document.species_of(grown.layer, p);
            let widest = p.size * p.stretch[1].max(1.0);
            let reach = |of: fn(&Species) -> f32| own.map_or(0.0, of) * widest;
            let (at, q) = (p.position_m, p.rotation);
            csv.serialize((
                (&grown.layer.name, species, p.form),
                format_args_id(p.id.0),
                (at.x, at.y, at.z),
                (q.x, q.y, q.z, q.w),
                p.size,
                turn_deg(q),
                p.tint,
                (p.stretch[0], p.stretch[1], colour(p.colour)),
                p.ground.0,
                (reach(Species::footprint_m), reach(Species::radius_m)),
                (to_mm(east + f64::from(at.x)), to_mm(north - f64::from(at.z))),
            ))?;
        }
    }
    csv.flush()?;
    Ok(())
}

/// A coordinate on a map to the millimetre; places in the scene are no finer there.
fn to_mm(m: f64) -> f64 {
    (m * 1000.0).round() / 1000.0
}

/// Ids are 64 bits: written in hexadecimal so that spreadsheets do not round them.
fn format_args_id(id: u64) -> String {
    format!("{id:016x}")
}

/// What its colours are multiplied with, red, green and blue, as text.
fn colour(c: [u8; 3]) -> String {
    c.map(|c| format!("{}", f32::from(c) / 128.0)).join(" ")
}

/// Degrees clockwise from north, 0 to 360, of where the plant's own north points.
fn turn_deg(q: glam::Quat) -> f32 {
    let north = q * glam::Vec3::NEG_Z;
    north.x.atan2(-north.z).to_degrees().rem_euclid(360.0)
}
