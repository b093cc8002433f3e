//! Colours of a species, and what the season makes of them.

use glam::Vec3;
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Reflectance, linear RGB, 0 to 1.
pub type Rgb = [f32; 3];

/// The colours of a species. Each kind uses them its own way: on stones `root` and `leaf` are the darker and the lighter
/// tone, `old` and `flower` two lichens.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Colours {
    /// At the foot, in the shade.
    pub root: [f32; 3],
    /// Grown leaves.
    pub leaf: [f32; 3],
    /// Tips and young leaves.
    pub tip: [f32; 3],
    /// Dead leaves, autumn leaves, straw.
    pub old: [f32; 3],
    /// Bark and stalks.
    pub wood: [f32; 3],
    /// Petals or fruits.
    pub flower: [f32; 3],
    /// The middle of a flower.
    pub eye: [f32; 3],
    /// How far leaves of one plant differ, 0 to 1.
    pub spread: f32,
    /// How much light goes through a leaf, 0 to 1.
    pub through: f32,
    /// How glossy its surface is, 0 dull to 1 as waxed leaves or wet stone.
    #[serde(default, skip_serializing_if = "none")]
    pub sheen: f32,
    /// Light it gives off by itself, against what it would send back of full daylight, 0 to 20.
    #[serde(default, skip_serializing_if = "none")]
    pub glow: f32,
}

fn none(value: &f32) -> bool {
    *value == 0.0
}

/// How a species goes through the year.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Year {
    /// Share of the leaves that stay green over winter, 0 to 1.
    pub evergreen: f32,
    /// Whether dead leaves fall; otherwise they stay and pale.
    pub sheds: bool,
    /// When it is in full flower: a season, see [`Season`].
    pub flowers_at: f32,
    /// How long it flowers to either side, seasons, 0.1 to 4.
    pub flowers_for: f32,
}

/// A moment of the year: 0 spring, 1 summer, 2 autumn, 3 winter, 4 dead; anything between is on the way.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct Season(pub f32);

impl Season {
    /// High summer.
    pub const SUMMER: Self = Self(1.0);
    /// The latest moment: everything is dead.
    pub const LAST: f32 = 4.0;

    /// Whether it is high summer, the moment every scene begins in.
    pub fn is_summer(&self) -> bool {
        *self == Self::SUMMER
    }

    /// A value that runs through five, one a season.
    fn among(self, values: [f32; 5]) -> f32 {
        let x = self.0.clamp(0.0, Self::LAST);
        let k = (x as usize).min(3);
        values[k] + (values[k + 1] - values[k]) * (x - k as f32)
    }
}

impl Default for Season {
    fn default() -> Self {
        Self::SUMMER
    }
}

/// Colours at one season, ready to build with.
#[derive(Clone, Debug)]
pub struct Look {
    /// At the foot.
    pub root: Vec3,
    /// Leaves.
    pub leaf: Vec3,
    /// Tips.
    pub tip: Vec3,
    /// Dead leaves.
    pub old: Vec3,
    /// Bark.
    pub wood: Vec3,
    /// Petals.
    pub flower: Vec3,
    /// The middle of a flower.
    pub eye: Vec3,
    /// Difference between leaves.
    pub spread: f32,
    /// Light through leaves.
    pub through: f32,
    /// Share of the flowers that are open, 0 to 1.
    pub bloom: f32,
    /// Share of the leaves that hang on, 0 to 1.
    pub kept: f32,
    /// How far leaves have turned, 0 to 1.
    turned: f32,
}

