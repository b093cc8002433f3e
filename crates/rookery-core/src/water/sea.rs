//! Water that is everywhere, at one level: its waves, the foam where they break, and the land they wet.

use super::shores::Shores;
use super::waves::{Slopes, Waves, WavesNow};
use crate::clouds::billow;
use crate::document::{Document, WaterPlane, Wind};
use crate::ground::{GroundModel, hills};
use std::sync::Arc;

/// Waves break where the water is so many times as deep as they are high, and no less deep than so many metres: the breaker index 0.78 turned round (McCowan
/// 1894), less what is spilt before.
const BREAKS: f32 = 0.9;
const BREAKS_M: f32 = 0.05;
/// How high waves run up a shore, in heights, and at least, metres; by eye, on gentle shores.
const RUNS: f32 = 0.45;
const RUNS_M: f32 = 0.03;
/// Rollers to a shore at a time, and how often one comes, Hz.
const ROLLERS: f32 = 1.6;
const ROLL_HZ: f64 = 0.16;
/// Widths of the tables that foam and wet sand are torn by, metres.
const TORN_M: f32 = 5.3;
const LACE_M: f32 = 1.7;

/// All that is known of a scene's waves.
#[derive(Clone, Debug, PartialEq)]
pub struct Sea {
    /// Its waves.
    pub waves: Waves,
    /// Height of the water that is everywhere, metres.
    pub level_m: Option<f32>,
    /// Where land shelters it.
    pub shores: Option<Arc<Shores>>,
}

/// The same at a moment.
#[derive(Clone, Debug, PartialEq)]
pub struct SeaNow {
    /// What it is.
    pub sea: Sea,
    /// Its waves then.
    pub waves: WavesNow,
    /// How far the roller is that comes next, 0 to 1.
    pub roll: f32,
}

impl Sea {
    /// Of water at a level in a wind, without land.
    pub fn open(wind: &Wind, level_m: Option<f32>) -> Self {
        Self { waves: Waves::new(wind), level_m, shores: None }
    }

    /// Of a scene. `land` is its land, if it has one.
    pub fn of(document: &Document, land: Option<&GroundModel>) -> Self {
        let wind = &document.motion.wind;
        let open = Self::open(wind, document.ground.water_m);
        let (Some(level), Some(land)) = (open.level_m, land) else { return open };
        let around = (!document.ground.ends).then(|| hills(land, &document.ground.source));
        let around = around.as_ref().map(|h| h.as_ref() as super::shores::Around);
        let shores = Shores::new(&land.terrain, around, level, &open.waves, wind.from_deg);
        Self { shores: Some(Arc::new(shores)), ..open }
    }

    /// At a time, seconds.
    pub fn at(&self, time_s: f64) -> SeaNow {
        let roll = ROLL_HZ * time_s;
        SeaNow { sea: self.clone(), waves: self.waves.at(time_s), roll: (roll - roll.floor()) as f32 }
    }

    /// How many times as quick as over open water the peak of waves is at a place: of the water that is everywhere, or of a sheet of its own.
    pub fn ratio(&self, sheet: Option<&WaterPlane>, x: f32, z: f32) -> f32 {
        match (sheet, &self.shores) {
            (Some(sheet), _) => self.waves.ratio((sheet.width_m * sheet.depth_m).sqrt()),
            (None, Some(shores)) => shores.ratio(x, z),
            (None, None) => 1.0,
        }
    }

    /// Significant height of waves where the peak is so many times as quick, metres: the height grows with the root of the fetch, the peak falls with its cube root.
    pub fn height_m(&self, ratio: f32) -> f32 {
        self.waves.height_m / (ratio * ratio.sqrt())
    }

    /// How wet the land is at a point, 0 to 1: below the water and as high as waves run up.
    pub fn wets(&self, [x, y, z]: [f32; 3]) -> f32 {
        let Some(level) = self.level_m else { return 0.0 };
        let over = y - level;
        if over <= 0.0 {
            return 1.0;
        }
        let height = self.height_m(self.ratio(None, x, z));
        let run = (RUNS_M + RUNS * height) * (0.6 + 0.8 * billow(x / TORN_M, z / TORN_M));
        1.0 - smooth(0.55 * run, run, over)
    }
}

impl SeaNow {
    /// Slopes of the surface at a place, see [`WavesNow::slopes`].
    pub fn slopes(&self, sheet: Option<&WaterPlane>, x: f32, z: f32, fine_m: f32) -> Slopes {
        self.waves.slopes(x, z, self.sea.ratio(sheet, x, z), fine_m)
    }

