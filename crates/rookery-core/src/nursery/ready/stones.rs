use super::*;
use crate::nursery::make::{Debris, LeafShape, Litter, Rock};

fn grey() -> Colours {
    Colours {
        root: [0.165, 0.157, 0.145],
        leaf: [0.30, 0.285, 0.25],
        old: [0.40, 0.40, 0.33],
        flower: [0.42, 0.30, 0.07],
        spread: 0.3,
        through: 0.0,
        ..greens([0.3; 3], [0.3; 3])
    }
}

pub(super) fn all() -> Vec<Species> {
    let rock = |id, name, plural, tags: &[&str], plan, colours| {
        species([id, name, plural], Kind::Rock, tags, Plan::Rock(plan), colours, EVERGREEN)
    };
    let litter = |id, name, plural, tags: &[&str], plan, colours| {
        species([id, name, plural], Kind::Debris, tags, Plan::Debris(plan), colours, EVERGREEN)
    };
    let bleached = Colours {
        wood: [0.26, 0.235, 0.20],
        leaf: [0.42, 0.395, 0.35],
        through: 0.0,
        ..greens([0.4; 3], [0.4; 3])
    };
    vec![
        rock(BOULDER, "Boulder", "Boulders", &["stone", "granite"], Rock::default(), grey()),
        rock(
            "pebble",
            "Pebble",
            "Pebbles",
            &["stone", "shingle", "shore"],
            Rock {
                length_m: 0.09,
                wide: 0.8,
                high: 0.5,
                facets: 9.0,
                roundness: 0.95,
                rough: 0.12,
                chips: 0.0,
                lichen: 0.0,
                sunk: 0.25,
                ..Rock::default()
            },
            Colours { sheen: 0.12, root: [0.20, 0.19, 0.18], leaf: [0.40, 0.38, 0.34], ..grey() },
        ),
        rock(
            "cobble",
            "Cobble",
            "Cobbles",
            &["stone", "shore", "burn"],
            Rock {
                length_m: 0.26,
                wide: 0.85,
                high: 0.6,
                facets: 11.0,
                roundness: 0.8,
                rough: 0.2,
                chips: 0.05,
                lichen: 0.1,
                sunk: 0.3,
                ..Rock::default()
            },
            Colours { root: [0.15, 0.15, 0.15], leaf: [0.28, 0.275, 0.26], ..grey() },
        ),
        rock(
            "scree",
            "Scree stone",
            "Scree stones",
            &["stone", "scree", "slate"],
            Rock {
                length_m: 0.34,
                wide: 0.62,
                high: 0.38,
                facets: 8.0,
                roundness: 0.03,
                bedding: 0.25,
                beds: 4.0,
                rough: 0.22,
                chips: 0.8,
                lichen: 0.2,
                sunk: 0.3,
            },
            Colours { root: [0.115, 0.118, 0.125], leaf: [0.225, 0.225, 0.23], ..grey() },
        ),
        rock(
            "slab",
            "Bedded slab",
            "Bedded slabs",
            &["stone", "sandstone", "flat"],
            Rock {
                length_m: 2.2,
                wide: 0.75,
                high: 0.28,
                facets: 12.0,
                roundness: 0.22,
                bedding: 0.75,
                beds: 5.0,
                rough: 0.3,
                chips: 0.5,
                lichen: 0.5,
                sunk: 0.3,
            },
            Colours { root: [0.20, 0.165, 0.125], leaf: [0.34, 0.285, 0.215], ..grey() },
        ),
        rock(
            "pillar",
            "Rock pillar",
            "Rock pillars",
            &["stone", "cliff", "tall"],
            Rock {
                length_m: 1.5,
                wide: 0.85,
                high: 2.6,
                facets: 16.0,
                roundness: 0.15,
                bedding: 0.6,
                beds: 12.0,
                rough: 0.45,
                chips: 0.6,
                lichen: 0.4,
                sunk: 0.15,
            },
            Colours { root: [0.16, 0.145, 0.12], leaf: [0.30, 0.27, 0.22], ..grey() },
        ),
        litter(
            "driftwood",
            "Driftwood",
            "Driftwood",
            &["shore", "tide line", "wood"],
            Debris::default(),
            bleached.clone(),
        ),
        litter(
            "twigs",
            "Fallen twigs",
            "Fallen twigs",
            &["wood", "floor"],
            Debris {
                length_m: 0.22,
                thick_m: 0.006,
                pieces: 9.0,
                spread_m: 0.18,
                bend: 0.8,
                knots: 2.0,
                vary: 0.8,
                kind: Litter::Twigs,
                ..Debris::default()
            },
            Colours { wood: [0.10, 0.08, 0.06], leaf: [0.22, 0.18, 0.13], ..bleached.clone() },
        ),
        litter(
            "leaf-litter",
            "Leaf litter",
            "Leaf litter",
            &["floor", "autumn"],
            Debris {
                length_m: 0.06,
                pieces: 40.0,
                spread_m: 0.26,
                vary: 0.6,
                kind: Litter::Leaves,
                shape: LeafShape::Oval,
                ..Debris::default()
            },
            Colours {
                root: [0.14, 0.08, 0.03],
                tip: [0.42, 0.26, 0.07],
                spread: 0.9,
                through: 0.6,
                ..greens([0.30, 0.16, 0.05], [0.0; 3])
            },
        ),
        litter(
            "shells",
            "Shells",
            "Shells",
            &["shore", "tide line"],
            Debris {
                length_m: 0.045,
                pieces: 9.0,
                spread_m: 0.2,
                vary: 0.7,
                kind: Litter::Shells,
                ..Debris::default()
            },
            Colours { sheen: 0.5, flower: [0.66, 0.55, 0.47], spread: 0.6, through: 0.3, ..bleached },
        ),
    ]
}
