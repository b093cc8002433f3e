//! What moves in a scene, and how long it is looked at. Nothing that grows depends on it.

use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// What moves.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Motion {
    /// The wind.
    #[serde(default)]
    pub wind: Wind,
    /// The length of time that is played, and its pictures.
    #[serde(default)]
    pub clock: Clock,
}

impl Motion {
    pub(crate) fn is_still(&self) -> bool {
        *self == Self::default()
    }
}

/// The length of time that is played.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Clock {
    /// Seconds, 0.1 to 3600.
    pub length_s: f32,
    /// Pictures a second, 1 to 120.
    pub frame_rate: f32,
}

impl Default for Clock {
    fn default() -> Self {
        Self { length_s: 10.0, frame_rate: 24.0 }
    }
}

/// A run of frames: numbered from the start of time, so many a second.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Frames {
    /// Number of the first.
    pub first: u32,
    /// Number of the one after the last.
    pub last: u32,
    /// Frames a second.
    pub rate: f32,
}

impl Frames {
    /// Frames of one run, at most.
    pub const MOST: u32 = 3600;

    /// The moment that a frame shows, seconds.
    pub fn time_s(nth: u32, rate: f32) -> f64 {
        f64::from(nth) / f64::from(rate)
    }
}

/// The wind over the whole scene.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Wind {
    /// Mean speed 10 m above open ground, m/s, 0 to 40; 0 is a calm in which nothing moves.
    pub speed_m_per_s: f32,
    /// Where it comes from, degrees clockwise from north, 0 to 360.
    pub from_deg: f32,
    /// Its unrest.
    #[serde(default)]
    pub gusts: GustSettings,
}

impl Default for Wind {
    fn default() -> Self {
        Self { speed_m_per_s: 0.0, from_deg: 250.0, gusts: GustSettings::default() }
    }
}

/// How unquiet the wind is.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct GustSettings {
    /// Standard deviation of its speed against the mean, 0 to 0.6: the intensity of turbulence.
    pub strength: f32,
    /// How large gusts are, metres, 2 to 100: the length scale of turbulence.
    pub size_m: f32,
    /// How quickly a gust becomes another while it travels, 0 to 2; at 0 the pattern travels as it is.
    pub change: f32,
    /// Another number, other gusts.
    pub seed: u32,
}

impl Default for GustSettings {
    fn default() -> Self {
        Self { strength: 0.25, size_m: 20.0, change: 1.0, seed: 1 }
    }
}

/// The share of the wind that a layer takes.
pub(crate) fn all_wind() -> f32 {
    1.0
}

pub(crate) fn is_all_wind(share: &f32) -> bool {
    *share == all_wind()
}
