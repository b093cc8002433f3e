//! The Needle Arch: a closed mesh with overhangs, standing in the sea.

use super::moving::breaking_loose;
use super::{boulders, growing, marram, mask, through_the_marram};
use crate::nursery::{EDITION, Season};
use crate::scene::*;

const ARCH: GroundId = GroundId(1);

/// The Needle Arch: a sea arch of layered rock with a needle beside it, grass on its back and blocks at its foot.
pub fn needle_arch() -> Document {
    let seabed = NoiseGround {
        size_m: 180.0,
        relief_m: 11.0,
        feature_m: 70.0,
        ruggedness: 0.6,
        coast: 0.0,
        seed: 5,
        samples: 181,
        ..NoiseGround::default()
    };
    let shot = |id, name: &str, eye_m, target_m| Shot {
        id: ShotId(id),
        name: name.to_owned(),
        eye_m,
        target_m,
        sun_azimuth_deg: 205.0,
        sun_elevation_deg: 31.0,
        ..through_the_marram()
    };
    Document {
        schema: SCHEMA,
        edition: EDITION,
        epoch: EPOCH,
        name: "The Needle Arch".to_owned(),
        ground: Ground {
            source: GroundSource::Noise(seabed),
            water_m: Some(8.0),
            absent: false,
            ends: false,
            bare: Vec::new(),
            earths: Earths { cover: Earth::Shingle, steep: Earth::Rock, ..Earths::default() },
            strokes: Vec::new(),
        },
        grounds: vec![PlacedGround {
            id: ARCH,
            name: "The Needle Arch".to_owned(),
            source: PlacedSource::Arch(ArchGround::default()),
            x_m: 0.0,
            y_m: 5.0,
            z_m: 0.0,
            turn_deg: 20.0,
            scale: 1.0,
            upright: Upright::Gravity,
            earths: Earths { steep_deg: 46.0, shore: Earth::Rock, shore_m: 2.0, ..Earths::default() },
            strokes: Vec::new(),
            hidden: false,
            moves: None,
        }],
        waters: Vec::new(),
        species: Vec::new(),
        season: Season::SUMMER,
        zones: Vec::new(),
        paints: Vec::new(),
        pictures: Vec::new(),
        earth_pictures: Vec::new(),
        shares: Vec::new(),
        blowers: Vec::new(),
        bodies: vec![breaking_loose()],
        outlines: Vec::new(),
        obstacles: Vec::new(),
        layers: [
            Layer {
                name: "Grass on its back".to_owned(),
                mix: all_of(SpeciesId("fescue".to_owned())),
                grounds: vec![ARCH],
                amount: Amount::PerM2 { value: 6.0 },
                masks: vec![
                    mask(1, Quantity::Slope, [0.0, 0.0, 38.0, 58.0]),
                    mask(2, Quantity::Altitude, [11.0, 13.0, 40.0, 60.0]),
                ],
                stance: Stance { size: Range { min: 0.7, max: 1.5 }, upright: 0.35, ..marram().stance },
                ..marram()
            },
            Layer {
                name: "Fallen blocks".to_owned(),
                amount: Amount::PerM2 { value: 0.12 },
                masks: vec![
                    mask(1, Quantity::Slope, [0.0, 0.0, 30.0, 48.0]),
                    mask(2, Quantity::Altitude, [5.0, 6.5, 9.5, 12.0]),
                ],
                stance: Stance { size: Range { min: 0.2, max: 1.5 }, ..boulders().stance },
                ..boulders()
            },
        ]
        .into_iter()
        .chain(growing::on_the_arch(ARCH))
        .collect(),
        yields: Vec::new(),
        motion: super::blowing(5.5, 220.0, 0.25, 12.0),
        cap: None,
        shots: vec![
            shot(1, "Through the arch", [25.0, 13.5, 56.0], [1.5, 15.5, 0.0]),
            shot(2, "From the west", [-44.0, 20.0, 34.0], [0.0, 16.0, 0.0]),
        ],
    }
}
