//! A ground with everything that is read off it, made once and shared.

use super::colour::Colouring;
use super::sculpt::{Region, apply_stroke};
use super::{Terrain, analysis};
use crate::cancel::CancelToken;
use crate::habitat::Histogram;
use crate::scene::{Earths, Stroke, Upright, WaterPlane};
use std::sync::Arc;

/// A terrain, its slopes, its look and the histograms that response curves are drawn over.
#[derive(Clone, Debug)]
pub struct GroundModel {
    /// The surface itself.
    pub terrain: Terrain,
    /// Slope by Horn at every sample, degrees.
    pub slope_deg: Vec<f32>,
    /// Height of the water, metres, if there is any.
    pub water_m: Option<f32>,
    /// Height of the terrain's own zero in the scene, metres.
    pub base_m: f32,
    /// Whether what grows here stands square to the surface, not by the plumb line.
    pub square_to_surface: bool,
    /// How the plan area is spread over slope, degrees.
    pub slope_histogram: Histogram,
    /// How the plan area is spread over altitude, metres.
    pub altitude_histogram: Histogram,
    look: Look,
}

#[derive(Clone, Debug)]
struct Look {
    earths: Earths,
    /// Varies the patches.
    seed: u32,
    waters: Vec<WaterPlane>,
    colouring: Colouring,
}

impl Look {
    fn new(earths: Earths, seed: u32, terrain: &Terrain, water_m: Option<f32>) -> Self {
        let wetness = earths.wet.map(|_| {
            let never = CancelToken::default();
            Arc::new(analysis::wetness(terrain, &never).expect("nobody stops it"))
        });
        let colouring = Colouring::new(&earths, water_m, seed, wetness);
        Self { earths, seed, waters: Vec::new(), colouring }
    }
}

impl GroundModel {
    /// Reads a terrain with the usual earths. `seed` only varies its patches.
    pub fn new(terrain: Terrain, water_m: Option<f32>, seed: u32) -> Self {
        Self::with_earths(terrain, water_m, Earths::default(), seed)
    }

    /// Reads a terrain. `earths` and `seed` only say what it looks like.
    pub fn with_earths(terrain: Terrain, water_m: Option<f32>, earths: Earths, seed: u32) -> Self {
        let slope_deg = analysis::slope_deg(&terrain);
        let slope_histogram = Histogram::of(&terrain, &slope_deg, 0.0, 90.0);
        let altitude_histogram = altitude_histogram(&terrain);
        let look = Look::new(earths, seed, &terrain, water_m);
        Self {
            terrain,
            slope_deg,
            water_m,
            base_m: 0.0,
            square_to_surface: false,
            slope_histogram,
            altitude_histogram,
            look,
        }
    }

    /// Also shores about sheets of water. Only appearance.
    pub fn with_waters(mut self, waters: &[WaterPlane]) -> Self {
        self.look.waters = waters.to_vec();
        self.look.colouring = self.look.colouring.with_waters(waters);
        self
    }

    /// The model as it stands in a scene: its own zero at a height, and which way is up on it. A terrain has no middle
    /// to stand away from; it stands by the plumb line then.
    pub fn standing(mut self, base_m: f32, upright: Upright) -> Self {
        self.base_m = base_m;
        self.square_to_surface = upright == Upright::Surface;
        self.altitude_histogram.low += base_m;
        self.altitude_histogram.high += base_m;
        self
    }

    /// The model after one more stroke, equal to one made anew from the sculpted terrain; only what the stroke
    /// reached is read again.
    pub fn sculpted(&self, stroke: &Stroke) -> Self {
        let mut model = self.copied();
        let region = apply_stroke(&mut model.terrain, stroke);
        if region.is_empty() {
            return model;
        }
        let altitudes = self.altitudes_after(&model.terrain, &region);
        // A slope looks one sample to every side.
        let region = region.grown(1, &model.terrain);
        analysis::slope_deg_in(&model.terrain, &region, &mut model.slope_deg);
        model.slope_histogram =
            self.slope_histogram.recounted(&self.terrain, &region, &self.slope_deg, &model.slope_deg);
        model.altitude_histogram = altitudes;
        if self.look.earths.wet.is_some() {
            // Water runs elsewhere, far beyond the stroke.
            let Look { earths, seed, waters, .. } = self.look.clone();
            model.look = Look::new(earths, seed, &model.terrain, model.water_m);
            return model.with_waters(&waters);
        }
        model
    }

