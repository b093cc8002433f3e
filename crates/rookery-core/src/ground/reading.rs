//! What can be read off a ground: one number at every sample, with its unit and how its scale runs.

use super::{Terrain, analysis};
use crate::cancel::{CancelToken, Cancelled};
use crate::ground::Histogram;
use serde::{Deserialize, Serialize};

/// A quantity of the ground's shape.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Reading {
    /// Height above zero, metres.
    Altitude,
    /// Steepness, degrees, 0 to 90.
    Slope,
    /// The way the ground faces, degrees clockwise from north.
    Aspect,
    /// Bend along the steepest way, 1/m: brows above zero, feet of slopes below.
    ProfileCurvature,
    /// Bend across the steepest way, 1/m: spurs above zero, hollows below.
    PlanCurvature,
    /// Topographic wetness index, no unit.
    Wetness,
    /// Share of the sky seen, 0 to 1.
    Openness,
}

/// How a quantity is spread along its scale.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Scale {
    /// From less to more.
    Rising,
    /// To either side of zero.
    AboutZero,
    /// Round a circle: the ends are the same.
    Round,
}

impl Reading {
    /// All of them, in the order they are offered.
    pub const ALL: [Self; 7] = [
        Self::Altitude,
        Self::Slope,
        Self::Aspect,
        Self::ProfileCurvature,
        Self::PlanCurvature,
        Self::Wetness,
        Self::Openness,
    ];

    /// The name in documents, addresses and on the command line.
    pub fn id(self) -> &'static str {
        match self {
            Self::Altitude => "altitude",
            Self::Slope => "slope",
            Self::Aspect => "aspect",
            Self::ProfileCurvature => "profile_curvature",
            Self::PlanCurvature => "plan_curvature",
            Self::Wetness => "wetness",
            Self::Openness => "openness",
        }
    }

    /// The reading with this name.
    pub fn from_id(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|r| r.id() == id)
    }

    /// Its unit as it is written behind a number; empty when it has none.
    pub fn unit(self) -> &'static str {
        match self {
            Self::Altitude => "m",
            Self::Slope | Self::Aspect => "\u{b0}",
            Self::ProfileCurvature | Self::PlanCurvature => "1/m",
            Self::Wetness | Self::Openness => "",
        }
    }

    /// How its scale runs.
    pub fn scale(self) -> Scale {
        match self {
            Self::Aspect => Scale::Round,
            Self::ProfileCurvature | Self::PlanCurvature => Scale::AboutZero,
            _ => Scale::Rising,
        }
    }

    /// Reads it off a terrain, one value per sample, row by row from the north-west.
    ///
    /// # Errors
    /// [`Cancelled`].
    pub fn read_off(self, terrain: &Terrain, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
        Ok(match self {
            Self::Altitude => terrain.heights_zx().to_vec(),
            Self::Slope => analysis::slope_deg(terrain),
            Self::Aspect => analysis::aspect_deg(terrain),
            Self::ProfileCurvature => analysis::profile_curvature_per_m(terrain),
            Self::PlanCurvature => analysis::plan_curvature_per_m(terrain),
            Self::Wetness => analysis::wetness(terrain, cancel)?,
            Self::Openness => analysis::openness(terrain, cancel)?,
        })
    }

    /// From where to where its values are shown. The ends of curvature and wetness leave out the most extreme hundredth, which would
    /// squeeze all the rest together.
    pub(super) fn ends(self, values: &[f32]) -> (f32, f32) {
        let (low, high) = match self {
            Self::Slope if values.iter().any(|v| *v > 90.0) => (0.0, 180.0),
            Self::Slope => (0.0, 90.0),
            Self::Aspect => (0.0, 360.0),
            Self::Openness => (0.0, 1.0),
            Self::Altitude => {
                values.iter().fold((f32::INFINITY, f32::NEG_INFINITY), |(a, b), v| (a.min(*v), b.max(*v)))
            }
            Self::Wetness => (quantile(values, 0.005), quantile(values, 0.995)),
            Self::ProfileCurvature | Self::PlanCurvature => {
                let most = quantile(values, 0.01).abs().max(quantile(values, 0.99).abs()).max(1e-4);
                (-most, most)
            }
        };
        (low, high.max(low + 1e-3 * low.abs().max(1.0)))
    }

    /// How the plan area is spread over values that were read; what lies beyond their ends is counted there.
    pub fn histogram(self, terrain: &Terrain, values: &[f32]) -> Histogram {
        let (low, high) = self.ends(values);
        Histogram::over_samples(terrain, values, low, high)
    }
}

/// The value below which this share of all lies.
fn quantile(values: &[f32], share: f32) -> f32 {
    let mut sorted = values.to_vec();
    let at = (share * (sorted.len() - 1) as f32) as usize;
    *sorted.select_nth_unstable_by(at, f32::total_cmp).1
}

#[cfg(test)]
mod tests {
    use super::*;
    use glam::Vec2;

    #[test]
    fn every_reading_has_a_value_for_every_sample_and_a_histogram_of_the_whole_plan() {
        let n = 24;
        let heights = (0..n * n).map(|i| ((i * 7919) % 97) as f32 * 0.1).collect();
        let terrain = Terrain::new(n, n, Vec2::new(1.0, 1.5), heights).unwrap();
        for reading in Reading::ALL {
            let values = reading.read_off(&terrain, &CancelToken::default()).unwrap();
            assert_eq!(values.len(), n * n, "{reading:?}");
            assert!(values.iter().all(|v| v.is_finite()), "{reading:?}");
            let h = reading.histogram(&terrain, &values);
            let area: f32 = h.areas_m2.iter().sum();
            assert!(h.low < h.high && (area - terrain.plan_area_m2()).abs() < 0.5, "{reading:?}");
            assert_eq!(Reading::from_id(reading.id()), Some(reading));
            assert_eq!(serde_json::to_value(reading).unwrap(), reading.id());
        }
    }

    #[test]
    fn work_that_is_stopped_gives_nothing() {
        let terrain = Terrain::new(64, 64, Vec2::ONE, vec![0.0; 4096]).unwrap();
        let cancel = CancelToken::default();
        cancel.cancel();
        assert_eq!(Reading::Wetness.read_off(&terrain, &cancel), Err(Cancelled));
        assert_eq!(Reading::Openness.read_off(&terrain, &cancel), Err(Cancelled));
    }
}
