//! A ground with everything that is read off it, made once and shared.

use super::colour::Colouring;
use super::sculpt::{Region, apply_stroke};
use super::{Surface, Terrain, analysis};
use crate::cancel::CancelToken;
use crate::document::{Earth, Earths, Stroke, Upright, WaterPlane};
use crate::ground::Histogram;
use glam::{Vec2, Vec3};
use rayon::prelude::*;
use std::sync::{Arc, OnceLock};

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
    /// Lowest and highest sample, metres in the scene; never the same.
    pub(super) altitude_range_m: [f32; 2],
    /// How the plan area is spread over slope and over altitude, once that was asked.
    histograms: OnceLock<(Histogram, Histogram)>,
    look: Look,
}

/// How a ground lies at a point.
#[derive(Clone, Copy, Debug)]
pub struct Lies {
    /// The point, metres.
    pub point: Vec3,
    /// Unit normal of the triangle.
    pub normal: Vec3,
    /// Reflectance, linear RGB.
    pub colour: [f32; 3],
    /// What it is there.
    pub earth: Earth,
    /// How high it is over water, metres, below zero under it; none where there is no water.
    pub over_water_m: Option<f32>,
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
        let altitude_range_m = altitude_range_m(&terrain);
        let look = Look::new(earths, seed, &terrain, water_m);
        Self {
            terrain,
            slope_deg,
            water_m,
            base_m: 0.0,
            square_to_surface: false,
            altitude_range_m,
            histograms: OnceLock::new(),
            look,
        }
    }

    /// How the plan area is spread over slope, degrees, and over altitude, metres in the scene: counted where masks are surveyed.
    pub fn histograms(&self) -> (&Histogram, &Histogram) {
        let (slope, altitude) = self.histograms.get_or_init(|| {
            let runs: Vec<Vec<(f32, f32)>> = (0..self.runs())
                .into_par_iter()
                .map(|run| {
                    let mut out = Vec::new();
                    self.survey(run, &mut |spot, _| {
                        let spot = spot();
                        out.push((self.slope_deg(&spot), self.altitude_m(&spot)))
                    });
                    out
                })
                .collect();
            let each = self.area_m2() / runs.iter().map(Vec::len).sum::<usize>().max(1) as f64;
            let all = || runs.iter().flatten();
            let [low, high] = self.altitude_range_m;
            (
                Histogram::weighed(all().map(|(slope, _)| (*slope, each)), 0.0, 90.0),
                Histogram::weighed(all().map(|(_, altitude)| (*altitude, each)), low, high),
            )
        });
        (slope, altitude)
    }

    /// How the ground lies at a point of the plan; of earths that run into one another `draws`, 0 to 1, choose one.
    pub fn lies_at(&self, p: Vec2, draws: [f32; 4]) -> Lies {
        let cell = self.terrain.locate(p.x, p.y);
        let point = Vec3::new(p.x, self.terrain.height_in(cell), p.y);
        let colouring = &self.look.colouring;
        let wetness = colouring.wetness().map(|w| self.between(w, cell));
        let (colour, earth) = colouring.between(point, self.slope_in(cell), wetness, draws);
        let normal = self.terrain.normal_in(cell);
        Lies { point, normal, colour, earth, over_water_m: colouring.above_water(point) }
    }

    /// The colour that an earth has at a point where it is laid: its own in its patches, whatever the slope and the water.
    pub fn colour_laid(&self, earth: Earth, p: Vec3) -> [f32; 3] {
        self.look.colouring.of(earth, p)
    }

    /// How much of each earth lies at a sample, as [`Dress::Ground`](crate::nursery::Dress) keeps it.
    pub fn earths_of(&self, sample: usize) -> [u8; 4] {
        self.look.colouring.earths_at(&self.terrain, &self.slope_deg, sample)
    }

    /// How much of each earth lies on the land beyond its edges.
    pub fn earths_beyond(&self, p: Vec3, slope_deg: f32) -> [u8; 4] {
        self.look.colouring.earths_beyond(p, slope_deg)
    }

    /// The colour of the land beyond its edges, as it goes on there.
    pub fn colour_beyond(&self, p: Vec3, slope_deg: f32) -> [f32; 3] {
        self.look.colouring.beyond(p, slope_deg)
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
        self.altitude_range_m = self.altitude_range_m.map(|h| h + base_m);
        self.histograms = OnceLock::new();
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
        model.altitude_range_m = self.altitude_range_after(&model.terrain, &region);
        // A slope looks one sample to every side.
        let region = region.grown(1, &model.terrain);
        analysis::slope_deg_in(&model.terrain, &region, &mut model.slope_deg);
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
        Self { terrain, slope_deg, histograms: OnceLock::new(), look: self.look.clone(), ..*self }
    }

    /// Lowest and highest sample once the heights of a region are those of `after`. All are looked at when the lowest or the highest may
    /// be another.
    fn altitude_range_after(&self, after: &Terrain, region: &Region) -> [f32; 2] {
        let [low, high] = self.altitude_range_m.map(|h| h - self.base_m);
        let within = |t: &Terrain| region.values(t).all(|h| h > low && h < high);
        if self.base_m == 0.0 && within(&self.terrain) && within(after) {
            return self.altitude_range_m;
        }
        altitude_range_m(after).map(|h| h + self.base_m)
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

fn altitude_range_m(terrain: &Terrain) -> [f32; 2] {
    let (low, high) = terrain.height_range_m();
    [low, high.max(low + 1e-3)]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Earth, NoiseGround, SculptTool, StrokeId, WetEarth};
    use crate::ground::noise_terrain;

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
            assert_eq!(model.histograms(), anew.histograms());
            assert_eq!(model.altitude_range_m, anew.altitude_range_m);
        }
    }
}
