//! A card stands for its form: it covers as much of a picture, in the same mean colour.

use glam::Vec3;
use rayon::prelude::*;
use rookery_core::nursery::{Detail, Season, Seen, Species, ready};
use rookery_render::card;

/// What is wider than tall is not drawn as sheets: from above they are a cross.
#[test]
fn a_card_covers_as_much_as_its_form_in_the_same_colour() {
    let wrong = |s: &Species| {
        let (mut full, mut cards) = (Seen::default(), Seen::default());
        for form in 0..s.forms {
            let mesh = s.build(form, Detail::Full, Season::SUMMER);
            for (sum, of) in [(&mut full, &mesh), (&mut cards, &card(&mesh, 80).mesh())] {
                let seen = Seen::look(of, 96);
                sum.area_m2 += seen.area_m2;
                sum.colour += seen.colour * seen.area_m2;
            }
        }
        let bright = |s: Seen| (s.colour / s.area_m2.max(1e-9)).dot(Vec3::new(0.2126, 0.7152, 0.0722));
        let (area, colour) = (cards.area_m2 / full.area_m2, bright(cards) / bright(full));
        let off = (area - 1.0).abs() > 0.05 || (colour - 1.0).abs() > 0.05;
        off.then(|| format!("{}: {area:.3} of the area, {colour:.3} as bright", s.id.0))
    };
    let tall = ready().par_iter().filter(|s| s.height_m() >= s.radius_m());
    let wrong: Vec<String> = tall.filter_map(wrong).collect();
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}
