//! How a plant stands at its place.

use crate::ground::Footing;
use crate::math::hash::{Channel, draw, unit};
use crate::planting::{Plant, PlantId};
use crate::scene::{GroundId, Range, Stance};
use glam::{Quat, Vec3};

/// Stands a plant with this name at a point of the ground. `forms` is how many individuals the species has, at least 1.
///
/// Each setting has numbers of its own: changing one leaves all else about the plant as it was.
#[inline]
pub fn stand(seed: u32, id: PlantId, footing: &Footing, stance: &Stance, forms: u16) -> Plant {
    let [size, form, tint, _] = draw(seed, id.0, Channel::Body);
    let [turn, tilt, lean_to, _] = draw(seed, id.0, Channel::Stance);
    let up = if stance.upright > 0.0 {
        footing.up.lerp(footing.normal, stance.upright).try_normalize().unwrap_or(footing.normal)
    } else {
        footing.up
    };
    let upright = if up == Vec3::Y { Quat::IDENTITY } else { Quat::from_rotation_arc(Vec3::Y, up) };
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
        id,
        ground: GroundId::LAND,
        position_m: footing.position_m - up * stance.sink_m,
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
    use glam::vec3;

    fn still() -> Stance {
        let one = Range { min: 1.0, max: 1.0 };
        Stance { size: one, turn_deg: Range { min: 0.0, max: 0.0 }, tilt_deg: 0.0, upright: 0.0, sink_m: 0.0 }
    }

    fn at(i: u16) -> PlantId {
        PlantId::pack(3, 0, 0, i)
    }

    fn on(normal: Vec3, up: Vec3) -> Footing {
        Footing { position_m: vec3(1.0, 5.0, 2.0), normal, up }
    }

    #[test]
    fn a_quarter_turn_takes_north_to_east() {
        let stance = Stance { turn_deg: Range { min: 90.0, max: 90.0 }, ..still() };
        let plant = stand(1, at(0), &on(Vec3::Y, Vec3::Y), &stance, 1);
        assert!((plant.rotation * Vec3::NEG_Z).distance(Vec3::X) < 1e-6);
    }

    #[test]
    fn tilt_stays_within_its_limit_and_reaches_near_it() {
        let stance = Stance { tilt_deg: 20.0, ..still() };
        let tilts: Vec<f32> = (0..2000)
            .map(|i| {
                let plant = stand(1, at(i), &on(Vec3::Y, Vec3::Y), &stance, 1);
                (plant.rotation * Vec3::Y).angle_between(Vec3::Y).to_degrees()
            })
            .collect();
        assert!(tilts.iter().all(|&t| t <= 20.01));
        assert!(tilts.iter().any(|&t| t > 19.0) && tilts.iter().any(|&t| t < 3.0));
    }

    #[test]
    fn upright_to_the_surface_follows_the_normal() {
        let normal = vec3(0.6, 0.8, 0.0);
        let stance = Stance { upright: 1.0, ..still() };
        let plant = stand(1, at(0), &on(normal, Vec3::Y), &stance, 1);
        assert!((plant.rotation * Vec3::Y).distance(normal) < 1e-6);
    }

    #[test]
    fn where_up_is_away_from_the_middle_a_plant_stands_and_sinks_along_it() {
        let up = vec3(0.0, -0.6, 0.8);
        let stance = Stance { sink_m: 0.5, ..still() };
        let plant = stand(1, at(0), &on(Vec3::X, up), &stance, 1);
        assert!((plant.rotation * Vec3::Y).distance(up) < 1e-6);
        assert!(plant.position_m.distance(vec3(1.0, 5.3, 1.6)) < 1e-6);
    }
}
