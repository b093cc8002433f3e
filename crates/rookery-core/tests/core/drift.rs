//! Strokes that strew plants: where they lie, that more only adds, that they keep clear, and that they stay.

use glam::{Vec2, Vec3};
use proptest::prelude::*;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{GroundModel, GroundRef, Terrain, noise_terrain, obstacle};
use rookery_core::nursery::Mesh;
use rookery_core::planting::{Growth, Plant, PlantId, Reason, drift_number, grow_everywhere};
use rookery_core::scene::*;

fn flat() -> GroundModel {
    GroundModel::new(Terrain::new(41, 41, Vec2::ONE, vec![0.0; 41 * 41]).unwrap(), None, 1)
}

fn hills() -> GroundModel {
    let noise = NoiseGround { size_m: 40.0, samples: 41, relief_m: 12.0, ..NoiseGround::default() };
    GroundModel::new(noise_terrain::build(&noise).unwrap(), None, 1)
}

fn stroke(points: &[[f32; 2]]) -> Drift {
    Drift {
        id: DriftId(1),
        ground: GroundId::LAND,
        points: points.iter().map(|[x, z]| [*x, 0.0, *z]).collect(),
        per_m2: 8.0,
        spread_m: 1.5,
        size: Range { min: 0.5, max: 0.9 },
        turn_deg: Range { min: 30.0, max: 50.0 },
        seed: 7,
    }
}

/// A layer with nothing but drifts, that keeps clear of nothing.
fn scene(drifts: Vec<Drift>) -> Document {
    let mut document = bare();
    let species = document.species(&SpeciesId("fescue".into())).unwrap().clone();
    let mut layer = Layer::usual(&species, LayerId(1), "Turf");
    layer.masks = vec![Mask::band(MaskId(1), Quantity::Altitude, [900.0, 901.0, 902.0, 903.0])];
    layer.amount = Amount::Total { value: 0 };
    // What leans out from a slope is sunk along its stem.
    layer.stance.upright = 0.0;
    (layer.clearance, layer.drifts) = (Clearance::default(), drifts);
    document.layers = vec![layer];
    check_document(&document).unwrap();
    document
}

fn grown(document: &Document, ground: &GroundModel) -> Growth {
    let model = |_| Some(GroundRef::Terrain(ground));
    let mesh = |o: &Obstacle| -> Option<Mesh> { Some(obstacle::mesh(o, &ground.terrain, None)) };
    grow_everywhere(document, &document.layers[0], &model, &mesh, &CancelToken::default()).unwrap()
}

fn ids(g: &Growth) -> Vec<PlantId> {
    let mut all: Vec<PlantId> = g.plants.iter().map(|p| p.id).collect();
    all.sort_unstable();
    all
}

const LINE: [[f32; 2]; 4] = [[-12.0, -6.0], [-3.0, 4.0], [5.0, 1.0], [13.0, 9.0]];

fn away_m(points: &[[f32; 2]], p: &Plant) -> f32 {
    let at = Vec2::new(p.position_m.x, p.position_m.z);
    let piece = |w: &[[f32; 2]]| {
        let (a, b) = (Vec2::from(w[0]), Vec2::from(w[1]));
        let t = ((at - a).dot(b - a) / (b - a).length_squared()).clamp(0.0, 1.0);
        at.distance(a.lerp(b, t))
    };
    points.windows(2).map(piece).fold(f32::INFINITY, f32::min)
}

#[test]
fn plants_lie_beside_the_line_as_many_as_asked_and_more_in_its_middle() {
    let drift = Drift { per_m2: 60.0, ..stroke(&LINE) };
    let growth = grown(&scene(vec![drift.clone()]), &flat());
    let count = growth.plants.len() as f32;
    assert!((count / drift.expected() - 1.0).abs() < 0.01, "{count} for {}", drift.expected());
    assert_eq!(growth.tally.in_drifts, growth.plants.len() as u64);
    assert_eq!(growth.tally.candidates, growth.tally.placed, "every place is accounted for");
    let away: Vec<f32> = growth.plants.iter().map(|p| away_m(&LINE, p)).collect();
    assert!(away.iter().all(|a| *a <= drift.spread_m + 1e-3));
    // Discs in a row have across them the share of a semicircle: 0.609 of it lies within half the radius.
    // Source: the area of a circle's zone, x sqrt(1 - x^2) + asin x over pi/2 at x = 1/2.
    let near = away.iter().filter(|a| **a < drift.spread_m * 0.5).count() as f32 / count;
    assert!((near - 0.609).abs() < 0.04, "{near}");
    for p in &growth.plants {
        assert!((0.5..=0.9).contains(&p.size), "sizes are the drift's");
        let north = p.rotation * Vec3::NEG_Z;
        let turn = north.x.atan2(-north.z).to_degrees();
        // The tilt of the layer moves it a little.
        assert!((25.0..=55.0).contains(&turn), "{turn}");
        assert_eq!(drift_number(p.id), Some(1));
    }
}

