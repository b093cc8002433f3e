//! Scenes to begin from.

mod growing;
mod headland;
mod moving;
mod needle;

pub use needle::needle_arch;

use crate::document::*;
use crate::nursery::{BOULDER, EDITION, MARRAM, Season};
use crate::scene::EPOCH;

/// Kittiwake Head: a sea headland of 240 x 240 m with cliffs to the west and a cove, marram and boulders.
pub fn kittiwake_head() -> Document {
    Document {
        schema: SCHEMA,
        edition: EDITION,
        epoch: EPOCH,
        name: "Kittiwake Head".to_owned(),
        ground: Ground {
            source: GroundSource::Noise(NoiseGround::default()),
            water_m: Some(0.0),
            absent: false,
            ends: false,
            bare: Vec::new(),
            earths: Earths::default(),
            strokes: vec![headland::burn_bed()],
        },
        grounds: Vec::new(),
        waters: Vec::new(),
        species: Vec::new(),
        season: Season::SUMMER,
        zones: headland::zones(),
        paints: Vec::new(),
        pictures: Vec::new(),
        earth_pictures: Vec::new(),
        shares: Vec::new(),
        blowers: Vec::new(),
        bodies: vec![moving::buoy()],
        outlines: headland::outlines(),
        obstacles: headland::obstacles(),
        layers: [Layer { masks: headland::clear_of_paths(marram().masks), ..marram() }, boulders()]
            .into_iter()
            .chain(growing::on_the_headland())
            .collect(),
        yields: Vec::new(),
        motion: sea_wind(),
        cap: None,
        shots: vec![through_the_marram(), from_the_cove(), over_the_head(), the_keepers_garth()],
    }
}

/// A fresh wind in from the sea, in gusts that run up over the turf.
fn sea_wind() -> Motion {
    blowing(7.5, 255.0, 0.28, 22.0)
}

/// A wind of so many m/s from a direction, with gusts of a strength and of a size in metres.
pub(super) fn blowing(speed_m_per_s: f32, from_deg: f32, strength: f32, size_m: f32) -> Motion {
    let gusts = GustSettings { strength, size_m, ..GustSettings::default() };
    Motion { wind: Wind { speed_m_per_s, from_deg, gusts }, ..Motion::default() }
}

/// Tarn Moraine: a glacial boulder field of 400 x 400 m between ridges, about a small lake.
pub fn tarn_moraine() -> Document {
    let ground = NoiseGround {
        size_m: 400.0,
        relief_m: 46.0,
        feature_m: 190.0,
        ruggedness: 0.5,
        ridges: 0.12,
        valleys: 0.35,
        coast: 0.0,
        seed: 24,
        samples: 401,
        ..NoiseGround::default()
    };
    let shot = Shot {
        id: ShotId(1),
        name: "Over the tarn".to_owned(),
        eye_m: [-6.0, 34.0, 118.0],
        target_m: [-88.0, 17.0, 4.0],
        ..through_the_marram()
    };
    Document {
        schema: SCHEMA,
        edition: EDITION,
        epoch: EPOCH,
        name: "Tarn Moraine".to_owned(),
        ground: Ground {
            source: GroundSource::Noise(ground),
            water_m: Some(16.8),
            absent: false,
            ends: false,
            bare: Vec::new(),
            earths: Earths::default(),
            strokes: Vec::new(),
        },
        grounds: Vec::new(),
        waters: Vec::new(),
        species: Vec::new(),
        season: Season::SUMMER,
        zones: Vec::new(),
        paints: Vec::new(),
        pictures: Vec::new(),
        earth_pictures: Vec::new(),
        shares: Vec::new(),
        blowers: vec![moving::drone()],
        bodies: Vec::new(),
        outlines: Vec::new(),
        obstacles: Vec::new(),
        layers: [
            Layer {
                name: "Moor grass".to_owned(),
                mix: all_of(SpeciesId("moor-grass".to_owned())),
                amount: Amount::PerM2 { value: 1.4 },
                masks: vec![
                    mask(1, Quantity::Slope, [0.0, 0.0, 22.0, 34.0]),
                    mask(2, Quantity::Altitude, [17.2, 17.8, 34.0, 44.0]),
                ],
                ..marram()
            },
            Layer {
                name: "Erratics".to_owned(),
                amount: Amount::PerM2 { value: 0.012 },
                masks: vec![
                    mask(1, Quantity::Slope, [0.0, 0.0, 24.0, 40.0]),
                    mask(2, Quantity::Altitude, [15.0, 16.0, 44.0, 60.0]),
                ],
                stance: Stance { size: Range { min: 0.5, max: 2.6 }, ..boulders().stance },
                ..boulders()
            },
        ]
        .into_iter()
        .chain(growing::on_the_moraine())
        .collect(),
        yields: Vec::new(),
        motion: blowing(4.5, 300.0, 0.3, 15.0),
        cap: None,
        shots: vec![shot],
    }
}

