//! Where land shelters the water: how far the wind has blown over it at each place.

use super::spectrum::OPEN_M;
use super::waves::Waves;
use crate::air::heading;
use crate::ground::Terrain;
use glam::{Vec2, vec2};
use rayon::prelude::*;

/// Samples each way at most of heights, and of fetch.
const HEIGHTS: usize = 257;
const FETCHES: usize = 129;
/// Directions that fetch is measured in, to each side of the wind, and from one to the next, degrees.
///
/// Source: the effective fetch of Saville, "The effect of fetch width on wave generation", Beach Erosion Board TM 70, 1954; from memory.
const ASIDE: i32 = 3;
const TURN_DEG: f32 = 14.0;
/// Behind land the wind comes down on the water after so many of its heights; common practice for shelter belts.
const LEE: f32 = 8.0;
/// Beyond the land steps grow so.
const WIDER: f32 = 1.3;
/// Higher than this over the water land stays dry, metres.
const DRY_M: f32 = 6.0;
/// Farther than this land does not count, metres.
const FARTHEST_M: f32 = 20_000.0;

/// Heights of the land, and how it shelters the water about it.
#[derive(Clone, Debug, PartialEq)]
pub struct Shores {
    /// North-west corner, metres.
    pub first: [f32; 2],
    /// From there to the south-east corner, metres.
    pub size_m: [f32; 2],
    /// From west to east and from north to south.
    pub samples: [usize; 2],
    /// Heights, metres, from west to east and then to the south.
    pub heights_m: Vec<f32>,
    /// There, how many times as quick as over open water the peak of the waves is, from 1: [`Waves::ratio`].
    pub ratios: Vec<f32>,
}

/// Heights around a land, anywhere.
pub type Around<'a> = &'a (dyn Fn(Vec2) -> f32 + Sync);

/// What one walks over to measure a fetch.
struct Walk<'a> {
    terrain: &'a Terrain,
    around: Option<Around<'a>>,
    level: f32,
    step: f32,
}

impl Walk<'_> {
    /// How far the wind that comes from a direction has blown over water at a point, metres.
    fn fetch(&self, from: Vec2, towards: Vec2) -> f32 {
        let mut away = self.step;
        let mut step = self.step;
        let mut shore = None;
        let mut high = 0.0_f32;
        while away < FARTHEST_M {
            let p = from + towards * away;
            let inside = self.terrain.contains(p.x, p.y);
            let over = match (inside, self.around) {
                (true, _) => self.terrain.height_at(p.x, p.y) - self.level,
                (false, Some(around)) => around(p) - self.level,
                (false, None) => return shore.map_or(OPEN_M as f32, |at: f32| (at - LEE * high).max(0.0)),
            };
            if over > 0.0 {
                high = high.max(over);
                shore = shore.or(Some(away - 0.5 * step));
            }
            // Land a little way behind the shore shelters as well.
            if shore.is_some_and(|at| over <= 0.0 || away > at + 24.0 * self.step) {
                break;
            }
            if !inside {
                step *= WIDER;
            }
            away += step;
        }
        shore.map_or(OPEN_M as f32, |at| (at - LEE * high).max(0.0))
    }

    /// Over all directions that count, along the wind.
    fn effective(&self, from: Vec2, upwind: Vec2) -> f32 {
        let (mut sum, mut weights) = (0.0, 0.0);
        for k in -ASIDE..=ASIDE {
            let (s, c) = libm::sincosf((k as f32 * TURN_DEG).to_radians());
            let towards = vec2(upwind.x * c - upwind.y * s, upwind.x * s + upwind.y * c);
            sum += self.fetch(from, towards) * c * c;
            weights += c;
        }
        sum / weights
    }
}

impl Shores {
    /// Of a land with water at a level, in waves of a wind that comes from a direction. `around` has the heights beyond its edges; none for open water there.
    pub fn new(
        terrain: &Terrain,
        around: Option<Around>,
        level_m: f32,
        waves: &Waves,
        from_deg: f32,
    ) -> Self {
        let samples = [terrain.nx().min(HEIGHTS), terrain.nz().min(HEIGHTS)];
        let (first, size) = (terrain.min_xz(), terrain.size_m());
        let place = |i: usize, of: [usize; 2]| {
            let share = |n: usize, of: usize| n as f32 / (of - 1) as f32;
            first + size * vec2(share(i % of[0], of[0]), share(i / of[0], of[1]))
        };
        let count = samples[0] * samples[1];
        let heights_m: Vec<f32> = (0..count)
            .into_par_iter()
            .map(|i| {
                let p = place(i, samples);
                terrain.height_at(p.x, p.y)
            })
            .collect();
        let coarse = samples.map(|n| n.min(FETCHES));
        let step = (size / vec2((coarse[0] - 1) as f32, (coarse[1] - 1) as f32)).max_element();
        let walk = Walk { terrain, around, level: level_m, step };
        let [hx, hz] = heading(from_deg);
        let ratios: Vec<f32> = (0..coarse[0] * coarse[1])
            .into_par_iter()
            .map(|i| {
                let p = place(i, coarse);
                // Waves neither reach this nor is anything near it wet.
                let dry = terrain.height_at(p.x, p.y) > level_m + DRY_M;
                if dry { 1.0 } else { waves.ratio(walk.effective(p, vec2(-hx, -hz))) }
            })
            .collect();
        let ratios = match coarse == samples {
            true => ratios,
            false => (0..count)
                .map(|i| {
                    let p = (place(i, samples) - first) / size;
                    between(&ratios, coarse, p)
                })
                .collect(),
        };
        Self { first: first.into(), size_m: size.into(), samples, heights_m, ratios }
    }

