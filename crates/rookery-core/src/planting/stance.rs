//! How a plant stands at its place.

use super::Mix;
use super::clearance::Body;
use crate::document::{GroundId, LeanTo, Range, SizeSpread, Stance, Tint};
use crate::ground::{Footing, Surface};
use crate::math::hash::{Channel, draw, unit};
use crate::nursery::srgb_to_linear;
use crate::planting::Driven;
use crate::planting::{Plant, PlantId};
use glam::{Quat, Vec3};
use std::f32::consts::TAU;

/// Slopes from here on lean plants in full, as a sine.
const FULL_LEAN: f32 = 0.5;

/// What all plants of a layer on one ground share.
#[derive(Clone, Copy, Debug)]
pub struct Standing<'a> {
    /// The layer's arrangement.
    pub seed: u32,
    /// How they stand.
    pub stance: &'a Stance,
    /// What colour is laid over them.
    pub tint: &'a Tint,
    /// What they are.
    pub mix: &'a Mix,
    /// North of the scene as the ground sees it.
    pub north: Vec3,
}

impl Standing<'_> {
    /// Stands the plant of a place. What masks change there is in `driven`.
    #[inline]
    pub fn at<S: Surface>(&self, ground: &S, spot: &S::Spot, id: PlantId, driven: &Driven) -> Plant {
        let on = |spot: &S::Spot| Plant {
            carrier: ground.carrier(spot),
            ..self.on(&ground.footing(spot), id, driven)
        };
        if self.stance.shift_m <= 0.0 { on(spot) } else { on(&self.shifted(ground, spot, id)) }
    }

    /// Where the plant of a place meets the ground and how wide it is, without all else about it. How deep it is sunk plays no part.
    #[inline]
    pub fn body<S: Surface>(&self, ground: &S, spot: &S::Spot, id: PlantId, driven: &Driven) -> Body {
        let stance = self.stance;
        let at_m = if stance.shift_m > 0.0 {
            ground.position_m(&self.shifted(ground, spot, id))
        } else {
            ground.position_m(spot)
        };
        let deep = if stance.deep.min < stance.deep.max || stance.tall.min < stance.tall.max {
            between(stance.deep, unit(draw(self.seed, id.0, Channel::Spread)[1]))
        } else {
            stance.deep.min
        };
        Body {
            at_m,
            species: self.mix.choose(self.seed, id, driven.weights.as_ref()),
            across: self.size(draw(self.seed, id.0, Channel::Body)[0], driven) * deep.max(1.0),
        }
    }

    /// The point a plant is shifted to. The square root makes all places within reach about equally likely.
    fn shifted<S: Surface>(&self, ground: &S, spot: &S::Spot, id: PlantId) -> S::Spot {
        let [.., r, a] = draw(self.seed, id.0, Channel::Tumble);
        let (s, c) = libm::sincosf(unit(a) * TAU);
        let away = self.stance.shift_m * unit(r).sqrt();
        ground.beside(spot, c * away, s * away)
    }

    /// A plant's size, from its own number.
    #[inline]
    fn size(&self, own: u32, driven: &Driven) -> f32 {
        between(self.stance.size, spread(self.stance.sizes, unit(own))) * driven.size
    }

    /// Stands a plant with this name at a point of the ground.
    ///
    /// Each setting has numbers of its own: changing one leaves all else about the plant as it was.
    #[inline]
    pub fn on(&self, footing: &Footing, id: PlantId, driven: &Driven) -> Plant {
        let (seed, stance) = (self.seed, self.stance);
        let species = self.mix.choose(seed, id, driven.weights.as_ref());
        let kin = self.mix.kin(species);
        let [size, form, tint, _] = draw(seed, id.0, Channel::Body);
        let [turn, tilt, lean_to, _] = draw(seed, id.0, Channel::Stance);
        let [tall, deep, lift, light] =
            if self.spreads() { draw(seed, id.0, Channel::Spread) } else { [0; 4] };
        let up = if stance.upright > 0.0 {
            footing.up.lerp(footing.normal, stance.upright).try_normalize().unwrap_or(footing.normal)
        } else {
            footing.up
        };
        let upright = if up == Vec3::Y { Quat::IDENTITY } else { Quat::from_rotation_arc(Vec3::Y, up) };
        // Clockwise seen from above is negative about +Y.
        let turn = about_y(-between(stance.turn_deg, unit(turn)).to_radians());
        let most_tilt = stance.tilt_deg.min(kin.most.tilt_deg);
        let tilt = if most_tilt > 0.0 {
            let to = about_y(unit(lean_to) * TAU);
            // The square root makes all directions within the tilt about equally likely.
            to * about_x((most_tilt * unit(tilt).sqrt()).to_radians()) * to.inverse()
        } else {
            Quat::IDENTITY
        };
        let mut rotation = upright * tilt * turn;
        let lean_deg = stance.lean_deg.clamp(-kin.most.lean_deg, kin.most.lean_deg);
        if lean_deg != 0.0 {
            rotation = self.lean(footing, lean_deg) * rotation;
        }
        let tumble = stance.tumble.min(kin.most.tumble);
        if tumble > 0.0 {
            rotation = rotation.slerp(any_way(draw(seed, id.0, Channel::Tumble)), tumble);
        }
        let raised = between(stance.lift_m, unit(lift)) - stance.sink_m;
        let light = 1.0 + self.tint.spread * (unit(light) - 0.5);
        let colour = tint_towards(self.tint.colour, self.tint.strength) * driven.colour * light;
        Plant {
            id,
            ground: GroundId::LAND,
            carrier: GroundId::LAND,
            position_m: footing.position_m + up * raised,
            rotation,
            size: self.size(size, driven),
            stretch: [between(stance.tall, unit(tall)), between(stance.deep, unit(deep))],
            species,
            form: ((u64::from(form) * u64::from(kin.forms)) >> 32) as u16,
            tint: (tint >> 16) as u16,
            colour: colour.to_array().map(|c| (c * 128.0).round().clamp(0.0, 255.0) as u8),
        }
    }

    /// Whether any setting needs the numbers of [`Channel::Spread`].
    fn spreads(&self) -> bool {
        let Stance { tall, deep, lift_m, .. } = self.stance;
        [tall, deep, lift_m].iter().any(|r| r.min < r.max) || self.tint.spread > 0.0
    }

    /// A turn by so many degrees towards where plants lean, as far as the ground lets them.
    fn lean(&self, footing: &Footing, deg: f32) -> Quat {
        let level = footing.up;
        let (towards, share) = match self.stance.lean {
            LeanTo::Downhill => {
                let down = footing.normal - level * footing.normal.dot(level);
                (down, (down.length() / FULL_LEAN).min(1.0))
            }
            LeanTo::Bearing { deg } => {
                let (s, c) = libm::sincosf(-deg.to_radians() * 0.5);
                let to = Quat::from_xyzw(0.0, s, 0.0, c) * self.north;
                (to - level * to.dot(level), 1.0)
            }
        };
        let axis = level.cross(towards).try_normalize();
        axis.map_or(Quat::IDENTITY, |axis| Quat::from_axis_angle(axis, (deg * share).to_radians()))
    }
}