    /// A copy; most of the time goes into the first touch of its memory, so both large lists are made side by side.
    fn copied(&self) -> Self {
        let (terrain, slope_deg) = rayon::join(|| self.terrain.clone(), || self.slope_deg.clone());
        Self {
            terrain,
            slope_deg,
            slope_histogram: self.slope_histogram.clone(),
            altitude_histogram: self.altitude_histogram.clone(),
            look: self.look.clone(),
            ..*self
        }
    }

    /// The histogram of altitudes once the heights of a region are those of `after`. It is counted anew when the lowest
    /// or the highest sample may be another.
    fn altitudes_after(&self, after: &Terrain, region: &Region) -> Histogram {
        let counted = &self.altitude_histogram;
        let within = |t: &Terrain| region.values(t).all(|h| h > counted.low && h < counted.high);
        if self.base_m == 0.0 && within(&self.terrain) && within(after) {
            return counted.recounted(after, region, self.terrain.heights_zx(), after.heights_zx());
        }
        let mut anew = altitude_histogram(after);
        anew.low += self.base_m;
        anew.high += self.base_m;
        anew
    }

    /// Reflectance of the ground at a sample, linear RGB.
    pub fn colour_of(&self, sample: usize) -> [f32; 3] {
        self.look.colouring.at(&self.terrain, &self.slope_deg, sample)
    }

    /// Reflectance at every sample, row by row.
    pub fn colours(&self) -> Vec<[f32; 3]> {
        self.look.colouring.all(&self.terrain, &self.slope_deg)
    }

    /// Slope at a located point, degrees, interpolated between samples.
    #[inline]
    pub fn slope_in(&self, p: super::terrain::CellPoint) -> f32 {
        self.between(&self.slope_deg, p)
    }

    /// Values of samples at a located point, between the four about it.
    #[inline]
    pub fn between(&self, s: &[f32], p: super::terrain::CellPoint) -> f32 {
        let nx = self.terrain.nx();
        let north = s[p.index] + (s[p.index + 1] - s[p.index]) * p.fx;
        let south = s[p.index + nx] + (s[p.index + nx + 1] - s[p.index + nx]) * p.fx;
        north + (south - north) * p.fz
    }
}

fn altitude_histogram(terrain: &Terrain) -> Histogram {
    let (low, high) = terrain.height_range_m();
    Histogram::of(terrain, terrain.heights_zx(), low, high.max(low + 1e-3))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ground::noise_terrain;
    use crate::scene::{Earth, NoiseGround, SculptTool, StrokeId, WetEarth};

    #[test]
    fn a_stroke_on_a_model_gives_the_model_of_the_sculpted_terrain() {
        let settings = NoiseGround { samples: 129, ..NoiseGround::default() };
        let earths = Earths { wet: Some(WetEarth { earth: Earth::Peat, from: 7.0 }), ..Earths::default() };
        let terrain = noise_terrain::build(&settings).unwrap();
        let mut model = GroundModel::with_earths(terrain, Some(0.0), earths.clone(), 4);
        let tools = [SculptTool::Raise, SculptTool::Smooth, SculptTool::Flatten, SculptTool::Lower];
        for (i, tool) in tools.into_iter().enumerate() {
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
            let anew = GroundModel::with_earths(model.terrain.clone(), Some(0.0), earths.clone(), 4);
            assert_eq!(model.slope_deg, anew.slope_deg);
            assert_eq!(model.colours(), anew.colours());
            assert_eq!(model.slope_histogram, anew.slope_histogram);
            assert_eq!(model.altitude_histogram, anew.altitude_histogram);
        }
    }
}
