use super::*;
use crate::nursery::make::{Cover, Cushion};

pub(super) fn all() -> Vec<Species> {
    let low = |id, name, plural, tags: &[&str], plan, colours, year| {
        species([id, name, plural], Kind::Cushion, tags, Plan::Cushion(plan), colours, year)
    };
    vec![
        low(
            "thrift",
            "Thrift cushion",
            "Thrift cushions",
            &["coast", "cliff", "pink", "flower"],
            Cushion {
                width_m: 0.24,
                height_m: 0.055,
                lumps: 0.45,
                shoots: 420.0,
                shoot_m: 0.045,
                loose: 0.55,
                flowers: 24.0,
                flower_m: 0.024,
                stalk_m: 0.11,
                cover: Cover::Blades,
            },
            Colours { flower: [0.62, 0.20, 0.38], ..greens([0.085, 0.150, 0.060], [0.14, 0.20, 0.09]) },
            Year { evergreen: 0.9, sheds: false, flowers_at: 0.6, flowers_for: 0.9 },
        ),
        low(
            "thyme",
            "Wild thyme",
            "Wild thyme",
            &["turf", "mat", "purple", "flower"],
            Cushion {
                width_m: 0.34,
                height_m: 0.022,
                lumps: 0.8,
                shoots: 340.0,
                shoot_m: 0.012,
                loose: 0.5,
                flowers: 70.0,
                flower_m: 0.012,
                stalk_m: 0.016,
                cover: Cover::Rosettes,
            },
            Colours { flower: [0.42, 0.14, 0.42], ..greens([0.070, 0.125, 0.045], [0.12, 0.17, 0.08]) },
            Year { evergreen: 0.9, sheds: false, flowers_at: 1.1, flowers_for: 0.8 },
        ),
        low(
            "moss",
            "Moss cushion",
            "Moss cushions",
            &["moss", "rock", "wet", "shade"],
            Cushion {
                width_m: 0.16,
                height_m: 0.045,
                lumps: 0.6,
                shoots: 620.0,
                shoot_m: 0.011,
                loose: 0.3,
                flowers: 0.0,
                cover: Cover::Shoots,
                ..Cushion::default()
            },
            Colours {
                old: [0.24, 0.19, 0.07],
                spread: 0.5,
                ..greens([0.105, 0.175, 0.022], [0.22, 0.30, 0.05])
            },
            Year { evergreen: 1.0, sheds: false, ..EVERGREEN },
        ),
        low(
            "bog-moss",
            "Bog moss",
            "Bog moss",
            &["moss", "wet", "tarn"],
            Cushion {
                width_m: 0.42,
                height_m: 0.07,
                lumps: 0.85,
                shoots: 560.0,
                shoot_m: 0.017,
                loose: 0.35,
                flowers: 0.0,
                cover: Cover::Rosettes,
                ..Cushion::default()
            },
            Colours {
                tip: [0.42, 0.17, 0.09],
                old: [0.42, 0.34, 0.18],
                spread: 0.9,
                ..greens([0.200, 0.235, 0.060], [0.0; 3])
            },
            Year { evergreen: 1.0, sheds: false, ..EVERGREEN },
        ),
        low(
            "grey-lichen",
            "Grey lichen",
            "Grey lichens",
            &["lichen", "rock", "cliff"],
            Cushion {
                width_m: 0.11,
                height_m: 0.004,
                lumps: 0.9,
                shoots: 420.0,
                shoot_m: 0.0075,
                loose: 0.35,
                flowers: 0.0,
                cover: Cover::Lobes,
                ..Cushion::default()
            },
            Colours {
                root: [0.12, 0.12, 0.10],
                old: [0.34, 0.33, 0.28],
                spread: 0.3,
                through: 0.3,
                ..greens([0.40, 0.42, 0.36], [0.52, 0.53, 0.46])
            },
            Year { evergreen: 1.0, sheds: false, ..EVERGREEN },
        ),
        low(
            "sunburst-lichen",
            "Sunburst lichen",
            "Sunburst lichens",
            &["lichen", "rock", "coast", "yellow"],
            Cushion {
                width_m: 0.09,
                height_m: 0.003,
                lumps: 0.9,
                shoots: 420.0,
                shoot_m: 0.006,
                loose: 0.3,
                flowers: 0.0,
                cover: Cover::Lobes,
                ..Cushion::default()
            },
            Colours {
                root: [0.22, 0.10, 0.01],
                old: [0.44, 0.36, 0.15],
                spread: 0.4,
                through: 0.3,
                ..greens([0.58, 0.31, 0.02], [0.70, 0.42, 0.04])
            },
            Year { evergreen: 1.0, sheds: false, ..EVERGREEN },
        ),
        low(
            "stonecrop",
            "Stonecrop",
            "Stonecrop",
            &["cliff", "rock", "flower", "white"],
            Cushion {
                width_m: 0.18,
                height_m: 0.024,
                lumps: 0.7,
                shoots: 300.0,
                shoot_m: 0.013,
                loose: 0.35,
                flowers: 42.0,
                flower_m: 0.014,
                stalk_m: 0.03,
                cover: Cover::Rosettes,
            },
            Colours {
                sheen: 0.15,
                tip: [0.34, 0.12, 0.09],
                flower: [0.80, 0.74, 0.74],
                spread: 0.7,
                ..greens([0.140, 0.180, 0.075], [0.0; 3])
            },
            Year { evergreen: 1.0, sheds: false, flowers_at: 1.0, flowers_for: 0.8 },
        ),
    ]
}
