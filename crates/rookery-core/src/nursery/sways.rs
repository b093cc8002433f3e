//! How a species answers the wind and what presses it down, as an artist sets it.

use super::{Kind, Species};
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// How a species answers the wind and what presses it down.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Sways {
    /// Times as stiff as its stems are by what they are made of, 0.1 to 10.
    pub stiffness: f32,
    /// Share of critical damping, 0.05 to 1: how soon it comes to rest.
    pub damping: f32,
    /// How far its tip may be turned by the wind, degrees, 1 to 80.
    pub most_deg: f32,
    /// Share of how far it was pressed down that it keeps, 0 to 1.
    pub lodging: f32,
}

impl Kind {
    /// What its species do unless they say otherwise. Damping: rounded values of reviews (de Langre, "Effects of wind on plants", Annu.
    /// Rev. Fluid Mech. 40, 2008), from memory; what stays lying by eye.
    pub fn sways(self) -> Sways {
        let (damping, most_deg, lodging) = match self {
            Self::Grass => (0.13, 80.0, 0.2),
            Self::Herb => (0.12, 68.75, 0.4),
            Self::Fern => (0.15, 57.3, 0.3),
            Self::Shrub => (0.12, 28.65, 0.1),
            Self::Broadleaf => (0.10, 22.9, 0.0),
            Self::Conifer => (0.08, 22.9, 0.0),
            Self::Cushion | Self::Rock | Self::Debris | Self::Floating => (0.12, 45.8, 0.0),
        };
        Sways { stiffness: 1.0, damping, most_deg, lodging }
    }
}

impl Species {
    /// How it answers the wind: its own way, or that of its kind.
    pub fn sways_as(&self) -> Sways {
        self.sways.unwrap_or(self.kind.sways())
    }
}
