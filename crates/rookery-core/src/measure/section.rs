//! A section: the ground cut along a line, with the plants standing near it.

use crate::document::{Document, Layer, LayerId};
use crate::ground::{GroundModel, Reading, Surface};
use crate::nursery::Mesh;
use crate::planting::Plant;
use glam::{Vec2, Vec3};
use serde::Serialize;

/// Heights along a section, at most.
pub const MOST_HEIGHTS: usize = 1024;
/// Pieces of cut meshes in a section, at most.
pub const MOST_PIECES: usize = 20_000;
/// Plants in a section, at most; the nearest to the line are kept.
pub const MOST_PLANTS: usize = 6000;

/// A line on the plan that the ground is cut along.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Cut {
    /// Where it starts, x and z, metres.
    pub from: Vec2,
    /// Where it ends.
    pub to: Vec2,
    /// Plants within half of this to either side are shown, metres.
    pub width_m: f32,
}

/// A plant as it stands in a section.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct SectionPlant {
    /// Of which layer.
    pub layer: LayerId,
    /// Distance along the line, metres.
    pub at_m: f32,
    /// Distance to the right of the line, metres.
    pub aside_m: f32,
    /// Height of its base, metres.
    pub base_m: f32,
    /// Its own height, metres.
    pub height_m: f32,
    /// Radius of what it covers, metres.
    pub radius_m: f32,
}

/// The ground along a line and what stands on it, to scale.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Section {
    /// Length of the line on the plan, metres.
    pub length_m: f32,
    /// Heights of the land at equal steps from its start to its end, metres; none beside the land.
    pub heights_m: Vec<Option<f32>>,
    /// Cuts through obstacles and through grounds beside the land, in straight pieces: distance along the line and height of
    /// the one end, then of the other, metres.
    #[cfg_attr(feature = "openapi", schema(value_type = Vec<Vec<f32>>))]
    pub pieces_m: Vec<[f32; 4]>,
    /// Height of the water, metres, if there is any.
    pub water_m: Option<f32>,
    /// What stands within the width, from the far side to the near one.
    pub plants: Vec<SectionPlant>,
    /// How many stand within the width; more than there are in `plants` when those were too many.
    pub standing: u64,
    /// What was read off the grounds along the line, if that was asked for.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub read: Option<SectionReading>,
}

/// A quantity along a section. What is unknown is none.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct SectionReading {
    /// Which.
    pub reading: Reading,
    /// Its unit as it is written behind a number; empty when it has none.
    pub unit: &'static str,
    /// On the land, where `heights_m` are.
    pub values: Vec<Option<f32>>,
    /// At both ends of each of `pieces_m`; none on obstacles.
    #[cfg_attr(feature = "openapi", schema(value_type = Vec<Vec<Option<f32>>>))]
    pub pieces: Vec<[Option<f32>; 2]>,
}

/// The land to be cut, with values at its samples where something is to be read off it.
#[derive(Clone, Copy, Debug)]
pub struct CutLand<'a> {
    /// The land.
    pub ground: &'a GroundModel,
    /// One value for each sample.
    pub values: Option<&'a [f32]>,
}

/// A ground beside the land, or something built, to be cut: where it stands in the scene.
#[derive(Clone, Copy, Debug)]
pub struct CutSolid<'a> {
    /// Its surface.
    pub mesh: &'a Mesh,
    /// One value for each vertex, where something is to be read off it.
    pub values: Option<&'a [f32]>,
}

