use super::*;
use crate::nursery::make::Pads;

pub(super) fn all() -> Vec<Species> {
    let floating = |id, name, plural, tags: &[&str], plan, colours, year| {
        species([id, name, plural], Kind::Floating, tags, Plan::Pads(plan), colours, year)
    };
    vec![
        floating(
            "water-lily",
            "White water lily",
            "White water lilies",
            &["water", "pool", "tarn", "white", "flower"],
            Pads {
                pads: 11.0,
                pad_m: 0.21,
                long: 1.06,
                spread_m: 0.95,
                notch: 0.7,
                rim: 0.16,
                vary: 0.45,
                flowers: 2.0,
                flower_m: 0.125,
                stalk_m: 0.02,
            },
            Colours {
                flower: [0.86, 0.86, 0.80],
                eye: [0.72, 0.50, 0.06],
                old: [0.33, 0.20, 0.07],
                sheen: 0.35,
                ..greens([0.060, 0.135, 0.040], [0.105, 0.165, 0.055])
            },
            Year { evergreen: 0.1, sheds: true, flowers_at: 1.1, flowers_for: 0.7 },
        ),
        floating(
            "pondweed",
            "Broad-leaved pondweed",
            "Broad-leaved pondweed",
            &["water", "pool", "burn"],
            Pads {
                pads: 26.0,
                pad_m: 0.045,
                long: 2.1,
                spread_m: 0.55,
                notch: 0.05,
                rim: 0.05,
                vary: 0.5,
                flowers: 2.0,
                flower_m: 0.012,
                stalk_m: 0.045,
            },
            Colours {
                flower: [0.20, 0.22, 0.10],
                eye: [0.22, 0.20, 0.08],
                old: [0.24, 0.15, 0.05],
                sheen: 0.4,
                ..greens([0.095, 0.125, 0.030], [0.150, 0.155, 0.045])
            },
            Year { evergreen: 0.1, sheds: true, flowers_at: 1.0, flowers_for: 0.6 },
        ),
        floating(
            "duckweed",
            "Duckweed",
            "Duckweed",
            &["water", "pool", "mat"],
            Pads {
                pads: 320.0,
                pad_m: 0.0065,
                long: 1.2,
                spread_m: 0.17,
                notch: 0.0,
                rim: 0.1,
                vary: 0.7,
                flowers: 0.0,
                ..Pads::default()
            },
            Colours { sheen: 0.2, ..greens([0.165, 0.260, 0.045], [0.235, 0.340, 0.075]) },
            Year { evergreen: 0.2, sheds: true, flowers_at: 1.0, flowers_for: 0.3 },
        ),
    ]
}
