//! What an artist should know of how a scene moves.

use super::facts::LayerMotion;
use super::response::SOFT;
use crate::document::{Document, LayerId, SpeciesId};
use crate::math::power::power;
use serde::Serialize;

/// Bent by this share of the most it can be by the mean wind alone, a plant is pressed flat: gusts hardly move it any more.
const FLAT: f32 = 0.85;
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
}

pub(super) fn notes(document: &Document, layers: &[LayerMotion]) -> Vec<MotionNote> {
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
