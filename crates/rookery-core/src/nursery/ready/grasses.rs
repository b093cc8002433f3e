use super::*;
use crate::nursery::make::{Blades, Head};

pub(super) fn all() -> Vec<Species> {
    let grass = |id, name, plural, tags: &[&str], plan, colours, year| {
        species([id, name, plural], Kind::Grass, tags, Plan::Blades(plan), colours, year)
    };
    let half_green = Year { evergreen: 0.35, ..HERB_YEAR };
    vec![
        grass(
            MARRAM,
            "Marram tuft",
            "Marram tufts",
            &["coast", "dune", "tuft"],
            Blades { blades: 64.0, stalks: 1.4, ..Blades::default() },
            Colours {
                root: [0.050, 0.044, 0.018],
                tip: [0.40, 0.40, 0.17],
                old: [0.43, 0.345, 0.175],
                flower: [0.40, 0.33, 0.17],
                ..greens([0.143, 0.190, 0.078], [0.0; 3])
            },
            half_green,
        ),
        grass(
            "fescue",
            "Fescue turf",
            "Fescue turf",
            &["turf", "coast", "meadow"],
            Blades {
                blades: 110.0,
                length_m: 0.15,
                width_mm: 1.6,
                segments: 4.0,
                clump_m: 0.14,
                spread_deg: 32.0,
                bend_deg: 62.0,
                twist_deg: 24.0,
                vary: 0.6,
                straw: 0.12,
                stalks: 1.6,
                stalk_m: 0.21,
                head_m: 0.045,
                head: Head::Panicle,
            },
            Colours {
                tip: [0.27, 0.33, 0.12],
                flower: [0.32, 0.23, 0.15],
                ..greens([0.105, 0.185, 0.050], [0.0; 3])
            },
            half_green,
        ),
        grass(
            "moor-grass",
            "Moor-grass tussock",
            "Moor-grass tussocks",
            &["moor", "tussock", "wet"],
            Blades {
                blades: 150.0,
                length_m: 0.55,
                width_mm: 4.2,
                segments: 6.0,
                clump_m: 0.12,
                spread_deg: 55.0,
                bend_deg: 85.0,
                twist_deg: 22.0,
                vary: 0.5,
                straw: 0.24,
                stalks: 7.0,
                stalk_m: 0.78,
                head_m: 0.22,
                head: Head::Wisp,
            },
            Colours {
                tip: [0.35, 0.34, 0.12],
                old: [0.46, 0.30, 0.13],
                flower: [0.20, 0.12, 0.13],
                ..greens([0.150, 0.200, 0.055], [0.0; 3])
            },
            HERB_YEAR,
        ),
        grass(
            "soft-rush",
            "Soft rush",
            "Soft rushes",
            &["wet", "burn", "tussock"],
            Blades {
                blades: 90.0,
                length_m: 0.72,
                width_mm: 3.0,
                segments: 4.0,
                clump_m: 0.10,
                spread_deg: 26.0,
                bend_deg: 14.0,
                twist_deg: 6.0,
                vary: 0.4,
                straw: 0.1,
                stalks: 16.0,
                stalk_m: 0.68,
                head_m: 0.035,
                head: Head::Tassel,
            },
            Colours {
                tip: [0.20, 0.22, 0.08],
                flower: [0.22, 0.13, 0.06],
                ..greens([0.075, 0.150, 0.045], [0.0; 3])
            },
            Year { evergreen: 0.7, ..HERB_YEAR },
        ),
        grass(
            "cotton-grass",
            "Cotton-grass",
            "Cotton-grass",
            &["wet", "moor", "tarn"],
            Blades {
                blades: 34.0,
                length_m: 0.30,
                width_mm: 2.8,
                segments: 4.0,
                clump_m: 0.10,
                spread_deg: 30.0,
                bend_deg: 40.0,
                twist_deg: 16.0,
                vary: 0.5,
                straw: 0.18,
                stalks: 7.0,
                stalk_m: 0.42,
                head_m: 0.055,
                head: Head::Down,
            },
            Colours {
                tip: [0.32, 0.16, 0.08],
                flower: [0.86, 0.85, 0.80],
                ..greens([0.110, 0.170, 0.060], [0.0; 3])
            },
            Year { flowers_at: 0.8, ..HERB_YEAR },
        ),
        grass(
            "reed",
            "Common reed",
            "Common reeds",
            &["wet", "tarn", "tall"],
            Blades {
                blades: 46.0,
                length_m: 1.75,
                width_mm: 17.0,
                segments: 7.0,
                clump_m: 0.24,
                spread_deg: 16.0,
                bend_deg: 58.0,
                twist_deg: 20.0,
                vary: 0.55,
                straw: 0.2,
                stalks: 7.0,
                stalk_m: 2.05,
                head_m: 0.24,
                head: Head::Panicle,
            },
            Colours {
                tip: [0.24, 0.28, 0.10],
                old: [0.50, 0.39, 0.21],
                flower: [0.24, 0.15, 0.12],
                ..greens([0.115, 0.185, 0.065], [0.0; 3])
            },
            Year { flowers_at: 1.6, flowers_for: 1.2, ..HERB_YEAR },
        ),
    ]
}
