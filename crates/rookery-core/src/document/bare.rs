//! A scene to begin with.

use super::*;
use crate::nursery::{EDITION, Season};

/// A ground and a shot with nothing on it yet.
pub fn bare() -> Document {
    let ground =
        NoiseGround { coast: 0.0, relief_m: 12.0, size_m: 120.0, samples: 121, ..NoiseGround::default() };
    Document {
        schema: SCHEMA,
        edition: EDITION,
        epoch: EPOCH,
        name: "New scene".to_owned(),
        ground: Ground {
            source: GroundSource::Noise(ground),
            water_m: None,
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
        blowers: Vec::new(),
        bodies: Vec::new(),
        outlines: Vec::new(),
        obstacles: Vec::new(),
        layers: Vec::new(),
        yields: Vec::new(),
        cap: None,
        shots: vec![Shot {
            id: ShotId(1),
            name: "The whole ground".to_owned(),
            eye_m: [55.0, 60.0, 105.0],
            target_m: [0.0, 5.0, 0.0],
            view_deg: 42.0,
            sun_azimuth_deg: 236.0,
            sun_elevation_deg: 34.0,
            overcast: 0.1,
            clouds: 0.0,
            width_px: 640,
            height_px: 360,
            samples: 16,
        }],
        motion: Motion::default(),
    }
}
