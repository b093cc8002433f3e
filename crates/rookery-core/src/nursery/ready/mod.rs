//! The ready species. Sizes are those of common field guides, from memory; colours are by eye.

mod editions;
mod ferns;
mod floating;
mod grasses;
mod herbs;
mod low;
mod stones;
mod woody;

pub use editions::{EDITION, ready_in, remade_since};

use super::{Colours, Kind, Plan, Rgb, Species, Year};
use crate::names::SpeciesId;
use std::sync::LazyLock;

/// Id of the marram tuft.
pub const MARRAM: &str = "marram";
/// Id of the boulder.
pub const BOULDER: &str = "boulder";

static READY: LazyLock<Vec<Species>> = LazyLock::new(|| {
    let groups = [
        grasses::all(),
        herbs::all(),
        ferns::all(),
        low::all(),
        woody::all(),
        stones::all(),
        floating::all(),
    ];
    groups.into_iter().flatten().collect()
});

/// All ready species, by kind.
pub fn ready() -> &'static [Species] {
    &READY
}

/// The ready species with this id.
pub fn ready_species(id: &SpeciesId) -> Option<&'static Species> {
    READY.iter().find(|s| s.id == *id)
}

/// A species with six forms; what is left out is set afterwards.
fn species(
    [id, name, plural]: [&str; 3],
    kind: Kind,
    tags: &[&str],
    plan: Plan,
    colours: Colours,
    year: Year,
) -> Species {
    Species {
        id: SpeciesId(id.to_owned()),
        name: name.to_owned(),
        plural: plural.to_owned(),
        kind,
        tags: tags.iter().map(|t| (*t).to_owned()).collect(),
        seed: id.bytes().fold(7, |h: u32, b| h.wrapping_mul(31).wrapping_add(u32::from(b))),
        forms: 6,
        plan,
        colours,
        year,
        season: None,
        sways: None,
        forked_from: None,
    }
}

/// Greens with the usual straw and bark.
fn greens(leaf: Rgb, tip: Rgb) -> Colours {
    Colours {
        root: [leaf[0] * 0.38, leaf[1] * 0.30, leaf[2] * 0.35],
        leaf,
        tip,
        old: [0.36, 0.27, 0.13],
        wood: [0.13, 0.105, 0.08],
        flower: [0.8, 0.8, 0.75],
        eye: [0.55, 0.38, 0.04],
        spread: 0.45,
        through: 1.0,
        sheen: 0.0,
        glow: 0.0,
    }
}

/// Dies back to the ground or pales, flowering in summer.
const HERB_YEAR: Year = Year { evergreen: 0.0, sheds: false, flowers_at: 1.0, flowers_for: 0.8 };
/// Green all the year.
const EVERGREEN: Year = Year { evergreen: 1.0, sheds: true, flowers_at: 0.5, flowers_for: 0.8 };
/// Drops its leaves.
const DECIDUOUS: Year = Year { evergreen: 0.0, sheds: true, flowers_at: 0.2, flowers_for: 0.5 };

#[cfg(test)]
mod tests {
    use super::*;
    use crate::nursery::{Detail, Mesh, Season};
    use crate::scene::check_species;
    use glam::Vec3;
    use std::collections::{BTreeMap, BTreeSet};

    fn area(mesh: &Mesh) -> f32 {
        let corner = |t: &[u32], i: usize| mesh.positions[t[i] as usize];
        let one = |t: &[u32]| (corner(t, 1) - corner(t, 0)).cross(corner(t, 2) - corner(t, 0)).length() * 0.5;
        mesh.indices.chunks_exact(3).map(one).sum()
    }

    #[test]
    fn there_is_enough_to_choose_from_and_all_of_it_is_valid() {
        assert!(ready().len() >= 24, "{}", ready().len());
        let ids: BTreeSet<_> = ready().iter().map(|s| &s.id).collect();
        assert_eq!(ids.len(), ready().len(), "two ready species share an id");
        for kind in Kind::ALL {
            assert!(ready().iter().any(|s| s.kind == kind), "no {kind:?}");
        }
        for s in ready() {
            check_species(s).unwrap_or_else(|why| panic!("{}: {why}", s.id.0));
        }
    }

    #[test]
    fn every_form_is_a_sound_mesh_of_its_stated_size() {
        for s in ready() {
            for form in 0..s.forms {
                for detail in Detail::ALL {
                    let mesh = s.build(form, detail, Season::SUMMER);
                    let what = format!("{} form {form} {detail:?}", s.id.0);
                    assert!(mesh.triangles() > 0, "{what} is empty");
                    assert!(mesh.indices.iter().all(|&i| (i as usize) < mesh.positions.len()), "{what}");
                    assert!(mesh.positions.iter().all(|p| p.is_finite()), "{what}");
                    assert!(mesh.normals.iter().all(|n| (n.length() - 1.0).abs() < 1e-3), "{what}");
                    assert!(
                        mesh.colours.iter().all(|c| c.min_element() >= 0.0 && c.max_element() <= 1.0),
                        "{what}"
                    );
                    assert!(mesh.through.is_empty() || mesh.through.len() == mesh.positions.len(), "{what}");
                    if detail != Detail::Full {
                        // A few larger leaves stand for all: their ends are not the plant's.
                        continue;
                    }
                    let (low, high) = mesh.bounds();
                    let height = high.y / s.height_m();
                    assert!(
                        (0.55..2.0).contains(&height),
                        "{what} is {} m high, {} stated",
                        high.y,
                        s.height_m()
                    );
                    assert!(
                        low.y > -0.6 * s.height_m().max(0.3 * s.radius_m()),
                        "{what} reaches down to {}",
                        low.y
                    );
                    let radius =
                        mesh.positions.iter().map(|p| p.x.hypot(p.z)).fold(0.0, f32::max) / s.radius_m();
                    assert!((0.45..2.4).contains(&radius), "{what} is {radius} of its radius wide");
                }
            }
        }
    }

