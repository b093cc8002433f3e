//! How a bent stem lies: turned more and more from foot to tip, and no longer or shorter than it is at rest.

use crate::math::flap::Flap;
use crate::math::sine::{cos_turns, sin_turns};
use glam::{Quat, Vec3};
use std::f32::consts::TAU;

/// Places and weights of Gauss's rule with three points between 0 and 1.
pub const GAUSS: [(f32, f32); 3] =
    [(0.112_701_67, 5.0 / 18.0), (0.5, 8.0 / 18.0), (0.887_298_35, 5.0 / 18.0)];

/// A part that bends by itself: a stem, a blade, a frond. At rest its axis is `foot + set s + curve s^2 / 2` for `s` from 0 to 1.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Limb {
    /// Where it is held, metres.
    pub foot: Vec3,
    /// Where it sets out to, metres for its whole length.
    pub set: Vec3,
    /// How it curves, metres.
    pub curve: Vec3,
}

/// What of a mesh bends: of each vertex the limb that it hangs on and the share of its length at which it does. Empty for what is stiff.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Shares {
    /// The limbs.
    pub limbs: Vec<Limb>,
    /// Of each vertex: which of them.
    pub limb: Vec<u16>,
    /// Of each vertex: where along it, 0 at its foot to 1 at its tip; 0 does not move.
    pub share: Vec<f32>,
    /// Of each vertex: how it turns with its leaf; empty where no leaf does.
    pub flaps: Vec<Flap>,
}

/// How far the tip of a limb is turned, and about which axis.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Turn {
    /// Unit vector; the turn is counter-clockwise about it.
    pub about: Vec3,
    /// Radians, 0 or more.
    pub angle: f32,
}

impl Turn {
    /// The turn that takes what is upright towards x and z, radians.
    pub fn towards(theta: [f32; 2]) -> Self {
        let angle = (theta[0] * theta[0] + theta[1] * theta[1]).sqrt();
        // Up turned about it goes towards where the wind goes.
        let about = if angle < 1e-9 { Vec3::X } else { Vec3::new(theta[1], 0.0, -theta[0]) / angle };
        Self { about, angle }
    }

    /// A vector turned by a share of it.
    fn share(&self, by: f32, v: Vec3) -> Vec3 {
        let turns = self.angle * by / TAU;
        let (sin, cos) = (sin_turns(turns), cos_turns(turns));
        v * cos + self.about.cross(v) * sin + self.about * (self.about.dot(v) * (1.0 - cos))
    }
}

/// How much of the turn of the tip a place along a limb has: that of a beam under an even load.
///
/// Source: slope of a cantilever under an even load, 1 - (1 - s)^3; any handbook of mechanics.
pub fn gamma(s: f32) -> f32 {
    let rest = 1.0 - s;
    1.0 - rest * rest * rest
}

impl Limb {
    /// The limb that runs along points: through the first and the last, and as near as may be to those between.
    pub fn along(points: &[Vec3]) -> Self {
        let (foot, tip) = (points[0], points[points.len() - 1]);
        let whole: f32 = points.windows(2).map(|p| p[0].distance(p[1])).sum();
        let (chord, mut gone, mut fit, mut weight) = (tip - foot, 0.0, Vec3::ZERO, 0.0);
        for pair in points.windows(2) {
            gone += pair[0].distance(pair[1]);
            let s = gone / whole.max(1e-9);
            let bow = (s * s - s) / 2.0;
            fit += (pair[1] - foot - chord * s) * bow;
            weight += bow * bow;
        }
        let curve = if weight > 1e-9 { fit / weight } else { Vec3::ZERO };
        Self { foot, set: chord - curve / 2.0, curve }
    }

    /// The axis at rest.
    pub fn axis(&self, s: f32) -> Vec3 {
        self.foot + self.set * s + self.curve * (s * s / 2.0)
    }

    /// The share of its length at which a point lies nearest to its axis.
    pub fn share_at(&self, p: Vec3) -> f32 {
        let away = |s: f32| self.axis(s).distance_squared(p);
        let mut best =
            (0..=8).map(|i| i as f32 / 8.0).min_by(|a, b| away(*a).total_cmp(&away(*b))).unwrap_or(0.0);
        let mut step = 1.0 / 16.0;
        for _ in 0..8 {
            for s in [(best - step).max(0.0), (best + step).min(1.0)] {
                if away(s) < away(best) {
                    best = s;
                }
            }
            step /= 2.0;
        }
        best
    }

    /// Where a point and a direction that hang on it at `s` come to when its tip is turned by `theta`: radians towards x and z.
    pub fn bent(&self, theta: [f32; 2], s: f32, point: Vec3, normal: Vec3) -> (Vec3, Vec3) {
        self.turned(&Turn::towards(theta), s, point, normal)
    }

