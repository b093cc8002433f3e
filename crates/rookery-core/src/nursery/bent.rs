//! A form as it lies in the wind.

use super::Mesh;
use crate::math::limb::{Limb, Turn};
use glam::{Quat, Vec3};
use std::f32::consts::TAU;

/// How a form stands beside its base point: scaled along its own axes, then turned.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pose {
    /// From the form's frame to the scene.
    pub rotation: Quat,
    /// Along its own axes, above zero.
    pub scale: Vec3,
}

impl Pose {
    /// As it was made.
    pub const AS_MADE: Self = Self { rotation: Quat::IDENTITY, scale: Vec3::ONE };

    /// Where a point of the form comes to.
    pub fn point(&self, v: Vec3) -> Vec3 {
        self.rotation * (self.scale * v)
    }

    /// Where a direction across its surface comes to; not a unit vector.
    pub fn normal(&self, n: Vec3) -> Vec3 {
        self.rotation * (n / self.scale)
    }
}

/// A place of a form that moves: what it hangs on, where along it, and where it is at rest.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Hung {
    /// What bends, in the form's frame.
    pub limb: Limb,
    /// Where along it, 0 to 1.
    pub share: f32,
    /// At rest, in the form's frame, metres.
    pub at: Vec3,
}

impl Hung {
    /// Where it comes to beside the base point of a plant in a pose that is turned.
    pub fn turned(&self, pose: &Pose, turn: &Turn) -> Vec3 {
        let limb = self.limb.posed(pose.rotation, pose.scale);
        limb.turned(turn, self.share, pose.point(self.at), Vec3::Y).0
    }
}

impl Mesh {
    /// What a vertex hangs on. What knows no limbs bends as a whole, `tall` metres high.
    pub fn hung(&self, vertex: usize, tall: f32) -> Hung {
        let (shares, at) = (&self.shares, self.positions[vertex]);
        if shares.limbs.is_empty() {
            let limb = Limb { set: Vec3::Y * tall, ..Limb::default() };
            return Hung { limb, share: (at.y / tall).clamp(0.0, 1.0), at };
        }
        Hung { limb: shares.limbs[usize::from(shares.limb[vertex])], share: shares.share[vertex], at }
    }

    /// The form in a pose, beside its base point, with its tips turned. The same formula as in the view.
    pub fn turned(&self, pose: &Pose, turn: &Turn, tall: f32) -> Self {
        let mut mesh = self.clone();
        for (i, (p, n)) in mesh.positions.iter_mut().zip(&mut mesh.normals).enumerate() {
            let hung = self.hung(i, tall);
            let limb = hung.limb.posed(pose.rotation, pose.scale);
            let (at, normal) = limb.turned(turn, hung.share, pose.point(hung.at), pose.normal(*n));
            (*p, *n) = (at, normal.normalize_or(*n));
        }
        // It lies as it is: it is not bent once more.
        mesh.shares = Box::default();
        mesh
    }

    /// Places of the form that tell how far apart two shapes of it are: what is outermost to all sides, and what is furthest from where
    /// turning the whole form about its foot would take it when the wind comes from some side.
    pub fn telling(&self, tall: f32) -> Vec<Hung> {
        let all: Vec<Hung> = (0..self.positions.len()).map(|i| self.hung(i, tall)).collect();
        let mut found: Vec<Hung> = Vec::new();
        let mut keep = |most: &dyn Fn(&Hung) -> f32| {
            let one = all.iter().map(|h| (most(h), h)).max_by(|a, b| a.0.total_cmp(&b.0));
            if let Some((_, one)) = one.filter(|(_, one)| !found.contains(one)) {
                found.push(*one);
            }
        };
        let sides = [0.0, 1.0, 2.0, 3.0, 4.0, 5.0].map(|k| k * TAU / 6.0);
        for side in sides {
            let turn = Turn::towards([0.6 * libm::cosf(side), 0.6 * libm::sinf(side)]);
            let rest = Stood::of(tall, &Pose::AS_MADE, &turn, &Turn { angle: 0.0, ..turn });
            let off = |h: &Hung| rest.point(h.at).distance_squared(h.turned(&Pose::AS_MADE, &turn));
            // On the side that the wind comes from, and on the other.
            let way = Vec3::new(libm::cosf(side), 0.0, libm::sinf(side));
            keep(&|h| if h.at.dot(way) < 0.0 { off(h) } else { -1.0 });
            keep(&|h| if h.at.dot(way) < 0.0 { -1.0 } else { off(h) });
        }
        // So close to one another that what lies between them is hardly further out: turning the whole form moves that most.
        for k in 0..8 {
            let side = k as f32 * TAU / 8.0;
            for up in if k % 2 == 0 { [0.0, 1.0].as_slice() } else { &[0.0] } {
                let way = Vec3::new(libm::cosf(side), *up, libm::sinf(side));
                keep(&|h| h.at.dot(way));
            }
        }
        found
    }
}