#[test]
fn a_single_point_strews_about_itself() {
    let drift = Drift { per_m2: 100.0, ..stroke(&[[3.0, -2.0]]) };
    let growth = grown(&scene(vec![drift.clone()]), &flat());
    assert!((growth.plants.len() as f32 - drift.expected()).abs() <= 1.0);
    let away = |p: &Plant| p.position_m.distance(Vec3::new(3.0, p.position_m.y, -2.0));
    assert!(growth.plants.iter().all(|p| away(p) <= 1.5 + 1e-3));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn more_density_only_adds_and_a_longer_line_leaves_its_beginning(
        seed in any::<u32>(), low in 0.5_f32..20.0, more in 0.0_f32..20.0, end in prop::array::uniform2(-15.0_f32..15.0),
    ) {
        let ground = hills();
        let of = |per_m2: f32, points: &[[f32; 2]]| {
            grown(&scene(vec![Drift { per_m2, seed, ..stroke(points) }]), &ground)
        };
        let (few, many) = (of(low, &LINE), of(low + more, &LINE));
        let all = ids(&many);
        prop_assert!(ids(&few).iter().all(|id| all.binary_search(id).is_ok()));
        // On a hill the length of a line is what is drawn, so a line with one more point has the pieces of the shorter one, but for its last.
        let mut longer = LINE.to_vec();
        longer.push(end);
        let longer = of(low, &longer);
        let whole = (stroke(&LINE).length_m() / 0.25).floor() as u64;
        let stay = few.plants.iter().filter(|p| (p.id.0 >> 14 & 0x3_FFFF) <= whole);
        for p in stay {
            prop_assert!(longer.plants.contains(p), "{p:?}");
        }
    }

    #[test]
    fn they_stand_on_the_ground_and_stay_through_other_settings(seed in any::<u32>(), sunk in 0.0_f32..0.05) {
        let ground = hills();
        let mut document = scene(vec![Drift { seed, ..stroke(&LINE) }]);
        document.layers[0].stance.sink_m = sunk;
        let before = grown(&document, &ground);
        for p in &before.plants {
            let height = ground.terrain.height_at(p.position_m.x, p.position_m.z);
            prop_assert!((p.position_m.y - (height - sunk)).abs() < 1e-3);
        }
        let layer = &mut document.layers[0];
        (layer.seed, layer.pattern) = (seed ^ 99, Pattern::Even);
        (layer.amount, layer.masks) = (Amount::PerM2 { value: 0.5 }, Vec::new());
        let after = grown(&document, &ground);
        let strewn: Vec<Plant> = after.plants.iter().filter(|p| drift_number(p.id).is_some()).copied().collect();
        prop_assert_eq!(strewn, before.plants);
        prop_assert!(after.tally.placed > after.tally.in_drifts);
    }

    #[test]
    fn they_keep_clear_of_one_another_of_obstacles_and_of_what_is_set_by_hand_and_others_of_them(seed in any::<u32>()) {
        let ground = flat();
        let second = Drift { id: DriftId(2), seed: seed ^ 5, ..stroke(&[[-8.0, 6.0], [8.0, -8.0]]) };
        let mut document = scene(vec![Drift { seed, per_m2: 25.0, ..stroke(&LINE) }, Drift { per_m2: 25.0, ..second }]);
        let shape = Shape::Box { width_m: 3.0, depth_m: 2.0, height_m: 1.0 };
        document.obstacles = vec![Obstacle {
            id: ObstacleId(1), name: "Block".into(), shape, x_m: 5.0, z_m: 1.0, lift_m: 0.0, on_ground: true, turn_deg: 20.0, scale: 1.0, hidden: false,
        }];
        let pose = Pose {
            species: SpeciesId("fescue".into()), form: 0, size: 3.0, stretch: [1.0; 2], turn_deg: 0.0, tilt_deg: 0.0, tilt_to_deg: 0.0,
            lift_m: 0.0, tint: 0, colour: [128; 3],
        };
        let layer = &mut document.layers[0];
        layer.tended = vec![Tended { id: TendedId(1), ground: GroundId::LAND, at_m: [-3.0, 0.0, 4.0], from: None, plant: Some(pose), room_m: 0.0 }];
        layer.clearance = Clearance { own: Keep::FOOTPRINT, obstacles: Keep::FOOTPRINT, ..Clearance::default() };
        (layer.amount, layer.masks, layer.pattern) = (Amount::PerM2 { value: 3.0 }, Vec::new(), Pattern::Random);
        let growth = grown(&document, &ground);
        let footprint = document.species(&SpeciesId("fescue".into())).unwrap().footprint_m();
        for (i, p) in growth.plants.iter().enumerate() {
            for q in &growth.plants[i + 1..] {
                let room = p.position_m.distance(q.position_m) - footprint * (p.size + q.size);
                prop_assert!(room > -1e-4, "{p:?} {q:?}");
            }
            let (s, c) = 20.0_f32.to_radians().sin_cos();
            let (dx, dz) = (p.position_m.x - 5.0, p.position_m.z - 1.0);
            let out = (Vec2::new(dx * c + dz * s, -dx * s + dz * c).abs() - Vec2::new(1.5, 1.0)).max(Vec2::ZERO).length();
            prop_assert!(out >= footprint * p.size - 1e-3, "in the block: {p:?}");
        }
        prop_assert!([1, 2].iter().all(|d| growth.plants.iter().any(|p| drift_number(p.id) == Some(*d))));
        let fallen = |r: Reason| growth.tally.refused.iter().find(|f| f.reason == r).map_or(0, |f| f.count);
        prop_assert!(fallen(Reason::OwnKind) > 0 && fallen(Reason::Obstacle) > 0);
        prop_assert_eq!(growth.tally.candidates, growth.tally.placed + growth.tally.refused.iter().map(|r| r.count).sum::<u64>());
    }
}

