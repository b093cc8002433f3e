//! What bare ground looks like: earths by slope, altitude over the water, wetness and noise.

use super::Terrain;
use crate::document::{Earth, Earths, WaterPlane};
use crate::math::noise::Noise;
use crate::nursery::four;
use glam::Vec3;
use rayon::prelude::*;
use std::sync::Arc;

/// Reflectance of the ground, linear RGB, 0 to 1, worked out where it is asked for.
///
/// The steep earth shows where it is steep, the shore earth near the water line, the wet earth where water gathers, the
/// cover elsewhere; each in patches of two tones.
#[derive(Clone)]
pub struct Colouring {
    broad: Arc<Noise>,
    fine: Arc<Noise>,
    earths: Earths,
    water_m: Option<f32>,
    waters: Vec<WaterPlane>,
    /// One value a sample where a wet earth is wanted.
    wetness: Option<Arc<Vec<f32>>>,
}

impl std::fmt::Debug for Colouring {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Colouring").field("earths", &self.earths).field("water_m", &self.water_m).finish()
    }
}

impl Colouring {
    /// `water_m` is the height of the water, if there is any; `seed` varies the patches; `wetness` has the topographic
    /// wetness index of every sample where `earths` has a wet earth.
    pub fn new(earths: &Earths, water_m: Option<f32>, seed: u32, wetness: Option<Arc<Vec<f32>>>) -> Self {
        Self {
            broad: Arc::new(Noise::new(seed ^ 0x51ED, 37.0, 3, 0.5)),
            fine: Arc::new(Noise::new(seed ^ 0xA17C, 4.5, 3, 0.6)),
            earths: earths.clone(),
            water_m,
            waters: Vec::new(),
            wetness,
        }
    }

    /// Also shores about sheets of water.
    pub fn with_waters(self, waters: &[WaterPlane]) -> Self {
        Self { waters: waters.to_vec(), ..self }
    }

    /// The colour of a sample of a terrain.
    pub fn at(&self, terrain: &Terrain, slope_deg: &[f32], sample: usize) -> [f32; 3] {
        let p = terrain.vertex(sample % terrain.nx(), sample / terrain.nx());
        let patches = [self.broad.at(p.x, p.z), self.fine.at(p.x, p.z)];
        self.blend(p, patches, slope_deg[sample], self.wetness.as_ref().map(|w| w[sample]))
    }

    /// The colour of a point of the land beyond its samples.
    pub fn beyond(&self, p: Vec3, slope_deg: f32) -> [f32; 3] {
        self.blend(p, [self.broad.at(p.x, p.z), self.fine.at(p.x, p.z)], slope_deg, None)
    }

    /// The colour of an earth at a point of a terrain.
    pub fn of(&self, earth: Earth, p: Vec3) -> [f32; 3] {
        let [b, f] = [self.broad.at(p.x, p.z), self.fine.at(p.x, p.z)].map(|v| v * self.earths.patches);
        tones(earth, p, b, f)
    }

    /// The colour of a point of a mesh. Its patches lie in space, so that walls and undersides have them too.
    pub fn on_mesh(&self, p: Vec3, slope_deg: f32) -> [f32; 3] {
        let patches = [self.broad.at_3d(p.x, p.y, p.z), self.fine.at_3d(p.x, p.y, p.z)];
        self.blend(p, patches, slope_deg, None)
    }

    /// The colour of a point of a terrain between its samples, and the one earth that lies there: where several run into one another, `draws`, 0 to 1, say which.
    pub fn between(
        &self,
        p: Vec3,
        slope_deg: f32,
        wetness: Option<f32>,
        draws: [f32; 4],
    ) -> ([f32; 3], Earth) {
        let patches = [self.broad.at(p.x, p.z), self.fine.at(p.x, p.z)];
        (self.blend(p, patches, slope_deg, wetness), self.earth(p, patches, slope_deg, wetness, draws))
    }

    /// Wetness of a sample, where a wet earth is wanted.
    pub fn wetness(&self) -> Option<&[f32]> {
        self.wetness.as_ref().map(|w| w.as_slice())
    }

