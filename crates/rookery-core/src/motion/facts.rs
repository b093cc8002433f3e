//! All that is known of a scene's motion: what the view needs to draw any moment, and what an artist asks.

use super::notes::{MotionNote, notes};
use super::{Beaufort, Canopy, Gusts, Moving, Now, Profile, Push, Stands, Sway, Wave, beaufort};
use crate::air::Flow;
use crate::clouds::drift_m_per_s;
use crate::document::{BlowerId, BodyId, Document, Layer, LayerId, SpeciesId};
use crate::nursery::{FLUTTER_RAD, Flutter, flutter_turns};
use crate::planting::Plant;
use crate::water::{OPEN_M, Spectrum};
use glam::Vec3;
use rayon::prelude::*;
use serde::Serialize;
use std::sync::Arc;

/// Heights that the profile is told at, metres.
const HEIGHTS_M: [f32; 11] = [0.1, 0.25, 0.5, 1.0, 2.0, 3.0, 5.0, 7.5, 10.0, 15.0, 20.0];

/// How a scene moves.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct MotionFacts {
    /// The force of the wind.
    pub force: Beaufort,
    /// Mean height of what grows, bare ground counted as nothing, metres.
    pub canopy_m: f32,
    /// Roughness that comes of it, metres.
    pub roughness_m: f32,
    /// Height at which the wind would come to rest, metres.
    pub zero_plane_m: f32,
    /// Mean speed over height.
    pub profile: Vec<SpeedAt>,
    /// Where the wind blows to on the plan, a unit vector: x and z.
    pub heading: [f32; 2],
    /// How fast clouds drift, m/s towards x and z.
    pub clouds_m_per_s: [f32; 2],
    /// Significant height of the waves it raises on open water, metres: that of the highest third of them.
    pub waves_m: f32,
    /// How large gusts are, metres.
    pub size_m: f32,
    /// Standard deviation of the speed against its mean.
    pub strength: f32,
    /// The waves that gusts are the sum of.
    #[cfg_attr(feature = "openapi", schema(value_type = Vec<Wave>))]
    pub waves: [Wave; super::WAVES],
    /// What blows on each layer that is shown.
    pub layers: Vec<LayerMotion>,
    /// What should be known of it.
    pub notes: Vec<MotionNote>,
    /// What moves by itself.
    pub moving: Moving,
    /// What that reaches.
    pub reached: Reached,
    /// How ground and obstacles change the wind; as over level ground when none.
    #[serde(skip)]
    pub flow: Option<Arc<Flow>>,
}

/// Mean speed at a height.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct SpeedAt {
    /// Over the ground, metres.
    pub height_m: f32,
    /// Metres a second.
    pub speed_m_per_s: f32,
}

/// The mean wind over a point of the ground.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct WindAt {
    /// From below.
    pub heights: Vec<WindHere>,
}

/// The mean wind at a height over a point of the ground.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct WindHere {
    /// Over the ground, metres.
    pub height_m: f32,
    /// So many times the speed at that height over level ground: below 1 in shelter, above on brows.
    pub times: f32,
    /// Metres a second.
    pub speed_m_per_s: f32,
    /// Where it comes from there, degrees clockwise from north.
    pub from_deg: f32,
}

/// What blows on a layer.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct LayerMotion {
    /// Which.
    pub id: LayerId,
    /// Mean height of its plants, metres.
    pub height_m: f32,
    /// How each species of its mix answers.
    pub species: Vec<SpeciesMotion>,
}

/// How a species of a layer answers the wind.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct SpeciesMotion {
    /// Which.
    pub species: SpeciesId,
    /// How it sways; none for what is stiff.
    pub sway: Option<Sway>,
    /// What pushes it.
    pub push: Push,
    /// Its height at full size, metres.
    pub tall_m: f32,
    /// Half of its width, metres.
    pub wide_m: f32,
}

/// What blowers and bodies reach of what grows.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Reached {
    /// Layers with plants that each blower stirs.
    pub blowers: Vec<BlowerReach>,
    /// Layers with plants that each body meets, whether they feel it or not.
    pub bodies: Vec<BodyReach>,
}

/// Layers that a blower stirs.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct BlowerReach {
    /// Which blower.
    pub id: BlowerId,
    /// Which layers.
    pub layers: Vec<LayerId>,
}

/// Layers that a body meets.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct BodyReach {
    /// Which body.
    pub id: BodyId,
    /// Which layers.
    pub layers: Vec<LayerId>,
}

