use super::*;
use crate::document::{Earth, OutlineId, OutlineKind};
use crate::ground::Terrain;

/// 40 m each way, 9 m up, of turf.
fn flat() -> GroundModel {
    GroundModel::new(Terrain::new(41, 41, Vec2::ONE, vec![9.0; 41 * 41]).unwrap(), None, 5)
}

fn outline(kind: OutlineKind, nodes: &[[f32; 2]], earth: Option<Earth>) -> Outline {
    let (id, name, nodes) = (OutlineId(1), "walk".to_owned(), nodes.to_vec());
    Outline { id, name, kind, nodes, smooth: false, soft_m: 0.0, width_m: 2.0, earth }
}

fn square(half: f32, earth: Option<Earth>) -> Outline {
    outline(OutlineKind::Bed, &[[-half, -half], [half, -half], [half, half], [-half, half]], earth)
}

#[test]
fn a_bed_has_the_earth_that_is_laid_in_it_and_nothing_else_is_another() {
    let land = flat();
    let soils = Soils::of(&[square(5.0, Some(Earth::Sand))], &land).unwrap();
    let turf = Vec3::new(0.1, 0.14, 0.05);
    for (x, z) in [(0.0, 0.0), (-4.8, 3.0), (4.8, -4.8)] {
        let sand = soils.over(vec2(x, z), turf);
        let own = Vec3::from(land.colour_laid(Earth::Sand, Vec3::new(x, 9.0, z)));
        // Roots in 255ths, between samples 12 cm apart.
        assert!((sand - own).abs().max_element() < 0.01, "{sand} for {own}");
    }
    for (x, z) in [(5.3, 0.0), (0.0, -5.3), (19.0, 19.0), (60.0, 0.0)] {
        assert_eq!(soils.over(vec2(x, z), turf), turf);
    }
    // The share of sand is that of the square: ragged edges take and give alike.
    let cell = soils.size_m[0] / (soils.samples[0] - 1) as f32;
    let area: f32 = soils.texels.iter().map(|t| f32::from(t[3]) / 255.0 * cell * cell).sum();
    assert!((area / 100.0 - 1.0).abs() < 0.02, "{area} m2 of 100");
}

#[test]
fn tracks_are_worn_and_what_lays_nothing_changes_nothing() {
    let land = flat();
    assert!(Soils::of(&[], &land).is_none());
    assert!(Soils::of(&[square(5.0, None)], &land).is_none(), "a bed without an earth of its own");
    let far = outline(OutlineKind::Track, &[[90.0, 0.0], [95.0, 0.0]], None);
    assert!(Soils::of(&[far], &land).is_none(), "beside the land");
    let soils = Soils::of(&[outline(OutlineKind::Track, &[[-50.0, 0.0], [50.0, 0.0]], None)], &land).unwrap();
    let turf = Vec3::new(0.1, 0.14, 0.05);
    let trodden = soils.over(vec2(3.0, 0.0), turf);
    assert!(trodden.x > trodden.y && trodden.x > turf.x * 1.4, "brown and paler: {trodden}");
    assert_eq!(soils.over(vec2(3.0, 1.6), turf), turf);
    assert!((soils.first[0], soils.size_m[0]) == (-20.0, 40.0), "no wider than the land");
}

#[test]
fn the_later_lies_on_the_earlier_and_a_long_line_takes_no_more_than_there_is_room_for() {
    let land = flat();
    let walk = outline(OutlineKind::Track, &[[-50.0, 0.0], [50.0, 0.0]], Some(Earth::Shingle));
    let both = [square(5.0, Some(Earth::Sand)), walk.clone()];
    let soils = Soils::of(&both, &land).unwrap();
    let shingle = Vec3::from(land.colour_laid(Earth::Shingle, Vec3::new(1.0, 9.0, 0.0)));
    assert!((soils.over(vec2(1.0, 0.0), Vec3::ONE) - shingle).abs().max_element() < 0.01);
    let nodes: Vec<[f32; 2]> = (0..1000).map(|i| [(i % 40) as f32 - 20.0, (i / 25) as f32 - 20.0]).collect();
    let many: Vec<Outline> = (0..40).map(|_| Outline { nodes: nodes.clone(), ..walk.clone() }).collect();
    let soils = Soils::of(&many, &land).unwrap();
    assert!(soils.texels.len() * 40_000 < 2_200_000_000, "{:?}", soils.samples);
}