/// Cuts a scene along a line. The line must have a length; the meshes and plants are where they stand in the scene. `reading` names
/// what the values of the grounds are.
pub fn section(
    land: Option<CutLand<'_>>,
    solids: &[CutSolid<'_>],
    document: &Document,
    layers: &[(&Layer, &[Plant])],
    cut: &Cut,
    reading: Option<Reading>,
) -> Section {
    let along = cut.to - cut.from;
    let length_m = along.length();
    let cell = land.map_or(1.0, |l| l.ground.terrain.cell_m().min_element());
    let steps = ((length_m / cell).ceil() as usize * 2).clamp(2, MOST_HEIGHTS - 1);
    let on_land = |p: Vec2| land.filter(|l| l.ground.terrain.contains(p.x, p.y));
    let points = (0..=steps).map(|i| cut.from + along * (i as f32 / steps as f32));
    let heights_m =
        points.clone().map(|p| on_land(p).map(|l| l.ground.terrain.height_at(p.x, p.y))).collect();
    let (pieces_m, read_pieces) = pieces(solids, cut).into_iter().unzip();
    let value = |p: Vec2| {
        let l = on_land(p)?;
        known(l.ground.sampled(l.values?, &l.ground.spot_at(p.x, p.y)))
    };
    let read = reading.map(|reading| SectionReading {
        reading,
        unit: reading.unit(),
        values: points.map(value).collect(),
        pieces: read_pieces,
    });
    let direction = along / length_m.max(1e-6);
    let mut plants = Vec::new();
    for (layer, standing) in layers {
        let kin: Vec<(f32, f32)> = layer
            .mix
            .iter()
            .map(|m| document.species(&m.species).map_or((0.0, 0.0), |s| (s.height_m(), s.radius_m())))
            .collect();
        for p in *standing {
            let Some((height_m, radius_m)) = kin.get(usize::from(p.species)).copied() else { continue };
            let to = Vec2::new(p.position_m.x, p.position_m.z) - cut.from;
            // Right of a line that runs east is south, +Z.
            let (at_m, aside_m) = (to.dot(direction), direction.perp_dot(to));
            if (0.0..=length_m).contains(&at_m) && aside_m.abs() <= cut.width_m * 0.5 {
                plants.push(SectionPlant {
                    layer: layer.id,
                    at_m,
                    aside_m,
                    base_m: p.position_m.y,
                    height_m: height_m * p.size * p.stretch[0],
                    radius_m: radius_m * p.size,
                });
            }
        }
    }
    let standing = plants.len() as u64;
    if plants.len() > MOST_PLANTS {
        plants.select_nth_unstable_by(MOST_PLANTS, |a, b| a.aside_m.abs().total_cmp(&b.aside_m.abs()));
        plants.truncate(MOST_PLANTS);
    }
    // The viewer stands to the right of the line: what lies to the left is drawn first.
    plants.sort_unstable_by(|a, b| {
        a.aside_m.total_cmp(&b.aside_m).then(a.at_m.total_cmp(&b.at_m)).then(a.layer.cmp(&b.layer))
    });
    Section { length_m, heights_m, pieces_m, water_m: document.ground.water_m, plants, standing, read }
}

fn known(value: f32) -> Option<f32> {
    (!value.is_nan()).then_some(value)
}

/// A piece of a cut, and what was read at its ends.
type Piece = ([f32; 4], [Option<f32>; 2]);

/// Where the upright plane through the line cuts triangles, within the line's length.
fn pieces(solids: &[CutSolid<'_>], cut: &Cut) -> Vec<Piece> {
    let length_m = cut.from.distance(cut.to);
    let direction = (cut.to - cut.from) / length_m.max(1e-6);
    // Distance along the line, height, and distance to the right of the plane.
    let seen = |p: Vec3| {
        let to = Vec2::new(p.x, p.z) - cut.from;
        Vec3::new(to.dot(direction), p.y, direction.perp_dot(to))
    };
    let piece = |solid: &CutSolid<'_>, t: &[u32]| {
        let [a, b, c] = [0, 1, 2].map(|i| {
            let at = t[i] as usize;
            (seen(solid.mesh.positions[at]), solid.values.map_or(f32::NAN, |v| v[at]))
        });
        let crossed = [(a, b), (b, c), (c, a)].into_iter();
        let mut ends = crossed.filter(|(p, q)| (p.0.z < 0.0) != (q.0.z < 0.0)).map(|(p, q)| {
            let share = p.0.z / (p.0.z - q.0.z);
            (p.0.lerp(q.0, share), p.1 + (q.1 - p.1) * share)
        });
        let ((p, low), (q, high)) = (ends.next()?, ends.next()?);
        let within = p.x.max(q.x) >= 0.0 && p.x.min(q.x) <= length_m && p != q;
        within.then_some(([p.x, p.y, q.x, q.y], [known(low), known(high)]))
    };
    let triangles = solids.iter().flat_map(|s| s.mesh.indices.chunks_exact(3).map(move |t| (s, t)));
    triangles.filter_map(|(solid, t)| piece(solid, t)).take(MOST_PIECES).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{PlanetGround, bare};
    use crate::ground::{Terrain, made};
    use crate::planting::PlantId;
    use crate::scene::kittiwake_head;

    fn ramp() -> GroundModel {
        let n = 51;
        let heights = (0..n * n).map(|i| (i % n) as f32 * 0.6).collect();
        GroundModel::new(Terrain::new(n, n, Vec2::splat(2.0), heights).unwrap(), None, 1)
    }

    fn land(ground: &GroundModel) -> Option<CutLand<'_>> {
        Some(CutLand { ground, values: None })
    }

    fn plant(x: f32, z: f32) -> Plant {
        Plant { id: PlantId(1), position_m: Vec3::new(x, 3.0, z), size: 2.0, ..Plant::UPRIGHT }
    }

    #[test]
    fn heights_follow_the_ground_and_end_with_it() {
        let cut = Cut { from: Vec2::new(-60.0, 5.0), to: Vec2::new(40.0, 5.0), width_m: 2.0 };
        let s = section(land(&ramp()), &[], &bare(), &[], &cut, None);
        let steps = s.heights_m.len() - 1;
        assert_eq!(s.length_m, 100.0);
        for (i, h) in s.heights_m.iter().enumerate() {
            let x = -60.0 + i as f32 / steps as f32 * 100.0;
            match h {
                Some(h) => assert!((h - (x + 50.0) * 0.3).abs() < 1e-3, "{x}: {h}"),
                None => assert!(x < -50.0),
            }
        }
    }

    #[test]
    fn plants_within_the_width_stand_where_they_are_with_their_true_height() {
        let layer = kittiwake_head().layers.remove(0);
        let plants = [plant(0.0, 5.5), plant(10.0, 4.2), plant(10.0, 7.0), plant(90.0, 5.0)];
        let cut = Cut { from: Vec2::new(-20.0, 5.0), to: Vec2::new(40.0, 5.0), width_m: 2.0 };
        let s = section(land(&ramp()), &[], &kittiwake_head(), &[(&layer, &plants)], &cut, None);
        assert_eq!((s.standing, s.plants.len(), s.water_m), (2, 2, Some(0.0)));
        // North of a line that runs east is its left, the far side.
        assert_eq!((s.plants[0].at_m, s.plants[1].at_m), (30.0, 20.0));
        assert!((s.plants[0].aside_m + 0.8).abs() < 1e-4 && (s.plants[1].aside_m - 0.5).abs() < 1e-4);
        let full_m = kittiwake_head().species(layer.lead()).unwrap().height_m();
        assert_eq!((s.plants[1].base_m, s.plants[1].height_m), (3.0, full_m * plants[1].size));
    }

    /// A ball cut through its middle is a circle of its radius, cut beside it a smaller one (Pythagoras).
    #[test]
    fn a_ball_is_cut_in_a_circle() {
        let ball = made::planet(&PlanetGround { radius_m: 5.0, relief: 0.0, seed: 1, faces: 40 });
        let mesh = Mesh { positions: ball.positions, indices: ball.indices, ..Mesh::default() };
        for (z, radius) in [(0.0, 5.0), (3.0, 4.0)] {
            let cut = Cut { from: Vec2::new(-10.0, z), to: Vec2::new(10.0, z), width_m: 1.0 };
            let values: Vec<f32> = mesh.positions.iter().map(|p| p.y).collect();
            let solid = CutSolid { mesh: &mesh, values: Some(&values) };
            let s = section(None, &[solid], &bare(), &[], &cut, Some(Reading::Altitude));
            assert!(s.pieces_m.len() > 100 && s.heights_m.iter().all(Option::is_none));
            let read = s.read.unwrap();
            assert_eq!((read.unit, read.pieces.len()), ("m", s.pieces_m.len()));
            for ([x, y, ..], [value, _]) in s.pieces_m.into_iter().zip(read.pieces) {
                assert!(((x - 10.0).hypot(y) - radius).abs() < 0.02, "{x} {y}");
                // Between vertices as the surface is.
                assert!((value.unwrap() - y).abs() < 1e-4);
            }
        }
    }

    #[test]
    fn what_is_read_lies_where_the_heights_are() {
        let ground = ramp();
        let values: Vec<f32> = ground.terrain.heights_zx().iter().map(|h| h * 2.0).collect();
        let cut = Cut { from: Vec2::new(-60.0, 5.0), to: Vec2::new(40.0, 5.0), width_m: 2.0 };
        let land = Some(CutLand { ground: &ground, values: Some(&values) });
        let s = section(land, &[], &bare(), &[], &cut, Some(Reading::Slope));
        let read = s.read.unwrap();
        assert_eq!(
            (read.reading, read.unit, read.values.len()),
            (Reading::Slope, "\u{b0}", s.heights_m.len())
        );
        for (h, value) in s.heights_m.iter().zip(&read.values) {
            assert_eq!(h.is_some(), value.is_some());
            assert!(h.zip(*value).is_none_or(|(h, v)| (v - 2.0 * h).abs() < 1e-3));
        }
    }
}