    /// Where a place lies, 0 to 1 from corner to corner.
    fn share(&self, x: f32, z: f32) -> Vec2 {
        (vec2(x, z) - Vec2::from(self.first)) / Vec2::from(self.size_m)
    }

    /// Height of the land, metres; none beside it.
    pub fn height(&self, x: f32, z: f32) -> Option<f32> {
        let p = self.share(x, z);
        let within = p.min_element() >= 0.0 && p.max_element() <= 1.0;
        within.then(|| between(&self.heights_m, self.samples, p))
    }

    /// How many times as quick as over open water the peak of the waves is; beside the land that of its edge, which soon is that of open water.
    pub fn ratio(&self, x: f32, z: f32) -> f32 {
        let p = self.share(x, z);
        let inside = p.clamp(Vec2::ZERO, Vec2::ONE);
        let out = ((p - inside).length() * 2.0).min(1.0);
        let edge = between(&self.ratios, self.samples, inside);
        edge + (1.0 - edge) * (out * out * (3.0 - 2.0 * out))
    }
}

/// Between the values of a grid, at a share of it from corner to corner.
fn between(values: &[f32], [nx, nz]: [usize; 2], p: Vec2) -> f32 {
    let along = |t: f32, n: usize| {
        let t = t.clamp(0.0, 1.0) * (n - 1) as f32;
        let i = (t as usize).min(n - 2);
        (i, t - i as f32)
    };
    let ((i, fx), (k, fz)) = (along(p.x, nx), along(p.y, nz));
    let row = |k: usize| values[k * nx + i] + (values[k * nx + i + 1] - values[k * nx + i]) * fx;
    row(k) + (row(k + 1) - row(k)) * fz
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::Wind;

    /// A basin with a steep bank, 10 m high, to the west, and water without an end to the east.
    fn bank() -> Terrain {
        let heights = (0..101 * 101).map(|i| if i % 101 < 20 { 10.0 } else { -3.0 }).collect();
        Terrain::new(101, 101, vec2(2.0, 2.0), heights).expect("it is a grid")
    }

    fn shores(from_deg: f32) -> (Shores, Waves) {
        let waves = Waves::new(&Wind { speed_m_per_s: 8.0, from_deg, ..Wind::default() });
        (Shores::new(&bank(), None, 0.0, &waves, from_deg), waves)
    }

    #[test]
    fn water_behind_a_bank_is_sheltered_and_grows_rough_away_from_it() {
        let (s, _) = shores(270.0);
        let along: Vec<f32> = [-55.0, -20.0, 10.0, 60.0, 95.0].map(|x| s.ratio(x, 0.0)).to_vec();
        assert!(along.windows(2).all(|w| w[0] >= w[1]), "calmer the nearer: {along:?}");
        assert!(along[0] > 8.0 && along[4] > 1.5, "{along:?}");
        assert!((s.ratio(900.0, 0.0) - 1.0).abs() < 1e-3, "far out it is open");
        // With the wind from the sea the same water is rough.
        let (s, _) = shores(90.0);
        assert!(s.ratio(-20.0, 0.0) < 1.3, "{}", s.ratio(-20.0, 0.0));
    }

    /// In the middle of a long straight shore the effective fetch is that straight out, times the mean of the rays: a closed form.
    #[test]
    fn fetch_before_a_straight_shore_is_that_of_its_rays() {
        let heights = (0..201 * 201).map(|i| if i % 201 < 40 { 0.5 } else { -3.0 }).collect();
        let terrain = Terrain::new(201, 201, vec2(2.0, 2.0), heights).expect("it is a grid");
        let walk = Walk { terrain: &terrain, around: None, level: 0.0, step: 2.0 };
        let at = vec2(-200.0 + 80.0 + 100.0, 0.0);
        let straight = walk.fetch(at, vec2(-1.0, 0.0));
        assert!((straight - (100.0 - LEE * 0.5)).abs() < 4.0, "{straight}");
        let cos: Vec<f32> = (-3..=3).map(|k| (k as f32 * TURN_DEG).to_radians().cos()).collect();
        let expected: f32 =
            cos.iter().map(|c| (100.0 / c - 4.0) * c * c).sum::<f32>() / cos.iter().sum::<f32>();
        let got = walk.effective(at, vec2(-1.0, 0.0));
        assert!((got - expected).abs() < 4.0, "{got}, {expected}");
    }

    #[test]
    fn heights_are_those_of_the_land() {
        let (s, _) = shores(0.0);
        assert_eq!(
            (s.height(-90.0, 0.0), s.height(50.0, 20.0), s.height(150.0, 0.0)),
            (Some(10.0), Some(-3.0), None)
        );
    }
}