    /// As `blend` mixes them.
    fn earth(
        &self,
        p: Vec3,
        patches: [f32; 2],
        slope_deg: f32,
        wetness: Option<f32>,
        draws: [f32; 4],
    ) -> Earth {
        let e = &self.earths;
        let [b, f] = patches.map(|v| v * e.patches);
        let [bare, wet_draw, steep_draw, shore_draw] = draws;
        let wall = steep_draw < self.steep(slope_deg, f, 0.0);
        if let Some(above) = self.above_water(p)
            && shore_draw >= self.inland(above, b, f)
        {
            return if steep_draw < self.steep(slope_deg, f, -1.5) { e.steep } else { e.shore };
        }
        if wall {
            return e.steep;
        }
        if let (Some(wet), Some(wetness)) = (&e.wet, wetness)
            && wet_draw < wetter(wetness - wet.from, f)
        {
            return wet.earth;
        }
        if e.cover == Earth::Turf && bare < turf_opens(b, f) { Earth::Peat } else { e.cover }
    }

    /// How much of the steep earth shows.
    fn steep(&self, slope_deg: f32, fine: f32, by_deg: f32) -> f32 {
        let from = self.earths.steep_deg + by_deg;
        smooth(from - 7.5, from + 7.5, slope_deg + 6.0 * fine)
    }

    /// How high a point lies over the highest water there.
    pub(super) fn above_water(&self, p: Vec3) -> Option<f32> {
        let here = self.waters.iter().filter(|w| w.covers(p.x, p.z)).map(|w| w.height_m);
        here.chain(self.water_m).reduce(f32::max).map(|water| p.y - water)
    }

    /// How little of the shore shows so high over the water.
    fn inland(&self, above: f32, broad: f32, fine: f32) -> f32 {
        smooth(0.65, 1.4, (above + 0.5 * broad + 0.25 * fine) / self.earths.shore_m.max(0.05))
    }

    fn blend(&self, p: Vec3, patches: [f32; 2], slope_deg: f32, wetness: Option<f32>) -> [f32; 3] {
        self.mixed(p, patches, slope_deg, wetness).colour
    }

    fn mixed(&self, p: Vec3, patches: [f32; 2], slope_deg: f32, wetness: Option<f32>) -> Mixed {
        let e = &self.earths;
        let [b, f] = patches.map(|v| v * e.patches);
        let mut mixed = Mixed::new(e.cover, tones(e.cover, p, b, f));
        if e.cover == Earth::Turf {
            mixed.towards(&Mixed::new(Earth::Peat, PEAT[0]), turf_opens(b, f));
        }
        if let (Some(wet), Some(wetness)) = (&e.wet, wetness) {
            mixed.towards(&Mixed::new(wet.earth, tones(wet.earth, p, b, f)), wetter(wetness - wet.from, f));
        }
        let wall = Mixed::new(e.steep, tones(e.steep, p, b, f));
        mixed.towards(&wall, self.steep(slope_deg, f, 0.0));
        if let Some(above) = self.above_water(p) {
            let mut shore = Mixed::new(e.shore, tones(e.shore, p, b, f));
            shore.towards(&wall, self.steep(slope_deg, f, -1.5));
            mixed.towards(&shore, 1.0 - self.inland(above, b, f));
            let wet = 1.0 - smooth(-0.1, 0.7, above);
            mixed.colour = mixed.colour.map(|c| c * (1.0 - 0.5 * wet));
        }
        mixed
    }

    /// How much of each earth lies at a sample of a terrain, as [`Dress::Ground`](crate::nursery::Dress) keeps it.
    pub fn earths_at(&self, terrain: &Terrain, slope_deg: &[f32], sample: usize) -> [u8; 4] {
        let p = terrain.vertex(sample % terrain.nx(), sample / terrain.nx());
        let patches = [self.broad.at(p.x, p.z), self.fine.at(p.x, p.z)];
        let wetness = self.wetness.as_ref().map(|w| w[sample]);
        four(self.mixed(p, patches, slope_deg[sample], wetness).shares)
    }