impl Reached {
    fn new(facts: &MotionFacts, standing: &[Standing]) -> Self {
        let moving = &facts.moving;
        let layers = |meets: &(dyn Fn(&SpeciesMotion, &Stands) -> bool + Sync)| {
            let with_plants = facts.layers.iter().zip(standing);
            let met = with_plants.filter(|(layer, (_, plants, _))| {
                let sways =
                    |p: &&Plant| layer.species.get(usize::from(p.species)).is_some_and(|s| s.sway.is_some());
                plants.par_iter().filter(sways).any(|p| {
                    let species = &layer.species[usize::from(p.species)];
                    meets(species, &facts.stands(species, p))
                })
            });
            met.map(|(layer, _)| layer.id).collect()
        };
        Self {
            blowers: moving
                .blowers
                .iter()
                .map(|b| {
                    let bounds = b.bounds();
                    let blown = |s: &SpeciesMotion, at: &Stands| {
                        s.push.blown > 0.0 && b.reaches(at.foot + Vec3::Y * s.push.met_m, bounds)
                    };
                    BlowerReach { id: b.id, layers: layers(&blown) }
                })
                .collect(),
            bodies: moving
                .bodies
                .iter()
                .map(|b| BodyReach { id: b.id, layers: layers(&|_, at| b.touches(&at.stem(1.0))) })
                .collect(),
        }
    }
}

/// A layer with its plants and the share of the ground that their crowns cover.
pub type Standing<'a> = (&'a Layer, &'a [Plant], f32);

impl MotionFacts {
    /// How a scene moves in which these layers stand.
    pub fn of(document: &Document, standing: &[Standing]) -> Self {
        let wind = &document.motion.wind;
        let heights: Vec<f32> =
            standing.iter().map(|(l, plants, _)| mean_height(document, l, plants)).collect();
        let canopy = Canopy::over(heights.iter().zip(standing).map(|(h, (_, _, cover))| (*h, *cover)));
        let profile = Profile::new(wind.speed_m_per_s, canopy);
        let gusts = Gusts::new(wind);
        let strength = wind.gusts.strength;
        let layers = standing.iter().zip(&heights).map(|((layer, _, _), height)| LayerMotion {
            id: layer.id,
            height_m: *height,
            species: document
                .mix_of(layer)
                .map(|(_, s)| {
                    let sway = s.sway();
                    let push = sway.map(|s| s.pushed(&profile, strength, *height, layer.wind_share));
                    let push = push.unwrap_or_default();
                    let (tall_m, wide_m) = (s.height_m(), s.radius_m());
                    SpeciesMotion { species: s.id.clone(), sway, push, tall_m, wide_m }
                })
                .collect(),
        });
        let layers: Vec<LayerMotion> = layers.collect();
        let facts = Self {
            force: beaufort(wind.speed_m_per_s),
            canopy_m: canopy.height_m,
            roughness_m: profile.roughness_m,
            zero_plane_m: profile.zero_plane_m,
            profile: HEIGHTS_M
                .iter()
                .map(|h| SpeedAt { height_m: *h, speed_m_per_s: profile.speed(*h) })
                .collect(),
            heading: gusts.heading,
            clouds_m_per_s: drift_m_per_s(wind.speed_m_per_s, gusts.heading),
            waves_m: Spectrum::new(f64::from(wind.speed_m_per_s), OPEN_M).height_m() as f32,
            size_m: wind.gusts.size_m,
            strength,
            waves: gusts.waves,
            notes: Vec::new(),
            layers,
            moving: Moving::default(),
            reached: Reached::default(),
            flow: None,
        };
        Self { notes: notes(document, &facts), ..facts }
    }

    /// The same in the wind over a land.
    pub fn over(self, flow: Arc<Flow>) -> Self {
        Self { flow: Some(flow), ..self }
    }

    /// The same with what moves by itself in it. `standing` is what the facts were made of.
    pub fn with(self, document: &Document, standing: &[Standing], moving: Moving) -> Self {
        let mut facts = Self { moving, ..self };
        facts.reached = Reached::new(&facts, standing);
        facts.notes = notes(document, &facts);
        facts
    }

    /// Whether plants of a layer ever move.
    pub fn moves(&self, layer: &LayerMotion) -> bool {
        let pushed = |s: &SpeciesMotion| s.push.load > 0.0 || (s.push.blown > 0.0 && self.blows());
        let felt = self.moving.bodies.iter().any(|b| b.felt);
        let carried = !self.moving.grounds.is_empty();
        layer.species.iter().any(|s| s.sway.is_some() && (felt || carried || pushed(s)))
    }

    fn blows(&self) -> bool {
        !self.moving.blowers.is_empty()
    }

    /// The mean wind over a point of the ground, at some heights above it.
    pub fn over_point(&self, point: Vec3) -> WindAt {
        let profile = |h: f32| {
            let above = self.profile.iter().position(|p| p.height_m >= h).unwrap_or(self.profile.len() - 1);
            self.profile[above].speed_m_per_s
        };
        let at = |height_m: f32| {
            let local = self.flow.as_ref().map_or(self.heading, |f| f.at(point + Vec3::Y * height_m));
            let times = libm::hypotf(local[0], local[1]);
            let from_deg = libm::atan2f(-local[0], local[1]).to_degrees().rem_euclid(360.0);
            WindHere { height_m, times, speed_m_per_s: times * profile(height_m), from_deg }
        };
        WindAt { heights: [0.5, 2.0, 10.0].map(at).into() }
    }