    #[test]
    fn forms_differ_and_lighter_detail_has_far_fewer_triangles() {
        for s in ready() {
            let build = |form, detail| s.build(form, detail, Season::SUMMER);
            assert_ne!(build(0, Detail::Full).positions, build(1, Detail::Full).positions, "{}", s.id.0);
            assert_eq!(build(2, Detail::Light), build(2, Detail::Light), "{}", s.id.0);
            let [full, light, far] = Detail::ALL.map(|d| build(0, d).triangles());
            assert!(full as f32 > 2.8 * light as f32 && light >= far, "{}: {full}, {light}, {far}", s.id.0);
        }
    }

    /// Leaves that are left out are made up for by larger ones (Cook et al. 2007).
    #[test]
    fn lighter_detail_covers_about_as_much() {
        for s in ready().iter().filter(|s| matches!(s.kind, Kind::Broadleaf | Kind::Shrub | Kind::Conifer)) {
            let [full, light] = [Detail::Full, Detail::Light].map(|d| area(&s.build(0, d, Season::SUMMER)));
            assert!((0.5..1.5).contains(&(light / full)), "{}: {full} and {light} m2", s.id.0);
        }
    }

    #[test]
    fn stones_are_closed_and_face_outwards() {
        for s in ready().iter().filter(|s| s.kind == Kind::Rock) {
            let mesh = s.build(2, Detail::Full, Season::SUMMER);
            let mut volume = 0.0;
            let mut edges = BTreeMap::new();
            for t in mesh.indices.chunks_exact(3) {
                let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[t[i] as usize]);
                volume += a.dot(b.cross(c)) / 6.0;
                for (from, to) in [(t[0], t[1]), (t[1], t[2]), (t[2], t[0])] {
                    *edges.entry((from, to)).or_insert(0) += 1;
                }
            }
            let size = mesh.bounds().1 - mesh.bounds().0;
            assert!(volume > 0.2 * size.x * size.y * size.z, "{}: {volume} m3", s.id.0);
            assert!(edges.iter().all(|((a, b), n)| *n == 1 && edges.contains_key(&(*b, *a))), "{}", s.id.0);
        }
    }

    #[test]
    fn stems_face_outwards() {
        // A bare tree is all stems: its closed tubes hold a volume, if not quite closed at the joints.
        let birch = ready_species(&SpeciesId("downy-birch".into())).unwrap();
        let mesh = birch.build(0, Detail::Full, Season(3.0));
        let signed: f32 = mesh
            .indices
            .chunks_exact(3)
            .map(|t| {
                let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[t[i] as usize]);
                a.dot(b.cross(c)) / 6.0
            })
            .sum();
        assert!(signed > 0.0, "{signed}");
        let outward = mesh.indices.chunks_exact(3).filter(|t| {
            let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[t[i] as usize]);
            let n: Vec3 = t.iter().map(|i| mesh.normals[*i as usize]).sum();
            (b - a).cross(c - a).dot(n) > 0.0
        });
        assert!(outward.count() as f32 > 0.95 * mesh.triangles() as f32);
    }

    #[test]
    fn a_deciduous_tree_is_bare_in_winter_and_changes_no_branch() {
        let oak = ready_species(&SpeciesId("sessile-oak".into())).unwrap();
        let [summer, autumn, winter] = [1.0, 2.0, 3.0].map(|s| oak.build(1, Detail::Full, Season(s)));
        assert!(autumn.triangles() < summer.triangles() && winter.triangles() < autumn.triangles() / 2);
        let places: BTreeSet<[u32; 3]> =
            summer.positions.iter().map(|p| p.to_array().map(f32::to_bits)).collect();
        assert!(winter.positions.iter().all(|p| places.contains(&p.to_array().map(f32::to_bits))));
    }

    /// What is not changed stays: a setting of the flowers moves no leaf.
    #[test]
    fn one_setting_leaves_the_rest_in_place() {
        let mut thrift = ready_species(&SpeciesId("thrift".into())).unwrap().clone();
        let before = thrift.build(0, Detail::Full, Season(0.6));
        let Plan::Cushion(c) = &mut thrift.plan else { panic!("a cushion") };
        c.flowers *= 2.0;
        let after = thrift.build(0, Detail::Full, Season(0.6));
        let shared = before.positions.iter().zip(&after.positions).take_while(|(a, b)| a == b).count();
        assert!(shared > before.positions.len() / 2 && after.positions.len() > before.positions.len());
    }
}
