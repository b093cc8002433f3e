//! A ground with everything that is read off it, made once and shared.

use super::colour::Colouring;
use super::sculpt::{Region, apply_stroke};
use super::{Terrain, analysis};
use crate::habitat::Histogram;
use crate::scene::Stroke;

/// A terrain, its slopes, its colours and the histograms that response curves are drawn over.
#[derive(Clone, Debug)]
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
    /// Varies the colouring.
    seed: u32,
}

impl GroundModel {
    /// Reads a terrain. `seed` only varies its colouring.
    pub fn new(terrain: Terrain, water_m: Option<f32>, seed: u32) -> Self {
        let slope_deg = analysis::slope_deg(&terrain);
        let mut colours = vec![[0.0; 3]; slope_deg.len()];
        Colouring::new(water_m, seed).paint(&terrain, &slope_deg, &Region::whole(&terrain), &mut colours);
        let (slope_histogram, altitude_histogram) = histograms(&terrain, &slope_deg);
        Self { terrain, slope_deg, colours, water_m, slope_histogram, altitude_histogram, seed }
    }

    /// The model after one more stroke, equal to one made anew from the sculpted terrain; only what the stroke
    /// reached is read again.
    pub fn sculpted(&self, stroke: &Stroke) -> Self {
        let mut model = self.clone();
        let region = apply_stroke(&mut model.terrain, stroke);
        if region.is_empty() {
            return model;
        }
        // A slope looks one sample to every side.
        let region = region.grown(1, &model.terrain);
        analysis::slope_deg_in(&model.terrain, &region, &mut model.slope_deg);
        let colouring = Colouring::new(model.water_m, model.seed);
        colouring.paint(&model.terrain, &model.slope_deg, &region, &mut model.colours);
        (model.slope_histogram, model.altitude_histogram) = histograms(&model.terrain, &model.slope_deg);
        model
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

fn histograms(terrain: &Terrain, slope_deg: &[f32]) -> (Histogram, Histogram) {
    let (low, high) = terrain.height_range_m();
    (
        Histogram::of(terrain, slope_deg, 0.0, 90.0),
        Histogram::of(terrain, terrain.heights_zx(), low, high.max(low + 1e-3)),
    )
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ground::noise_terrain;
    use crate::scene::{NoiseGround, SculptTool, StrokeId};

    #[test]
    fn a_stroke_on_a_model_gives_the_model_of_the_sculpted_terrain() {
        let settings = NoiseGround { samples: 129, ..NoiseGround::default() };
        let mut model = GroundModel::new(noise_terrain::build(&settings).unwrap(), Some(0.0), 4);
        for (i, tool) in [SculptTool::Raise, SculptTool::Smooth, SculptTool::Flatten, SculptTool::Lower]
            .into_iter()
            .enumerate()
        {
            let at = i as f32 * 40.0 - 118.0;
            let stroke = Stroke {
                id: StrokeId(i as u32),
                tool,
                radius_m: 25.0,
                strength: 0.9,
                falloff: 0.4,
                points: vec![[at, -at], [at + 30.0, 10.0]],
            };
            model = model.sculpted(&stroke);
            let anew = GroundModel::new(model.terrain.clone(), Some(0.0), 4);
            assert_eq!(model.slope_deg, anew.slope_deg);
            assert_eq!(model.colours, anew.colours);
            assert_eq!(model.slope_histogram, anew.slope_histogram);
            assert_eq!(model.altitude_histogram, anew.altitude_histogram);
        }
    }
}
