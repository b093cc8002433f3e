//! The ready species.

use super::{Detail, Mesh, boulder, marram};
use crate::scene::SpeciesId;

/// Id of the marram tuft.
pub const MARRAM: &str = "marram";
/// Id of the boulder.
pub const BOULDER: &str = "boulder";

/// What kind of thing a species is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Kind {
    /// Grass, sedge and rush.
    Grass,
    /// Stone of any size.
    Rock,
}

/// One kind of plant or rock.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Species {
    /// Lasting name, as in [`SpeciesId`].
    pub id: &'static str,
    /// Singular, for people.
    pub name: &'static str,
    /// Plural, for people.
    pub plural: &'static str,
    /// What it is.
    pub kind: Kind,
    /// Height at full size, metres.
    pub height_m: f32,
    /// Radius of what it covers seen from above, metres.
    pub radius_m: f32,
    /// Different individuals.
    pub forms: u16,
    /// Leaves are thin: lit from both sides.
    pub thin: bool,
}

/// All ready species.
pub const SPECIES: [Species; 2] = [
    Species {
        id: MARRAM,
        name: "Marram tuft",
        plural: "Marram tufts",
        kind: Kind::Grass,
        height_m: 0.75,
        radius_m: 0.55,
        forms: 6,
        thin: true,
    },
    Species {
        id: BOULDER,
        name: "Boulder",
        plural: "Boulders",
        kind: Kind::Rock,
        height_m: 0.85,
        radius_m: 0.65,
        forms: 6,
        thin: false,
    },
];

/// The species with this id, if the nursery has it.
pub fn species(id: &SpeciesId) -> Option<&'static Species> {
    SPECIES.iter().find(|s| s.id == id.0)
}

/// Makes one individual. The same form is the same mesh, always; detail levels of a form share its outline.
pub fn build(species: &Species, form: u16, detail: Detail) -> Mesh {
    match species.kind {
        Kind::Grass => marram::build(u32::from(form), detail),
        Kind::Rock => boulder::build(u32::from(form), detail),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_form_is_a_sound_mesh_of_its_stated_size() {
        for s in &SPECIES {
            for form in 0..s.forms {
                for detail in Detail::ALL {
                    let mesh = build(s, form, detail);
                    let what = format!("{} form {form} {detail:?}", s.id);
                    assert!(mesh.indices.iter().all(|&i| (i as usize) < mesh.positions.len()), "{what}");
                    assert!(mesh.normals.iter().all(|n| (n.length() - 1.0).abs() < 1e-3), "{what}");
                    assert!(
                        mesh.colours.iter().all(|c| c.min_element() >= 0.0 && c.max_element() <= 1.0),
                        "{what}"
                    );
                    let (low, high) = mesh.bounds();
                    let height = high.y / s.height_m;
                    assert!((0.65..1.45).contains(&height), "{what} is {} m high", high.y);
                    assert!(low.y > -0.45 * s.height_m, "{what} reaches down to {}", low.y);
                    let radius =
                        mesh.positions.iter().map(|p| p.x.hypot(p.z)).fold(0.0, f32::max) / s.radius_m;
                    assert!((0.6..1.9).contains(&radius), "{what} is {radius} of its radius wide");
                }
            }
        }
    }

    #[test]
    fn forms_differ_and_lighter_detail_has_far_fewer_triangles() {
        for s in &SPECIES {
            assert_ne!(build(s, 0, Detail::Full).positions, build(s, 1, Detail::Full).positions);
            let [full, light, far] = Detail::ALL.map(|d| build(s, 0, d).triangles());
            assert!(full > 3 * light && light > 2 * far, "{}: {full}, {light}, {far}", s.id);
            println!("{}: {full} / {light} / {far} triangles", s.id);
        }
    }

    #[test]
    fn a_boulder_is_closed_and_faces_outwards() {
        let mesh = build(&SPECIES[1], 2, Detail::Full);
        let mut volume = 0.0;
        let mut edges = std::collections::BTreeMap::new();
        for t in mesh.indices.chunks_exact(3) {
            let [a, b, c] = [0, 1, 2].map(|i| mesh.positions[t[i] as usize]);
            volume += a.dot(b.cross(c)) / 6.0;
            for (from, to) in [(t[0], t[1]), (t[1], t[2]), (t[2], t[0])] {
                *edges.entry((from, to)).or_insert(0) += 1;
            }
        }
        assert!(volume > 0.1, "volume {volume} m3");
        assert!(edges.iter().all(|((a, b), n)| *n == 1 && edges.contains_key(&(*b, *a))));
    }
}