impl Look {
    /// What a season makes of a species' colours.
    pub fn at(colours: &Colours, year: &Year, season: Season) -> Self {
        let green = year.evergreen;
        // Leaves turn in autumn; what is evergreen turns only in death.
        let deciduous = season.among([0.0, 0.0, 0.85, 1.0, 1.0]);
        let lasting = season.among([0.0, 0.0, 0.06, 0.18, 1.0]);
        let turned = deciduous * (1.0 - green) + lasting * green;
        let fallen = season.among([0.25, 0.0, 0.35, 1.0, 0.97]);
        let hanging = season.among([0.0, 0.0, 0.0, 0.05, 0.55]);
        let kept = if year.sheds { 1.0 - (fallen * (1.0 - green) + hanging * green) } else { 1.0 };
        let fresh = season.among([1.0, 0.0, 0.0, 0.0, 0.0]);
        let away = (season.0 - year.flowers_at).abs() / year.flowers_for.max(0.1);
        let bloom = if season.0 > 3.5 { 0.0 } else { ((1.0 - away) * 1.6).clamp(0.0, 1.0) };
        let v = Vec3::from;
        let leaf = v(colours.leaf).lerp(v(colours.tip), 0.45 * fresh) * (1.0 + 0.12 * fresh);
        // Winter light bleaches what has died.
        let old = v(colours.old) * season.among([1.0, 1.0, 1.0, 0.86, 0.92]);
        Self {
            root: v(colours.root),
            leaf,
            tip: v(colours.tip) * (1.0 + 0.1 * fresh),
            old,
            wood: v(colours.wood),
            flower: v(colours.flower),
            eye: v(colours.eye),
            spread: colours.spread,
            through: colours.through,
            bloom,
            kept,
            turned,
        }
    }

    /// Whether a thing with this number of its own has turned, and how far; some turn early, some late.
    fn turn(&self, own: f32) -> f32 {
        (self.turned * 2.2 - own * 1.2).clamp(0.0, 1.0)
    }

    /// Base and tip of a leaf with a number of its own.
    pub fn leaf_tones(&self, own: f32) -> (Vec3, Vec3) {
        let tone = 1.0 + self.spread * (own - 0.5) * 1.2;
        let mix = 0.25 + 0.5 * self.spread * own;
        let (body, tip) = (self.leaf * tone, self.leaf.lerp(self.tip, mix + 0.25) * tone);
        let turn = self.turn((own * 7.31).fract());
        let old = self.old * (1.0 + 0.5 * self.spread * (own - 0.5));
        (body.lerp(old * 0.92, turn), tip.lerp(old * 1.05, turn))
    }

    /// Middle and tip of a blade with a number of its own.
    pub fn blade(&self, own: f32, dead: bool) -> (Vec3, Vec3) {
        if dead {
            return (self.old * 0.78, self.old);
        }
        let (body, _) = self.leaf_tones(own);
        let turn = self.turn((own * 7.31).fract());
        let tip = self.leaf.lerp(self.tip, 0.35 + 0.65 * own).lerp(self.old, turn);
        (body, tip)
    }

    /// A petal with a number of its own.
    pub fn petal(&self, own: f32) -> Vec3 {
        (self.flower * (1.0 + self.spread * (own - 0.5) * 0.8)).min(Vec3::ONE)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn colours() -> Colours {
        let c = [0.1, 0.2, 0.05];
        Colours {
            root: c,
            leaf: c,
            tip: c,
            old: [0.4, 0.2, 0.1],
            wood: c,
            flower: c,
            eye: c,
            spread: 0.3,
            through: 1.0,
            sheen: 0.0,
            glow: 0.0,
        }
    }

    #[test]
    fn leaves_that_fall_are_gone_in_winter_and_evergreen_ones_are_not() {
        let year = Year { evergreen: 0.0, sheds: true, flowers_at: 0.0, flowers_for: 0.5 };
        let kept = |year: &Year, at| Look::at(&colours(), year, Season(at)).kept;
        assert_eq!((kept(&year, 1.0), kept(&year, 3.0)), (1.0, 0.0));
        assert!(kept(&Year { evergreen: 1.0, ..year }, 3.0) > 0.9);
        assert_eq!(kept(&Year { sheds: false, ..year }, 3.0), 1.0);
    }

    #[test]
    fn flowers_open_about_their_season_and_never_on_the_dead() {
        let year = Year { evergreen: 0.0, sheds: true, flowers_at: 1.0, flowers_for: 0.5 };
        let bloom = |at| Look::at(&colours(), &year, Season(at)).bloom;
        assert_eq!((bloom(1.0), bloom(2.0), bloom(4.0)), (1.0, 0.0, 0.0));
        assert!(bloom(0.75) > 0.5 && bloom(0.75) < 1.0);
    }

    #[test]
    fn a_turned_leaf_has_the_colour_of_old_ones() {
        let year = Year { evergreen: 0.0, sheds: true, flowers_at: 0.0, flowers_for: 0.5 };
        let look = Look::at(&Colours { spread: 0.0, ..colours() }, &year, Season(3.0));
        assert!((look.leaf_tones(0.5).0 - look.old * 0.92).length() < 1e-5);
    }
}