    /// The same of a point of the land beyond its samples.
    pub fn earths_beyond(&self, p: Vec3, slope_deg: f32) -> [u8; 4] {
        four(self.mixed(p, [self.broad.at(p.x, p.z), self.fine.at(p.x, p.z)], slope_deg, None).shares)
    }

    /// The same of a point of a mesh.
    pub fn earths_on_mesh(&self, p: Vec3, slope_deg: f32) -> [u8; 4] {
        let patches = [self.broad.at_3d(p.x, p.y, p.z), self.fine.at_3d(p.x, p.y, p.z)];
        four(self.mixed(p, patches, slope_deg, None).shares)
    }

    /// The colours of all samples, row by row.
    pub fn all(&self, terrain: &Terrain, slope_deg: &[f32]) -> Vec<[f32; 3]> {
        (0..slope_deg.len()).into_par_iter().map(|i| self.at(terrain, slope_deg, i)).collect()
    }
}

/// A colour, and how much of each earth it comes from.
#[derive(Clone, Copy)]
struct Mixed {
    colour: [f32; 3],
    shares: [f32; 5],
}

impl Mixed {
    fn new(earth: Earth, colour: [f32; 3]) -> Self {
        let mut shares = [0.0; 5];
        shares[earth as usize] = 1.0;
        Self { colour, shares }
    }

    fn towards(&mut self, other: &Self, t: f32) {
        self.colour = mix(self.colour, other.colour, t);
        self.shares = [0, 1, 2, 3, 4].map(|i: usize| self.shares[i] + (other.shares[i] - self.shares[i]) * t);
    }
}

/// How much of the soil shows through turf.
fn turf_opens(broad: f32, fine: f32) -> f32 {
    0.45 * smooth(0.15, 0.75, fine - 0.4 * broad)
}

/// How much of the wet earth shows where it is wetter by so much than where it begins.
fn wetter(by: f32, fine: f32) -> f32 {
    smooth(-0.8, 0.8, by + 0.6 * fine)
}

/// An earth in its patches of two tones.
fn tones(earth: Earth, p: Vec3, broad: f32, fine: f32) -> [f32; 3] {
    let [a, b] = match earth {
        Earth::Turf => [TURF, DRY_TURF],
        Earth::Peat => PEAT,
        Earth::Sand => [SAND, PALE_SAND],
        Earth::Shingle => [SHINGLE, DARK_SHINGLE],
        Earth::Rock => [ROCK, PALE_ROCK],
    };
    let t = match earth {
        Earth::Turf => smooth(-0.35, 0.55, broad + 0.3 * fine),
        // Rock lies in level bands.
        Earth::Rock => smooth(-0.5, 0.6, fine + 0.5 * libm::sinf(p.y * 1.3 + 2.0 * broad)),
        Earth::Peat | Earth::Sand | Earth::Shingle => smooth(-0.3, 0.4, fine + 0.3 * broad),
    };
    mix(a, b, t)
}

/// Mean reflectances of the earths, linear RGB, in the order of their numbers.
pub fn means() -> [Vec3; 5] {
    let half = |a: [f32; 3], b: [f32; 3]| Vec3::from(mix(a, b, 0.5));
    [
        half(TURF, DRY_TURF),
        half(PEAT[0], PEAT[1]),
        half(SAND, PALE_SAND),
        half(SHINGLE, DARK_SHINGLE),
        half(ROCK, PALE_ROCK),
    ]
}

// Reflectances estimated by eye against the plants, not measured.
const TURF: [f32; 3] = [0.118, 0.140, 0.048];
const DRY_TURF: [f32; 3] = [0.205, 0.190, 0.085];
const PEAT: [[f32; 3]; 2] = [[0.062, 0.050, 0.030], [0.085, 0.066, 0.042]];
const SAND: [f32; 3] = [0.36, 0.30, 0.205];
const PALE_SAND: [f32; 3] = [0.45, 0.39, 0.28];
const SHINGLE: [f32; 3] = [0.215, 0.205, 0.19];
const DARK_SHINGLE: [f32; 3] = [0.145, 0.14, 0.135];
const ROCK: [f32; 3] = [0.105, 0.10, 0.095];
const PALE_ROCK: [f32; 3] = [0.21, 0.195, 0.17];

