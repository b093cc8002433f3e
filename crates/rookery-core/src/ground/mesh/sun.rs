//! How long the sun shines on a mesh.

use super::MeshModel;
use crate::cancel::{CancelToken, Cancelled};
use crate::document::Upright;
use crate::ground::SunPath;
use rayon::prelude::*;

/// Parts the day is cut into.
const PARTS: usize = 32;
/// Times that a part in which the sun comes or goes is halved.
const HALVINGS: usize = 4;

impl MeshModel {
    /// Hours of direct sun in a day at every vertex, 0 to 24, by rays: while the surface faces it and nothing of the mesh stands
    /// before it. A small planet has the sun go about its pole, which points up.
    ///
    /// # Errors
    /// [`Cancelled`].
    pub fn sun_hours(&self, path: &SunPath, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
        let path = if self.upright == Upright::Centre { path.about_a_planet() } else { *path };
        let tree = self.tree();
        let (low, high) = self.mesh.bounds();
        let reach = low.distance(high);
        let part_h = path.half_day_h() * 2.0 / PARTS as f32;
        let at_h = |i: usize| i as f32 * part_h - path.half_day_h();
        let suns: Vec<_> = (0..=PARTS).map(|i| path.towards(at_h(i))).collect();
        let vertices = self.mesh.positions.par_iter().zip(&self.mesh.normals);
        let hours: Vec<f32> = vertices
            .map(|(p, n)| {
                if cancel.is_cancelled() {
                    return 0.0;
                }
                // Off the surface, so that it does not stand in its own way.
                let from = *p + *n * (reach * 1e-4);
                let lit = |to: glam::Vec3| to.dot(*n) > 0.0 && !tree.blocks(from, to, reach);
                let mut hours = 0.0;
                let mut before = lit(suns[0]);
                for (i, sun) in suns.iter().enumerate().skip(1) {
                    let now = lit(*sun);
                    hours += match (before, now) {
                        (true, true) => part_h,
                        (false, false) => 0.0,
                        _ => {
                            let (mut low, mut high) = (at_h(i - 1), at_h(i));
                            for _ in 0..HALVINGS {
                                let middle = (low + high) * 0.5;
                                if lit(path.towards(middle)) == before { low = middle } else { high = middle }
                            }
                            let changes = (low + high) * 0.5;
                            if before { changes - at_h(i - 1) } else { at_h(i) - changes }
                        }
                    };
                    before = now;
                }
                hours
            })
            .collect();
        if cancel.is_cancelled() { Err(Cancelled) } else { Ok(hours) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Earths, PlanetGround, SunDay};
    use crate::ground::made::planet;
    use crate::ground::{Frame, MeshStanding, MeshSurface};
    use glam::{Vec3, vec3};

    fn model(surface: &MeshSurface, upright: Upright) -> MeshModel {
        let standing =
            MeshStanding { base_m: 0.0, upright, earths: Earths::default(), water_m: None, seed: 1 };
        MeshModel::new(surface, &standing).unwrap()
    }

    fn day(latitude_deg: f32, month: u8) -> SunPath {
        SunPath::new(&SunDay { latitude_deg, month, day: 21 }, &Frame::SCENE)
    }

    /// A smooth ball of 20 m.
    fn ball() -> MeshSurface {
        planet(&PlanetGround { radius_m: 20.0, relief: 0.0, ..PlanetGround::default() })
    }

    /// The closed form of the length of day: every latitude of the ball has its own.
    #[test]
    fn each_latitude_of_a_planet_has_its_own_day() {
        let model = model(&ball(), Upright::Centre);
        let hours = model.sun_hours(&day(56.0, 6), &CancelToken::default()).unwrap();
        let mut off = 0;
        for (p, got) in model.mesh.positions.iter().zip(&hours) {
            let latitude = (p.y / p.length()).asin().to_degrees();
            off += usize::from((got - 2.0 * day(latitude, 6).half_day_h()).abs() > 0.5);
        }
        // Near the circle of the midnight sun a degree is an hour and more.
        assert!(off * 20 < hours.len(), "{off} of {}", hours.len());
    }

    /// On a ball that stands on the ground each place has the sun while it faces it, second by second.
    #[test]
    fn a_boulder_has_the_sun_on_the_side_it_stands() {
        let model = model(&ball(), Upright::Gravity);
        let own = day(50.0, 3);
        let hours = model.sun_hours(&own, &CancelToken::default()).unwrap();
        for toward in [Vec3::Y, Vec3::Z, Vec3::NEG_Z, Vec3::X, Vec3::NEG_X, vec3(0.5, -0.6, 0.6).normalize()]
        {
            let i = (0..hours.len())
                .max_by(|a, b| {
                    let along = |i: usize| model.mesh.positions[i].dot(toward);
                    along(*a).total_cmp(&along(*b))
                })
                .unwrap();
            let minutes = (own.half_day_h() * 60.0) as i32;
            let n = model.mesh.normals[i];
            let lit = (-minutes..minutes).filter(|m| own.towards(*m as f32 / 60.0).dot(n) > 0.0).count();
            assert!((hours[i] - lit as f32 / 60.0).abs() < 0.1, "{toward}: {} {lit}", hours[i]);
        }
    }
}