    /// The same for a turn about any axis.
    pub fn turned(&self, turn: &Turn, s: f32, point: Vec3, normal: Vec3) -> (Vec3, Vec3) {
        if turn.angle < 1e-9 {
            return (point, normal);
        }
        let mut at = self.foot;
        for (x, w) in GAUSS {
            at += turn.share(gamma(s * x), self.set + self.curve * (s * x)) * (s * w);
        }
        let here = gamma(s);
        (at + turn.share(here, point - self.axis(s)), turn.share(here, normal))
    }

    /// The limb after all of it was scaled along the axes and then turned about the origin.
    pub fn posed(&self, rotation: Quat, scale: Vec3) -> Self {
        let pose = |v: Vec3| rotation * (scale * v);
        Self { foot: pose(self.foot), set: pose(self.set), curve: pose(self.curve) }
    }

    /// All of it so many times as large about a point.
    pub fn scaled(&mut self, times: f32, about: Vec3) {
        self.foot = about + (self.foot - about) * times;
        self.set *= times;
        self.curve *= times;
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// A blade that leans out and curls over.
    fn blade(lean: f32, curl: f32) -> Vec<Vec3> {
        let mut at = Vec3::new(0.05, 0.0, 0.0);
        (0..=60)
            .map(|k| {
                let here = at;
                let way = lean + curl * k as f32 / 60.0;
                at += Vec3::new(way.sin(), way.cos(), 0.0) / 60.0;
                here
            })
            .collect()
    }

    fn length(points: &[Vec3]) -> f32 {
        points.windows(2).map(|p| p[0].distance(p[1])).sum()
    }

    proptest! {
        #[test]
        fn a_blade_keeps_its_length_and_its_foot(lean in 0.0_f32..0.6, curl in 0.0_f32..1.6, angle in 0.0_f32..1.4, way in 0.0_f32..TAU) {
            let points = blade(lean, curl);
            let limb = Limb::along(&points);
            let theta = [angle * way.cos(), angle * way.sin()];
            let bent: Vec<Vec3> = points.iter().enumerate().map(|(i, p)| limb.bent(theta, i as f32 / 60.0, *p, Vec3::Y).0).collect();
            prop_assert!((length(&bent) / length(&points) - 1.0).abs() < 0.02, "{} for {}", length(&bent), length(&points));
            prop_assert!(bent[0].distance(points[0]) < 1e-6);
        }

        #[test]
        fn what_rides_on_a_limb_keeps_its_shape(angle in 0.0_f32..1.4, s in 0.0_f32..1.0, x in -0.3_f32..0.3, y in -0.3_f32..0.3) {
            let limb = Limb::along(&blade(0.2, 0.8));
            let at = limb.axis(s);
            let corners = [at, at + Vec3::new(x, y, 0.1), at + Vec3::new(0.1, x, y)];
            let bent = corners.map(|p| limb.bent([angle, 0.0], s, p, Vec3::Y).0);
            for (i, j) in [(0, 1), (1, 2), (2, 0)] {
                prop_assert!((corners[i].distance(corners[j]) - bent[i].distance(bent[j])).abs() < 1e-4);
            }
        }
    }

    #[test]
    fn a_straight_stem_lies_as_the_bent_beam_does() {
        // The slope is turned by 1 - (1 - s)^3 of the tip's: summed in small steps.
        let limb = Limb::along(&[Vec3::ZERO, Vec3::Y * 0.5, Vec3::Y]);
        for angle in [0.1_f32, 0.6, 1.2] {
            let (mut at, steps) = (Vec3::ZERO, 20_000);
            for k in 0..steps {
                let a = angle * gamma((k as f32 + 0.5) / steps as f32);
                at += Vec3::new(a.sin(), a.cos(), 0.0) / steps as f32;
            }
            let (tip, normal) = limb.bent([angle, 0.0], 1.0, Vec3::Y, Vec3::Y);
            assert!(tip.distance(at) < 2e-3, "{tip} for {at}");
            assert!((normal.x - angle.sin()).abs() < 1e-5, "{normal}");
        }
        // Small loads: the tip of a beam goes three quarters of its slope there aside.
        let (tip, _) = limb.bent([0.01, 0.0], 1.0, Vec3::Y, Vec3::Y);
        assert!((tip.x - 0.0075).abs() < 1e-5, "{tip}");
    }

    #[test]
    fn a_point_finds_its_place_along_a_limb() {
        let limb = Limb::along(&blade(0.3, 1.0));
        for s in [0.0, 0.13, 0.5, 0.77, 1.0] {
            assert!((limb.share_at(limb.axis(s)) - s).abs() < 1e-3);
        }
    }
}
