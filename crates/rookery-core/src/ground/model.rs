//! A ground with everything that is read off it, made once and shared.

use super::{Terrain, analysis, colour};
use crate::habitat::Histogram;

/// A terrain, its slopes, its colours and the histograms that response curves are drawn over.
#[derive(Debug)]
pub struct GroundModel {
    /// The surface itself.
    pub terrain: Terrain,
    /// Slope by Horn at every sample, degrees.
    pub slope_deg: Vec<f32>,
    /// Reflectance at every sample, linear RGB.
    pub colours: Vec<[f32; 3]>,
    /// Height of the water, metres, if there is any.
    pub water_m: Option<f32>,
    /// How the plan area is spread over slope, degrees.
    pub slope_histogram: Histogram,
    /// How the plan area is spread over altitude, metres.
    pub altitude_histogram: Histogram,
}

impl GroundModel {
    /// Reads a terrain. `seed` only varies its colouring.
    pub fn new(terrain: Terrain, water_m: Option<f32>, seed: u32) -> Self {
        let slope_deg = analysis::slope_deg(&terrain);
        let colours = colour::ground_colours(&terrain, &slope_deg, water_m, seed);
        let (low, high) = terrain.height_range_m();
        let slope_histogram = Histogram::of(&terrain, &slope_deg, 0.0, 90.0);
        let altitude_histogram = Histogram::of(&terrain, terrain.heights_zx(), low, high.max(low + 1e-3));
        Self { terrain, slope_deg, colours, water_m, slope_histogram, altitude_histogram }
    }

    /// Slope at a located point, degrees, interpolated between samples.
    #[inline]
    pub fn slope_in(&self, p: super::terrain::CellPoint) -> f32 {
        let nx = self.terrain.nx();
        let s = &self.slope_deg;
        let north = s[p.index] + (s[p.index + 1] - s[p.index]) * p.fx;
        let south = s[p.index + nx] + (s[p.index + nx + 1] - s[p.index + nx]) * p.fx;
        north + (south - north) * p.fz
    }
}