/// Where a number from 0 to 1 lies in a spread of sizes; it never falls as the number rises.
#[inline]
pub fn spread(sizes: SizeSpread, u: f32) -> f32 {
    match sizes {
        SizeSpread::Even => u,
        SizeSpread::Middle if u < 0.5 => (u * 0.5).sqrt(),
        SizeSpread::Middle => 1.0 - ((1.0 - u) * 0.5).sqrt(),
        SizeSpread::Small => u * u,
        SizeSpread::Large => 1.0 - (1.0 - u) * (1.0 - u),
    }
}

/// What a colour's light is multiplied with to come towards a colour, by red, green and blue. Its lightness stays: luminance by
/// IEC 61966-2-1 (sRGB).
pub fn tint_towards(colour: [f32; 3], strength: f32) -> Vec3 {
    if strength <= 0.0 {
        return Vec3::ONE;
    }
    let linear = Vec3::from(colour.map(|c| srgb_to_linear((c.clamp(0.0, 1.0) * 255.0).round() as u8)));
    let light = linear.dot(Vec3::new(0.2126, 0.7152, 0.0722));
    // Black has no colour of its own.
    let full = if light < 1e-4 { Vec3::ONE } else { (linear / light).min(Vec3::splat(1.98)) };
    Vec3::ONE.lerp(full, strength)
}

