//! How a species usually stands: where every new layer begins.

use super::*;
use crate::nursery::{Kind, Plan, Species};
use std::f32::consts::PI;

/// Turns that the wind allows what it has shaped, degrees.
const SHAPED_TURN_DEG: f32 = 14.0;

impl Layer {
    /// A layer of a species with what is usual for its kind: quiet enough to look at and then raise. Sizes and tilts are common
    /// practice: grass 0.7 to 1.3 times its size, trees 0.75 to 1.25; trees stand upright, herbs tilt a few degrees, stones lie
    /// as they fell.
    pub fn usual(species: &Species, id: LayerId, name: &str) -> Self {
        use Kind as K;
        let kind = species.kind;
        let stone = matches!(kind, K::Rock | K::Debris);
        let tree = matches!(kind, K::Broadleaf | K::Conifer);
        // Grass covers most of its ground, what floats a third of its water, trees and stones a tenth, the rest a fifth.
        let cover = if kind == K::Grass {
            0.6
        } else if kind == K::Floating {
            0.35
        } else if tree || stone {
            0.1
        } else {
            0.2
        };
        let floats = kind == K::Floating;
        // What floats is small or makes mats, and lies side by side.
        let most = if floats { 20.0 } else { 4.0 };
        let per_m2 = (cover / (PI * species.radius_m() * species.radius_m())).clamp(0.001, most);
        let size = match (stone, tree) {
            (true, _) => Range { min: 0.5, max: 1.5 },
            (_, true) => Range { min: 0.75, max: 1.25 },
            _ => Range { min: 0.7, max: 1.3 },
        };
        let shaped = matches!(&species.plan, Plan::Wood(w) if w.wind > 0.2);
        let turn_deg = if shaped {
            Range { min: -SHAPED_TURN_DEG, max: SHAPED_TURN_DEG }
        } else {
            Range { min: 0.0, max: 360.0 }
        };
        let (full_to, end) = if stone { (40.0, 55.0) } else { (28.0, 38.0) };
        Self {
            id,
            name: name.to_owned(),
            mix: all_of(species.id.clone()),
            grounds: Vec::new(),
            on_plants: None,
            visible: true,
            locked: false,
            seed: id.0.wrapping_mul(101),
            pattern: if kind == K::Grass || floats { Pattern::Even } else { Pattern::Random },
            amount: Amount::PerM2 { value: two_digits(per_m2) },
            cap: 1_000_000,
            masks: vec![if floats {
                Mask::band(MaskId(1), Quantity::WaterDepth, [0.02, 0.1, 12_000.0, 12_000.0])
            } else {
                Mask::band(MaskId(1), Quantity::Slope, [0.0, 0.0, full_to, end])
            }],
            stance: Stance {
                size,
                turn_deg,
                tilt_deg: if stone {
                    10.0
                } else if tree {
                    2.0
                } else if floats {
                    0.0
                } else {
                    6.0
                },
                upright: match kind {
                    K::Rock | K::Debris => 0.95,
                    K::Cushion => 0.9,
                    K::Broadleaf | K::Conifer | K::Floating => 0.0,
                    _ => 0.2,
                },
                sink_m: if floats { 0.0 } else { ((species.height_m() * 30.0).round() * 1e-3).min(0.1) },
                ..Stance::default()
            },
            tint: Tint::default(),
            rows: Rows::default(),
            clumps: Clumps::default(),
            clearance: Clearance::usual(),
            tended: Vec::new(),
            drifts: Vec::new(),
            kept_seeds: Vec::new(),
            group: None,
            show_as: ShowAs::Auto,
            wind_share: all_wind(),
        }
    }
}

impl Layer {
    /// Where a new layer of a species begins: as it usually stands, and clear of what people build. Nothing stands on a track, and
    /// trees keep their crowns off buildings.
    pub fn fresh(species: &Species, id: LayerId, name: &str) -> Self {
        let usual = Self::usual(species, id, name);
        let tree = matches!(species.kind, Kind::Broadleaf | Kind::Conifer);
        let by = if tree { Reach::Crown } else { Reach::Footprint };
        let clearance = Clearance {
            tracks: Keep::FOOTPRINT,
            obstacles: Keep { by, ..usual.clearance.obstacles },
            ..usual.clearance
        };
        Self { clearance, ..usual }
    }
}

impl Mask {
    /// A mask that lets a band of its quantity through: nothing up to the first value, all from the second to the third,
    /// nothing from the fourth.
    pub fn band(id: MaskId, quantity: Quantity, [start, full_from, full_to, end]: [f32; 4]) -> Self {
        let response = Response { start, full_from, full_to, end, inverted: false };
        Self {
            id,
            quantity,
            zone: None,
            noise: None,
            near: None,
            paint: None,
            shot: None,
            picture: None,
            sun: None,
            wind: None,
            enabled: true,
            response,
            strength: 1.0,
            combine: Combine::Multiply,
            drives: Drives::Amount,
        }
    }
}

/// Rounded to two digits.
fn two_digits(x: f32) -> f32 {
    let unit = libm::powf(10.0, libm::floorf(libm::log10f(x)) - 1.0);
    // Dividing by a whole number keeps 0.12 from becoming 0.120000005.
    if unit < 1.0 { (x / unit).round() / (1.0 / unit).round() } else { (x / unit).round() * unit }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::nursery::ready;
    use crate::scene::{Command, apply, bare};

    #[test]
    fn every_ready_species_begins_as_a_layer_that_is_allowed_and_no_crowd() {
        for s in ready() {
            let layer = Layer::fresh(s, LayerId(4), "New");
            assert!(layer.clearance.tracks.is_on() && layer.clearance.obstacles.is_on(), "{}", s.id.0);
            let Amount::PerM2 { value } = layer.amount else { panic!("a density") };
            assert!(value * PI * s.radius_m() * s.radius_m() < 0.8, "{}: {value} per m2", s.id.0);
            let applied = apply(&bare(), &Command::AddLayer { layer, place: 0 });
            assert!(applied.is_ok(), "{}: {applied:?}", s.id.0);
        }
    }

    #[test]
    fn amounts_are_round_numbers() {
        let shown = [0.00123, 0.0156, 0.176_83, 2.438, 0.999].map(|x| two_digits(x).to_string());
        assert_eq!(shown, ["0.0012", "0.016", "0.18", "2.4", "1"]);
    }
}
