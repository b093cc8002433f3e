//! Leaves that turn about their own stalks.

use super::Mesh;
use crate::math::flap::FLAP_KINDS;
use crate::math::sine::sin_turns;

/// How the leaves of a plant turn at a moment.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Flutter {
    /// How far to either side, radians.
    pub most_rad: f32,
    /// How many times each kind has turned to and fro since the start, without the whole ones.
    pub turns: [f32; FLAP_KINDS],
}

impl Flutter {
    /// How far a leaf is turned, radians.
    fn angle(&self, phase: f32) -> f32 {
        let kind = (phase as usize).min(FLAP_KINDS - 1);
        self.most_rad * sin_turns(self.turns[kind] + phase)
    }
}

impl Mesh {
    /// The form with its leaves turned about their stalks. The same formula as in the view.
    pub fn fluttering(&self, flutter: &Flutter) -> Self {
        let mut mesh = self.clone();
        for ((p, n), flap) in mesh.positions.iter_mut().zip(&mut mesh.normals).zip(&self.shares.flaps) {
            let (along, off, phase) = flap.parts();
            let angle = flutter.angle(phase);
            *p += off * angle;
            *n = (*n + along.cross(*n) * angle).normalize_or(*n);
        }
        mesh
    }

    /// How far any leaf reaches from its stalk, metres; 0 where none flutters.
    pub fn flap_m(&self) -> f32 {
        self.shares.flaps.iter().map(|f| f.parts().1.length()).fold(0.0, f32::max)
    }
}

/// The most that a leaf is turned to either side in a fresh breeze, radians: by eye.
pub const FLUTTER_RAD: f32 = 0.3;

/// How fast the kinds of leaves turn to and fro, Hz: by eye, between the 3 and 7 of a design of ours.
pub const FLUTTER_HZ: [f32; FLAP_KINDS] = [3.1, 4.3, 5.3, 6.7];

/// The turns of each kind at a time, seconds, without the whole ones: an hour is as exact as a second.
pub fn flutter_turns(time_s: f64) -> [f32; FLAP_KINDS] {
    FLUTTER_HZ.map(|hz| (f64::from(hz) * time_s).fract() as f32)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::nursery::{Detail, Season, ready};
    use glam::Vec3;

    fn form(id: &str, detail: Detail) -> Mesh {
        let species = ready().iter().find(|s| s.id.0 == id).unwrap();
        species.build(1, detail, Season::SUMMER)
    }

    #[test]
    fn leaves_turn_about_their_stalks_and_wood_stands() {
        let birch = form("downy-birch", Detail::Full);
        assert_eq!(birch.shares.flaps.len(), birch.positions.len());
        let turns = flutter_turns(1.23);
        let blown = birch.fluttering(&Flutter { most_rad: FLUTTER_RAD, turns });
        let moved = |i: &usize| blown.positions[*i] != birch.positions[*i];
        let all: Vec<usize> = (0..birch.positions.len()).filter(moved).collect();
        // Where light goes through there is a leaf.
        assert!(all.iter().all(|i| birch.through[*i] > 0.0));
        let leaves = birch.through.iter().filter(|t| **t > 0.0).count();
        assert!(all.len() * 3 > leaves, "{} of {leaves} move", all.len());
        let far = all.iter().map(|i| blown.positions[*i].distance(birch.positions[*i])).fold(0.0, f32::max);
        assert!(far > 0.002 && far <= birch.flap_m() * FLUTTER_RAD * 1.001, "{far} of {}", birch.flap_m());
        let calm = birch.fluttering(&Flutter { most_rad: 0.0, turns });
        assert!(calm.positions == birch.positions, "nothing moves in a calm");
        // All kinds and phases are there: as many go one way as the other.
        let signs = birch.shares.flaps.iter().filter(|f| f.parts().0 != Vec3::ZERO);
        let sum: f32 = signs.clone().map(|f| Flutter { most_rad: 1.0, turns }.angle(f.parts().2)).sum();
        assert!(sum.abs() / signs.count() as f32 <= 0.05, "{sum}");
    }

    #[test]
    fn light_forms_and_what_has_no_leaves_do_not_flutter() {
        assert!(form("downy-birch", Detail::Light).shares.flaps.is_empty());
        assert!(form("boulder", Detail::Full).shares.flaps.is_empty());
        assert_eq!(form("marram", Detail::Full).flap_m(), 0.0);
    }

    #[test]
    fn an_hour_is_as_exact_as_a_second() {
        let [now, later] = [0.25, 0.25 + 3600.0].map(flutter_turns);
        for (a, b) in now.iter().zip(later) {
            let off = (a - b).abs();
            assert!(off.min(1.0 - off) < 1e-3, "{a} {b}");
        }
    }
}