/// All directions alike. Source: Shoemake, "Uniform random rotations", Graphics Gems III, 1992.
fn any_way([a, b, c, _]: [u32; 4]) -> Quat {
    let u = unit(a);
    let ((s1, c1), (s2, c2)) = (libm::sincosf(unit(b) * TAU), libm::sincosf(unit(c) * TAU));
    let (r1, r2) = ((1.0 - u).sqrt(), u.sqrt());
    Quat::from_xyzw(s1 * r1, c1 * r1, s2 * r2, c2 * r2).normalize()
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

    fn at(i: u16) -> PlantId {
        PlantId::pack(3, 0, 0, i)
    }

    fn on(normal: Vec3, up: Vec3) -> Footing {
        Footing { position_m: vec3(1.0, 5.0, 2.0), normal, up }
    }

    const LEVEL: Footing = Footing { position_m: vec3(1.0, 5.0, 2.0), normal: Vec3::Y, up: Vec3::Y };

    fn stand(id: PlantId, footing: &Footing, stance: &Stance) -> Plant {
        let (mix, tint) = (Mix::alone(4), Tint::default());
        Standing { seed: 1, stance, tint: &tint, mix: &mix, north: Vec3::NEG_Z }.on(
            footing,
            id,
            &Driven::default(),
        )
    }

    #[test]
    fn a_quarter_turn_takes_north_to_east() {
        let stance = Stance { turn_deg: Range { min: 90.0, max: 90.0 }, ..Stance::default() };
        let plant = stand(at(0), &LEVEL, &stance);
        assert!((plant.rotation * Vec3::NEG_Z).distance(Vec3::X) < 1e-6);
    }

    #[test]
    fn tilt_stays_within_its_limit_and_reaches_near_it() {
        let stance = Stance { tilt_deg: 20.0, ..Stance::default() };
        let tilts: Vec<f32> = (0..2000)
            .map(|i| (stand(at(i), &LEVEL, &stance).rotation * Vec3::Y).angle_between(Vec3::Y).to_degrees())
            .collect();
        assert!(tilts.iter().all(|&t| t <= 20.01));
        assert!(tilts.iter().any(|&t| t > 19.0) && tilts.iter().any(|&t| t < 3.0));
    }

    #[test]
    fn upright_to_the_surface_follows_the_normal() {
        let normal = vec3(0.6, 0.8, 0.0);
        let plant = stand(at(0), &on(normal, Vec3::Y), &Stance { upright: 1.0, ..Stance::default() });
        assert!((plant.rotation * Vec3::Y).distance(normal) < 1e-6);
    }

    #[test]
    fn where_up_is_away_from_the_middle_a_plant_stands_and_sinks_along_it() {
        let up = vec3(0.0, -0.6, 0.8);
        let plant = stand(at(0), &on(Vec3::X, up), &Stance { sink_m: 0.5, ..Stance::default() });
        assert!((plant.rotation * Vec3::Y).distance(up) < 1e-6);
        assert!(plant.position_m.distance(vec3(1.0, 5.3, 1.6)) < 1e-6);
    }

    #[test]
    fn plants_lean_downhill_by_as_much_as_the_slope_says_and_downwind_everywhere() {
        let lean = |stance: &Stance, footing: &Footing| stand(at(0), footing, stance).rotation * Vec3::Y;
        let down = Stance { lean_deg: 20.0, ..Stance::default() };
        assert_eq!(lean(&down, &LEVEL), Vec3::Y);
        // A slope of 30 degrees and more down to the east.
        let stem = lean(&down, &on(vec3(0.5, 0.866, 0.0), Vec3::Y));
        assert!((stem.x - 20_f32.to_radians().sin()).abs() < 1e-4 && stem.z.abs() < 1e-6, "{stem}");
        let east = Stance { lean: LeanTo::Bearing { deg: 90.0 }, ..down };
        assert!(lean(&east, &LEVEL).distance(stem) < 1e-3);
    }

    #[test]
    fn tumbled_stones_lie_every_way_alike() {
        let stance = Stance { tumble: 1.0, ..Stance::default() };
        let ups: Vec<Vec3> = (0..4000).map(|i| stand(at(i), &LEVEL, &stance).rotation * Vec3::Y).collect();
        let mean = ups.iter().sum::<Vec3>() / 4000.0;
        // Each part of a mean of 4000 directions is within three standard deviations, 3 / sqrt(3 * 4000).
        assert!(mean.abs().max_element() < 0.028, "{mean}");
        let level = ups.iter().map(|u| u.y * u.y).sum::<f32>() / 4000.0;
        assert!((level - 1.0 / 3.0).abs() < 0.015, "{level}");
    }

    #[test]
    fn spreads_of_sizes_have_their_means_and_keep_the_order() {
        let kinds = [
            (SizeSpread::Even, 0.5),
            (SizeSpread::Middle, 0.5),
            (SizeSpread::Small, 1.0 / 3.0),
            (SizeSpread::Large, 2.0 / 3.0),
        ];
        for (sizes, mean) in kinds {
            let all: Vec<f32> = (0..1000).map(|i| spread(sizes, (i as f32 + 0.5) / 1000.0)).collect();
            assert!(all.is_sorted(), "{sizes:?}");
            assert!((all.iter().sum::<f32>() / 1000.0 - mean).abs() < 1e-3, "{sizes:?}");
        }
    }

    #[test]
    fn a_tint_keeps_the_light_of_a_grey() {
        let towards = tint_towards([0.7, 0.55, 0.45], 0.6);
        assert!(
            (towards.dot(vec3(0.2126, 0.7152, 0.0722)) - 1.0).abs() < 0.01 && towards.x > 1.2,
            "{towards}"
        );
        assert_eq!(tint_towards([0.2, 0.2, 0.9], 0.0), Vec3::ONE);
    }

    #[test]
    fn a_change_of_one_setting_leaves_the_others() {
        let plain = stand(at(9), &LEVEL, &Stance::default());
        let tall = Stance { tall: Range { min: 0.5, max: 2.0 }, ..Stance::default() };
        let changed = stand(at(9), &LEVEL, &tall);
        assert_eq!(Plant { stretch: plain.stretch, ..changed }, plain);
        assert!((0.5..=2.0).contains(&changed.stretch[0]) && changed.stretch[0] != 1.0);
    }
}