    /// How much of the surface of the water that is everywhere is foam, 0 to 1: rollers that break on the shore and lace between them.
    pub fn foam(&self, x: f32, z: f32) -> f32 {
        let (Some(level), Some(shores)) = (self.sea.level_m, &self.sea.shores) else { return 0.0 };
        let Some(ground) = shores.height(x, z) else { return 0.0 };
        let high = self.sea.height_m(shores.ratio(x, z));
        let depth = (level - ground) / (BREAKS_M + BREAKS * high);
        if depth >= 1.0 {
            return 0.0;
        }
        let depth = depth.max(0.0);
        let torn = billow(x / TORN_M, z / TORN_M);
        let lace = billow(x / LACE_M + 0.31, z / LACE_M + 0.17);
        let roll = (ROLLERS * depth + self.roll + 0.45 * torn).fract();
        let crest = 1.0 - smooth(0.0, 0.34, roll);
        let broken = crest * smooth(0.5, 0.75, lace + 0.4 * crest) * (1.0 - depth);
        let edge = 0.7 * (1.0 - smooth(0.0, 0.14, depth)) * smooth(0.35, 0.7, lace);
        (broken + edge).min(1.0) * smooth(0.02, 0.14, high)
    }
}

fn smooth(from: f32, to: f32, v: f32) -> f32 {
    let t = ((v - from) / (to - from)).clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ground::Terrain;
    use glam::vec2;

    /// A beach that falls from west to east, one in fifty, with the wind off the sea.
    fn beach(speed_m_per_s: f32) -> Sea {
        let heights = (0..101 * 101).map(|i| 1.0 - 0.02 * (i % 101) as f32).collect();
        let terrain = Terrain::new(101, 101, vec2(1.0, 1.0), heights).expect("it is a grid");
        let wind = Wind { speed_m_per_s, from_deg: 90.0, ..Wind::default() };
        let open = Sea::open(&wind, Some(0.0));
        let shores = Shores::new(&terrain, None, 0.0, &open.waves, 90.0);
        Sea { shores: Some(Arc::new(shores)), ..open }
    }

    #[test]
    fn foam_lies_where_waves_break_and_moves_towards_the_shore() {
        let sea = beach(8.0);
        let share = |time: f64, x: f32| {
            let now = sea.at(time);
            (0..400).map(|n| now.foam(x, n as f32 * 0.2 - 40.0)).sum::<f32>() / 400.0
        };
        let deep: f32 = (0..8).map(|k| share(f64::from(k), 48.0)).sum::<f32>() / 8.0;
        let shallow: f32 = (0..8).map(|k| share(f64::from(k), 3.0)).sum::<f32>() / 8.0;
        assert!(
            shallow > 0.08 && deep < 0.2 * shallow,
            "{shallow} where it is shallow, {deep} where it is deep"
        );
        assert_eq!(beach(0.0).at(1.0).foam(3.0, 4.0), 0.0, "none on a calm lake");
        assert_eq!(sea.at(1.0).foam(400.0, 0.0), 0.0);
        // Where rollers are now, they are a little later a little nearer to the shore: by the mean over the length of the beach.
        let profile = |time: f64, shift: f32| -> Vec<f32> {
            let now = sea.at(time);
            let mean = |x: f32| (0..300).map(|n| now.foam(x, n as f32 * 0.3 - 45.0)).sum::<f32>() / 300.0;
            (0..60).map(|k| mean(4.0 + 0.25 * k as f32 + shift)).collect()
        };
        let moved = 0.5 * ROLL_HZ as f32 / ROLLERS
            * (BREAKS_M + BREAKS * sea.height_m(sea.ratio(None, 8.0, 0.0)))
            / 0.02;
        let apart = |a: &[f32], b: &[f32]| a.iter().zip(b).map(|(a, b)| (a - b).abs()).sum::<f32>();
        let now = profile(10.0, 0.0);
        assert!(apart(&now, &profile(10.5, -moved)) < apart(&now, &profile(10.5, moved)));
    }

    #[test]
    fn land_is_wet_as_high_as_waves_run() {
        let sea = beach(8.0);
        let top = 2.0 * (RUNS_M + RUNS * sea.height_m(1.0));
        for n in 0..100 {
            let z = n as f32 * 0.7 - 35.0;
            assert_eq!(sea.wets([-2.0, -0.3, z]), 1.0);
            assert_eq!(sea.wets([-20.0, top, z]), 0.0);
            assert!(sea.wets([-2.0, 0.01, z]) > 0.9);
        }
        assert_eq!(Sea::open(&Wind::default(), None).wets([0.0; 3]), 0.0);
    }
}
