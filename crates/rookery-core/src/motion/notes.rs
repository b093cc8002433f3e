//! What an artist should know of how a scene moves.

use super::facts::{LayerMotion, MotionFacts, SpeciesMotion};
use super::response::SOFT;
use crate::document::{BlowerId, BodyId, Document, LayerId, SpeciesId};
use crate::math::power::power;
use serde::Serialize;

/// Bent by this share of the most it can be by the mean wind alone, a plant is pressed flat: gusts hardly move it any more.
const FLAT: f32 = 0.85;
/// Gusts weaker than this share of the speed are not seen.
const STEADY: f32 = 0.02;
/// Leaning further than this in the mean wind, radians, corners of a stem show.
const CORNERS: f32 = 0.3;
/// Load against the most a tip is turned at which it is turned half as far as it can be.
const HALF: f32 = 0.8;

/// Something to know, with what would mend it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(tag = "what", rename_all = "snake_case")]
pub enum MotionNote {
    /// The wind blows and moves nothing of what is shown.
    ReachesNothing {
        /// Layers that would sway and are held out of it.
        held: Vec<LayerId>,
    },
    /// The mean wind presses plants of a layer flat.
    PressedFlat {
        /// Which layer.
        layer: LayerId,
        /// Which species of its mix.
        species: SpeciesId,
        /// How far the mean wind turns their tips, degrees.
        lean_deg: f32,
        /// How far they can be turned, degrees.
        most_deg: f32,
        /// The share of the wind with which they would be bent half as far as they can be.
        share: f32,
    },
    /// The wind blows without gusts: plants of a kind lean alike and nothing sways.
    InStep,
    /// A species that the wind moves is built of so few pieces that it bends in corners.
    TooFewPieces {
        /// Which layer grows it.
        layer: LayerId,
        /// Which.
        species: SpeciesId,
        /// Pieces along its length.
        pieces: u32,
    },
    /// A blower has nothing that sways within its reach.
    BlowsAtNothing {
        /// Which.
        blower: BlowerId,
    },
    /// A body goes through plants that do not feel it.
    PassesThrough {
        /// Which.
        body: BodyId,
        /// Layers with plants on its way.
        layers: Vec<LayerId>,
    },
    /// A body comes off the ground.
    Leaves {
        /// Which.
        body: BodyId,
        /// When, seconds.
        at_s: f32,
    },
    /// A body begins inside an obstacle or a ground.
    BeginsInside {
        /// Which.
        body: BodyId,
    },
}

pub(super) fn notes(document: &Document, facts: &MotionFacts) -> Vec<MotionNote> {
    let mut all = of_wind(document, &facts.layers);
    let moved = |s: &SpeciesMotion| s.push.load > 0.0;
    let blows = facts.layers.iter().any(|l| l.species.iter().any(moved));
    if blows && document.motion.wind.gusts.strength < STEADY {
        all.push(MotionNote::InStep);
    }
    for (layer, s) in facts.layers.iter().flat_map(|l| l.species.iter().map(move |s| (l, s))) {
        let bending = document.species(&s.species).and_then(|s| s.bending());
        if let Some(b) = bending.filter(|b| s.push.load > CORNERS && !b.smooth) {
            let (layer, species) = (layer.id, s.species.clone());
            all.push(MotionNote::TooFewPieces { layer, species, pieces: b.segments });
        }
    }
    if facts.layers.is_empty() {
        return all;
    }
    let reaches_nothing = facts.reached.blowers.iter().filter(|b| b.layers.is_empty());
    all.extend(reaches_nothing.map(|b| MotionNote::BlowsAtNothing { blower: b.id }));
    for (body, met) in facts.moving.bodies.iter().zip(&facts.reached.bodies) {
        if body.begins_inside {
            all.push(MotionNote::BeginsInside { body: body.id });
        }
        if let Some(at_s) = body.leaves_s {
            all.push(MotionNote::Leaves { body: body.id, at_s });
        }
        if !body.felt && !met.layers.is_empty() {
            all.push(MotionNote::PassesThrough { body: body.id, layers: met.layers.clone() });
        }
    }
    all
}

fn of_wind(document: &Document, layers: &[LayerMotion]) -> Vec<MotionNote> {
    if document.motion.wind.speed_m_per_s == 0.0 || layers.is_empty() {
        return Vec::new();
    }
    let sways = |l: &&LayerMotion| l.species.iter().any(|s| s.sway.is_some());
    if layers.iter().all(|l| l.species.iter().all(|s| s.push.load == 0.0)) {
        return vec![MotionNote::ReachesNothing {
            held: layers.iter().filter(sways).map(|l| l.id).collect(),
        }];
    }
    let flat = |l: &LayerMotion| {
        // One note a layer: of what is bent the most.
        let each = l.species.iter().filter_map(|s| Some((s, s.sway?)));
        let held = |load: f32, most: f32| load / power(1.0 + power(load / most, SOFT), 1.0 / SOFT) / most;
        let (s, sway, bent) = each
            .map(|(s, sway)| (s, sway, held(s.push.load, sway.most_rad)))
            .max_by(|a, b| a.2.total_cmp(&b.2))?;
        let share = document.layer(l.id)?.wind_share;
        (bent >= FLAT).then(|| MotionNote::PressedFlat {
            layer: l.id,
            species: s.species.clone(),
            lean_deg: (bent * sway.most_rad).to_degrees(),
            most_deg: sway.most_rad.to_degrees(),
            share: share * power(HALF * sway.most_rad / s.push.load, 1.0 / s.push.power),
        })
    };
    layers.iter().filter_map(flat).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::motion::MotionFacts;
    use crate::planting::Plant;
    use crate::scene::kittiwake_head;

    #[test]
    fn a_gale_presses_marram_flat_until_it_takes_less_and_what_is_held_is_told() {
        let mut document = kittiwake_head();
        let plants = [Plant::UPRIGHT];
        let noted = |d: &Document| MotionFacts::of(d, &[(&d.layers[0], &plants, 0.4)]).notes;
        document.motion.wind.speed_m_per_s = 0.0;
        assert_eq!(noted(&document), []);
        document.motion.wind.speed_m_per_s = 4.0;
        assert_eq!(noted(&document), []);
        let steady = {
            let mut d = document.clone();
            d.motion.wind.gusts.strength = 0.0;
            noted(&d)
        };
        assert_eq!(steady, [MotionNote::InStep]);
        document.motion.wind.speed_m_per_s = 38.0;
        let notes = noted(&document);
        let [MotionNote::PressedFlat { layer, lean_deg, most_deg, share, .. }] = notes.as_slice() else {
            panic!("{notes:?}")
        };
        assert!(*layer == document.layers[0].id && *lean_deg > 0.85 * most_deg && *share < 0.9, "{notes:?}");
        document.layers[0].wind_share = *share;
        assert_eq!(noted(&document), []);
        let facts = MotionFacts::of(&document, &[(&document.layers[0], &plants, 0.4)]);
        let first = &facts.layers[0].species[0];
        let load = first.push.load / first.sway.unwrap().most_rad;
        assert!((load - HALF).abs() < 0.02, "{load}");
        document.layers[0].wind_share = 0.0;
        assert_eq!(noted(&document), [MotionNote::ReachesNothing { held: vec![document.layers[0].id] }]);
    }
}