fn mask(id: u32, quantity: Quantity, band: [f32; 4]) -> Mask {
    Mask::band(MaskId(id), quantity, band)
}

fn marram() -> Layer {
    Layer {
        id: LayerId(1),
        name: "Marram".to_owned(),
        mix: all_of(SpeciesId(MARRAM.to_owned())),
        grounds: Vec::new(),
        on_plants: None,
        visible: true,
        locked: false,
        seed: 1,
        pattern: Pattern::Even,
        amount: Amount::PerM2 { value: 2.4 },
        cap: 1_000_000,
        masks: vec![
            mask(1, Quantity::Slope, [0.0, 0.0, 27.0, 38.0]),
            mask(2, Quantity::Altitude, [1.2, 2.4, 9.0, 14.0]),
        ],
        stance: Stance {
            size: Range { min: 0.75, max: 1.3 },
            turn_deg: Range { min: 0.0, max: 360.0 },
            tilt_deg: 6.0,
            upright: 0.2,
            sink_m: 0.03,
            ..Stance::default()
        },
        tint: Tint::default(),
        rows: Rows::default(),
        clumps: Clumps::default(),
        clearance: Clearance::usual(),
        tended: Vec::new(),
        drifts: Vec::new(),
        kept_seeds: Vec::new(),
        group: None,
        show_as: ShowAs::Auto,
        wind_share: 1.0,
    }
}

fn boulders() -> Layer {
    Layer {
        id: LayerId(2),
        name: "Boulders".to_owned(),
        mix: all_of(SpeciesId(BOULDER.to_owned())),
        grounds: Vec::new(),
        on_plants: None,
        visible: true,
        locked: false,
        seed: 5,
        pattern: Pattern::Random,
        amount: Amount::PerM2 { value: 0.035 },
        cap: 200_000,
        masks: vec![
            mask(1, Quantity::Slope, [0.0, 0.0, 40.0, 55.0]),
            mask(2, Quantity::Altitude, [-1.0, 0.2, 6.0, 24.0]),
        ],
        stance: Stance {
            size: Range { min: 0.25, max: 1.6 },
            turn_deg: Range { min: 0.0, max: 360.0 },
            tilt_deg: 15.0,
            upright: 0.9,
            sink_m: 0.02,
            ..Stance::default()
        },
        tint: Tint::default(),
        rows: Rows::default(),
        clumps: Clumps::default(),
        clearance: Clearance::usual(),
        tended: Vec::new(),
        drifts: Vec::new(),
        kept_seeds: Vec::new(),
        group: None,
        show_as: ShowAs::Auto,
        wind_share: 1.0,
    }
}

fn through_the_marram() -> Shot {
    Shot {
        id: ShotId(1),
        name: "Through the marram".to_owned(),
        eye_m: [40.0, 15.2, 70.0],
        target_m: [-50.0, 12.0, 30.0],
        view_deg: 42.0,
        sun_azimuth_deg: 236.0,
        sun_elevation_deg: 34.0,
        overcast: 0.1,
        clouds: 0.3,
        width_px: 640,
        height_px: 360,
        samples: 16,
    }
}

fn from_the_cove() -> Shot {
    Shot {
        id: ShotId(2),
        name: "From the cove".to_owned(),
        eye_m: [20.0, 6.9, 90.0],
        target_m: [-50.0, 4.7, 45.0],
        ..through_the_marram()
    }
}

fn the_keepers_garth() -> Shot {
    Shot {
        id: ShotId(4),
        name: "The keeper\u{2019}s garth".to_owned(),
        eye_m: [42.0, 27.0, 74.0],
        target_m: [72.0, 17.0, 34.0],
        view_deg: 34.0,
        sun_azimuth_deg: 250.0,
        sun_elevation_deg: 28.0,
        ..through_the_marram()
    }
}

fn over_the_head() -> Shot {
    Shot {
        id: ShotId(3),
        name: "Over the head".to_owned(),
        eye_m: [70.0, 78.0, 190.0],
        target_m: [-22.0, 8.0, 6.0],
        view_deg: 40.0,
        sun_elevation_deg: 42.0,
        ..through_the_marram()
    }
}