/// How a shape stands for another: turned and grown about its foot so that its tip is where that one's is.
pub struct Stood(Pose);

impl Stood {
    /// A shape that was turned first and posed then, for one that was posed first and turned then. The tip is that of an upright stem.
    pub fn of(tall: f32, pose: &Pose, truth: &Turn, shape: &Turn) -> Self {
        let stem = Limb { set: Vec3::Y * tall, ..Limb::default() };
        let tip = Hung { limb: stem, share: 1.0, at: Vec3::Y * tall };
        let (there, here) = (tip.turned(pose, truth), pose.point(tip.turned(&Pose::AS_MADE, shape)));
        let spin = Quat::from_rotation_arc(here.normalize(), there.normalize());
        let grow = there.length() / here.length();
        Self(Pose { rotation: spin * pose.rotation, scale: pose.scale * grow })
    }

    /// Where a point of the shape comes to.
    pub fn point(&self, v: Vec3) -> Vec3 {
        self.0.point(v)
    }

    /// The pose it stands in.
    pub fn pose(&self) -> Pose {
        self.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    use crate::nursery::{Detail, Season, ready};

    #[test]
    fn a_form_turned_about_its_axis_bends_as_the_plant_does() {
        let marram = ready().iter().find(|s| s.id.0 == "marram").unwrap();
        let (form, tall) = (marram.build(3, Detail::Full, Season::SUMMER), marram.height_m());
        let (yaw, times) = (1.1_f32, 1.3_f32);
        let pose = Pose { rotation: Quat::from_rotation_y(yaw), scale: Vec3::splat(times) };
        let turn = Turn { about: Vec3::new(0.6, 0.0, 0.8), angle: 0.7 };
        let there = form.turned(&pose, &turn, tall);
        // Bending and turning about the upright change places, as do bending and growing.
        let own = Turn { about: pose.rotation.inverse() * turn.about, ..turn };
        let here = form.turned(&Pose::AS_MADE, &own, tall);
        for (a, b) in there.positions.iter().zip(&here.positions) {
            assert!(a.distance(pose.point(*b)) < 1e-4, "{a} for {b}");
        }
        let moved = there.positions.iter().zip(&form.positions).map(|(a, b)| a.distance(pose.point(*b)));
        assert!(moved.fold(0.0, f32::max) > 0.3 * tall * times);
        assert!(there.normals.iter().all(|n| n.is_normalized()));
    }

    #[test]
    fn what_tells_is_as_far_off_as_anything() {
        for species in ready().iter().filter(|s| s.sway().is_some()) {
            let (form, tall) = (species.build(1, Detail::Full, Season::SUMMER), species.height_m());
            let marks = form.telling(tall);
            assert!((4..=24).contains(&marks.len()), "{}: {}", species.id.0, marks.len());
            for way in 0..4 {
                let at = 0.3 + TAU * way as f32 / 4.0;
                let turn = Turn::towards([0.4 * at.cos(), 0.4 * at.sin()]);
                let stood = Stood::of(tall, &Pose::AS_MADE, &turn, &Turn { angle: 0.0, ..turn });
                let off = |h: Hung| stood.point(h.at).distance(h.turned(&Pose::AS_MADE, &turn));
                let all = (0..form.positions.len()).map(|i| off(form.hung(i, tall))).fold(0.0, f32::max);
                let told = marks.iter().map(|h| off(*h)).fold(0.0, f32::max);
                assert!(told > 0.8 * all, "{}: {told} for {all}", species.id.0);
            }
        }
    }
}
