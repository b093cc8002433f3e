//! Lighter detail stands for the plant: it covers as much of a picture and has the same mean colour.

use glam::Vec3;
use rayon::prelude::*;
use rookery_core::nursery::{Detail, Season, Seen, Species, ready};

/// What is seen of all forms of a species. Other rows than it is measured by: what is measured must hold at other sizes too.
fn seen(species: &Species, detail: Detail, season: Season) -> Seen {
    let mut sum = Seen::default();
    for form in 0..species.forms {
        let seen = Seen::look(&species.stand_in(form, detail, season), 160);
        sum.area_m2 += seen.area_m2;
        sum.colour += seen.colour * seen.area_m2;
    }
    sum.colour /= sum.area_m2;
    sum
}

#[test]
fn lighter_detail_covers_as_much_in_the_same_colour() {
    let of_species = |species: &Species| {
        let mut wrong = Vec::new();
        for season in [Season::SUMMER, Season(3.0)] {
            let full = seen(species, Detail::Full, season);
            for detail in [Detail::Light, Detail::Far] {
                let other = seen(species, detail, season);
                let area = other.area_m2 / full.area_m2;
                let bright = |c: Vec3| c.dot(Vec3::new(0.2126, 0.7152, 0.0722));
                let colour = bright(other.colour) / bright(full.colour);
                if (area - 1.0).abs() > 0.05 || (colour - 1.0).abs() > 0.05 {
                    wrong.push(format!(
                        "{} {detail:?} in season {}: {area:.3} of the area, {colour:.3} as bright",
                        species.id.0, season.0
                    ));
                }
            }
        }
        wrong
    };
    let wrong: Vec<String> = ready().par_iter().flat_map_iter(of_species).collect();
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// Forms that were bent aside are drawn with the corners of these meshes.
#[test]
fn what_stands_in_has_the_corners_and_triangles_of_what_is_built() {
    for species in ready() {
        for detail in Detail::ALL {
            let (built, stands_in) =
                (species.build(0, detail, Season::SUMMER), species.stand_in(0, detail, Season::SUMMER));
            assert_eq!(built.indices, stands_in.indices, "{} {detail:?}", species.id.0);
            assert_eq!(built.positions.len(), stands_in.positions.len());
        }
    }
}