fn mix(a: [f32; 3], b: [f32; 3], t: f32) -> [f32; 3] {
    [0, 1, 2].map(|i| a[i] + (b[i] - a[i]) * t)
}

/// 0 at `low`, 1 at `high`, which may be the smaller.
fn smooth(low: f32, high: f32, v: f32) -> f32 {
    let t = ((v - low) / (high - low)).clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::WetEarth;
    use crate::ground::analysis;
    use crate::nursery::five;
    use glam::Vec2;

    /// Flat, then a slope of 45 degrees, then flat again 40 m up.
    fn step() -> Terrain {
        let n = 121;
        let heights = (0..n * n).map(|i| ((i % n) as f32 - 40.0).clamp(0.0, 40.0)).collect();
        Terrain::new(n, n, Vec2::ONE, heights).unwrap()
    }

    fn mean(
        earths: &Earths,
        water_m: Option<f32>,
        wetness: Option<Vec<f32>>,
        columns: std::ops::Range<usize>,
    ) -> Vec3 {
        let terrain = step();
        let slope = analysis::slope_deg(&terrain);
        let colouring = Colouring::new(earths, water_m, 3, wetness.map(Arc::new));
        let all = colouring.all(&terrain, &slope);
        let some: Vec<Vec3> =
            columns.flat_map(|c| (0..121).map(move |r| r * 121 + c)).map(|i| all[i].into()).collect();
        some.iter().sum::<Vec3>() / some.len() as f32
    }

    #[test]
    fn each_earth_shows_where_its_rule_puts_it() {
        let e = Earths::default();
        let (flat, steep) = (mean(&e, None, None, 5..35), mean(&e, None, None, 50..70));
        assert!(flat.y > flat.x * 1.02 && flat.y > flat.z * 1.8, "turf is green: {flat}");
        assert!((steep.max_element() - steep.min_element()) < 0.04, "rock is grey: {steep}");
        let shore = mean(&e, Some(-1.0), None, 5..35);
        assert!(shore.x > 0.2 && shore.x > shore.z * 1.3, "sand is pale and warm: {shore}");
        let wet = Earths { wet: Some(WetEarth { earth: Earth::Peat, from: 8.0 }), ..Earths::default() };
        let bog = mean(&wet, None, Some(vec![12.0; 121 * 121]), 5..35);
        let dry = mean(&wet, None, Some(vec![2.0; 121 * 121]), 5..35);
        assert!(bog.max_element() < 0.1 && (dry - flat).length() < 1e-3, "peat is dark: {bog}");
    }

    #[test]
    fn shares_of_earths_say_what_the_colour_comes_from() {
        let terrain = step();
        let slope = analysis::slope_deg(&terrain);
        let colouring = Colouring::new(&Earths::default(), Some(-1.0), 3, None);
        for sample in (0..121 * 121).step_by(97) {
            let [turf, peat, sand, shingle, rock] = five(colouring.earths_at(&terrain, &slope, sample));
            assert!((turf + peat + sand + shingle + rock - 1.0).abs() < 0.01);
            // A step of 45 degrees is rock, the flat by the water sand, that above it turf with some soil.
            match sample % 121 {
                0..=34 => assert!(sand > 0.5 && rock < 0.05, "{sample}: {sand}, {rock}"),
                50..=70 => assert!(rock > 0.5, "{sample}: {rock}"),
                90.. => assert!(turf + peat > 0.99 && turf >= 0.5, "{sample}: {turf}, {peat}"),
                _ => {}
            }
        }
    }

    #[test]
    fn without_patches_an_earth_has_one_tone() {
        let e = Earths { cover: Earth::Sand, patches: 0.0, ..Earths::default() };
        let terrain = step();
        let slope = analysis::slope_deg(&terrain);
        let colouring = Colouring::new(&e, None, 3, None);
        assert_eq!(colouring.at(&terrain, &slope, 5), colouring.at(&terrain, &slope, 20 * 121 + 30));
    }
}