#[test]
fn one_that_is_taken_in_hand_no_longer_grows_in_its_drift() {
    let ground = flat();
    let mut document = scene(vec![stroke(&LINE)]);
    let before = grown(&document, &ground);
    let taken = before.plants[17];
    let layer = &mut document.layers[0];
    let from = Some(Origin::new(layer.seed_of(taken.id).unwrap(), taken.id));
    let at_m = taken.position_m.to_array();
    layer.tended =
        vec![Tended { id: TendedId(1), ground: GroundId::LAND, at_m, from, plant: None, room_m: 0.0 }];
    let after = grown(&document, &ground);
    assert_eq!(after.plants.len(), before.plants.len() - 1);
    assert!(!after.plants.contains(&taken));
    // Another arrangement of the layer does not bring it back, another of the drift has other plants.
    document.layers[0].seed += 1;
    assert_eq!(grown(&document, &ground).plants, after.plants);
    document.layers[0].drifts[0].seed += 1;
    let other = grown(&document, &ground);
    assert!(other.tally.refused.iter().all(|r| r.count == 0), "{:?}", other.tally);
}

#[test]
fn strokes_are_put_in_and_taken_out_and_back_and_bad_ones_are_refused() {
    let document = scene(vec![stroke(&LINE)]);
    let edit = |edit: LayerEdit| Command::EditLayer { id: LayerId(1), edit };
    let second = Drift { id: DriftId(4), ..stroke(&[[0.0, 0.0]]) };
    let done =
        apply(&document, &edit(LayerEdit::Drifts { put: vec![second], take_out: vec![DriftId(1)] })).unwrap();
    assert_eq!(done.document.layers[0].drifts.len(), 1);
    assert_eq!(apply(&done.document, &done.inverse).unwrap().document, document);
    let refused = |change: fn(&mut Drift)| {
        let mut bad = stroke(&LINE);
        change(&mut bad);
        apply(&document, &edit(LayerEdit::Drifts { put: vec![bad], take_out: Vec::new() }))
            .unwrap_err()
            .to_string()
    };
    assert!(refused(|d| d.points.clear()).contains("has no points"));
    assert!(refused(|d| d.per_m2 = 0.0).contains("the density of a drift is 0"));
    assert!(refused(|d| d.spread_m = f32::NAN).contains("the spread of a drift"));
    assert!(refused(|d| d.size.min = 2.0).contains("the size of plants in a drift"));
    assert!(refused(|d| (d.per_m2, d.spread_m) = (1000.0, 50.0)).contains("number of plants in a drift"));
    assert!(refused(|d| d.points = vec![[0.0; 3]; 501]).contains("points of one drift"));
    let missing = edit(LayerEdit::Drifts { put: Vec::new(), take_out: vec![DriftId(9)] });
    assert!(apply(&document, &missing).unwrap_err().to_string().contains("drift"));
}