    /// Where the tip of a plant of a layer is turned at a moment, radians towards x and z; nothing for what is stiff.
    pub fn turned(&self, layer: &LayerMotion, plant: &Plant, now: &Now) -> [f32; 2] {
        let species = layer.species.get(usize::from(plant.species));
        let Some((s, sway)) = species.and_then(|s| Some((s, s.sway.as_ref()?))) else { return [0.0; 2] };
        let mut stands = self.stands(s, plant);
        stands.ride = now.ride(plant.carrier);
        if let Some(ride) = stands.ride {
            stands.foot = ride.carry(stands.foot);
        }
        let met = stands.foot + Vec3::Y * s.push.met_m;
        stands.local = self.flow.as_ref().filter(|_| s.push.load > 0.0).map(|f| f.at(met));
        sway.turned(now, &s.push, &stands)
    }

    /// How a species of a layer answers the wind, by its place in the mix.
    pub fn species_motion(&self, layer: LayerId, species: u8) -> Option<&SpeciesMotion> {
        self.layers.iter().find(|l| l.id == layer)?.species.get(usize::from(species))
    }

    /// How the leaves of a species flutter at a moment while its tip is turned so far, radians.
    pub fn flutter(species: &SpeciesMotion, turned: f32, time_s: f64) -> Flutter {
        let most_rad = FLUTTER_RAD * (species.push.flutter * turned).min(1.0);
        Flutter { most_rad, turns: flutter_turns(time_s) }
    }

    /// A plant of a species over level ground.
    fn stands(&self, species: &SpeciesMotion, plant: &Plant) -> Stands<'static> {
        let size = plant.size;
        Stands {
            foot: plant.position_m,
            size,
            height_m: species.tall_m * size,
            spread_m: species.wide_m * size,
            own: plant.tint.to_le_bytes(),
            local: None,
            ride: None,
        }
    }
}

fn mean_height(document: &Document, layer: &Layer, plants: &[Plant]) -> f32 {
    let tall: Vec<f32> =
        layer.mix.iter().map(|m| document.species(&m.species).map_or(0.0, |s| s.height_m())).collect();
    let sum: f64 = plants
        .iter()
        .map(|p| f64::from(tall.get(usize::from(p.species)).copied().unwrap_or(0.0) * p.size * p.stretch[0]))
        .sum();
    (sum / plants.len().max(1) as f64) as f32
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::scene::kittiwake_head;

    #[test]
    fn a_layer_that_takes_none_of_the_wind_stands_and_taller_ones_meet_more_of_it() {
        let mut document = kittiwake_head();
        let layer = &mut document.layers[0];
        assert_eq!(layer.mix[0].species.0, "marram");
        let plant = Plant { position_m: glam::vec3(12.0, 3.0, -8.0), ..Plant::UPRIGHT };
        let now = |f: &MotionFacts, d: &Document| {
            (f.layers[0].clone(), Now::windy(Gusts::new(&d.motion.wind).at(1.5)))
        };
        let blown = MotionFacts::of(&document, &[(&document.layers[0], &[plant], 0.4)]);
        let (marram, moment) = now(&blown, &document);
        let [x, z] = blown.turned(&marram, &plant, &moment);
        assert!((0.05..1.4).contains(&(x * x + z * z).sqrt()), "{x}, {z}");
        document.layers[0].wind_share = 0.0;
        let held = MotionFacts::of(&document, &[(&document.layers[0], &[plant], 0.4)]);
        let (marram, moment) = now(&held, &document);
        assert_eq!(held.turned(&marram, &plant, &moment), [0.0; 2]);
        let tall = Plant { size: 3.0, ..plant };
        let higher = MotionFacts::of(&document, &[(&document.layers[0], &[tall], 0.4)]);
        assert!(higher.layers[0].height_m > 2.9 * held.layers[0].height_m);
        assert!(held.profile.windows(2).all(|w| w[0].speed_m_per_s < w[1].speed_m_per_s));
    }

    #[test]
    fn any_time_is_the_same_on_one_thread_and_on_many() {
        use rayon::prelude::*;
        let document = kittiwake_head();
        let plants: Vec<Plant> = (0..500)
            .map(|i| Plant {
                position_m: glam::vec3(i as f32, 0.0, (i * 7 % 91) as f32),
                tint: i as u16 * 131,
                ..Plant::UPRIGHT
            })
            .collect();
        let facts = MotionFacts::of(&document, &[(&document.layers[0], &plants, 0.4)]);
        let gusts = Gusts::new(&document.motion.wind);
        let all = |time: f64| {
            let now = Now::windy(gusts.at(time));
            let turned = |p: &Plant| facts.turned(&facts.layers[0], p, &now).map(f32::to_bits);
            let one: Vec<_> = plants.iter().map(turned).collect();
            let many: Vec<_> = plants.par_iter().map(turned).collect();
            assert_eq!(one, many);
            one
        };
        let (late, early) = (all(2517.25), all(3.5));
        assert_eq!((all(3.5), all(2517.25)), (early, late));
    }
}
