use super::*;
use crate::nursery::make::{Divided, Frond};

pub(super) fn all() -> Vec<Species> {
    let fern = |id, name, plural, tags: &[&str], plan, colours, year| {
        species([id, name, plural], Kind::Fern, tags, Plan::Frond(plan), colours, year)
    };
    vec![
        fern(
            "bracken",
            "Bracken",
            "Bracken",
            &["hollow", "hill", "tall"],
            Frond {
                fronds: 3.0,
                length_m: 1.45,
                stalk: 0.42,
                wide: 0.62,
                widest: 0.12,
                pairs: 13.0,
                rise_deg: 14.0,
                arch_deg: 88.0,
                vary: 0.35,
                divided: Divided::Twice,
            },
            Colours {
                old: [0.36, 0.165, 0.050],
                wood: [0.20, 0.15, 0.06],
                ..greens([0.058, 0.118, 0.026], [0.105, 0.180, 0.042])
            },
            HERB_YEAR,
        ),
        fern(
            "male-fern",
            "Male fern",
            "Male ferns",
            &["bank", "shade", "rosette"],
            Frond {
                fronds: 12.0,
                length_m: 0.82,
                stalk: 0.16,
                wide: 0.30,
                widest: 0.38,
                pairs: 22.0,
                rise_deg: 26.0,
                arch_deg: 58.0,
                vary: 0.4,
                divided: Divided::Twice,
            },
            Colours {
                old: [0.33, 0.19, 0.07],
                wood: [0.22, 0.14, 0.06],
                ..greens([0.070, 0.165, 0.032], [0.14, 0.26, 0.06])
            },
            Year { evergreen: 0.3, ..HERB_YEAR },
        ),
        fern(
            "polypody",
            "Polypody",
            "Polypodies",
            &["wall", "rock", "shade"],
            Frond {
                fronds: 9.0,
                length_m: 0.28,
                stalk: 0.3,
                wide: 0.32,
                widest: 0.25,
                pairs: 15.0,
                rise_deg: 44.0,
                arch_deg: 50.0,
                vary: 0.5,
                divided: Divided::Once,
            },
            Colours { old: [0.33, 0.20, 0.07], ..greens([0.065, 0.150, 0.034], [0.12, 0.22, 0.06]) },
            Year { evergreen: 0.9, ..HERB_YEAR },
        ),
        fern(
            "harts-tongue",
            "Hart's-tongue",
            "Hart's-tongues",
            &["shade", "wall", "rosette"],
            Frond {
                fronds: 11.0,
                length_m: 0.42,
                stalk: 0.14,
                wide: 0.13,
                widest: 0.55,
                pairs: 12.0,
                rise_deg: 38.0,
                arch_deg: 62.0,
                vary: 0.35,
                divided: Divided::Whole,
            },
            Colours { spread: 0.3, sheen: 0.35, ..greens([0.050, 0.150, 0.028], [0.09, 0.22, 0.05]) },
            Year { evergreen: 0.95, ..HERB_YEAR },
        ),
        fern(
            "plantain",
            "Sea plantain",
            "Sea plantain",
            &["coast", "turf", "rosette"],
            Frond {
                fronds: 18.0,
                length_m: 0.15,
                stalk: 0.04,
                wide: 0.055,
                widest: 0.55,
                pairs: 8.0,
                rise_deg: 64.0,
                arch_deg: 26.0,
                vary: 0.5,
                divided: Divided::Whole,
            },
            Colours { spread: 0.35, ..greens([0.090, 0.165, 0.052], [0.14, 0.22, 0.08]) },
            Year { evergreen: 0.6, ..HERB_YEAR },
        ),
    ]
}
