//! How a plant stands at its place.

use crate::math::hash::{Channel, draw, unit};
use crate::planting::{Candidate, Plant};
use crate::scene::{Range, Stance};
use glam::{Quat, Vec3};

/// Stands a plant at a point of the ground. `forms` is how many individuals the species has, at least 1.
///
/// Each setting has numbers of its own: changing one leaves all else about the plant as it was.
#[inline]
pub fn stand(
    seed: u32,
    candidate: &Candidate,
    ground_y: f32,
    normal: Vec3,
    stance: &Stance,
    forms: u16,
) -> Plant {
    let [size, form, tint, _] = draw(seed, candidate.id.0, Channel::Body);
    let [turn, tilt, lean_to, _] = draw(seed, candidate.id.0, Channel::Stance);
    let upright = if stance.upright > 0.0 {
        let up = Vec3::Y.lerp(normal, stance.upright).normalize();
        Quat::from_rotation_arc(Vec3::Y, up)
    } else {
        Quat::IDENTITY
    };
    // Clockwise seen from above is negative about +Y.
    let turn = about_y(-between(stance.turn_deg, unit(turn)).to_radians());
    let tilt = if stance.tilt_deg > 0.0 {
        let to = about_y(unit(lean_to) * std::f32::consts::TAU);
        // The square root makes all directions within the tilt about equally likely.
        to * about_x((stance.tilt_deg * unit(tilt).sqrt()).to_radians()) * to.inverse()
    } else {
        Quat::IDENTITY
    };
    Plant {
        id: candidate.id,
        position_m: Vec3::new(candidate.x, ground_y - stance.sink_m, candidate.z),
        rotation: upright * tilt * turn,
        size: between(stance.size, unit(size)),
        form: ((u64::from(form) * u64::from(forms)) >> 32) as u16,
        tint: (tint >> 16) as u16,
    }
}

fn between(range: Range, u: f32) -> f32 {
    range.min + (range.max - range.min) * u
}

fn about_y(radians: f32) -> Quat {
    let (s, c) = libm::sincosf(radians * 0.5);
    Quat::from_xyzw(0.0, s, 0.0, c)
}

fn about_x(radians: f32) -> Quat {
    let (s, c) = libm::sincosf(radians * 0.5);
    Quat::from_xyzw(s, 0.0, 0.0, c)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::planting::PlantId;
    use glam::vec3;

    fn still() -> Stance {
        let one = Range { min: 1.0, max: 1.0 };
        Stance { size: one, turn_deg: Range { min: 0.0, max: 0.0 }, tilt_deg: 0.0, upright: 0.0, sink_m: 0.0 }
    }

    fn at(i: u16) -> Candidate {
        Candidate { x: 1.0, z: 2.0, birth: 0.0, id: PlantId::pack(3, 0, 0, i) }
    }

    #[test]
    fn a_quarter_turn_takes_north_to_east() {
        let stance = Stance { turn_deg: Range { min: 90.0, max: 90.0 }, ..still() };
        let plant = stand(1, &at(0), 0.0, Vec3::Y, &stance, 1);
        assert!((plant.rotation * Vec3::NEG_Z).distance(Vec3::X) < 1e-6);
    }

    #[test]
    fn tilt_stays_within_its_limit_and_reaches_near_it() {
        let stance = Stance { tilt_deg: 20.0, ..still() };
        let tilts: Vec<f32> = (0..2000)
            .map(|i| {
                (stand(1, &at(i), 0.0, Vec3::Y, &stance, 1).rotation * Vec3::Y)
                    .angle_between(Vec3::Y)
                    .to_degrees()
            })
            .collect();
        assert!(tilts.iter().all(|&t| t <= 20.01));
        assert!(tilts.iter().any(|&t| t > 19.0) && tilts.iter().any(|&t| t < 3.0));
    }

    #[test]
    fn upright_to_the_surface_follows_the_normal() {
        let normal = vec3(0.6, 0.8, 0.0);
        let stance = Stance { upright: 1.0, ..still() };
        let plant = stand(1, &at(0), 5.0, normal, &stance, 1);
        assert!((plant.rotation * Vec3::Y).distance(normal) < 1e-6);
    }
}
